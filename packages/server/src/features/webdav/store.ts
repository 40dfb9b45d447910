import type { Confidentiality, Metadata, RevisionState } from '@kanonos/core';
import { changed, type Db, firstRow, rows, type Trx } from '../../platform/db/connect.ts';
import { newId } from '../../platform/db/ids.ts';

export type ListedFile = {
  document_id: string;
  number: string;
  type_id: string;
  folder_id: string;
  owner_id: string;
  confidentiality: Confidentiality;
  document_version: number;
  document_metadata: Metadata;
  revision_id: string;
  label: string;
  state: RevisionState;
  title: string;
  metadata: Metadata;
  revision_at: Date;
  version: number;
  version_at: Date;
  file_id: string;
  name: string;
  sort: number;
  sha256: string;
  size: number;
  media_type: string;
};

const LISTED = `select d.id as document_id, d.number, d.type_id, d.folder_id, d.owner_id, d.confidentiality, d.row_version as document_version,
    d.metadata as document_metadata, r.id as revision_id, r.label, r.state, r.title, r.metadata, r.created_at as revision_at,
    r.version_count as version, v.at as version_at, f.id as file_id, f.name, f.sort, f.sha256, c.size, c.media_type
  from documents d join revisions r on r.document_id = d.id join versions v on v.id = r.latest_version_id
    join version_files f on f.version_id = v.id and f.role = 'original' join contents c on c.sha256 = f.sha256
  where d.removed_at is null and r.state in ('draft', 'in review', 'in approval', 'approved', 'scheduled', 'in force')`;
const IN_ORDER = 'order by d.number, r.ordinal, f.sort';
/** The originals of a folder's documents, in work and in force. Uses documents_by_folder. */
export const listInFolder = (db: Db | Trx, folderId: string) =>
  rows<ListedFile>(db, `${LISTED} and d.folder_id = :folderId ${IN_ORDER} limit 5000`, { folderId });
export const listOfDocument = (db: Db | Trx, documentId: string) =>
  rows<ListedFile>(db, `${LISTED} and d.id = :documentId ${IN_ORDER}`, { documentId });

/** Folders of documents that a person owns or has rights on by their own entries. */
export const foldersOfOwn = async (db: Db, by: { personId: string; documentIds: readonly string[] }) =>
  (
    await rows<{ folder_id: string }>(
      db,
      'select distinct folder_id from documents where (owner_id = :personId or id = any(:documentIds::uuid[])) and removed_at is null',
      by,
    )
  ).map((row) => row.folder_id);

/** The holders of these documents, with the files saved on the network drive so far. */
export const listCheckouts = (db: Db | Trx, documentIds: readonly string[]) =>
  rows<{
    id: string;
    document_id: string;
    revision_id: string;
    person_id: string;
    person_name: string;
    upload_id: string | null;
    sha256: string | null;
    size: number | null;
    media_type: string | null;
    saved_at: Date | null;
  }>(
    db,
    `select o.id, o.document_id, o.revision_id, o.person_id, p.name as person_name, k.upload_id, u.sha256, c.size, c.media_type, k.at as saved_at
     from checkouts o join people p on p.id = o.person_id left join working_copies k on k.checkout_id = o.id
       left join uploads u on u.id = k.upload_id left join contents c on c.sha256 = u.sha256
     where o.document_id = any(:documentIds::uuid[]) and o.ended_at is null`,
    { documentIds },
  );
export type Checkout = Awaited<ReturnType<typeof listCheckouts>>[number];

export type DriveNode = {
  id: string;
  person_id: string;
  folder_id: string;
  parent_id: string | null;
  name: string;
  is_folder: boolean;
  upload_id: string | null;
  sha256: string | null;
  size: number;
  media_type: string | null;
  made_at: Date;
  changed_at: Date;
  written_at: Date | null;
  document_id: string | null;
  why: string | null;
};
const NODE = `select n.*, u.sha256, coalesce(c.size, 0) as size, c.media_type from drive_nodes n
  left join uploads u on u.id = n.upload_id left join contents c on c.sha256 = u.sha256`;

export const findNode = (
  db: Db | Trx,
  by: { personId: string; folderId: string; parentId: string | null; name: string },
) =>
  firstRow<DriveNode>(
    db,
    `${NODE} where n.person_id = :personId and n.folder_id = :folderId and n.parent_id is not distinct from :parentId::uuid and n.name = :name`,
    by,
  );
export const findNodeById = (db: Db | Trx, id: string) => firstRow<DriveNode>(db, `${NODE} where n.id = :id`, { id });
/** The files and folders of a drive folder, or right in a folder of the plan; a file that became a document is listed as that document. */
export const listNodes = (db: Db | Trx, by: { personId: string; folderId: string; parentId: string | null }) =>
  rows<DriveNode>(
    db,
    `${NODE} where n.person_id = :personId and n.folder_id = :folderId and n.parent_id is not distinct from :parentId::uuid
     and n.document_id is null order by n.name`,
    by,
  );
/** A node with all that is below it, those above first. */
export const listTree = (db: Db | Trx, id: string) =>
  rows<DriveNode & { depth: number }>(
    db,
    `with recursive t as (select id, 0 as depth from drive_nodes where id = :id union all select n.id, t.depth + 1 from drive_nodes n join t on n.parent_id = t.id)
     select x.*, t.depth from t join (${NODE}) x on x.id = t.id order by t.depth, x.name`,
    { id },
  );
export const insertNode = (
  trx: Trx,
  node: {
    id: string;
    personId: string;
    folderId: string;
    parentId: string | null;
    name: string;
    isFolder: boolean;
    uploadId: string | null;
    now: Date;
    writtenAt: Date | null;
  },
) =>
  rows(
    trx,
    `insert into drive_nodes (id, person_id, folder_id, parent_id, name, is_folder, upload_id, made_at, changed_at, written_at)
     values (:id, :personId, :folderId, :parentId, :name, :isFolder, :uploadId, :now, :now, :writtenAt)`,
    node,
  );
/** The same name may be made by several at once: the first makes it, later ones write into it. Undefined where it is a folder. */
export const putNode = (
  trx: Trx,
  node: Omit<Parameters<typeof insertNode>[1], 'isFolder'>,
): Promise<{ made: boolean } | undefined> =>
  firstRow<{ made: boolean }>(
    trx,
    `insert into drive_nodes as n (id, person_id, folder_id, parent_id, name, is_folder, upload_id, made_at, changed_at, written_at)
     values (:id, :personId, :folderId, :parentId, :name, false, :uploadId, :now, :now, :writtenAt)
     on conflict (person_id, folder_id, coalesce(parent_id, folder_id), name) do update
       set upload_id = excluded.upload_id, changed_at = excluded.changed_at, written_at = coalesce(excluded.written_at, n.written_at), why = null
       where not n.is_folder and n.document_id is null
     returning (xmax = 0) as made`,
    node,
  );
export const writeNode = (trx: Trx, node: { id: string; uploadId: string | null; now: Date; writtenAt: Date | null }) =>
  rows(
    trx,
    'update drive_nodes set upload_id = :uploadId, changed_at = :now, written_at = coalesce(:writtenAt, written_at), why = null where id = :id',
    node,
  );
export const moveNode = async (
  trx: Trx,
  to: { id: string; folderId: string; parentId: string | null; name: string; now: Date },
) => {
  await rows(
    trx,
    // A rename restarts the quiet time: a file saved under a temporary name counts only from now on.
    'update drive_nodes set folder_id = :folderId, parent_id = :parentId, name = :name, written_at = case when written_at is null then null else :now::timestamptz end, why = null where id = :id',
    to,
  );
  await rows(
    trx,
    `with recursive t as (select id from drive_nodes where parent_id = :id union all select n.id from drive_nodes n join t on n.parent_id = t.id)
     update drive_nodes set folder_id = :folderId where id in (select id from t)`,
    to,
  );
};
export const deleteNode = (trx: Trx, id: string) => changed(trx, 'delete from drive_nodes where id = :id', { id });
/** Files right in a folder of the plan that were written and have rested since. Uses drive_nodes_resting. */
export const listResting = (db: Db, by: { before: Date; now: Date }) =>
  rows<DriveNode>(
    db,
    `${NODE} where n.document_id is null and n.written_at < :before and n.parent_id is null and not n.is_folder and n.why is null
     and not exists (select 1 from drive_locks l where l.subject = 'drive:' || n.id::text and l.until > :now) order by n.written_at limit 200`,
    by,
  );
export const lockNode = (trx: Trx, id: string) =>
  firstRow<{ id: string }>(trx, 'select id from drive_nodes where id = :id for update', { id });
export const nodeWaits = (trx: Trx, by: { id: string; why: string }) =>
  changed(trx, 'update drive_nodes set why = :why where id = :id', by);
/** A person's files in folders that are no documents yet because information is missing. */
export const listWaiting = (db: Db, personId: string) =>
  rows<DriveNode>(
    db,
    `${NODE} where n.person_id = :personId and n.document_id is null and n.why is not null order by n.name`,
    {
      personId,
    },
  );
export const mostUsedType = (db: Db | Trx, by: { folderId: string; typeIds: readonly string[] }) =>
  firstRow<{ type_id: string }>(
    db,
    'select type_id from documents where folder_id = :folderId and removed_at is null and type_id = any(:typeIds::uuid[]) group by type_id order by count(*) desc, type_id limit 1',
    by,
  );

export type LockRow = {
  token: string;
  person_id: string;
  person_name: string;
  subject: string;
  shared: boolean;
  deep: boolean;
  owner: string;
  seconds: number;
  until: Date;
  checkout_id: string | null;
};
const LOCK = 'select l.*, p.name as person_name from drive_locks l join people p on p.id = l.person_id';
export const listLocks = (db: Db | Trx, by: { subjects: readonly string[]; now: Date }) =>
  rows<LockRow>(db, `${LOCK} where l.subject = any(:subjects::text[]) and l.until > :now order by l.until`, by);
export const findLock = (db: Db | Trx, by: { token: string; now: Date }) =>
  firstRow<LockRow>(db, `${LOCK} where l.token = :token and l.until > :now`, by);
export const insertLock = (trx: Trx, lock: Omit<LockRow, 'person_name'>) =>
  rows(
    trx,
    `insert into drive_locks (token, person_id, subject, shared, deep, owner, seconds, until, checkout_id)
     values (:token, :person_id, :subject, :shared, :deep, :owner, :seconds, :until, :checkout_id)`,
    lock,
  );
/** Locks on a subject that have run out make room for the next. */
export const deleteRunOutOn = (trx: Trx, by: { subject: string; now: Date }) =>
  changed(trx, 'delete from drive_locks where subject = :subject and until <= :now', by);
export const refreshLock = (db: Db | Trx, by: { token: string; seconds: number; until: Date }) =>
  rows(db, 'update drive_locks set seconds = :seconds, until = :until where token = :token', by);
export const deleteLock = (trx: Trx, token: string) =>
  changed(trx, 'delete from drive_locks where token = :token', { token });
export const deleteLocksOn = (trx: Trx, subjects: readonly string[]) =>
  changed(trx, 'delete from drive_locks where subject = any(:subjects::text[])', { subjects });
export const deleteRunOut = (db: Db, before: Date) =>
  changed(db, 'delete from drive_locks where until < :before', { before });

export const listProperties = (db: Db | Trx, by: { personId: string; subjects: readonly string[] }) =>
  rows<{ subject: string; namespace: string; name: string; value: string }>(
    db,
    'select subject, namespace, name, value from drive_properties where person_id = :personId and subject = any(:subjects::text[])',
    by,
  );
export const setProperty = (
  trx: Trx,
  p: { personId: string; subject: string; namespace: string; name: string; value: string },
) =>
  rows(
    trx,
    `insert into drive_properties (person_id, subject, namespace, name, value) values (:personId, :subject, :namespace, :name, :value)
     on conflict (person_id, subject, namespace, name) do update set value = excluded.value`,
    p,
  );
export const removeProperty = (trx: Trx, p: { personId: string; subject: string; namespace: string; name: string }) =>
  changed(
    trx,
    'delete from drive_properties where person_id = :personId and subject = :subject and namespace = :namespace and name = :name',
    p,
  );
export const removeProperties = (trx: Trx, by: { personId: string; subjects: readonly string[] }) =>
  changed(trx, 'delete from drive_properties where person_id = :personId and subject = any(:subjects::text[])', by);
export const copyProperties = (trx: Trx, by: { personId: string; from: string; to: string }) =>
  rows(
    trx,
    `insert into drive_properties (person_id, subject, namespace, name, value)
     select person_id, :to, namespace, name, value from drive_properties where person_id = :personId and subject = :from
     on conflict (person_id, subject, namespace, name) do update set value = excluded.value`,
    by,
  );

export const setAway = (trx: Trx, by: { personId: string; documentId: string; now: Date }) =>
  rows(
    trx,
    `insert into drive_hidden (person_id, document_id, at) values (:personId, :documentId, :now)
     on conflict (person_id, document_id) do update set at = excluded.at`,
    by,
  );
export const endAway = (trx: Trx, by: { personId: string; documentId: string }) =>
  changed(trx, 'delete from drive_hidden where person_id = :personId and document_id = :documentId', by);
export const listAway = (db: Db | Trx, by: { personId: string; since: Date }) =>
  rows<{ document_id: string }>(
    db,
    'select document_id from drive_hidden where person_id = :personId and at > :since',
    by,
  );

export const insertProgramPassword = (trx: Trx, p: { personId: string; name: string; tokenHash: string; now: Date }) =>
  rows(
    trx,
    'insert into program_passwords (id, person_id, name, token_hash, made_at) values (:id, :personId, :name, :tokenHash, :now)',
    { ...p, id: newId() },
  );
export const listProgramPasswords = (db: Db, personId: string) =>
  rows<{ id: string; name: string; made_at: Date; used_at: Date | null }>(
    db,
    'select id, name, made_at, used_at from program_passwords where person_id = :personId order by made_at desc',
    { personId },
  );
export const deleteProgramPassword = (trx: Trx, by: { id: string; personId: string }) =>
  firstRow<{ name: string }>(
    trx,
    'delete from program_passwords where id = :id and person_id = :personId returning name',
    by,
  );
export const findByProgramPassword = (db: Db, by: { signInName: string; tokenHash: string }) =>
  firstRow<{ person_id: string; id: string; used_at: Date | null }>(
    db,
    `select w.person_id, w.id, w.used_at from program_passwords w join people p on p.id = w.person_id
     where w.token_hash = :tokenHash and lower(p.sign_in_name) = lower(:signInName) and p.state = 'active'`,
    by,
  );
export const noteUse = (db: Db, by: { id: string; now: Date }) =>
  rows(db, 'update program_passwords set used_at = :now where id = :id', by);

export const setJudgedAnew = (db: Trx, given: { sha256: string; mediaType: string }) =>
  rows(
    db,
    `update contents set media_type = :mediaType, text_state = 'unread' where sha256 = :sha256 and media_type = 'application/octet-stream' and :mediaType <> media_type`,
    given,
  );
