import { type Db, firstRow, HOT, rows, type Trx } from '../../platform/db/connect.ts';

export type UploadRow = { id: string; sha256: string; name: string; by_id: string; size: number; media_type: string };
/** Makes a content known; answers it when it is new, was gone, or was a draft that is filed now. */
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
