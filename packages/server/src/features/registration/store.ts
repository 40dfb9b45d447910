import type { Metadata, OriginalAbout } from '@kanonos/core';
import { firstRow, HOT, rows, type Trx } from '../../platform/db/connect.ts';
import type { WrittenAbout } from '../documents/index.ts';

export type Registration = WrittenAbout & {
  documentId: string;
  revisionId: string;
  versionId: string;
  number: string;
  label: string;
  typeId: string;
  folderId: string;
  ownerId: string;
  departmentId: string | null;
  title: string;
  summary: string;
  note: string;
  revisionFields: Metadata;
  documentFields: Metadata;
  keywords: string[];
  by: string;
  now: Date;
  files: readonly (OriginalAbout & { id: string; name: string; sha256: string; size: number })[];
};

/**
 * A new document with its first revision, version and file, and what lists show of it, in one statement: the counter that
 * its number came from is locked until the commit, so nothing may take longer than it must.
 */
export const insertRegistered = (trx: Trx, r: Registration) =>
  rows(
    trx,
    `with d as (
       insert into documents (id, number, type_id, folder_id, owner_id, department_id, metadata, keywords, registered_at, registered_by, changed_at, newest_revision_id, newest_state, newest_label, newest_title,
         parent_id, location, sites, confidentiality, review_every, follows_naming_rule, sharing, origin_source, origin_edition, origin_watcher, origin_check_on)
       values (:documentId, :number, :typeId, :folderId, :ownerId, :departmentId, :documentFields::jsonb, :keywords::text[], :now, :by, :now, :revisionId, 'draft', :label, :title, :parentId, :location, :sites::text[], :confidentiality, :reviewEvery, :followsNamingRule, :sharing, :originSource, :originEdition, :originWatcher, :originCheckOn)),
     r as (
       insert into revisions (id, document_id, ordinal, label, change_kind, summary, title, metadata, state, created_at, created_by, latest_version_id, version_count, search)
       values (:revisionId, :documentId, 1, :label, 'first issue', :summary, :title, :revisionFields::jsonb, 'draft', :now, :by, :versionId, 1,
         setweight(to_tsvector('simple', :number), 'A') || setweight(to_tsvector('english', :title), 'A') || setweight(to_tsvector('english', :words), 'B'))),
     v as (
       insert into versions (id, revision_id, n, note, by_id, at, title, metadata) values (:versionId, :revisionId, 1, :note, :by, :now, :title, :revisionFields::jsonb))
     insert into version_files (id, version_id, role, name, sha256, size, sort, description, language, sheet)
     select f.id, :versionId, 'original', f.name, f.sha256, f.size, f.sort, f.description, f.language, f.sheet
     from jsonb_to_recordset(:files::jsonb) f(id uuid, name text, sha256 text, size bigint, sort int, description text, language text, sheet int)`,
    {
      ...r,
      files: JSON.stringify(r.files.map((file, sort) => ({ ...file, sort }))),
      revisionFields: JSON.stringify(r.revisionFields),
      documentFields: JSON.stringify(r.documentFields),
      words: [...Object.values({ ...r.revisionFields, ...r.documentFields }), ...r.keywords].join(' '),
    },
    HOT,
  );

/** A file that was saved in a folder by a desk program is this document from now on, under the name by which it was saved too. */
export const driveFileFiled = (trx: Trx, by: { uploadId: string; documentId: string }) =>
  rows(
    trx,
    'update drive_nodes set document_id = :documentId, why = null where upload_id = :uploadId and document_id is null',
    by,
  );

export const findIdempotent = (trx: Trx, by: { key: string; personId: string }) =>
  firstRow<{ endpoint: string; fingerprint: string; answer: unknown }>(
    trx,
    'select endpoint, fingerprint, answer from idempotency_keys where key = :key and person_id = :personId',
    by,
  );

export const insertIdempotent = (
  trx: Trx,
  k: { key: string; personId: string; endpoint: string; fingerprint: string; answer: unknown; now: Date },
) =>
  rows(
    trx,
    'insert into idempotency_keys (key, person_id, endpoint, fingerprint, answer, at) values (:key, :personId, :endpoint, :fingerprint, :answer::jsonb, :now)',
    { ...k, answer: JSON.stringify(k.answer) },
  );

/** Two requests with one key at the same time: the second waits for the first. */
export const lockKey = (trx: Trx, key: string, personId: string) =>
  rows(trx, 'select pg_advisory_xact_lock(hashtextextended(:both, 0))', { both: `${personId} ${key}` });
