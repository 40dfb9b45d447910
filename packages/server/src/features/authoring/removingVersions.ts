import { isFolderShut } from '@kanonos/core';
import type { App } from '../../platform/app.ts';
import { type Db, firstRow, rows, type Trx } from '../../platform/db/connect.ts';
import { refused } from '../../platform/refused.ts';
import type { Viewer } from '../access/index.ts';
import { deleteUnreferencedSoon, heldContents } from '../content/index.ts';
import { ensureDocumentRight, runCommand, subjectOf } from '../documents/index.ts';
import { listFiles, listVersions } from '../revisions/index.ts';

/** Whether signatures bind a version's bytes: its hash stands in a signing record of its revision that somebody signed. */
const isSigned = async (trx: Trx, revisionId: string, hashes: readonly string[]): Promise<boolean> =>
  (await firstRow(
    trx,
    `select 1 from signatures s join signing_records r on r.id = s.record_id
     where s.revision_id = :revisionId and exists (select 1 from unnest(:hashes::text[]) h where position(h in r.text) > 0) limit 1`,
    { revisionId, hashes },
  )) !== undefined;

/**
 * Removes a version that is not the last of its revision and that nobody signed: it is listed and handed out no more, its bytes go
 * where nothing else holds them, and the trail keeps its hashes and the reason. Answers how many bytes that freed.
 */
export const removeVersion = (
  app: App,
  viewer: Viewer,
  ref: string,
  versionId: string,
  reason: string,
): Promise<{ freed: number }> =>
  runCommand(app, viewer, { document: ref }, async (work, opened) => {
    const { trx } = work;
    ensureDocumentRight(opened, 'manage');
    const { document } = opened;
    if (isFolderShut(document.folder_state))
      throw refused('folder_shut', { folder: document.folder_name, state: document.folder_state });
    const found = await firstRow<{ revision_id: string }>(
      trx,
      'select revision_id from versions where id = :versionId',
      {
        versionId,
      },
    );
    const revision = opened.revisions.find((one) => one.id === found?.revision_id);
    const version = revision && (await listVersions(trx, revision.id)).find((one) => one.id === versionId);
    if (!revision || !version) throw refused('not_found');
    if (revision.latest_version_id === versionId) throw refused('version_is_last');
    const files = await listFiles(trx, [versionId]);
    const hashes = [...new Set(files.map((file) => file.sha256))];
    if (await isSigned(trx, revision.id, hashes)) throw refused('version_signed');
    await rows(
      trx,
      'insert into removed_versions (version_id, by_id, at, reason, freed) values (:versionId, :by, :now, :reason, 0)',
      { versionId, by: viewer.id, now: work.now, reason },
    );
    const held = await heldContents(trx, hashes, work.now);
    const gone = hashes.filter((hash) => !held.has(hash));
    const sizes = new Map(files.map((file) => [file.sha256, Number(file.size)]));
    const freed = gone.reduce((sum, hash) => sum + (sizes.get(hash) ?? 0), 0);
    await rows(trx, 'update removed_versions set freed = :freed where version_id = :versionId', { freed, versionId });
    work.record({
      kind: 'version.removed',
      subject: subjectOf(document, revision),
      payload: {
        version: version.n,
        reason,
        files: files.map(({ name, sha256, size }) => ({ name, sha256, size: Number(size) })),
        freed,
      },
    });
    deleteUnreferencedSoon(app, work, gone);
    return { freed };
  });

export type RemovedVersion = { n: number; at: Date; by_name: string; reason: string; freed: number };
export const listRemovedVersions = (db: Db, revisionId: string) =>
  rows<RemovedVersion>(
    db,
    `select v.n, x.at, p.name as by_name, x.reason, x.freed from removed_versions x join versions v on v.id = x.version_id join people p on p.id = x.by_id
     where v.revision_id = :revisionId order by v.n desc`,
    { revisionId },
  );
