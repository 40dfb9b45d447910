import { isFolderShut } from '@kanonos/core';
import type { App } from '../../platform/app.ts';
import { type Db, firstRow, rows, type Trx } from '../../platform/db/connect.ts';
import { refused } from '../../platform/refused.ts';
import type { Viewer } from '../access/service.ts';
import { ensureDocumentRight, filesOf, openForAct, subjectOf, versionsOf } from '../documents/service.ts';
import { actorOf } from '../session/service.ts';

/** Whether signatures bind a version's bytes: its hash stands in a signing record of its revision that somebody signed. */
const isSigned = async (trx: Trx, revisionId: string, hashes: readonly string[]): Promise<boolean> =>
  (await firstRow(
    trx,
    `select 1 from signatures s join signing_records r on r.id = s.record_id
     where s.revision_id = :revisionId and exists (select 1 from unnest(:hashes::text[]) h where position(h in r.text) > 0) limit 1`,
    { revisionId, hashes },
  )) !== undefined;

/** Which of some contents something else still holds: another version, a file aside, what waits or was just sent, a template. */
const heldElsewhere = async (
  db: Db | Trx,
  versionId: string,
  hashes: readonly string[],
  dayAgo: Date,
): Promise<Set<string>> =>
  new Set(
    (
      await rows<{ sha256: string }>(
        db,
        `select h as sha256 from unnest(:hashes::text[]) h where
           exists (select 1 from version_files f where f.sha256 = h and f.version_id <> :versionId and not exists (select 1 from removed_versions x where x.version_id = f.version_id))
           or exists (select 1 from asides a where a.sha256 = h)
           or exists (select 1 from arrivals a where a.sha256 = h)
           or exists (select 1 from template_editions t where t.sha256 = h)
           or exists (select 1 from import_files i where i.sha256 = h)
           or exists (select 1 from desk_nodes n join uploads u on u.id = n.upload_id where u.sha256 = h)
           or exists (select 1 from desk_copies k join uploads u on u.id = k.upload_id where u.sha256 = h)
           or exists (select 1 from uploads u where u.sha256 = h and u.at > :dayAgo)
           or exists (select 1 from renditions r where r.result_sha256 = h)
           or exists (select 1 from house where logo = h)`,
        { hashes, versionId, dayAgo },
      )
    ).map((row) => row.sha256),
  );

const DAY_MS = 24 * 3_600_000;

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
  app.act(actorOf(viewer), async (work) => {
    const { trx } = work;
    const opened = await openForAct(work, viewer, ref);
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
    const version = revision && (await versionsOf(trx, revision.id)).find((one) => one.id === versionId);
    if (!revision || !version) throw refused('not_found');
    if (revision.latest_version_id === versionId) throw refused('version_is_last');
    const files = await filesOf(trx, [versionId]);
    const hashes = [...new Set(files.map((file) => file.sha256))];
    if (await isSigned(trx, revision.id, hashes)) throw refused('version_signed');
    const dayAgo = new Date(work.now.getTime() - DAY_MS);
    const held = await heldElsewhere(trx, versionId, hashes, dayAgo);
    const gone = hashes.filter((hash) => !held.has(hash));
    const freed = files
      .filter((file, i) => gone.includes(file.sha256) && files.findIndex((one) => one.sha256 === file.sha256) === i)
      .reduce((sum, file) => sum + Number(file.size), 0);
    await rows(
      trx,
      'insert into removed_versions (version_id, by_id, at, reason, freed) values (:versionId, :by, :now, :reason, :freed)',
      { versionId, by: viewer.id, now: work.now, reason, freed },
    );
    for (const table of ['citations', 'texts'])
      await rows(trx, `delete from ${table} where sha256 = any(:gone::text[])`, { gone });
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
    // Asked once more when nothing can be taken back: what was sent or filed meanwhile keeps its bytes.
    const takeAway = async () => {
      const heldNow = await heldElsewhere(app.db, versionId, gone, dayAgo);
      for (const hash of gone) if (!heldNow.has(hash)) await app.content.remove(hash);
    };
    work.afterwards(() => {
      takeAway().catch((error) => app.log.error({ err: error, gone }, 'bytes of a removed version stayed'));
    });
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
