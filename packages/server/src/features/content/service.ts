import type { App, UnitOfWork } from '../../platform/app.ts';
import { type Db, firstRow, rows, type Trx } from '../../platform/db/connect.ts';
import * as store from './store.ts';

const UNKNOWN = 'application/octet-stream';
const DAY_MS = 24 * 3_600_000;
/** How long what was saved under a check-out that has ended is still there. */
const ENDED_DAYS = 7;

/**
 * Makes stored bytes known; the first time, their text is taken out by a job. A draft's text is not, for most drafts are saved anew
 * before anybody looks for them; `readFiled` asks for it when one is filed.
 */
export const keepContent = async (
  app: Pick<App, 'jobs' | 'content'>,
  work: Pick<UnitOfWork, 'trx' | 'now'>,
  { sha256, size, mediaType, warning }: { sha256: string; size: number; mediaType: string; warning?: string | null },
  as: 'file' | 'draft' = 'file',
): Promise<void> => {
  // With a warning it is not what it says it is; of another kind than those that are known it has no text.
  const textState = warning ? 'broken' : mediaType === UNKNOWN ? 'none' : as === 'draft' ? 'unread' : 'waiting';
  const isNew = await store.insertContent(work.trx, { sha256, size, mediaType, now: work.now, textState });
  if (!isNew) return;
  // The same bytes may have been let go between their incoming file and now.
  await app.content.back(sha256);
  if (textState === 'waiting') await app.jobs.enqueue(work.trx, 'text.extract', { sha256 });
};

/** Makes what was made of another content known: it has no text of its own to be found by. */
export const keepRendition = (
  work: Pick<UnitOfWork, 'trx' | 'now'>,
  { sha256, size, mediaType }: { sha256: string; size: number; mediaType: string },
) => store.insertContent(work.trx, { sha256, size, mediaType, now: work.now, textState: 'none' });

/** Asks for the text of drafts that have just been filed. */
export const readFiled = async (app: App, trx: Trx, hashes: readonly string[]): Promise<void> => {
  const unread = await rows<{ sha256: string }>(
    trx,
    `update contents set text_state = 'waiting' where sha256 = any(:hashes::text[]) and text_state = 'unread' returning sha256`,
    { hashes },
  );
  for (const { sha256 } of unread) await app.jobs.enqueue(trx, 'text.extract', { sha256 });
};

/**
 * Which of some contents something holds: a version that was not removed, a file aside, what waits, a template, a draft, a sent file
 * of the last day, pages made of another content, the logo.
 */
export const heldContents = async (db: Db | Trx, hashes: readonly string[], now: Date): Promise<Set<string>> =>
  new Set(
    (
      await rows<{ sha256: string }>(
        db,
        `select h as sha256 from unnest(:hashes::text[]) h where
           exists (select 1 from version_files f where f.sha256 = h and not exists (select 1 from removed_versions x where x.version_id = f.version_id))
           or exists (select 1 from supporting_files a where a.sha256 = h)
           or exists (select 1 from incoming_files a where a.sha256 = h)
           or exists (select 1 from template_editions t where t.sha256 = h)
           or exists (select 1 from import_files i where i.sha256 = h)
           or exists (select 1 from drive_nodes n join uploads u on u.id = n.upload_id where u.sha256 = h)
           or exists (select 1 from working_copies k join uploads u on u.id = k.upload_id where u.sha256 = h)
           or exists (select 1 from uploads u where u.sha256 = h and u.at > :dayAgo)
           or exists (select 1 from renditions r where r.result_sha256 = h)
           or exists (select 1 from organisation where logo = h)`,
        { hashes, dayAgo: new Date(now.getTime() - DAY_MS) },
      )
    ).map((row) => row.sha256),
  );

/**
 * Lets contents go that nothing holds: their bytes, their text and what was made of them. A content that a removed version names
 * keeps its row, so its hash stays known. Each content is locked while it is asked for, so whoever files the same bytes at that
 * moment either comes first, or finds them gone and brings them back.
 */
export const deleteUnreferencedContent = async (app: App, hashes: readonly string[]): Promise<number> => {
  let gone = 0;
  for (const sha256 of new Set(hashes)) {
    const went = await app.db.transaction(async (trx) => {
      const content = await firstRow<{ text_state: string }>(
        trx,
        'select text_state from contents where sha256 = :sha256 for update',
        { sha256 },
      );
      if (!content || content.text_state === 'gone') return false;
      if ((await heldContents(trx, [sha256], app.clock())).size > 0) return false;
      for (const table of ['citations', 'texts', 'scans', 'renditions'])
        await rows(trx, `delete from ${table} where sha256 = :sha256`, { sha256 });
      await rows(trx, 'delete from uploads where sha256 = :sha256', { sha256 });
      const named = await firstRow(trx, 'select 1 from version_files where sha256 = :sha256 limit 1', { sha256 });
      await rows(
        trx,
        named
          ? `update contents set text_state = 'gone' where sha256 = :sha256`
          : 'delete from contents where sha256 = :sha256',
        { sha256 },
      );
      await app.content.leave(sha256);
      return true;
    });
    if (went) gone++;
  }
  return gone;
};

/** The same beside a command that goes on: what fails here is left to the night. */
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
 * nothing holds any more. Bytes that were set aside by a server that was killed on the way come back.
 */
export const tidyContents = async (app: App): Promise<number> => {
  const now = app.clock();
  for (const sha256 of await app.content.leaving()) {
    const content = await store.findContent(app.db, sha256);
    if (content && content.text_state !== 'gone') await app.content.back(sha256);
  }
  await rows(
    app.db,
    `delete from working_copies k using checkouts c where c.id = k.checkout_id and c.ended_at < :before`,
    { before: new Date(now.getTime() - ENDED_DAYS * DAY_MS) },
  );
  await rows(
    app.db,
    `delete from uploads u where u.at < :dayAgo and not exists (select 1 from working_copies k where k.upload_id = u.id)
       and not exists (select 1 from drive_nodes n where n.upload_id = u.id)`,
    { dayAgo: new Date(now.getTime() - DAY_MS) },
  );
  let gone = 0;
  for (let after = ''; ; ) {
    const some = await rows<{ sha256: string }>(
      app.db,
      `select sha256 from contents where sha256 > :after and text_state <> 'gone' order by sha256 limit :limit`,
      { after, limit: BATCH },
    );
    const hashes = some.map((row) => row.sha256);
    const held = await heldContents(app.db, hashes, now);
    gone += await deleteUnreferencedContent(
      app,
      hashes.filter((hash) => !held.has(hash)),
    );
    after = hashes.at(-1) ?? '';
    if (hashes.length < BATCH) return gone;
  }
};
