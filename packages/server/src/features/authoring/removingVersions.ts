import { isFolderShut } from '@kanonos/core';
import type { App } from '../../platform/app.ts';
import { refused } from '../../platform/refused.ts';
import type { Viewer } from '../access/index.ts';
import { deleteUnreferencedSoon, heldContents } from '../content/index.ts';
import { ensureDocumentRight, runCommand, subjectOf } from '../documents/index.ts';
import { listFiles, listVersions } from '../revisions/index.ts';
import { findRevisionOfVersion, insertRemovedVersion, isSigned, setFreed } from './store.ts';

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
    const found = await findRevisionOfVersion(trx, {
      versionId,
    });
    const revision = opened.revisions.find((one) => one.id === found?.revision_id);
    const version = revision && (await listVersions(trx, revision.id)).find((one) => one.id === versionId);
    if (!revision || !version) throw refused('not_found');
    if (revision.latest_version_id === versionId) throw refused('version_is_last');
    const files = await listFiles(trx, [versionId]);
    const hashes = [...new Set(files.map((file) => file.sha256))];
    if (await isSigned(trx, revision.id, hashes)) throw refused('version_signed');
    await insertRemovedVersion(trx, { versionId, by: viewer.id, now: work.now, reason });
    const held = await heldContents(trx, hashes, work.now);
    const unreferenced = hashes.filter((hash) => !held.has(hash));
    const sizes = new Map(files.map((file) => [file.sha256, Number(file.size)]));
    const freed = unreferenced.reduce((sum, hash) => sum + (sizes.get(hash) ?? 0), 0);
    await setFreed(trx, { freed, versionId });
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
    deleteUnreferencedSoon(app, work, unreferenced);
    return { freed };
  });
