import { type Db, firstRow, HOT, rows, type Trx } from '../../platform/db/connect.ts';

export type UploadRow = { id: string; sha256: string; name: string; by_id: string; size: number; media_type: string };
/** Records a content; answers it when it is new, was deleted, or was a draft that is filed now. */
export const insertContent = (
  db: Db | Trx,
  c: { sha256: string; size: number; mediaType: string; now: Date; textState: string },
) =>
  firstRow<{ sha256: string }>(
    db,
    `insert into contents (sha256, size, media_type, stored_at, text_state) values (:sha256, :size, :mediaType, :now, :textState) on conflict (sha256) do update
     set text_state = excluded.text_state, media_type = excluded.media_type, stored_at = excluded.stored_at
     where contents.text_state = 'gone' or (contents.text_state = 'unread' and excluded.text_state <> 'unread') returning sha256`,
    c,
  );
export const findContent = (db: Db | Trx, sha256: string) =>
  firstRow<{ sha256: string; size: number; media_type: string; text_state: string; words: number; pictures: number }>(
    db,
    'select * from contents where sha256 = :sha256',
    { sha256 },
  );
/** What waits for its text while no job is going to take it out. */
export const listWaitingTexts = (db: Db) =>
  rows<{ sha256: string }>(
    db,
    `select c.sha256 from contents c where c.text_state = 'waiting' and not exists (
       select 1 from jobs.job j
       where j.name = 'text.extract' and j.state < 'completed' and j.data->>'sha256' = c.sha256)
     order by c.stored_at`,
  );
export const insertUpload = (trx: Trx, u: { id: string; sha256: string; name: string; by: string; now: Date }) =>
  rows(trx, 'insert into uploads (id, sha256, name, by_id, at) values (:id, :sha256, :name, :by, :now)', u);
export const findUpload = (db: Db | Trx, by: { id: string; personId: string }) =>
  firstRow<UploadRow>(
    db,
    'select u.id, u.sha256, u.name, u.by_id, c.size, c.media_type from uploads u join contents c on c.sha256 = u.sha256 where u.id = :id and u.by_id = :personId',
    by,
    HOT,
  );

export const setText = async (
  trx: Trx,
  t: { sha256: string; text: string; words: number; pictures: number; state: string },
) => {
  // A tsvector holds at most 1 MB: the words of the first 900,000 characters are indexed, the text is kept whole.
  if (t.state === 'done') {
    await rows(
      trx,
      `insert into texts (sha256, text, words) values (:sha256, :text, to_tsvector('english', left(:text, 900000))) on conflict (sha256) do update set text = excluded.text, words = excluded.words, cited = false`,
      t,
    );
  }
  await rows(
    trx,
    'update contents set text_state = :state, words = :words, pictures = :pictures where sha256 = :sha256',
    t,
  );
};
export const findText = (db: Db | Trx, sha256: string) =>
  firstRow<{ text: string }>(db, 'select text from texts where sha256 = :sha256', { sha256 });

export const DAY_MS = 24 * 3_600_000;

/**
 * Which of some contents something holds: a version that was not removed, a file aside, one of a change request or a record, what waits, a template, a file of a blueprint, a draft, a sent file
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
           or exists (select 1 from change_requests q where q.sha256 = h)
           or exists (select 1 from round_files a where a.sha256 = h)
           or exists (select 1 from planned_rounds p where p.ended_at is null and p.files @> jsonb_build_array(jsonb_build_object('sha256', h)))
           or exists (select 1 from signed_outside s where s.sha256 = h or s.sent_sha256 = h)
           or exists (select 1 from form_record_files a where a.sha256 = h)
           or exists (select 1 from incoming_files a where a.sha256 = h)
           or exists (select 1 from template_editions t where t.sha256 = h)
           or exists (select 1 from blueprint_files b where b.sha256 = h)
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

export const setWaitingForText = (db: Trx, given: { hashes: readonly string[] }) =>
  rows<{ sha256: string }>(
    db,
    `update contents set text_state = 'waiting' where sha256 = any(:hashes::text[]) and text_state = 'unread' returning sha256`,
    given,
  );

export const lockContent = (db: Trx, given: { sha256: string }) =>
  firstRow<{ text_state: string }>(db, 'select text_state from contents where sha256 = :sha256 for update', given);

export const deleteUploadsOf = (db: Trx, given: { sha256: string }) =>
  rows(db, 'delete from uploads where sha256 = :sha256', given);

export const findNaming = (db: Trx, given: { sha256: string }) =>
  firstRow(db, 'select 1 from version_files where sha256 = :sha256 limit 1', given);

export const deleteEndedWorkingCopies = (db: Db | Trx, given: { before: Date }) =>
  rows(db, `delete from working_copies k using checkouts c where c.id = k.checkout_id and c.ended_at < :before`, given);

export const deleteUnusedUploads = (db: Db | Trx, given: { dayAgo: Date }) =>
  rows(
    db,
    `delete from uploads u where u.at < :dayAgo and not exists (select 1 from working_copies k where k.upload_id = u.id)
       and not exists (select 1 from drive_nodes n where n.upload_id = u.id)`,
    given,
  );

export const listContentsAfter = (db: Db | Trx, given: { after: string; limit: number }) =>
  rows<{ sha256: string }>(
    db,
    `select sha256 from contents where sha256 > :after and text_state <> 'gone' order by sha256 limit :limit`,
    given,
  );

/** Everything derived from a content: its text and its citations, scans, pages and thumbnails. */
export const deleteMadeOf = async (trx: Trx, sha256: string): Promise<void> => {
  for (const table of ['citations', 'texts', 'scans', 'renditions'])
    await rows(trx, `delete from ${table} where sha256 = :sha256`, { sha256 });
};
export const setGone = (trx: Trx, sha256: string) =>
  rows(trx, `update contents set text_state = 'gone' where sha256 = :sha256`, { sha256 });
export const deleteContent = (trx: Trx, sha256: string) =>
  rows(trx, 'delete from contents where sha256 = :sha256', { sha256 });
