import type { AnswerOf, api, BodyOf, FolderGrant } from '@kanonos/contract';
import {
  dayOf,
  decideFolder,
  decideFolderState,
  type FieldValue,
  filingPath,
  findPath,
  inheritedChanges,
  isFolderShut,
  metadataInFolder,
  type PlanFolder,
  ruleDifferences,
} from '@kanonos/core';
import type { App, UnitOfWork } from '../../platform/app.ts';
import { groupBy } from '../../platform/collections.ts';
import { newId } from '../../platform/db/ids.ts';
import { assertAllowed, RefusalError, refused } from '../../platform/refused.ts';
import type { HandlerOf } from '../access/index.ts';
import { actorOf, changeGrants, listGrants, listScope, rightsOnFolders, type Viewer } from '../access/index.ts';
import { changingNumbers, type FolderRow, listFolders, listTypes, type TypeRow } from '../rules/index.ts';
import * as store from './store.ts';

const CODE = /^[\p{L}\p{N}]{1,8}$/u;

export const blockPlan = store.blockPlan;

export const toPlan = (rows: readonly FolderRow[]): PlanFolder[] =>
  rows.map((row) => ({ id: row.id, parentId: row.parent_id, name: row.name, metadata: row.metadata }));

/** The filing plan as far as a viewer sees it; a folder is included when the viewer may see it or something below it. */
export const filingPlan = async (app: App, viewer: Viewer): Promise<AnswerOf<typeof api.filing.plan>> => {
  const rows = await listFolders(app.db);
  const rights = await rightsOnFolders(app.db, viewer);
  const day = dayOf(app.clock(), (await app.organisation()).zone);
  const counts = await store.countIn(app.db, await listScope(app.db, viewer, day));
  const plan = toPlan(rows);
  const administers = viewer.organisationRights.has('administer');
  const seen = (row: FolderRow) => administers || rights.get(row.id)?.has('see');
  const shown = new Set(rows.filter(seen).flatMap((row) => row.path));
  const types = await listTypes(app.db);
  const fields = types.flatMap((type) => type.fields.filter((field) => field.default?.from === 'folder'));
  return {
    folders: rows
      .filter((row) => shown.has(row.id))
      .map((row) => ({
        id: row.id,
        parentId: row.parent_id,
        name: row.name,
        code: row.code,
        state: row.state,
        metadata: row.metadata,
        effective: metadataInFolder(row.id, plan),
        departmentId: row.department_id,
        documents: counts.get(row.id) ?? 0,
        mayManage: administers || (rights.get(row.id)?.has('manage') ?? false),
        rowVersion: row.row_version,
      })),
    fields: viewer.outside
      ? []
      : [...new Map(fields.map((field) => [field.key, { key: field.key, label: field.label }])).values()],
  };
};

/** Opens a folder for a change: by *manage* on it, or by *administer*. An invisible one answers as missing. */
const openFolder = async (
  work: UnitOfWork,
  viewer: Viewer,
  id: string,
): Promise<{ row: FolderRow; rows: FolderRow[] }> => {
  const rows = await listFolders(work.trx);
  const row = rows.find((one) => one.id === id);
  if (!row) throw refused('not_found');
  await ensureManages(work, viewer, id);
  return { row, rows };
};

const ensureManages = async (work: UnitOfWork, viewer: Viewer, id: string): Promise<void> => {
  if (viewer.organisationRights.has('administer')) return;
  const given = (await rightsOnFolders(work.trx, viewer)).get(id);
  if (!given?.has('see')) throw refused('not_found');
  if (!given.has('manage')) throw refused('right_missing', { right: 'manage' });
};

const ensureAdministers = (viewer: Viewer): void => {
  if (!viewer.organisationRights.has('administer'))
    throw refused('organisation_right_missing', { right: 'administer' });
};

const checkCode = (parentId: string | null, code: string | null): void => {
  if (code !== null && (parentId !== null || !CODE.test(code))) throw refused('area_code_invalid');
};

const subjectOf = (row: { id: string; name: string }) => ({ folder: { id: row.id, name: row.name } });

export const addFolder = (
  app: App,
  viewer: Viewer,
  { parentId, name, code }: BodyOf<typeof api.filing.add>,
): Promise<{ id: string }> =>
  app.command(actorOf(viewer), async (work) => {
    await store.blockPlan(work.trx);
    const rows = await listFolders(work.trx);
    const parent = rows.find((row) => row.id === parentId);
    if (parentId === null) ensureAdministers(viewer);
    else {
      if (!parent) throw refused('not_found');
      await ensureManages(work, viewer, parentId);
      if (isFolderShut(parent.state)) throw refused('folder_shut', { folder: parent.name, state: parent.state });
    }
    checkCode(parentId, code);
    const id = newId();
    assertAllowed(decideFolder({ id, parentId, name }, toPlan(rows)));
    await makeFolder(work, { id, name, code }, parent);
    return { id };
  });

/** Makes a folder below another one, or at the top. */
export const makeFolder = async (
  work: UnitOfWork,
  { id, name, code }: { id: string; name: string; code: string | null },
  parent: Pick<FolderRow, 'id' | 'area_id' | 'path'> | undefined,
): Promise<void> => {
  const make = () =>
    store.insertFolder(work.trx, {
      id,
      parentId: parent?.id ?? null,
      name,
      code,
      areaId: parent?.area_id ?? id,
      path: [...(parent?.path ?? []), id],
    });
  // Numbers contain the code of an area.
  if (code) await changingNumbers(work, make);
  else await make();
  work.record({
    kind: 'folder.added',
    subject: subjectOf({ id, name }),
    payload: { parent: parent?.id ?? null, code },
  });
};

/** Renames a folder, changes its settings, or moves it with all below it. */
export const changeFolder: HandlerOf<typeof api.filing.change, void> = (app, viewer, id, input) =>
  app.command(actorOf(viewer), async (work) => {
    await store.blockPlan(work.trx);
    const { row, rows } = await openFolder(work, viewer, id);
    const parent = rows.find((one) => one.id === input.parentId);
    if (input.parentId !== null && !parent) throw refused('not_found');
    const moves = input.parentId !== row.parent_id;
    if (moves) {
      if (input.parentId === null || row.parent_id === null) ensureAdministers(viewer);
      if (input.parentId !== null) await ensureManages(work, viewer, input.parentId);
      if (parent && isFolderShut(parent.state))
        throw refused('folder_shut', { folder: parent.name, state: parent.state });
    }
    checkCode(input.parentId, input.code);
    if (input.code !== row.code) ensureAdministers(viewer);
    if (isFolderShut(row.state) && isFolderShut(input.state))
      throw refused('folder_shut', { folder: row.name, state: row.state });
    assertAllowed([
      ...decideFolder({ id, parentId: input.parentId, name: input.name }, toPlan(rows)),
      ...decideFolderState(row.state, input.state, await store.countUnderWay(work.trx, id)),
    ]);
    const metadata = Object.fromEntries(Object.entries(input.metadata).filter(([, value]) => value !== ''));
    const differences = ruleDifferences(
      {
        name: row.name,
        code: row.code,
        metadata: row.metadata,
        department: row.department_id,
        state: row.state,
        in: row.parent_id,
      },
      {
        name: input.name,
        code: input.code,
        metadata,
        department: input.departmentId,
        state: input.state,
        in: input.parentId,
      },
    );
    if (differences.length === 0) throw refused('nothing_changed');
    const write = async () => {
      const saved = await store.updateFolder(work.trx, { ...input, id, metadata });
      if (saved === 0) throw refused('changed_meanwhile');
      if (moves)
        await store.moveSubtree(work.trx, {
          id,
          parentId: input.parentId,
          depth: row.path.length,
          above: parent?.path ?? [],
          areaId: parent?.area_id ?? id,
        });
    };
    if (input.code !== row.code || moves) await changingNumbers(work, write);
    else await write();
    work.record({
      kind: moves ? 'folder.moved' : 'folder.changed',
      subject: subjectOf({ id, name: input.name }),
      payload: { differences, reason: input.reason },
    });
  });

export const removeFolder = (app: App, viewer: Viewer, id: string, reason: string): Promise<void> =>
  app.command(actorOf(viewer), async (work) => {
    const { row } = await openFolder(work, viewer, id);
    if (row.parent_id === null) ensureAdministers(viewer);
    if (await store.isUsed(work.trx, id)) throw refused('folder_not_empty');
    const take = () => store.deleteFolder(work.trx, id);
    if (row.code) await changingNumbers(work, take);
    else await take();
    work.record({ kind: 'folder.removed', subject: subjectOf(row), payload: { reason } });
  });

/** The documents that still have inherited values, if a folder had other values or another place; nothing is changed. */
export const inheritedIn = async (
  app: App,
  viewer: Viewer,
  id: string,
  { parentId, metadata }: BodyOf<typeof api.filing.inherit>,
): Promise<AnswerOf<typeof api.filing.inherit>> => {
  const rows = await listFolders(app.db);
  if (!rows.some((row) => row.id === id)) throw refused('not_found');
  const given = (await rightsOnFolders(app.db, viewer)).get(id);
  if (!viewer.organisationRights.has('administer') && !given?.has('manage'))
    throw given?.has('see') ? refused('right_missing', { right: 'manage' }) : refused('not_found');
  const before = toPlan(rows);
  const after = before.map((folder) => (folder.id === id ? { ...folder, parentId, metadata } : folder));
  const types = new Map((await listTypes(app.db)).filter(inherits).map((type) => [type.id, type]));
  const documents = await store.listBelow(app.db, id, [...types.keys()]);
  const changes = documents.flatMap((document) => {
    const type = types.get(document.type_id);
    const change = inheritedChanges(
      type?.fields ?? [],
      document.metadata,
      metadataInFolder(document.folder_id, before),
      metadataInFolder(document.folder_id, after),
    );
    return Object.keys(change).length ? [{ id: document.id, change: change as Record<string, string | null> }] : [];
  });
  return {
    documents: changes.length,
    changes: [...groupBy(changes, ({ change }) => JSON.stringify(change))].map(([, same]) => ({
      metadata: same[0]?.change ?? {},
      ids: same.map((one) => one.id),
    })),
  };
};

const inherits = (type: TypeRow) => type.fields.some((field) => field.default?.from === 'folder');

export const folderGrants = async (
  app: App,
  viewer: Viewer,
  id: string,
): Promise<AnswerOf<typeof api.filing.grants>> => {
  const rows = await listFolders(app.db);
  const row = rows.find((one) => one.id === id);
  const given = (await rightsOnFolders(app.db, viewer)).get(id);
  if (!row || !(viewer.organisationRights.has('administer') || given?.has('see'))) throw refused('not_found');
  if (!viewer.organisationRights.has('administer') && !given?.has('manage'))
    throw refused('right_missing', { right: 'manage' });
  const grants = await listGrants(app.db, { folderIds: row.path });
  const of = (place: string): FolderGrant[] =>
    grants.filter(({ folderId }) => folderId === place).map(({ folderId: _, ...grant }) => grant);
  return {
    own: of(id),
    above: row.path
      .slice(0, -1)
      .reverse()
      .map((above) => ({ folder: rows.find((one) => one.id === above)?.name ?? '', grants: of(above) }))
      .filter(({ grants: entries }) => entries.length > 0),
    rowVersion: row.row_version,
  };
};

/** Sets who has which rights on a folder. Who manages it cannot take that away from oneself unseen: administrators can. */
export const setGrants = (
  app: App,
  viewer: Viewer,
  id: string,
  { grants, reason, rowVersion }: BodyOf<typeof api.filing.setGrants>,
): Promise<void> =>
  app.command(actorOf(viewer), async (work) => {
    const { row } = await openFolder(work, viewer, id);
    if ((await store.touchFolder(work.trx, id, rowVersion)) === 0) throw refused('changed_meanwhile');
    const before = await listGrants(work.trx, { folderIds: [id] });
    const differences = await changeGrants(work.trx, { folderId: id }, before, grants);
    work.record({ kind: 'folder.rights-changed', subject: subjectOf(row), payload: { differences, reason } });
  });

/**
 * The folder in which a type's rule files a document; missing folders of its path are made, existing ones are used. Made only
 * where the person may author; two who register at once meet in one folder.
 */
export const folderByRule = async (
  work: UnitOfWork,
  viewer: Viewer,
  type: TypeRow,
  metadata: Readonly<Record<string, FieldValue>>,
): Promise<string> => {
  const path = filingPath(type.filing_rule ?? '', {
    type: { code: type.code, name: type.name, family: type.family, group: type.group_name },
    year: work.day.slice(0, 4),
    fields: type.fields,
    metadata,
  });
  if (!path.ok) throw new RefusalError(path.refusals);
  const look = async () => {
    const rows = await listFolders(work.trx);
    return { rows, ...findPath(path.value, toPlan(rows)) };
  };
  let { rows, found, rest } = await look();
  if (rest.length > 0) {
    await store.blockPlan(work.trx);
    ({ rows, found, rest } = await look());
  }
  if (!found) throw refused('filing_area_missing', { name: path.value[0] ?? '' });
  const foundId = found.id;
  let at = rows.find((row) => row.id === foundId) as Pick<FolderRow, 'id' | 'area_id' | 'path'>;
  if (rest.length === 0) return at.id;
  if (!(await rightsOnFolders(work.trx, viewer)).get(found.id)?.has('author'))
    throw refused('right_missing', { right: 'author' });
  for (const name of rest) {
    const id = newId();
    await makeFolder(work, { id, name, code: null }, at);
    at = { id, area_id: at.area_id, path: [...at.path, id] };
  }
  return at.id;
};

/** The path of a type's filing rule for a preview, and how much of it is still to be made. */
export const pathByRule = (
  rows: readonly FolderRow[],
  type: TypeRow,
  metadata: Readonly<Record<string, FieldValue>>,
  day: string,
): { path: string[]; made: number; folderId: string } => {
  const path = filingPath(type.filing_rule ?? '', {
    type: { code: type.code, name: type.name, family: type.family, group: type.group_name },
    year: day.slice(0, 4),
    fields: type.fields,
    metadata,
  });
  if (!path.ok) throw new RefusalError(path.refusals);
  const { found, rest } = findPath(path.value, toPlan(rows));
  if (!found) throw refused('filing_area_missing', { name: path.value[0] ?? '' });
  return { path: path.value, made: rest.length, folderId: found.id };
};
