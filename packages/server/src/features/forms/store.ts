import type { FormPurpose, FormSection, Metadata } from '@kanonos/core';
import { changed, type Db, firstRow, rows, type Trx } from '../../platform/db/connect.ts';

export type FormRow = {
  id: string;
  code: string;
  purpose: FormPurpose;
  active: boolean;
  type_ids: string[];
  receiver_ids: string[];
  row_version: number;
  version: number;
  name: string;
  about: string;
  sections: FormSection[];
};
const FORMS = `select f.id, f.code, f.purpose, f.active, f.type_ids, f.receiver_ids, f.row_version, v.n as version, v.name, v.about, v.sections
  from forms f join lateral (select * from form_versions where form_id = f.id order by n desc limit 1) v on true`;
export const listForms = (db: Db | Trx) => rows<FormRow>(db, `${FORMS} order by v.name`);
export const findForm = (db: Db | Trx, id: string) => firstRow<FormRow>(db, `${FORMS} where f.id = :id`, { id });
export const lockForm = (trx: Trx, id: string) => rows(trx, 'select 1 from forms where id = :id for update', { id });
/** The form by which a change of a document of a type is suggested: one for this type before one for all. */
export const findChangeForm = (db: Db | Trx, typeId: string) =>
  firstRow<FormRow>(
    db,
    `${FORMS} where f.purpose = 'change request' and f.active and (f.type_ids = '{}' or :typeId::uuid = any(f.type_ids))
     order by f.type_ids = '{}', f.code limit 1`,
    { typeId },
  );
export type VersionRow = { form_id: string; n: number; at: Date; by: string; reason: string; sections: FormSection[] };
export const listVersions = (db: Db) =>
  rows<VersionRow>(
    db,
    'select v.form_id, v.n, v.at, p.name as by, v.reason, v.sections from form_versions v join people p on p.id = v.by_id order by v.n desc',
  );
export const countRecords = (db: Db) =>
  rows<{ form_id: string; records: number }>(
    db,
    'select form_id, count(*)::int as records from form_records where sent_at is not null group by 1',
  );

export type FormValues = {
  id: string;
  code: string;
  purpose: FormPurpose;
  active: boolean;
  typeIds: readonly string[];
  receiverIds: readonly string[];
};
export const insertForm = (trx: Trx, form: FormValues) =>
  rows(
    trx,
    `insert into forms (id, code, purpose, active, type_ids, receiver_ids) values (:id, :code, :purpose, :active, :typeIds::uuid[], :receiverIds::uuid[])`,
    form,
  );
export const updateForm = (trx: Trx, form: FormValues) =>
  changed(
    trx,
    `update forms set code = :code, active = :active, type_ids = :typeIds::uuid[], receiver_ids = :receiverIds::uuid[], row_version = row_version + 1
     where id = :id and purpose = :purpose`,
    form,
  );
export const insertVersion = (
  trx: Trx,
  version: {
    formId: string;
    n: number;
    name: string;
    about: string;
    sections: readonly FormSection[];
    by: string;
    now: Date;
    reason: string;
  },
) =>
  rows(
    trx,
    `insert into form_versions (form_id, n, name, about, sections, by_id, at, reason) values (:formId, :n, :name, :about, :sections::jsonb, :by, :now, :reason)`,
    { ...version, sections: JSON.stringify(version.sections) },
  );

export type RecordRow = {
  id: string;
  form_id: string;
  code: string;
  purpose: FormPurpose;
  receiver_ids: string[];
  version: number;
  name: string;
  about: string;
  sections: FormSection[];
  document_id: string | null;
  by_id: string;
  by_name: string;
  answers: Metadata;
  saved_at: Date;
  row_version: number;
  number: string | null;
  sent_at: Date | null;
  request_id: string | null;
  request: string | null;
};
const RECORDS = `select r.id, r.form_id, f.code, f.purpose, f.receiver_ids, r.version, v.name, v.about, v.sections, r.document_id, r.by_id, p.name as by_name,
    r.answers, r.saved_at, r.row_version, r.number, r.sent_at, r.request_id, q.number as request
  from form_records r join forms f on f.id = r.form_id join form_versions v on v.form_id = r.form_id and v.n = r.version join people p on p.id = r.by_id
  left join change_requests q on q.id = r.request_id`;
export const findRecord = (db: Db | Trx, id: string) => firstRow<RecordRow>(db, `${RECORDS} where r.id = :id`, { id });
export const lockRecord = (trx: Trx, id: string) =>
  rows(trx, 'select 1 from form_records where id = :id for update', { id });
export const listDrafts = (db: Db, personId: string) =>
  rows<RecordRow>(db, `${RECORDS} where r.by_id = :personId and r.sent_at is null order by r.saved_at desc limit 100`, {
    personId,
  });
export const findDraftOf = (db: Db, of: { personId: string; formId: string; documentId: string }) =>
  firstRow<{ id: string }>(
    db,
    'select id from form_records where by_id = :personId and form_id = :formId and document_id = :documentId and sent_at is null order by saved_at desc limit 1',
    of,
  );
/** What a person sent, and what comes to one of their units; the newest first. */
export const listSent = (db: Db, of: { personId: string; unitIds: string[] }) =>
  rows<RecordRow>(
    db,
    `${RECORDS} where r.sent_at is not null and (r.by_id = :personId or f.receiver_ids && :unitIds::uuid[]) order by r.sent_at desc, r.number desc limit 500`,
    of,
  );

export type DraftValues = {
  id: string;
  formId: string;
  version: number;
  documentId: string | null;
  by: string;
  answers: Metadata;
  now: Date;
};
export const insertDraft = (trx: Trx, draft: DraftValues) =>
  rows(
    trx,
    `insert into form_records (id, form_id, version, document_id, by_id, answers, saved_at) values (:id, :formId, :version, :documentId, :by, :answers::jsonb, :now)`,
    { ...draft, answers: JSON.stringify(draft.answers) },
  );
export const updateDraft = (trx: Trx, draft: Pick<DraftValues, 'id' | 'version' | 'answers' | 'now'>) =>
  changed(
    trx,
    `update form_records set version = :version, answers = :answers::jsonb, saved_at = :now, row_version = row_version + 1 where id = :id and sent_at is null`,
    { ...draft, answers: JSON.stringify(draft.answers) },
  );
export const deleteDraft = (trx: Trx, id: string) =>
  changed(trx, 'delete from form_records where id = :id and sent_at is null', { id });

const COUNTER_LOCK = 7_204_123;
/** The next number of a form in a year; whoever comes at the same moment waits. */
export const nextOfYear = async (trx: Trx, formId: string, year: number): Promise<number> => {
  await rows(trx, 'select pg_advisory_xact_lock(:lock, :year)', { lock: COUNTER_LOCK, year });
  const found = await firstRow<{ n: number }>(
    trx,
    'select coalesce(max(n), 0) + 1 as n from form_records where form_id = :formId and year = :year',
    { formId, year },
  );
  return found?.n ?? 1;
};
export const markSent = (
  trx: Trx,
  sent: { id: string; answers: Metadata; year: number; n: number; number: string; now: Date; requestId: string | null },
) =>
  changed(
    trx,
    `update form_records set answers = :answers::jsonb, year = :year, n = :n, number = :number, sent_at = :now, saved_at = :now, request_id = :requestId, row_version = row_version + 1
     where id = :id and sent_at is null`,
    { ...sent, answers: JSON.stringify(sent.answers) },
  );

export type FileRow = { id: string; record_id: string; name: string; sha256: string; size: number; media_type: string };
const FILES = `select a.id, a.record_id, a.name, a.sha256, c.size, c.media_type from form_record_files a join contents c on c.sha256 = a.sha256`;
export const listFiles = (db: Db | Trx, recordId: string) =>
  rows<FileRow>(db, `${FILES} where a.record_id = :recordId order by a.n`, { recordId });
export const findFile = (db: Db, id: string) => firstRow<FileRow>(db, `${FILES} where a.id = :id`, { id });
export const insertFile = (trx: Trx, file: { id: string; recordId: string; n: number; name: string; sha256: string }) =>
  rows(
    trx,
    'insert into form_record_files (id, record_id, n, name, sha256) values (:id, :recordId, :n, :name, :sha256)',
    file,
  );
export const dropFiles = (trx: Trx, of: { recordId: string; kept: readonly string[] }) =>
  changed(trx, 'delete from form_record_files where record_id = :recordId and id <> all(:kept::uuid[])', of);
