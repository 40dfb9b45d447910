import {
  dayOf,
  extensionOf,
  hasRight,
  isFolderShut,
  isReleased,
  makeFileName,
  namesApart,
  type Right,
} from '@kanonos/core';
import type { App } from '../../platform/app.ts';
import { groupBy } from '../../platform/collections.ts';
import { listScope, rightsOnFolders, rightsWithAsked, type Viewer } from '../access/index.ts';
import { metadataInNames, rightToRead, storedName } from '../documents/index.ts';
import { type FolderRow, listFolders, listTypes } from '../rules/index.ts';
import * as store from './store.ts';
import { WebdavError } from './webdavError.ts';

/** A document's file in a folder. */
export type DocumentNode = {
  kind: 'document';
  file: store.ListedFile;
  name: string;
  rights: ReadonlySet<Right>;
  /** Moved away by a program of this viewer that is about to replace it. */
  away: boolean;
  checkout: store.Checkout | undefined;
};
export type FolderNode = { kind: 'folder'; folder: FolderRow | null; rights: ReadonlySet<Right> };
export type DriveNode = { kind: 'drive'; row: store.DriveNode };
export type Node = FolderNode | DocumentNode | DriveNode;

/** Where an address leads: the resource, if there is one, and its parent. */
export type Place = {
  path: readonly string[];
  node: Node | undefined;
  parent: Node | undefined;
  above: readonly Node[];
};

/** One request's look at the tree: folders and rights are read once. */
export type Tree = {
  find: (path: readonly string[]) => Promise<Place>;
  children: (node: Node) => Promise<{ name: string; node: Node }[]>;
};

export const isCollection = (node: Node): boolean =>
  node.kind === 'folder' || (node.kind === 'drive' && node.row.is_folder);

/** By what locks and properties are kept. */
export const subjectOf = (node: Node): string =>
  node.kind === 'document'
    ? `document:${node.file.document_id}:${node.file.revision_id}:${node.file.sort}`
    : node.kind === 'drive'
      ? `drive:${node.row.id}`
      : `folder:${node.folder?.id ?? 'root'}`;

const NO_RIGHTS: ReadonlySet<Right> = new Set();
/** How long a document that a program moved away stays away when nothing takes its place. */
const AWAY_MS = 60_000;

/** The names of files by the rules, made unique where they are equal. */
const namedFiles = (files: readonly store.ListedFile[], types: Map<string, { naming_rule: string }>, zone: string) =>
  namesApart(
    files.map((file) => {
      const rule = types.get(file.type_id)?.naming_rule ?? '';
      const about = {
        number: file.number,
        revision: file.label,
        title: file.title,
        version: String(file.version),
        date: dayOf(file.revision_at, zone),
        fields: metadataInNames({ ...file.document_metadata, ...file.metadata }),
      };
      const name =
        file.sort === 0
          ? makeFileName({ ...about, extension: extensionOf(file.name) }, rule)
          : storedName(file.name, file.sort, { ...about, rule });
      return { name, number: file.number, label: file.label };
    }),
  );

/** The files among these that the viewer may read, under the names that the rules give them, with who has them checked out. */
const readableDocuments = async (
  app: App,
  viewer: Viewer,
  {
    day,
    zone,
    types,
    away,
  }: { day: string; zone: string; types: Map<string, { naming_rule: string }>; away: ReadonlySet<string> },
  files: store.ListedFile[],
): Promise<DocumentNode[]> => {
  const places = files.map((file) => ({
    id: file.document_id,
    folderId: file.folder_id,
    ownerId: file.owner_id,
    confidentiality: file.confidentiality,
  }));
  const states = groupBy(files, (file) => file.document_id);
  const given = await rightsWithAsked(app.db, viewer, places, day, (id, rights) =>
    (states.get(id) ?? []).every((file) => hasRight(rights, rightToRead(file.state))),
  );
  const names = namedFiles(files, types, zone);
  const out = new Map(
    (await store.listCheckouts(app.db, [...new Set(files.map((file) => file.document_id))])).map((row) => [
      row.document_id,
      row,
    ]),
  );
  return files.flatMap((file, i) => {
    const own = given.get(file.document_id) ?? NO_RIGHTS;
    if (!hasRight(own, rightToRead(file.state))) return [];
    const checkout = out.get(file.document_id);
    return [
      {
        kind: 'document',
        file,
        name: names[i] ?? file.name,
        rights: own,
        away: away.has(file.document_id),
        checkout: checkout?.revision_id === file.revision_id ? checkout : undefined,
      },
    ];
  });
};

/** What one request has read of the filing plan: folders with the viewer's rights, and the files of documents on demand. */
type Plan = {
  app: App;
  viewer: Viewer;
  rights: ReadonlyMap<string, ReadonlySet<Right>>;
  foldersIn: (parent: FolderRow | null) => FolderRow[];
  documents: (files: store.ListedFile[]) => Promise<DocumentNode[]>;
};

/** Reads the visible folders, types and moved documents once. */
const readPlan = async (app: App, viewer: Viewer): Promise<Plan> => {
  const folders = await listFolders(app.db);
  const rights = await rightsOnFolders(app.db, viewer);
  const { zone } = await app.organisation();
  const types = new Map((await listTypes(app.db)).map((type) => [type.id, type]));
  const day = dayOf(app.clock(), zone);
  const scope = await listScope(app.db, viewer, day);
  const documentIds = [...new Set([...scope.workDocuments, ...scope.seeDocuments, ...scope.ownEntryDocuments])];
  const withOwn = new Set(await store.foldersOfOwn(app.db, { personId: viewer.id, documentIds }));
  // A folder is there when it, a document in it or something below it may be seen, so that the way to it is there.
  const shown = new Set(
    folders
      .filter((folder) => rights.get(folder.id)?.has('see') || withOwn.has(folder.id))
      .flatMap((folder) => folder.path),
  );
  const since = new Date(app.clock().getTime() - AWAY_MS);
  const away = new Set((await store.listAway(app.db, { personId: viewer.id, since })).map((row) => row.document_id));
  return {
    app,
    viewer,
    rights,
    foldersIn: (parent) =>
      folders.filter((folder) => folder.parent_id === (parent?.id ?? null) && shown.has(folder.id)),
    documents: (files) => readableDocuments(app, viewer, { day, zone, types, away }, files),
  };
};

const folderNode = (plan: Plan, folder: FolderRow | null): FolderNode => ({
  kind: 'folder',
  folder,
  rights: folder ? (plan.rights.get(folder.id) ?? NO_RIGHTS) : NO_RIGHTS,
});

const drivePlace = ({ viewer }: Plan, node: Node) =>
  node.kind === 'drive'
    ? { personId: viewer.id, folderId: node.row.folder_id, parentId: node.row.id }
    : { personId: viewer.id, folderId: (node as FolderNode).folder?.id ?? '', parentId: null };

/** The members of a collection: folders, documents that the viewer may read, and the viewer's own drive files. */
const childrenOf = async (plan: Plan, node: Node): Promise<{ name: string; node: Node }[]> => {
  const folders = (parent: FolderRow | null) =>
    plan.foldersIn(parent).map((folder) => ({ name: folder.name, node: folderNode(plan, folder) }));
  if (!isCollection(node)) return [];
  if (node.kind === 'folder' && node.folder === null) return folders(null);
  const drive = (await store.listNodes(plan.app.db, drivePlace(plan, node))).map((row) => ({
    name: row.name,
    node: { kind: 'drive', row } as const,
  }));
  if (node.kind !== 'folder' || !node.folder) return drive;
  const documents = await plan.documents(await store.listInFolder(plan.app.db, node.folder.id));
  return [
    ...folders(node.folder),
    ...documents.filter((one) => !one.away).map((one) => ({ name: one.name, node: one })),
    ...drive,
  ];
};

/** The member of a collection with a name; undefined where there is none. */
const childOf = async (plan: Plan, parent: Node, name: string): Promise<Node | undefined> => {
  if (!isCollection(parent)) return undefined;
  if (parent.kind === 'folder') {
    const folder = plan.foldersIn(parent.folder).find((one) => one.name === name);
    if (folder) return folderNode(plan, folder);
    if (!parent.folder) return undefined;
    const documents = await plan.documents(await store.listInFolder(plan.app.db, parent.folder.id));
    const found = documents.find((one) => one.name === name);
    if (found) return found;
  }
  const row = await store.findNode(plan.app.db, { ...drivePlace(plan, parent), name });
  if (!row) return undefined;
  if (!row.document_id) return { kind: 'drive', row };
  // A file that became a document stays reachable for its creator under the name by which it was saved.
  const files = await plan.documents(await store.listOfDocument(plan.app.db, row.document_id));
  return files.findLast((one) => !isReleased(one.file.state)) ?? files.at(-1);
};

/** A look at the filing plan as a drive: what this person may see of it, for one request. */
export const openTree = async (app: App, viewer: Viewer): Promise<Tree> => {
  const plan = await readPlan(app, viewer);
  const find: Tree['find'] = async (path) => {
    let node: Node | undefined = folderNode(plan, null);
    const above: Node[] = [];
    for (const [depth, name] of path.entries()) {
      if (!node) break;
      above.push(node);
      node = await childOf(plan, node, name);
      // A missing folder halfway leaves the rest without a parent.
      if (!node && depth < path.length - 1) return { path, node, parent: undefined, above };
    }
    return { path, node, parent: above.at(-1), above };
  };
  return { find, children: (node) => childrenOf(plan, node) };
};

/** Where something new may be put: a folder in which this person registers, or a drive folder of theirs. */
export const ensureMayPut = (place: Place): { folderId: string; parentId: string | null } => {
  const { parent } = place;
  if (!parent) throw new WebdavError(409, 'The destination folder does not exist.');
  if (!isCollection(parent)) throw new WebdavError(409, 'The destination is inside a file, not a folder.');
  if (parent.kind === 'drive') return { folderId: parent.row.folder_id, parentId: parent.row.id };
  const { folder, rights } = parent as FolderNode;
  if (!folder) throw new WebdavError(403, 'Files cannot be stored at the top level. Choose a folder in an area.');
  if (!hasRight(rights, 'author')) throw new WebdavError(403, 'You may not register documents in this folder.');
  if (isFolderShut(folder.state)) throw new WebdavError(403, `The folder ${folder.name} is ${folder.state}.`);
  return { folderId: folder.id, parentId: null };
};
