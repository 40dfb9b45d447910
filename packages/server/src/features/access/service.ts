import {
  type AccessEntry,
  type AccessPlace,
  type AccessReason,
  type Confidentiality,
  type ConfidentialityRules,
  explainRights,
  type Forbidden,
  hasRight,
  type Right,
  withoutForbidden,
} from '@kanonos/core';
import type { Db, Trx } from '../../platform/db/connect.ts';
import { refused } from '../../platform/refused.ts';
import { accessPlan, type PlanNames, planRights, subjectsOf, upwards } from './plan.ts';
import * as store from './store.ts';
import type { Viewer } from './viewer.ts';

export type { PlanNames } from './plan.ts';
export type { Viewer } from './viewer.ts';

/** The scope of a viewer's lists: folders and single documents by how much of them is visible. */
export type ListScope = {
  me: string;
  workFolders: string[];
  seeFolders: string[];
  /** Folders where released documents are seen and work is not. */
  readFolders: string[];
  workDocuments: string[];
  seeDocuments: string[];
  /** Folders and single documents whose content may be read: in force, and past. */
  contentFolders: string[];
  pastFolders: string[];
  contentDocuments: string[];
  pastDocuments: string[];
  /** Documents with entries of their own that concern the viewer: judged one by one, not by their folder. */
  ownEntryDocuments: string[];
  withheldDocuments: string[];
};

export type DocumentPlace = { id: string; folderId: string; ownerId: string; confidentiality: Confidentiality };
export const toPlace = store.toPlace;

/** A person as a viewer on a day, for commands outside a session and for tests. */
export const viewerOf = async (db: Db | Trx, personId: string, day: string): Promise<Viewer> => {
  const person = await store.findViewer(db, { personId, day });
  if (!person) throw refused('not_found');
  return person;
};

/** The viewer of a living session, if its person may still sign in. */
export const viewerBySession = (
  db: Db,
  by: { tokenHash: string; day: string; now: Date },
): Promise<Viewer | undefined> => store.findViewerBySession(db, by);

type FolderEntries = store.FolderEntries;

/** A viewer's rights on every folder of the filing plan. */
export const rightsOnFolders = async (db: Db | Trx, viewer: Viewer): Promise<Map<string, Set<Right>>> =>
  planRights(await accessPlan(db), viewer).byFolder;

/** The rights of a viewer on one document with the chain of reasons. */
export const explain = async (
  db: Db | Trx,
  viewer: Viewer,
  document: DocumentPlace,
  day: string,
): Promise<{ rights: Set<Right>; reasons: AccessReason[] }> => {
  const plan = await accessPlan(db);
  const [own, assigned] = [
    await store.listDocumentEntries(db, [document.id]),
    await store.findAsked(db, { personId: viewer.id, documentId: document.id, day }),
  ];
  const { rights, reasons } = explainRights(
    subjectsOf(viewer),
    placesOf(document, own.get(document.id) ?? [], plan.folders),
    {
      isOwner: document.ownerId === viewer.id,
      assignedInStep: assigned.inStep,
      assigneeMayCheckIn: assigned.mayCheckIn,
      assignedToRead: assigned.toRead,
    },
  );
  // What its confidentiality forbids beats every grant.
  const forbids = plan.confidentiality[document.confidentiality];
  if (forbids.length === 0) return { rights, reasons };
  const left = withoutForbidden(rights, forbids, viewer.outside);
  const taken = [...rights].filter((right) => !left.has(right));
  return {
    rights: left,
    reasons: taken.length
      ? [...reasons, { place: 'document', subject: document.confidentiality, rights: taken, withheld: true }]
      : reasons,
  };
};

/** The prohibitions of a level of confidentiality in this organisation. */
export const forbiddenBy = async (db: Db | Trx, level: Confidentiality): Promise<readonly Forbidden[]> =>
  (await accessPlan(db)).confidentiality[level];

export const rightsOn = async (
  db: Db | Trx,
  viewer: Viewer,
  document: DocumentPlace,
  day: string,
): Promise<Set<Right>> => (await explain(db, viewer, document, day)).rights;

/**
 * The rights of a viewer on many documents by folders, entries of their own and ownership. Being asked about one of them gives
 * no right that these commands need and is left out.
 */
export const rightsOnMany = async (
  db: Db | Trx,
  viewer: Viewer,
  documents: readonly DocumentPlace[],
): Promise<Map<string, Set<Right>>> => {
  const plan = await accessPlan(db);
  const { byFolder } = planRights(plan, viewer);
  const own = await store.listDocumentEntries(
    db,
    documents.map((document) => document.id),
  );
  return new Map(
    documents.map((document) => {
      const entries = own.get(document.id);
      const isOwner = document.ownerId === viewer.id;
      const forbids = plan.confidentiality[document.confidentiality];
      if (!entries && !isOwner && forbids.length === 0)
        return [document.id, byFolder.get(document.folderId) ?? new Set<Right>()];
      const { rights } = explainRights(subjectsOf(viewer), placesOf(document, entries ?? [], plan.folders), {
        isOwner,
        assignedInStep: false,
        assigneeMayCheckIn: false,
        assignedToRead: false,
      });
      return [document.id, withoutForbidden(rights, forbids, viewer.outside)];
    }),
  );
};

/**
 * The rights of a viewer on many documents with those that come from being asked to decide or to read, which are looked up singly
 * and only where the others are not enough.
 *
 * @param isEnough whether the rights from a document's place suffice; by default, whether its unreleased revisions may be seen
 */
export const rightsWithAsked = async (
  db: Db | Trx,
  viewer: Viewer,
  documents: readonly DocumentPlace[],
  day: string,
  isEnough: (id: string, rights: ReadonlySet<Right>) => boolean = (_, rights) => hasRight(rights, 'read work'),
): Promise<Map<string, Set<Right>>> => {
  const given = await rightsOnMany(db, viewer, documents);
  const none = new Set<Right>();
  const each = new Map(documents.map((document) => [document.id, document]));
  const lacking = [...each.values()].filter(({ id }) => !isEnough(id, given.get(id) ?? none));
  if (lacking.length === 0) return given;
  const { inStep, toRead } = await store.listConcerned(db, {
    personId: viewer.id,
    day,
    unitIds: [...viewer.unitIds],
    outside: viewer.outside,
  });
  for (const document of lacking)
    if (inStep.has(document.id) || toRead.has(document.id))
      given.set(document.id, await rightsOn(db, viewer, document, day));
  return given;
};

/**
 * Whether a document is withheld from a person, or kept from outside parties: whatever their assignments, it is then as if it did
 * not exist.
 */
export const isWithheld = async (
  db: Db | Trx,
  viewer: Viewer,
  document: DocumentPlace,
  day: string,
): Promise<boolean> => {
  const { rights, reasons } = await explain(db, viewer, document, day);
  return rights.size === 0 && reasons.some((reason) => reason.withheld);
};

/** Refuses: as not existing when it may not even be seen, else by the right that is missing. */
export const ensureRight = (rights: ReadonlySet<Right>, right: Right): void => {
  if (!hasRight(rights, 'see')) throw refused('not_found');
  if (!hasRight(rights, right)) throw refused('right_missing', { right });
};

const placesOf = (
  document: DocumentPlace,
  own: readonly AccessEntry[],
  folders: readonly FolderEntries[],
): (AccessPlace & { id: string })[] => [
  { id: document.id, name: 'document', entries: own },
  ...upwards(document.folderId, new Map(folders.map((folder) => [folder.id, folder]))),
];

/** A document with the entries of its own, then the folders that it is filed in with theirs, the nearest first. */
export const accessPlaces = async (
  db: Db | Trx,
  document: DocumentPlace,
): Promise<(AccessPlace & { id: string })[]> => {
  const { folders } = await accessPlan(db);
  const own = await store.listDocumentEntries(db, [document.id]);
  return placesOf(document, own.get(document.id) ?? [], folders);
};

/** The scope of a viewer's lists, computed once per request from few rows; lists then only compare ids. */
export const listScope = async (db: Db | Trx, viewer: Viewer, day: string): Promise<ListScope> =>
  (await listScopeWithNames(db, viewer, day)).scope;

/** The scope of a viewer's lists with the names of what they show by id. */
export const listScopeWithNames = async (
  db: Db | Trx,
  viewer: Viewer,
  day: string,
): Promise<{ scope: ListScope; names: PlanNames }> => {
  const plan = await accessPlan(db);
  const { folders } = plan;
  const { workFolders, seeFolders, readFolders, contentFolders, pastFolders, withheldFolders } = planRights(
    plan,
    viewer,
  );
  const { inStep, toRead, own } = await store.listConcerned(db, {
    personId: viewer.id,
    day,
    unitIds: [...viewer.unitIds],
    outside: viewer.outside,
  });
  const scope: ListScope = {
    me: viewer.id,
    workFolders,
    seeFolders,
    readFolders,
    workDocuments: [...inStep],
    seeDocuments: [...toRead],
    contentFolders,
    pastFolders,
    contentDocuments: [...toRead],
    pastDocuments: [],
    ownEntryDocuments: own.map((document) => document.id),
    withheldDocuments: [],
  };
  for (const document of own) {
    const entries = document.entries;
    const { rights: given, reasons } = explainRights(subjectsOf(viewer), placesOf(document, entries, folders), {
      isOwner: document.ownerId === viewer.id,
      assignedInStep: inStep.has(document.id),
      assigneeMayCheckIn: false,
      assignedToRead: toRead.has(document.id),
    });
    if (given.has('read work')) scope.workDocuments.push(document.id);
    else if (given.has('see')) scope.seeDocuments.push(document.id);
    if (hasRight(given, 'read')) scope.contentDocuments.push(document.id);
    if (hasRight(given, 'read past')) scope.pastDocuments.push(document.id);
    if (given.size === 0 && reasons.some((reason) => reason.withheld)) scope.withheldDocuments.push(document.id);
  }
  // What is withheld with its folder is withheld from its owner too, and from whoever is asked about it.
  if (withheldFolders.length > 0)
    scope.withheldDocuments.push(
      ...(await store.listWithheldIn(db, {
        folders: withheldFolders,
        me: viewer.id,
        documents: [...inStep, ...toRead],
        judged: scope.ownEntryDocuments,
      })),
    );
  if (viewer.outside) scope.withheldDocuments.push(...(await keptInside(db, plan.confidentiality, scope)));
  return { scope, names: plan.names };
};

/** What of a scope may not be shared outside. */
const keptInside = async (db: Db | Trx, rules: ConfidentialityRules, scope: ListScope): Promise<string[]> =>
  store.listOfLevels(db, {
    levels: Object.entries(rules).flatMap(([level, forbids]) => (forbids.includes('share outside') ? [level] : [])),
    folders: scope.seeFolders,
    documents: [...scope.workDocuments, ...scope.seeDocuments, ...scope.ownEntryDocuments],
    me: scope.me,
  });

/** SQL conditions over `documents d` for what of a document a scope may see; bind with the scope itself. */
export const SEES_WORK = `(((d.folder_id = any(:workFolders::uuid[]) and d.id <> all(:ownEntryDocuments::uuid[])) or d.owner_id = :me or d.id = any(:workDocuments::uuid[])) and d.id <> all(:withheldDocuments::uuid[]))`;
export const SEES = `(((d.folder_id = any(:seeFolders::uuid[]) and d.id <> all(:ownEntryDocuments::uuid[])) or d.owner_id = :me or d.id = any(:workDocuments::uuid[]) or d.id = any(:seeDocuments::uuid[])) and d.id <> all(:withheldDocuments::uuid[]))`;

/**
 * The one condition by which content counts, is shown in passages and is searched: *read* for what is in force, *read past* for what
 * was, *read work* for all else. Over `documents d`, with the state of the revision that is meant.
 */
export const readsContent = (state: string): string =>
  `(${SEES_WORK} or (d.id <> all(:withheldDocuments::uuid[]) and case ${state}
     when 'in force' then (d.folder_id = any(:contentFolders::uuid[]) and d.id <> all(:ownEntryDocuments::uuid[])) or d.id = any(:contentDocuments::uuid[])
     when 'superseded' then (d.folder_id = any(:pastFolders::uuid[]) and d.id <> all(:ownEntryDocuments::uuid[])) or d.id = any(:pastDocuments::uuid[])
     when 'withdrawn' then (d.folder_id = any(:pastFolders::uuid[]) and d.id <> all(:ownEntryDocuments::uuid[])) or d.id = any(:pastDocuments::uuid[])
     else false end))`;
