import { open } from 'node:fs/promises';
import { type AnswerOf, type api, sentenceOf } from '@kanonos/contract';
import {
  createRecogniser,
  dayOf,
  isFolderShut,
  looksTemporary,
  metadataInFolder,
  proposeFiling,
  readFileName,
} from '@kanonos/core';
import type { App, UnitOfWork } from '../../platform/app.ts';
import { mediaTypeOf } from '../../platform/content/kind.ts';
import type { Trx } from '../../platform/db/connect.ts';
import { newId } from '../../platform/db/ids.ts';
import { RefusalError, refused } from '../../platform/refused.ts';
import { actorOf, type Viewer, viewerOf } from '../access/index.ts';
import { readFiled, rememberUpload } from '../content/index.ts';
import { mayRegisterType, toPlan } from '../filing/index.ts';
import { registerIn } from '../registration/index.ts';
import { getFolder, knownRules, listFolders, listTypes, type TypeRow } from '../rules/index.ts';
import { eachOnItsOwn } from '../system/index.ts';
import * as store from './store.ts';
import { setJudgedAnew } from './store.ts';

/** How long a drive file rests after it was written before it becomes a draft. */
export const REST_MS = 30_000;
const HEAD_BYTES = 8192;

/**
 * Judges bytes again by the name under which they are to be filed: under a temporary name they were of unknown kind.
 * Refused like every file of a forbidden kind.
 */
export const judgeAnew = async (
  app: Pick<App, 'content'>,
  trx: Trx,
  content: { sha256: string; name: string },
): Promise<void> => {
  const file = await open(await app.content.intactPath(content.sha256));
  try {
    const { buffer, bytesRead } = await file.read(Buffer.alloc(HEAD_BYTES), 0, HEAD_BYTES, 0);
    const { mediaType } = await mediaTypeOf(content.name, buffer.subarray(0, bytesRead));
    await setJudgedAnew(trx, { sha256: content.sha256, mediaType });
  } finally {
    await file.close();
  }
};

/** A drive file's bytes under its own name as a file that its maker sent, judged by that name. */
const asSent = async (app: App, work: UnitOfWork, viewer: Viewer, node: store.DriveNode): Promise<string> => {
  if (!node.upload_id || !node.sha256) throw refused('file_empty');
  await judgeAnew(app, work.trx, { sha256: node.sha256, name: node.name });
  await readFiled(app, work.trx, [node.sha256]);
  const upload = { id: newId(), sha256: node.sha256, name: node.name };
  await rememberUpload(work, viewer, upload);
  await store.writeNode(work.trx, { id: node.id, uploadId: upload.id, now: work.now, writtenAt: null });
  return upload.id;
};

/** The type of a file in a folder: by its name or its folder, else the most frequent type there; or none. */
const typeFor = async (
  app: App,
  viewer: Viewer,
  node: store.DriveNode,
): Promise<{ type: TypeRow | undefined; title: string }> => {
  const types = (await listTypes(app.db)).filter(
    (type) => !type.retired && type.numbering_rule && type.scheme.kind !== 'own' && mayRegisterType(viewer, type),
  );
  const recognise = createRecogniser(await knownRules(app.db));
  const folder = await getFolder(app.db, node.folder_id);
  const name = readFileName(node.name, recognise);
  const proposal = proposeFiling(
    { folders: folder.path_names, name, text: '' },
    {
      types,
      folders: [],
      typeOfNumber: (number) => {
        const reading = recognise(number);
        return reading.kind === 'read' ? reading.parts.type : undefined;
      },
    },
  );
  const typeId =
    proposal.typeId ??
    (await store.mostUsedType(app.db, { folderId: node.folder_id, typeIds: types.map((type) => type.id) }))?.type_id;
  return { type: types.find((type) => type.id === typeId), title: proposal.title || node.name };
};

/**
 * Makes a draft of a drive file: its number is taken, its folder's metadata apply, other mandatory ones are requested on the Desk. A file that
 * cannot become one stays a drive file with its reason. Done once however often it is requested.
 */
export const becomeDraft = async (app: App, nodeId: string): Promise<void> => {
  const node = await store.findNodeById(app.db, nodeId);
  if (!node || node.document_id || node.is_folder || !node.upload_id || node.parent_id) return;
  if (looksTemporary(node.name)) return;
  const { zone } = await app.organisation();
  const viewer = await viewerOf(app.db, node.person_id, dayOf(app.clock(), zone));
  try {
    const { type, title } = await typeFor(app, viewer, node);
    const folder = await getFolder(app.db, node.folder_id);
    if (isFolderShut(folder.state)) throw refused('folder_shut', { folder: folder.name, state: folder.state });
    if (!type) throw refused('type_not_said');
    await app.command(actorOf(viewer), async (work) => {
      await store.lockNode(work.trx, node.id);
      const now = await store.findNodeById(work.trx, node.id);
      if (!now || now.document_id) return;
      const uploadId = await asSent(app, work, viewer, now);
      const inherited = metadataInFolder(node.folder_id, toPlan(await listFolders(work.trx)));
      const metadata = Object.fromEntries(
        Object.entries(inherited).filter(([key]) => type.fields.some((field) => field.key === key)),
      );
      // Registering it makes the document answer to the name of the drive file too.
      await registerIn(app, work, viewer, {
        typeId: type.id,
        folderId: node.folder_id,
        title,
        metadata,
        uploadId,
        note: `Saved on the network drive as ${now.name}`,
      });
    });
  } catch (error) {
    if (!(error instanceof RefusalError)) throw error;
    const why = error.refusals.map((one) => sentenceOf(one.code, one.params, zone)).join(' ');
    await app.command(actorOf(viewer), ({ trx }) => store.nodeWaits(trx, { id: node.id, why }));
  }
};

/** Makes drafts of files that have been quiet for a while, and deletes locks that expired long ago; scheduled. */
export const applyDriveDue = async (app: App): Promise<number> => {
  const now = app.clock().getTime();
  const resting = await store.listResting(app.db, { before: new Date(now - REST_MS), now: new Date(now) });
  await eachOnItsOwn(
    app,
    'file of the network drive',
    resting,
    ({ id, name }) => ({ subject: id, label: name }),
    ({ id }) => becomeDraft(app, id),
  );
  await store.deleteRunOut(app.db, new Date(now - 24 * 3_600_000));
  return resting.length;
};

/** What a person saved in folders and what could not become a document by itself, with the reason. */
export const driveFiles = async (app: App, viewer: Viewer): Promise<AnswerOf<typeof api.programs.driveFiles>> => {
  const folders = new Map((await listFolders(app.db)).map((folder) => [folder.id, folder.path_names.join(' / ')]));
  return {
    files: (await store.listWaiting(app.db, viewer.id)).map((node) => ({
      id: node.id,
      name: node.name,
      folder: { id: node.folder_id, path: folders.get(node.folder_id) ?? '' },
      size: node.size,
      changedAt: node.changed_at.toISOString(),
      why: node.why ?? '',
    })),
  };
};

/** One of them as a file that was sent, to register it by hand. */
export const takeDriveFile = async (
  app: App,
  viewer: Viewer,
  id: string,
): Promise<AnswerOf<typeof api.programs.takeDriveFile>> => {
  const node = await store.findNodeById(app.db, id);
  if (!node || node.person_id !== viewer.id || node.document_id) throw refused('not_found');
  const uploadId = await app.command(actorOf(viewer), (work) => asSent(app, work, viewer, node));
  const now = await store.findNodeById(app.db, id);
  return {
    id: uploadId,
    name: node.name,
    size: node.size,
    mediaType: now?.media_type ?? '',
    sha256: node.sha256 ?? '',
    warning: null,
  };
};
