import type { VersionChange } from '@kanonos/contract';
import type { ChangeKind, Metadata, OriginalAbout, RevisionState } from '@kanonos/core';
import { changed, type Db, firstRow, HOT, rows, type Trx } from '../../platform/db/connect.ts';

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
  own_state: string | null;
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

const REVISION = `select r.id, r.document_id, r.ordinal, r.label, r.change_kind, r.reason, r.summary, r.title, r.metadata, r.state, r.planned_on, r.blocked_since,
  r.own_state, r.latest_version_id, r.version_count, r.created_at, r.created_by, r.row_version, p.name as created_by_name, e.from_at as effective_from, e.to_at as effective_to
  from revisions r join people p on p.id = r.created_by
  left join lateral (select from_at, to_at from periods where document_id = r.document_id and revision_id = r.id order by from_at desc limit 1) e on true`;

export const listRevisions = (db: Db | Trx, documentId: string) =>
  rows<RevisionRow>(db, `${REVISION} where r.document_id = :documentId order by r.ordinal desc`, { documentId }, HOT);

export const findRevision = (db: Db | Trx, id: string) =>
  firstRow<RevisionRow>(db, `${REVISION} where r.id = :id`, { id }, HOT);

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

const FILE = `select f.id, f.version_id, f.role, f.name, f.sha256, f.size, f.sort, f.description, f.language, f.sheet, c.media_type, c.text_state, c.words, c.pictures, c.check_failed, c.checked_on from version_files f join contents c on c.sha256 = f.sha256`;

export const listFiles = (db: Db | Trx, versionIds: string[]) =>
  rows<FileRow>(
    db,
    `${FILE} where f.version_id = any(:versionIds::uuid[]) order by f.sort, f.name`,
    { versionIds },
    HOT,
  );

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
    'select c.id, c.document_id, c.revision_id, c.person_id, p.name as person_name, c.at, c.note, c.expected_back from checkouts c join people p on p.id = c.person_id where c.document_id = :documentId and c.ended_at is null',
    { documentId },
    HOT,
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

/** Moves a revision's state, guarded by the state it was decided on; the database's trigger refuses what no command allows. */
export const moveState = (
  trx: Trx,
  r: { id: string; from: RevisionState; to: RevisionState; plannedOn?: string | null },
) =>
  changed(
    trx,
    'update revisions set state = :to, planned_on = :plannedOn, blocked_since = null, own_state = null, row_version = row_version + 1 where id = :id and state = :from',
    { ...r, plannedOn: r.plannedOn ?? null },
  );

/** Gives what is in work a state of the organisation's own, or none. */
export const setOwnState = (trx: Trx, id: string, state: string | null) =>
  changed(trx, 'update revisions set own_state = :state, row_version = row_version + 1 where id = :id', { id, state });

export const setPlannedDay = (trx: Trx, id: string, day: string) =>
  changed(
    trx,
    `update revisions set planned_on = :day, blocked_since = null, row_version = row_version + 1 where id = :id and state = 'scheduled'`,
    { id, day },
  );

export const setBlocked = (trx: Trx, id: string, now: Date) =>
  changed(trx, 'update revisions set blocked_since = :now where id = :id and blocked_since is null', { id, now });

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
