import { changed, type Db, firstRow, rows, type Trx } from '../../platform/db/connect.ts';

export type FailedWork = {
  kind: string;
  subject: string;
  label: string;
  document_id: string | null;
  reason: string;
  tries: number;
  first_at: Date;
  last_at: Date;
  next_at: Date;
  set_aside: boolean;
};

export const listFailed = (db: Db | Trx, kind: string) =>
  rows<FailedWork>(db, 'select * from failed_work where kind = :kind', { kind });
export const listSetAside = (db: Db | Trx) =>
  rows<FailedWork & { number: string | null }>(
    db,
    `select w.*, d.number from failed_work w left join documents d on d.id = w.document_id where w.set_aside order by w.last_at desc limit 500`,
  );
export const countSetAside = async (db: Db | Trx): Promise<number> =>
  (await firstRow<{ n: number }>(db, 'select count(*)::int as n from failed_work where set_aside'))?.n ?? 0;
export const noteFailed = (
  db: Db | Trx,
  f: {
    kind: string;
    subject: string;
    label: string;
    documentId: string | null;
    reason: string;
    now: Date;
    next: Date;
    setAside: boolean;
  },
) =>
  rows(
    db,
    `insert into failed_work (kind, subject, label, document_id, reason, tries, first_at, last_at, next_at, set_aside)
     values (:kind, :subject, :label, :documentId, :reason, 1, :now, :now, :next, :setAside)
     on conflict (kind, subject) do update set label = excluded.label, reason = excluded.reason, tries = failed_work.tries + 1,
       last_at = excluded.last_at, next_at = excluded.next_at, set_aside = excluded.set_aside`,
    f,
  );
export const forgetFailed = (db: Db | Trx, by: { kind: string; subject: string }) =>
  changed(db, 'delete from failed_work where kind = :kind and subject = :subject', by);
export const tryAgain = (trx: Trx, by: { kind: string; subject: string; now: Date }) =>
  firstRow<{ label: string; document_id: string | null; number: string | null }>(
    trx,
    `update failed_work w set set_aside = false, tries = 0, next_at = :now where kind = :kind and subject = :subject
     returning label, document_id, (select number from documents d where d.id = w.document_id) as number`,
    by,
  );

export type Incident = {
  id: string;
  sha256: string;
  what: 'altered' | 'missing';
  found_by: string;
  found_at: Date;
  ended_at: Date | null;
};

export const listUnnotified = (db: Db) =>
  rows<Incident>(db, 'select * from content_incidents where notified_at is null order by found_at limit 100');
export const noteNotified = (trx: Trx, by: { id: string; now: Date }) =>
  changed(trx, 'update content_incidents set notified_at = :now where id = :id and notified_at is null', by);
/** Open incidents with one document and file name for each place that uses the content. */
export const listIncidents = (db: Db | Trx) =>
  rows<
    Incident & {
      document_id: string | null;
      folder_id: string | null;
      number: string | null;
      name: string | null;
      label: string | null;
    }
  >(
    db,
    `select i.*, p.document_id, p.folder_id, p.number, p.name, p.label from content_incidents i
     left join lateral (select distinct d.id as document_id, d.folder_id, d.number, f.name, r.label from version_files f join versions v on v.id = f.version_id
       join revisions r on r.id = v.revision_id join documents d on d.id = r.document_id where f.sha256 = i.sha256 limit 20) p on true
     where i.ended_at is null order by i.found_at desc limit 500`,
  );

export type Checked = {
  sha256: string;
  size: number;
  text_state: string;
  checked_on: string | null;
  checked_mtime_ms: number | null;
  check_failed: boolean;
};
const CHECKED = 'select sha256, size, text_state, checked_on, checked_mtime_ms, check_failed from contents';
export const findChecked = (db: Db | Trx, sha256: string) =>
  firstRow<Checked>(db, `${CHECKED} where sha256 = :sha256`, { sha256 });
/** Contents that are kept, those that were checked longest ago first, by contents_to_check. */
export const listToCheck = (db: Db, by: { before: string; limit: number }) =>
  rows<Checked>(
    db,
    `${CHECKED} where text_state <> 'gone' and (checked_on is null or checked_on < :before) order by checked_on nulls first, sha256 limit :limit`,
    by,
  );
export const countChecked = async (db: Db) =>
  (await firstRow<{ n: number; oldest: string | null }>(
    db,
    `select count(*)::int as n, case when bool_or(checked_on is null) then null else min(checked_on) end as oldest from contents where text_state <> 'gone'`,
  )) ?? { n: 0, oldest: null };
export const listKnown = async (db: Db, hashes: readonly string[]): Promise<Set<string>> =>
  new Set(
    (
      await rows<{ sha256: string }>(
        db,
        `select sha256 from contents where sha256 = any(:hashes::text[]) and text_state <> 'gone'`,
        { hashes },
      )
    ).map((row) => row.sha256),
  );
/** People who keep the system and those with *release* on the folders of a content's documents. */
export const listToTell = async (trx: Trx, by: { sha256: string; day: string }): Promise<string[]> =>
  (
    await rows<{ id: string }>(
      trx,
      `select p.id from people p where p.state = 'active' and ('administer' = any(organisation_rights_of(p.id, :day)) or exists (
         select 1 from version_files x join versions v on v.id = x.version_id join revisions r on r.id = v.revision_id join documents d on d.id = r.document_id
           join folders f on f.id = d.folder_id join grants g on g.folder_id = any(f.path) and 'release' = any(g.rights)
         where x.sha256 = :sha256 and ((g.subject_kind = 'person' and g.subject_id = p.id) or (g.subject_kind = 'unit' and exists (
           select 1 from memberships m where m.person_id = p.id and m.ref_id = g.subject_id and m.from_day <= :day and (m.to_day is null or m.to_day >= :day))))))`,
      by,
    )
  ).map((row) => row.id);
