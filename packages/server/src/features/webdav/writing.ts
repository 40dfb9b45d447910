import type { Readable } from 'node:stream';
import { hasRight, isInWork, looksTemporary } from '@kanonos/core';
import type { App } from '../../platform/app.ts';
import { newId } from '../../platform/db/ids.ts';
import { RefusalError } from '../../platform/refused.ts';
import type { Viewer } from '../access/index.ts';
import { actorOf } from '../access/index.ts';
import { checkIn, discardCheckout, keepWorkingCopy, saveVersion } from '../authoring/index.ts';
import { keepBytes } from './content.ts';
import { judgeAnew } from './driveFiles.ts';
import { ensureUnlocked } from './locks.ts';
import * as store from './store.ts';
import {
  type DocumentNode,
  type DriveNode,
  ensureMayPut,
  isCollection,
  type Node,
  type Place,
  subjectOf,
} from './tree.ts';
import { WebdavError } from './webdavError.ts';

type Tokens = ReadonlySet<string>;
const NOTE = 'Saved on the network drive';

/** Whether a person may put something in a document's place; everyone else learns who has it. */
const ensureMayChange = (viewer: Viewer, node: DocumentNode): void => {
  if (!isInWork(node.file.state) || node.file.sort !== 0)
    throw new WebdavError(403, 'A revision in force is read-only. Revise the document to change it.');
  if (node.checkout && node.checkout.person_id !== viewer.id)
    throw new WebdavError(423, `${node.checkout.person_name} has it checked out.`);
  if (!node.checkout && !hasRight(node.rights, 'author'))
    throw new WebdavError(403, 'You may read it but not change it.');
};

/**
 * Puts saved bytes in a document's place: as the desk copy of one's check-out, or, where nobody has it, as check-out, version and
 * check-in in one. Nothing saved, or the same as before, makes no version.
 */
const saveDocument = async (
  app: App,
  viewer: Viewer,
  node: DocumentNode,
  kept: { uploadId: string; sha256: string } | undefined,
): Promise<void> => {
  ensureMayChange(viewer, node);
  await app.command(actorOf(viewer), async (work) => {
    await store.endAway(work.trx, { personId: viewer.id, documentId: node.file.document_id });
    if (!kept) return;
    await judgeAnew(app, work.trx, { sha256: kept.sha256, name: node.name });
    if (node.checkout) await keepWorkingCopy(app, work, { checkoutId: node.checkout.id, uploadId: kept.uploadId });
  });
  if (!kept || node.checkout) return;
  try {
    await saveVersion(app, viewer, node.file.document_id, {
      seen: '*',
      note: NOTE,
      uploadId: kept.uploadId,
      name: node.file.name,
    });
  } catch (error) {
    if (!(error instanceof RefusalError && error.refusals.some((one) => one.code === 'same_content'))) throw error;
  }
};

/** Ends a check-out that a lock held: one version if something was saved that differs, else given up without a trace. */
export const giveBack = async (app: App, viewer: Viewer, node: DocumentNode, madeByLock: boolean): Promise<void> => {
  const { checkout, file } = node;
  if (!checkout || checkout.person_id !== viewer.id) return;
  if (!checkout.upload_id) {
    if (madeByLock) await discardCheckout(app, viewer, file.document_id, { seen: '*' });
    return;
  }
  try {
    await checkIn(app, viewer, file.document_id, {
      seen: '*',
      note: NOTE,
      uploadId: checkout.upload_id,
      name: file.name,
    });
  } catch (error) {
    if (!(error instanceof RefusalError && error.refusals.some((one) => one.code === 'same_content'))) throw error;
    await discardCheckout(app, viewer, file.document_id, { seen: '*' });
  }
};

/** Stores what a program sends: into a document, a drive file that is there, or a new one. True where it is new. */
export const put = async (
  app: App,
  viewer: Viewer,
  place: Place,
  stream: Readable,
  tokens: Tokens,
): Promise<boolean> => {
  const { node } = place;
  const name = place.path.at(-1) ?? '';
  if (node && isCollection(node)) throw new WebdavError(405, 'There is a folder with this name.');
  await ensureUnlocked(app, place, tokens, { member: !node });
  if (node?.kind === 'document') {
    ensureMayChange(viewer, node);
    await saveDocument(app, viewer, node, await keepBytes(app, viewer, node.name, stream));
    return false;
  }
  const target = node ? undefined : ensureMayPut(place);
  const kept = await keepBytes(app, viewer, name, stream);
  return app.command(actorOf(viewer), async (work) => {
    const written = { uploadId: kept?.uploadId ?? null, now: work.now, writtenAt: kept ? work.now : null };
    if (node?.kind === 'drive') {
      await store.writeNode(work.trx, { id: node.row.id, ...written });
      return false;
    }
    if (!target) return false;
    const put = await store.putNode(work.trx, { id: newId(), personId: viewer.id, ...target, name, ...written });
    if (!put) throw new WebdavError(409, 'Somebody else used this name at the same moment. Try again.');
    return put.made;
  });
};

/** Makes a folder of drive files; the folders of the filing plan are made on its own page. */
export const makeFolder = async (app: App, viewer: Viewer, place: Place, tokens: Tokens): Promise<void> => {
  if (place.node) throw new WebdavError(405, 'This name already exists there.');
  const target = ensureMayPut(place);
  await ensureUnlocked(app, place, tokens, { member: true });
  await app.command(actorOf(viewer), async (work) => {
    await store.insertNode(work.trx, {
      id: newId(),
      personId: viewer.id,
      ...target,
      name: place.path.at(-1) ?? '',
      isFolder: true,
      uploadId: null,
      now: work.now,
      writtenAt: null,
    });
  });
};

/** Removes a drive file or folder with all below it, and its remembered properties. */
const removeNode = async (app: App, viewer: Viewer, { row }: DriveNode): Promise<void> => {
  const subjects = (await store.listTree(app.db, row.id)).map((one) => `drive:${one.id}`);
  await app.command(actorOf(viewer), async ({ trx }) => {
    await store.deleteLocksOn(trx, subjects);
    await store.removeProperties(trx, { personId: viewer.id, subjects });
    await store.deleteNode(trx, row.id);
  });
};

/**
 * Deletes a drive file or folder. A document is never deleted from here: for its holder it only makes room for a
 * minute, because programs delete the old file before they put the saved one in its place.
 */
export const remove = async (app: App, viewer: Viewer, place: Place, tokens: Tokens): Promise<void> => {
  const { node } = place;
  if (!node || (node.kind === 'document' && node.away))
    throw new WebdavError(404, 'Nothing was found at this address.');
  if (node.kind === 'folder')
    throw new WebdavError(403, 'Folders of the filing plan are put away where it is laid down.');
  await ensureUnlocked(app, place, tokens, { member: true, all: true });
  if (node.kind === 'drive') return removeNode(app, viewer, node);
  if (node.checkout?.person_id !== viewer.id)
    throw new WebdavError(
      403,
      'Documents cannot be deleted on the network drive. Remove or withdraw the document on its page.',
    );
  await stepAside(app, viewer, node);
};

const stepAside = (app: App, viewer: Viewer, { file }: DocumentNode): Promise<void> =>
  app.command(actorOf(viewer), async (work) => {
    await store.setAway(work.trx, { personId: viewer.id, documentId: file.document_id, now: work.now });
  });

/** The file of a document on the network drive of its editor: the working copy, else the filed one. */
const asUpload = async (app: App, viewer: Viewer, node: DocumentNode, name: string): Promise<string> => {
  if (node.checkout?.person_id === viewer.id && node.checkout.upload_id) return node.checkout.upload_id;
  const stream = await app.content.open(node.file.sha256);
  const kept = await keepBytes(app, viewer, name, stream);
  if (!kept) throw new WebdavError(404, 'Nothing was found at this address.');
  return kept.uploadId;
};

/** Refuses an impossible target of a copy or a move, and answers whether something there is replaced. */
const ensureGoal = (from: Place, to: Place, overwrite: boolean): void => {
  if (!from.node) throw new WebdavError(404, 'Nothing was found at this address.');
  if (from.path.join('\n') === to.path.join('\n')) throw new WebdavError(403, 'It is there already.');
  const inside = from.path.every((name, i) => to.path[i] === name);
  if (inside) throw new WebdavError(409, 'A folder cannot be moved into itself.');
  const there = to.node && !(to.node.kind === 'document' && to.node.away);
  if (there && !overwrite) throw new WebdavError(412, 'This name already exists there.');
  if (to.node?.kind === 'folder') throw new WebdavError(403, 'There is a folder of the filing plan with this name.');
};

const makeRoom = async (app: App, viewer: Viewer, to: Place): Promise<void> => {
  if (to.node?.kind === 'drive') await removeNode(app, viewer, to.node);
};

/** Copies a drive file or folder, or a document as a new drive file, which becomes a draft of its own. True where nothing was there. */
export const copy = async (
  app: App,
  viewer: Viewer,
  from: Place,
  to: Place,
  { overwrite, deep, tokens }: { overwrite: boolean; deep: boolean; tokens: Tokens },
): Promise<boolean> => {
  ensureGoal(from, to, overwrite);
  const node = from.node as Node;
  await ensureUnlocked(app, to, tokens, { member: !to.node, all: true });
  if (node.kind === 'folder')
    throw new WebdavError(403, 'Folders of the filing plan cannot be copied on the network drive.');
  const name = to.path.at(-1) ?? '';
  // Onto a document of one's own, too, it would be taken away.
  if (node.kind === 'document' && node.checkout?.person_id !== viewer.id && !node.rights.has('download'))
    throw new WebdavError(403, 'You may read it but not copy it.');
  if (to.node?.kind === 'document') {
    if (isCollection(node)) throw new WebdavError(403, 'There is a document with this name.');
    ensureMayChange(viewer, to.node);
    const uploadId = node.kind === 'document' ? await asUpload(app, viewer, node, name) : node.row.upload_id;
    const sha256 = node.kind === 'document' ? node.file.sha256 : node.row.sha256;
    await saveDocument(app, viewer, to.node, uploadId && sha256 ? { uploadId, sha256 } : undefined);
    return false;
  }
  const target = ensureMayPut(to);
  const uploadId = node.kind === 'document' ? await asUpload(app, viewer, node, name) : null;
  const tree = node.kind === 'drive' ? await store.listTree(app.db, node.row.id) : [];
  await makeRoom(app, viewer, to);
  await app.command(actorOf(viewer), async (work) => {
    const ids = new Map<string, string>();
    const common = { personId: viewer.id, folderId: target.folderId, now: work.now };
    if (node.kind === 'document') {
      await store.insertNode(work.trx, {
        id: newId(),
        ...common,
        parentId: target.parentId,
        name,
        isFolder: false,
        uploadId,
        writtenAt: work.now,
      });
      return;
    }
    for (const row of tree.filter((one) => deep || one.depth === 0)) {
      const id = newId();
      ids.set(row.id, id);
      await store.insertNode(work.trx, {
        id,
        ...common,
        parentId: row.depth === 0 ? target.parentId : (ids.get(row.parent_id ?? '') ?? null),
        name: row.depth === 0 ? name : row.name,
        isFolder: row.is_folder,
        uploadId: row.upload_id,
        writtenAt: row.written_at ? work.now : null,
      });
      await store.copyProperties(work.trx, { personId: viewer.id, from: `drive:${row.id}`, to: `drive:${id}` });
    }
  });
  return to.node === undefined;
};

/**
 * Moves a drive file or folder. Moved onto a document it is saved there. A document that a program moves out of the way (to a
 * temporary name, so as to put the saved file in its place) steps aside for a minute and is copied under that name.
 */
export const move = async (
  app: App,
  viewer: Viewer,
  from: Place,
  to: Place,
  { overwrite, tokens }: { overwrite: boolean; tokens: Tokens },
): Promise<boolean> => {
  ensureGoal(from, to, overwrite);
  const node = from.node as Node;
  await ensureUnlocked(app, from, tokens, { member: true, all: true });
  if (node.kind === 'folder') throw new WebdavError(403, 'A folder of the filing plan is moved where it is laid down.');
  if (node.kind === 'document') {
    const mine = node.checkout?.person_id === viewer.id;
    if (!mine && !(looksTemporary(to.path.at(-1) ?? '') && hasRight(node.rights, 'author')))
      throw new WebdavError(
        403,
        'Documents are moved and renamed on their page; folder and name follow from the metadata.',
      );
    ensureMayChange(viewer, node);
    const made = await copy(app, viewer, from, to, { overwrite, deep: true, tokens });
    await stepAside(app, viewer, node);
    return made;
  }
  if (to.node?.kind === 'document') {
    await copy(app, viewer, from, to, { overwrite, deep: true, tokens });
    await removeNode(app, viewer, node);
    return false;
  }
  await ensureUnlocked(app, to, tokens, { member: !to.node, all: true });
  const target = ensureMayPut(to);
  await makeRoom(app, viewer, to);
  await app.command(actorOf(viewer), async (work) => {
    // Locks do not move along (RFC 4918 9.9.4).
    await store.deleteLocksOn(work.trx, [subjectOf(node)]);
    await store.moveNode(work.trx, { id: node.row.id, ...target, name: to.path.at(-1) ?? '', now: work.now });
  });
  return to.node === undefined;
};
