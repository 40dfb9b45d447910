import type { VersionChange } from '@kanonos/contract';
import type { ChangeKind, Confidentiality, FolderState, Metadata, OriginalAbout, RevisionState } from '@kanonos/core';
import { changed, type Db, firstRow, HOT, rows, type Trx } from '../../platform/db/connect.ts';
import { isId } from '../../platform/db/ids.ts';

export type DocumentRow = {
  id: string;
  number: string;
  type_id: string;
  folder_id: string;
  owner_id: string;
  department_id: string | null;
  confidentiality: Confidentiality;
  parent_id: string | null;
  parent_number: string | null;
  location: string;
  sites: string[];
  review_months: number | null;
  follows_naming_rule: boolean | null;
  sharing: string;
  origin_source: string;
  origin_edition: string;
  origin_watcher: string | null;
  origin_watcher_name: string | null;
  origin_check_on: string | null;
  /** A revision of it was ever sent. */
  was_submitted: boolean;
  /** The organisation wants all stored names by rule. */
  organisation_names_by_rule: boolean;
  metadata: Metadata;
  keywords: string[];
  review_on: string | null;
  withdraw_on: string | null;
  withdraw_reason: string | null;
  registered_at: Date;
  registered_by: string;
  changed_at: Date;
  removed_at: Date | null;
  folder_name: string;
  unverified_since: Date | null;
  folder_state: FolderState;
  row_version: number;
  newest_revision_id: string;
  public_revision_id: string | null;
  public_state: RevisionState | null;
  public_label: string | null;
  public_title: string | null;
  newest_state: RevisionState;
  newest_label: string;
  newest_title: string;
  owner_name: string;
  department_name: string | null;
  registered_by_name: string;
};
export type RevisionRow = {
  id: string;
  document_id: string;
  ordinal: number;
  label: string;
  change_kind: ChangeKind;
  reason: string;
  summary: string;
  title: string;
  metadata: Metadata;
  state: RevisionState;
  planned_on: string | null;
  blocked_since: Date | null;
  latest_version_id: string | null;
  version_count: number;
  created_at: Date;
  created_by: string;
  created_by_name: string;
  row_version: number;
  effective_from: Date | null;
  effective_to: Date | null;
};
export type VersionRow = {
  id: string;
  revision_id: string;
  n: number;
  note: string;
  by_id: string;
  by_name: string;
  at: Date;
  title: string;
  metadata: Metadata;
  /** What differs from the version before it, once it was compared. */
  change: VersionChange | null;
};
export type FileRow = {
  id: string;
  version_id: string;
  role: 'original' | 'attachment' | 'rendition';
  name: string;
  sha256: string;
  size: number;
  sort: number;
  description: string;
  language: string;
  sheet: number | null;
  media_type: string;
  text_state: 'waiting' | 'done' | 'none' | 'broken';
  words: number;
  pictures: number;
  check_failed: boolean;
  checked_on: string | null;
};
export type CheckoutRow = {
  id: string;
  document_id: string;
  revision_id: string;
  person_id: string;
  person_name: string;
  at: Date;
  note: string;
  expected_back: string | null;
};

const DOCUMENT = `select d.*, f.name as folder_name, f.state as folder_state, o.name as owner_name, x.number as parent_number, w.name as origin_watcher_name,
  exists (select 1 from rounds where document_id = d.id) as was_submitted, (select follows_naming_rule from organisation) as organisation_names_by_rule, u.name as department_name, r.name as registered_by_name
  from documents d join folders f on f.id = d.folder_id join people o on o.id = d.owner_id join people r on r.id = d.registered_by left join units u on u.id = d.department_id left join documents x on x.id = d.parent_id left join people w on w.id = d.origin_watcher`;

export const findDocument = (db: Db | Trx, ref: string) =>
  firstRow<DocumentRow>(db, `${DOCUMENT} where ${isId(ref) ? 'd.id = :ref::uuid' : 'd.number = :ref'}`, { ref });

/** A document by a number that it bore before it was renumbered. */
export const findByFormerNumber = (db: Db | Trx, number: string) =>
  isId(number)
    ? undefined
    : firstRow<DocumentRow>(
        db,
        `${DOCUMENT} where d.id = (select document_id from numbers where number = :number and state = 'void')`,
        { number },
      );

/** Locks the document's row for the rest of the transaction: acts on one document happen one after the other. */
export const lockDocument = (trx: Trx, ref: string) =>
  firstRow<{ id: string }>(
    trx,
    `select id from documents where ${isId(ref) ? 'id = :ref::uuid' : 'number = :ref'} for update`,
    { ref },
  );

const REVISION = `select r.*, p.name as created_by_name, e.from_at as effective_from, e.to_at as effective_to
  from revisions r join people p on p.id = r.created_by
  left join lateral (select from_at, to_at from periods where document_id = r.document_id and revision_id = r.id order by from_at desc limit 1) e on true`;
export const listRevisions = (db: Db | Trx, documentId: string) =>
  rows<RevisionRow>(db, `${REVISION} where r.document_id = :documentId order by r.ordinal desc`, { documentId });
export const findRevision = (db: Db | Trx, id: string) =>
  firstRow<RevisionRow>(db, `${REVISION} where r.id = :id`, { id });

export const listPeriods = (db: Db | Trx, documentId: string) =>
  rows<{ revision_id: string; label: string; from_at: Date; to_at: Date | null }>(
    db,
    'select revision_id, label, from_at, to_at from periods where document_id = :documentId order by from_at',
    { documentId },
  );

export const listVersions = (db: Db | Trx, revisionId: string) =>
  rows<VersionRow>(
    db,
    'select v.*, p.name as by_name, c.change from versions v join people p on p.id = v.by_id left join version_changes c on c.version_id = v.id where v.revision_id = :revisionId and not exists (select 1 from removed_versions x where x.version_id = v.id) order by v.n desc',
    { revisionId },
  );
const FILE = `select f.*, c.media_type, c.text_state, c.words, c.pictures, c.check_failed, c.checked_on from version_files f join contents c on c.sha256 = f.sha256`;
export const listFiles = (db: Db | Trx, versionIds: string[]) =>
  rows<FileRow>(db, `${FILE} where f.version_id = any(:versionIds::uuid[]) order by f.sort, f.name`, { versionIds });
export const findFile = (db: Db, id: string) =>
  firstRow<FileRow & { document_id: string; revision_id: string; n: number; label: string; state: RevisionState }>(
    db,
    `select f.*, c.media_type, c.text_state, c.words, c.pictures, c.check_failed, c.checked_on, r.document_id, r.id as revision_id, v.n, r.label, r.state
     from version_files f join contents c on c.sha256 = f.sha256 join versions v on v.id = f.version_id join revisions r on r.id = v.revision_id where f.id = :id and not exists (select 1 from removed_versions x where x.version_id = v.id)`,
    { id },
  );

export const findCheckout = (db: Db | Trx, documentId: string) =>
  firstRow<CheckoutRow>(
    db,
    'select c.*, p.name as person_name from checkouts c join people p on p.id = c.person_id where c.document_id = :documentId and c.ended_at is null',
    { documentId },
  );
export const insertCheckout = (
  trx: Trx,
  checkout: {
    id: string;
    documentId: string;
    revisionId: string;
    personId: string;
    now: Date;
    note: string;
    expectedBack: string | null;
  },
) =>
  rows(
    trx,
    'insert into checkouts (id, document_id, revision_id, person_id, at, note, expected_back) values (:id, :documentId, :revisionId, :personId, :now, :note, :expectedBack)',
    checkout,
  );
export const endCheckout = (trx: Trx, id: string, now: Date, how: string) =>
  changed(trx, 'update checkouts set ended_at = :now, ended_how = :how where id = :id and ended_at is null', {
    id,
    now,
    how,
  });

/** Authors of a revision: who registered or revised it and everyone who checked in a version of it. */
export const listAuthors = async (db: Db | Trx, revisionId: string): Promise<string[]> =>
  (
    await rows<{ id: string }>(
      db,
      'select created_by as id from revisions where id = :revisionId union select by_id from versions where revision_id = :revisionId',
      { revisionId },
    )
  ).map((row) => row.id);

/** What is kept of a document beside its metadata, as it stands in the table. */
type WrittenAbout = {
  parentId: string | null;
  location: string;
  sites: string[];
  confidentiality: Confidentiality;
  reviewMonths: number | null;
  followsNamingRule: boolean | null;
  sharing: string;
  originSource: string;
  originEdition: string;
  originWatcher: string | null;
  originCheckOn: string | null;
};

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
         parent_id, location, sites, confidentiality, review_months, follows_naming_rule, sharing, origin_source, origin_edition, origin_watcher, origin_check_on)
       values (:documentId, :number, :typeId, :folderId, :ownerId, :departmentId, :documentFields::jsonb, :keywords::text[], :now, :by, :now, :revisionId, 'draft', :label, :title, :parentId, :location, :sites::text[], :confidentiality, :reviewMonths, :followsNamingRule, :sharing, :originSource, :originEdition, :originWatcher, :originCheckOn)),
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
export const setRemoved = (trx: Trx, id: string, at: Date | null, reason: string | null, by: string | null) =>
  rows(
    trx,
    'update documents set removed_at = :at, removed_why = :reason, removed_by = :by, row_version = row_version + 1 where id = :id',
    { id, at, reason, by },
  );
/** Removed documents, the last one first. */
export const listRemoved = (db: Db) =>
  rows<{
    id: string;
    number: string;
    title: string;
    folder_id: string;
    owner_id: string;
    confidentiality: Confidentiality;
    removed_at: Date;
    by_name: string;
    removed_why: string;
  }>(
    db,
    `select d.id, d.number, d.newest_title as title, d.folder_id, d.owner_id, d.confidentiality, d.removed_at, coalesce(p.name, '') as by_name, coalesce(d.removed_why, '') as removed_why
     from documents d left join people p on p.id = d.removed_by where d.removed_at is not null order by d.removed_at desc limit 500`,
  );

/** The types of what a person registered lately, the last one first. */
export const listRecent = async (db: Db, personId: string): Promise<string[]> =>
  (
    await rows<{ type_id: string }>(
      db,
      `select type_id from (select type_id, registered_at from documents where registered_by = :personId order by registered_at desc limit 30) d
       group by type_id order by max(registered_at) desc limit 5`,
      { personId },
    )
  ).map((row) => row.type_id);

export const insertRevision = (
  trx: Trx,
  r: {
    id: string;
    documentId: string;
    ordinal: number;
    label: string;
    changeKind: ChangeKind;
    reason: string;
    summary: string;
    title: string;
    metadata: Metadata;
    now: Date;
    by: string;
  },
) =>
  rows(
    trx,
    `insert into revisions (id, document_id, ordinal, label, change_kind, reason, summary, title, metadata, state, created_at, created_by)
     values (:id, :documentId, :ordinal, :label, :changeKind, :reason, :summary, :title, :metadata::jsonb, 'draft', :now, :by)`,
    { ...r, metadata: JSON.stringify(r.metadata) },
  );
export const insertVersion = (
  trx: Trx,
  v: {
    id: string;
    revisionId: string;
    n: number;
    note: string;
    by: string;
    now: Date;
    title: string;
    metadata: Metadata;
  },
) =>
  rows(
    trx,
    'insert into versions (id, revision_id, n, note, by_id, at, title, metadata) values (:id, :revisionId, :n, :note, :by, :now, :title, :metadata::jsonb)',
    { ...v, metadata: JSON.stringify(v.metadata) },
  );
export const insertFile = (
  trx: Trx,
  f: OriginalAbout & {
    id: string;
    versionId: string;
    role: string;
    name: string;
    sha256: string;
    size: number;
    sort: number;
  },
) =>
  rows(
    trx,
    'insert into version_files (id, version_id, role, name, sha256, size, sort, description, language, sheet) values (:id, :versionId, :role, :name, :sha256, :size, :sort, :description, :language, :sheet)',
    f,
  );
export const setLatestVersion = (
  trx: Trx,
  r: { id: string; versionId: string; n: number; title: string; summary: string; metadata: Metadata },
) =>
  rows(
    trx,
    `update revisions set latest_version_id = :versionId, version_count = :n, title = :title, summary = :summary, metadata = :metadata::jsonb, row_version = row_version + 1 where id = :id`,
    { ...r, metadata: JSON.stringify(r.metadata) },
  );
export const changeRevision = (
  trx: Trx,
  r: { id: string; title: string; summary: string; metadata: Metadata; rowVersion: number },
) =>
  changed(
    trx,
    'update revisions set title = :title, summary = :summary, metadata = :metadata::jsonb, row_version = row_version + 1 where id = :id and row_version = :rowVersion',
    { ...r, metadata: JSON.stringify(r.metadata) },
  );
export const changeDocument = (
  trx: Trx,
  d: {
    id: string;
    metadata: Metadata;
    keywords: string[];
    ownerId: string;
    reviewOn: string | null;
    /** What is left out stays. */
    about?: WrittenAbout;
    now: Date;
    rowVersion: number;
  },
) =>
  changed(
    trx,
    `update documents set metadata = :metadata::jsonb, keywords = :keywords::text[], owner_id = :ownerId, review_on = :reviewOn, changed_at = :now, row_version = row_version + 1
       ${d.about ? ', parent_id = :parentId, location = :location, sites = :sites::text[], confidentiality = :confidentiality, review_months = :reviewMonths, follows_naming_rule = :followsNamingRule, sharing = :sharing, origin_source = :originSource, origin_edition = :originEdition, origin_watcher = :originWatcher, origin_check_on = :originCheckOn' : ''}
     where id = :id and row_version = :rowVersion`,
    { ...d, ...d.about, metadata: JSON.stringify(d.metadata) },
  );
/** Moves a revision's state, guarded by the state it was decided on; the database's trigger refuses what no command allows. */
export const moveState = (
  trx: Trx,
  r: { id: string; from: RevisionState; to: RevisionState; plannedOn?: string | null },
) =>
  changed(
    trx,
    'update revisions set state = :to, planned_on = :plannedOn, blocked_since = null, row_version = row_version + 1 where id = :id and state = :from',
    { ...r, plannedOn: r.plannedOn ?? null },
  );
export const setPlannedDay = (trx: Trx, id: string, day: string) =>
  changed(
    trx,
    `update revisions set planned_on = :day, blocked_since = null, row_version = row_version + 1 where id = :id and state = 'scheduled'`,
    { id, day },
  );
export const setBlocked = (trx: Trx, id: string, now: Date) =>
  changed(trx, 'update revisions set blocked_since = :now where id = :id and blocked_since is null', { id, now });
export const setWithdrawal = (trx: Trx, id: string, day: string | null, reason: string | null) =>
  rows(
    trx,
    'update documents set withdraw_on = :day, withdraw_reason = :reason, row_version = row_version + 1 where id = :id',
    { id, day, reason },
  );
export const setReviewDay = (trx: Trx, id: string, day: string | null) =>
  rows(trx, 'update documents set review_on = :day where id = :id', { id, day });

export const beginPeriod = (
  trx: Trx,
  p: { id: string; documentId: string; revisionId: string; label: string; from: Date },
) =>
  rows(
    trx,
    'insert into periods (id, document_id, revision_id, label, from_at) values (:id, :documentId, :revisionId, :label, :from)',
    p,
  );
export const endPeriod = (trx: Trx, documentId: string, to: Date) =>
  changed(trx, 'update periods set to_at = :to where document_id = :documentId and to_at is null', { documentId, to });

/**
 * Brings the columns that lists show in line with the revisions: the newest one for who may read work (in work, else in
 * force, else the last released, else abandoned), the public one for everyone else. Also the words to search by.
 */
export const refreshLists = (trx: Trx, documentId: string, now: Date) =>
  rows(
    trx,
    `with ranked as (
       select r.id, r.state, r.label, r.title,
         row_number() over (order by case when r.state in ('draft','in review','in approval','approved','scheduled') then 0 when r.state = 'in force' then 1
           when r.state in ('superseded','withdrawn') then 2 else 3 end, r.ordinal desc) as newest,
         row_number() over (order by case when r.state = 'in force' then 0 when r.state in ('superseded','withdrawn') then 1 else 9 end, r.ordinal desc) as public,
         r.state in ('in force','superseded','withdrawn') as released
       from revisions r where r.document_id = :documentId),
     words as (
       update revisions r set search = setweight(to_tsvector('simple', d.number), 'A') || setweight(to_tsvector('english', r.title), 'A') ||
         setweight(to_tsvector('english', coalesce((select string_agg(value, ' ') from jsonb_each_text(r.metadata || d.metadata)), '') || ' ' || array_to_string(d.keywords, ' ')), 'B')
       from documents d where d.id = :documentId and r.document_id = d.id and r.id in (select id from ranked where newest = 1 or (public = 1 and released)))
     update documents d set changed_at = greatest(d.changed_at, :now::timestamptz),
       newest_revision_id = n.id, newest_state = n.state, newest_label = n.label, newest_title = n.title,
       public_revision_id = p.id, public_state = p.state, public_label = p.label, public_title = p.title
     from (select * from ranked where newest = 1) n left join (select * from ranked where public = 1 and released) p on true
     where d.id = :documentId`,
    { documentId, now },
  );

/**
 * The words by which the shown revisions of documents are found.
 */
export const refreshWords = (trx: Trx, ids: readonly string[]) =>
  rows(
    trx,
    `update revisions r set search = setweight(to_tsvector('simple', d.number), 'A') || setweight(to_tsvector('english', r.title), 'A') ||
       setweight(to_tsvector('english', coalesce((select string_agg(value, ' ') from jsonb_each_text(r.metadata || d.metadata)), '') || ' ' || array_to_string(d.keywords, ' ')), 'B')
     from documents d where d.id = any(:ids::uuid[]) and r.document_id = d.id and (r.id = d.newest_revision_id or r.id = d.public_revision_id)`,
    { ids },
  );

export const setNumber = (trx: Trx, id: string, number: string) =>
  rows(trx, 'update documents set number = :number, row_version = row_version + 1 where id = :id', { id, number });
export const setCheckDay = (trx: Trx, id: string, on: string | null, edition: string) =>
  rows(
    trx,
    'update documents set origin_check_on = :on, origin_edition = :edition, row_version = row_version + 1 where id = :id',
    { id, on, edition },
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
export const findAskedToRead = async (db: Db, by: { revisionId: string; personId: string }) =>
  Boolean(
    await firstRow(
      db,
      `select 1 from reading_assignments where revision_id = :revisionId and person_id = :personId and state in ('open', 'signed', 'carried over')`,
      by,
    ),
  );
