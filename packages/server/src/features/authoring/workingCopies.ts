import type { App, UnitOfWork } from '../../platform/app.ts';
import { type Db, firstRow, rows, type Trx } from '../../platform/db/connect.ts';
import { newId } from '../../platform/db/ids.ts';
import { refused } from '../../platform/refused.ts';
import { deleteUnreferencedSoon } from '../content/index.ts';
import { type Opened, subjectOf } from '../documents/index.ts';

/** What was saved on the network drive under a check-out and is no version yet. */
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

/** Keeps what was saved last under a check-out that has not ended; what was saved before it is let go, for nobody has filed it. */
export const keepWorkingCopy = async (
  app: App,
  work: UnitOfWork,
  copy: { checkoutId: string; uploadId: string; over?: string | null },
): Promise<void> => {
  const { trx, now } = work;
  // It may have been given back or taken over while the file was on its way.
  const hold = copy.over === undefined ? 'share' : 'update';
  const isOut = await firstRow(trx, `select 1 from checkouts where id = :id and ended_at is null for ${hold}`, {
    id: copy.checkoutId,
  });
  if (!isOut) throw refused('not_checked_out');
  const before = await findWorkingCopy(trx, copy.checkoutId);
  if (copy.over !== undefined && (before?.at.toISOString() ?? null) !== copy.over) throw refused('saved_elsewhere');
  await rows(
    trx,
    `insert into working_copies (checkout_id, upload_id, at) values (:checkoutId, :uploadId, :now)
     on conflict (checkout_id) do update set upload_id = excluded.upload_id, at = excluded.at`,
    { checkoutId: copy.checkoutId, uploadId: copy.uploadId, now },
  );
  if (!before || before.upload_id === copy.uploadId) return;
  await rows(
    trx,
    'delete from uploads u where u.id = :id and not exists (select 1 from drive_nodes n where n.upload_id = u.id)',
    { id: before.upload_id },
  );
  deleteUnreferencedSoon(app, work, [before.sha256]);
};

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

/** Puts a file beside the versions of a revision: it is kept and seen there, and is never current. */
export const addSupportingFile = async (
  work: UnitOfWork,
  { document }: Pick<Opened, 'document'>,
  revision: { id: string; label: string },
  file: { sha256: string; name: string; note: string; byId: string },
): Promise<void> => {
  await rows(
    work.trx,
    `insert into supporting_files (id, document_id, revision_id, sha256, name, note, by_id, at)
     values (:id, :documentId, :revisionId, :sha256, :name, :note, :byId, :now)`,
    { id: newId(), documentId: document.id, revisionId: revision.id, now: work.now, ...file },
  );
  work.record({
    kind: 'version.supporting-file-added',
    subject: subjectOf(document, revision),
    payload: { name: file.name, sha256: file.sha256, note: file.note },
  });
};

/** What somebody loses by a take-over stays beside the versions, under their name. */
export const keepUnsaved = async (
  work: UnitOfWork,
  opened: Pick<Opened, 'document'>,
  revision: { id: string; label: string },
  checkout: { id: string; person_id: string },
): Promise<boolean> => {
  const copy = await findWorkingCopy(work.trx, checkout.id);
  if (!copy) return false;
  await addSupportingFile(work, opened, revision, {
    sha256: copy.sha256,
    name: copy.name,
    note: 'Saved on the network drive, not checked in before the check-out was taken over',
    byId: checkout.person_id,
  });
  return true;
};
