import type { App, UnitOfWork } from '../../platform/app.ts';
import type { Trx } from '../../platform/db/connect.ts';
import * as store from './store.ts';
import {
  DAY_MS,
  deleteContent,
  deleteEndedWorkingCopies,
  deleteMadeOf,
  deleteUnusedUploads,
  deleteUploadsOf,
  findNaming,
  heldContents,
  listContentsAfter,
  lockContent,
  setGone,
  setWaitingForText,
} from './store.ts';

const UNKNOWN = 'application/octet-stream';
/** How long files saved under an ended check-out are kept. */
const ENDED_DAYS = 7;

/**
 * Records stored bytes; the first time, a job extracts their text. Not of a draft, because most drafts are saved again
 * before anybody looks for them; `readFiled` asks for it when one is filed.
 */
export const keepContent = async (
  app: Pick<App, 'jobs' | 'content'>,
  work: Pick<UnitOfWork, 'trx' | 'now'>,
  { sha256, size, mediaType, warning }: { sha256: string; size: number; mediaType: string; warning?: string | null },
  as: 'file' | 'draft' = 'file',
): Promise<void> => {
  // A file with a warning is not what its name claims; a file of unknown kind has no text.
  const textState = warning ? 'broken' : mediaType === UNKNOWN ? 'none' : as === 'draft' ? 'unread' : 'waiting';
  const isNew = await store.insertContent(work.trx, { sha256, size, mediaType, now: work.now, textState });
  if (!isNew) return;
  // The same bytes may have been let go between their incoming file and now.
  await app.content.back(sha256);
  if (textState === 'waiting') await app.jobs.enqueue(work.trx, 'text.extract', { sha256 });
};

/** Records a content derived from another one: it has no text of its own to be found by. */
export const keepRendition = (
  work: Pick<UnitOfWork, 'trx' | 'now'>,
  { sha256, size, mediaType }: { sha256: string; size: number; mediaType: string },
) => store.insertContent(work.trx, { sha256, size, mediaType, now: work.now, textState: 'none' });

/** Asks for the text of drafts that have just been filed. */
export const readFiled = async (app: App, trx: Trx, hashes: readonly string[]): Promise<void> => {
  const unread = await setWaitingForText(trx, { hashes });
  for (const { sha256 } of unread) await app.jobs.enqueue(trx, 'text.extract', { sha256 });
};

/**
 * Deletes contents that nothing refers to: their bytes, their text and their renditions. A content that a removed version names
 * keeps its row, so its hash stays known. Each content is locked during the check, so whoever files the same bytes at that
 * moment either comes first, or finds them gone and brings them back.
 */
export const deleteUnreferencedContent = async (app: App, hashes: readonly string[]): Promise<number> => {
  let deleted = 0;
  for (const sha256 of new Set(hashes)) {
    const went = await app.db.transaction(async (trx) => {
      const content = await lockContent(trx, { sha256 });
      if (!content || content.text_state === 'gone') return false;
      if ((await heldContents(trx, [sha256], app.clock())).size > 0) return false;
      await deleteMadeOf(trx, sha256);
      await deleteUploadsOf(trx, { sha256 });
      // A version that names it, removed or not, keeps its hash known.
      if (await findNaming(trx, { sha256 })) await setGone(trx, sha256);
      else await deleteContent(trx, sha256);
      await app.content.leave(sha256);
      return true;
    });
    if (went) deleted++;
  }
  return deleted;
};

/** The same without failing the command: the nightly check repeats what failed. */
export const deleteUnreferencedSoon = (app: App, work: UnitOfWork, hashes: readonly string[]): void => {
  if (hashes.length > 0)
    work.afterCommit(() => {
      deleteUnreferencedContent(app, hashes).catch((error) =>
        app.log.error({ err: error, hashes }, 'unreferenced content could not be deleted'),
      );
    });
};

const BATCH = 500;

/**
 * The night's tidying: sent files that nobody used within a day, drafts of check-outs that ended a week ago, and every content that
 * nothing holds any more. Bytes set aside by a server that was then killed are restored.
 */
export const tidyContents = async (app: App): Promise<number> => {
  const now = app.clock();
  for (const sha256 of await app.content.leaving()) {
    const content = await store.findContent(app.db, sha256);
    if (content && content.text_state !== 'gone') await app.content.back(sha256);
  }
  await deleteEndedWorkingCopies(app.db, { before: new Date(now.getTime() - ENDED_DAYS * DAY_MS) });
  await deleteUnusedUploads(app.db, { dayAgo: new Date(now.getTime() - DAY_MS) });
  let deleted = 0;
  for (let after = ''; ; ) {
    const some = await listContentsAfter(app.db, { after, limit: BATCH });
    const hashes = some.map((row) => row.sha256);
    const held = await heldContents(app.db, hashes, now);
    deleted += await deleteUnreferencedContent(
      app,
      hashes.filter((hash) => !held.has(hash)),
    );
    after = hashes.at(-1) ?? '';
    if (hashes.length < BATCH) return deleted;
  }
};
