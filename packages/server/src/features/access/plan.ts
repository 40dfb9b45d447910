import { type ConfidentialityRules, type FieldDefinition, folderRights, isWithheldIn, type Right } from '@kanonos/core';
import type { Db, Trx } from '../../platform/db/connect.ts';
import * as store from './store.ts';
import type { Viewer } from './viewer.ts';

/** What lists show by name and documents hold by id. */
export type PlanNames = {
  folders: Map<string, { name: string; areaId: string }>;
  /** With the fields that lists show. */
  types: Map<string, { code: string; name: string; shown: FieldDefinition[] }>;
  units: Map<string, string>;
};

export type Plan = {
  version: number;
  folders: store.FolderEntries[];
  names: PlanNames;
  /** What each level of confidentiality forbids. */
  confidentiality: ConfidentialityRules;
  rights: Map<string, PlanRights>;
};

/** A viewer's rights on every folder, and the folders that lists ask for by right. */
export type PlanRights = {
  byFolder: Map<string, Set<Right>>;
  workFolders: string[];
  seeFolders: string[];
  /** Folders where released documents are seen and work is not. */
  readFolders: string[];
  /** Folders where content in force may be read, and where past content may be read. */
  contentFolders: string[];
  pastFolders: string[];
  /** Folders in which everything is withheld from the viewer by name, also their own and assigned documents. */
  withheldFolders: string[];
};

/** Per database, for tests open several in one process. Kept as long as the version in the database is the same. */
const plans = new Map<string, Plan>();
const MOST_VIEWERS = 2000;

const keyOf = (db: Db | Trx): string =>
  String((db.client.config as { connection?: { connectionString?: string } }).connection?.connectionString);

export const subjectsOf = (viewer: Viewer) => ({
  personId: viewer.id,
  unitIds: viewer.unitIds,
  isOutside: viewer.outside,
});

/** The filing plan with its entries, and the names of types and units, from memory while nobody has changed them. */
export const accessPlan = async (db: Db | Trx): Promise<Plan> => {
  const key = keyOf(db);
  const version = await store.findAccessVersion(db);
  const kept = plans.get(key);
  if (kept?.version === version) return kept;
  const folders = await store.listFolderEntries(db);
  const [types, units] = [await store.listTypeNames(db), await store.listUnitNames(db)];
  const names = {
    folders: new Map(folders.map((folder) => [folder.id, { name: folder.name, areaId: folder.areaId }])),
    types: new Map(types.map((type) => [type.id, type])),
    units: new Map(units.map((unit) => [unit.id, unit.name])),
  };
  const plan: Plan = {
    version,
    folders,
    names,
    confidentiality: await store.findConfidentiality(db),
    rights: new Map(),
  };
  // A transaction may roll back what it sees of its own changes; the same version could then mean something else.
  if (!db.isTransaction) plans.set(key, plan);
  return plan;
};

/** A viewer's rights on every folder, computed once per version of the plan and set of memberships. */
export const planRights = (plan: Plan, viewer: Viewer): PlanRights => {
  const key = [viewer.id, viewer.outside, ...[...viewer.unitIds].sort()].join(' ');
  const known = plan.rights.get(key);
  if (known) return known;
  const byFolder = folderRights(subjectsOf(viewer), plan.folders);
  const having = (right: Right) => [...byFolder].filter(([, given]) => given.has(right)).map(([id]) => id);
  const [workFolders, seeFolders] = [having('read work'), having('see')];
  const works = new Set(workFolders);
  const made = {
    byFolder,
    workFolders,
    seeFolders,
    readFolders: seeFolders.filter((id) => !works.has(id)),
    contentFolders: having('read'),
    pastFolders: having('read past'),
    withheldFolders: withheldFolders(plan.folders, viewer.id),
  };
  if (plan.rights.size >= MOST_VIEWERS) plan.rights.clear();
  plan.rights.set(key, made);
  return made;
};

const withheldFolders = (folders: readonly store.FolderEntries[], personId: string): string[] => {
  const names = (folder: store.FolderEntries) =>
    folder.entries.some((entry) => entry.withheld && entry.subject.kind === 'person' && entry.subject.id === personId);
  // Few people are kept from a folder by name: for all others nothing is walked.
  if (!folders.some(names)) return [];
  const byId = new Map(folders.map((folder) => [folder.id, folder]));
  return folders.filter(({ id }) => isWithheldIn(personId, upwards(id, byId))).map(({ id }) => id);
};

/** A folder and those that it lies in, the nearest first. */
export const upwards = <F extends { parentId: string | null }>(id: string, byId: ReadonlyMap<string, F>): F[] => {
  const way: F[] = [];
  for (let at = byId.get(id); at; at = at.parentId ? byId.get(at.parentId) : undefined) way.push(at);
  return way;
};
