import type { App, UnitOfWork } from '../../platform/app.ts';
import { newId } from '../../platform/db/ids.ts';
import { refused } from '../../platform/refused.ts';
import { deleteUnreferencedSoon } from '../content/index.ts';
import { type Opened, subjectOf } from '../documents/index.ts';
import { deleteUnusedUpload, findWorkingCopy, insertSupportingFile, lockCheckout, upsertWorkingCopy } from './store.ts';

/** Keeps the last file saved under an open check-out; earlier ones are deleted, because nobody has filed them. */
export const keepWorkingCopy = async (
  app: App,
  work: UnitOfWork,
  copy: { checkoutId: string; uploadId: string; over?: string | null },
): Promise<void> => {
  const { trx, now } = work;
  // It may have been given back or taken over while the file was on its way.
  const hold = copy.over === undefined ? 'share' : 'update';
  if (!(await lockCheckout(trx, copy.checkoutId, hold))) throw refused('not_checked_out');
  const before = await findWorkingCopy(trx, copy.checkoutId);
  if (copy.over !== undefined && (before?.at.toISOString() ?? null) !== copy.over) throw refused('saved_elsewhere');
  await upsertWorkingCopy(trx, { checkoutId: copy.checkoutId, uploadId: copy.uploadId, now });
  if (!before || before.upload_id === copy.uploadId) return;
  await deleteUnusedUpload(trx, { id: before.upload_id });
  deleteUnreferencedSoon(app, work, [before.sha256]);
};

/** Puts a file beside the versions of a revision: it is kept and seen there, and is never current. */
export const addSupportingFile = async (
  work: UnitOfWork,
  { document }: Pick<Opened, 'document'>,
  revision: { id: string; label: string },
  file: { sha256: string; name: string; note: string; byId: string },
): Promise<string> => {
  const id = newId();
  await insertSupportingFile(work.trx, {
    id,
    documentId: document.id,
    revisionId: revision.id,
    now: work.now,
    ...file,
  });
  work.record({
    kind: 'version.supporting-file-added',
    subject: subjectOf(document, revision),
    payload: { name: file.name, sha256: file.sha256, note: file.note },
  });
  return id;
};

/** A saved file lost by a take-over is kept beside the versions, under its author's name. */
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
