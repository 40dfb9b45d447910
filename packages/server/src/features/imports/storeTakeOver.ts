import { rows, type Trx } from '../../platform/db/connect.ts';

export const insertDocuments = (db: Trx, given: { by: string; now: Date; rows: string }) =>
  rows(
    db,
    `insert into documents (id, number, type_id, folder_id, owner_id, department_id, metadata, keywords, review_on, registered_at, registered_by, changed_at, unverified_since,
       newest_revision_id, newest_state, newest_label, newest_title, public_revision_id, public_state, public_label, public_title)
     select d.id, d.number, d.type, d.folder, d.owner, d.department, d.metadata, array(select jsonb_array_elements_text(d.keywords)), d.review, d.registered, :by, :now, :now,
       d.newest, d.newest_state, d.newest_label, d.newest_title, d.shown, d.shown_state, d.shown_label, d.shown_title
     from jsonb_to_recordset(:rows::jsonb) d(id uuid, number text, type uuid, folder uuid, owner uuid, department uuid, metadata jsonb, keywords jsonb, review date, registered timestamptz,
       newest uuid, newest_state text, newest_label text, newest_title text, shown uuid, shown_state text, shown_label text, shown_title text)`,
    given,
  );

export const insertNumbers = (db: Trx, given: { rows: string }) =>
  rows(
    db,
    `insert into numbers (folded, number, document_id, state, scope, counter)
     select n.folded, n.number, n.document, 'taken', n.scope, n.counter from jsonb_to_recordset(:rows::jsonb) n(folded text, number text, document uuid, scope text, counter bigint)`,
    given,
  );

export const insertRevisions = (db: Trx, given: { by: string; now: Date; rows: string }) =>
  rows(
    db,
    `insert into revisions (id, document_id, ordinal, label, change_kind, summary, title, metadata, state, created_at, created_by, latest_version_id, version_count, imported)
     select r.id, r.document, r.ordinal, r.label, r.kind, r.summary, r.title, r.metadata, r.state, :now, :by, r.version, 1, r.imported
     from jsonb_to_recordset(:rows::jsonb) r(id uuid, document uuid, ordinal int, label text, kind text, summary text, title text, metadata jsonb, state text, version uuid, imported jsonb)`,
    given,
  );

export const insertVersions = (db: Trx, given: { by: string; now: Date; rows: string }) =>
  rows(
    db,
    `with v as (
       insert into versions (id, revision_id, n, note, by_id, at, title, metadata)
       select r.version, r.revision, 1, 'Taken over', :by, :now, r.title, r.metadata from jsonb_to_recordset(:rows::jsonb) r(version uuid, revision uuid, title text, metadata jsonb))
     insert into version_files (id, version_id, role, name, sha256, size)
     select r.file, r.version, 'original', r.name, r.sha256, r.size from jsonb_to_recordset(:rows::jsonb) r(file uuid, version uuid, name text, sha256 text, size bigint)`,
    given,
  );

export const insertPeriods = (db: Trx, given: { rows: string }) =>
  rows(
    db,
    `insert into periods (id, document_id, revision_id, label, from_at, to_at)
     select p.id, p.document, p.revision, p.label, p.start, p.stop from jsonb_to_recordset(:rows::jsonb) p(id uuid, document uuid, revision uuid, label text, start timestamptz, stop timestamptz)`,
    given,
  );

export const insertRecords = (db: Trx, given: { now: Date; rows: string }) =>
  rows(
    db,
    `insert into signing_records (id, revision_id, digest, text, frozen_at, kind)
     select r.id, r.revision, r.digest, r.text, :now, 'imported' from jsonb_to_recordset(:rows::jsonb) r(id uuid, revision uuid, digest text, text text)`,
    given,
  );
