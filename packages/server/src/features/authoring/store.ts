import { type Db, firstRow, rows, type Trx } from '../../platform/db/connect.ts';

/** A file saved on the network drive under a check-out that is no version yet. */
export type WorkingCopy = {
  upload_id: string;
  at: Date;
  name: string;
  sha256: string;
  size: number;
  media_type: string;
};

export const findWorkingCopy = (db: Db | Trx, checkoutId: string) =>
  firstRow<WorkingCopy>(
    db,
    `select k.upload_id, k.at, u.name, u.sha256, c.size, c.media_type from working_copies k
     join uploads u on u.id = k.upload_id join contents c on c.sha256 = u.sha256 where k.checkout_id = :checkoutId`,
    { checkoutId },
  );

export type SupportingFile = {
  id: string;
  name: string;
  note: string;
  at: Date;
  by_name: string;
  sha256: string;
  size: number;
  media_type: string;
};

export const listSupportingFiles = (db: Db | Trx, revisionId: string) =>
  rows<SupportingFile>(
    db,
    `select a.id, a.name, a.note, a.at, p.name as by_name, a.sha256, c.size, c.media_type from supporting_files a
     join people p on p.id = a.by_id join contents c on c.sha256 = a.sha256 where a.revision_id = :revisionId order by a.at desc`,
    { revisionId },
  );

export const findSupportingFile = (db: Db, id: string) =>
  firstRow<SupportingFile & { document_id: string }>(
    db,
    `select a.id, a.document_id, a.name, a.note, a.at, p.name as by_name, a.sha256, c.size, c.media_type from supporting_files a
     join people p on p.id = a.by_id join contents c on c.sha256 = a.sha256 where a.id = :id`,
    { id },
  );

/** Whether signatures bind a version's bytes: a signed record of its revision contains the version's hash. */
export const isSigned = async (trx: Trx, revisionId: string, hashes: readonly string[]): Promise<boolean> =>
  (await firstRow(
    trx,
    `select 1 from signatures s join signing_records r on r.id = s.record_id
     where s.revision_id = :revisionId and exists (select 1 from unnest(:hashes::text[]) h where position(h in r.text) > 0) limit 1`,
    { revisionId, hashes },
  )) !== undefined;

export type RemovedVersion = { n: number; at: Date; by_name: string; reason: string; freed: number };

export const listRemovedVersions = (db: Db, revisionId: string) =>
  rows<RemovedVersion>(
    db,
    `select v.n, x.at, p.name as by_name, x.reason, x.freed from removed_versions x join versions v on v.id = x.version_id join people p on p.id = x.by_id
     where v.revision_id = :revisionId order by v.n desc`,
    { revisionId },
  );

export const findRevisionOfVersion = (db: Trx, given: { versionId: string }) =>
  firstRow<{ revision_id: string }>(db, 'select revision_id from versions where id = :versionId', given);

export const insertRemovedVersion = (db: Trx, given: { versionId: string; by: string; now: Date; reason: string }) =>
  rows(
    db,
    'insert into removed_versions (version_id, by_id, at, reason, freed) values (:versionId, :by, :now, :reason, 0)',
    given,
  );

export const setFreed = (db: Trx, given: { freed: number; versionId: string }) =>
  rows(db, 'update removed_versions set freed = :freed where version_id = :versionId', given);

export const upsertWorkingCopy = (db: Trx, given: { checkoutId: string; uploadId: string; now: Date }) =>
  rows(
    db,
    `insert into working_copies (checkout_id, upload_id, at) values (:checkoutId, :uploadId, :now)
     on conflict (checkout_id) do update set upload_id = excluded.upload_id, at = excluded.at`,
    given,
  );

export const deleteUnusedUpload = (db: Trx, given: { id: string }) =>
  rows(
    db,
    'delete from uploads u where u.id = :id and not exists (select 1 from drive_nodes n where n.upload_id = u.id)',
    given,
  );

export const insertSupportingFile = (
  db: Trx,
  given: {
    sha256: string;
    name: string;
    note: string;
    byId: string;
    id: string;
    documentId: string;
    revisionId: string;
    now: Date;
  },
) =>
  rows(
    db,
    `insert into supporting_files (id, document_id, revision_id, sha256, name, note, by_id, at)
     values (:id, :documentId, :revisionId, :sha256, :name, :note, :byId, :now)`,
    given,
  );

/** Holds a check-out that has not ended, for reading beside others or for a change of its own. */
export const lockCheckout = (trx: Trx, id: string, hold: 'share' | 'update') =>
  firstRow(trx, `select 1 from checkouts where id = :id and ended_at is null for ${hold}`, { id });
