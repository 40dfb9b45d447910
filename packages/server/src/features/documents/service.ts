import {
  equalMetadata,
  type FieldDefinition,
  isFolderShut,
  isInWork,
  isReleased,
  type Metadata,
  missingFields,
  type OriginalAbout,
  type RevisionState,
  type Right,
  type Situation,
  showFieldValue,
  titlesOf,
} from '@kanonos/core';
import type { UnitOfWork } from '../../platform/app.ts';
import type { Db, Trx } from '../../platform/db/connect.ts';
import { newId } from '../../platform/db/ids.ts';
import { refused } from '../../platform/refused.ts';
import { ensureRight, explain, toPlace, type Viewer } from '../access/service.ts';
import { getType, policyOf, type TypeRow } from '../rules/service.ts';
import * as store from './store.ts';

export type { CheckoutRow, DocumentRow, FileRow, RevisionRow, VersionRow } from './store.ts';

/** A document as a command or a page needs it: its rows and what the viewer may do. */
export type Opened = {
  document: store.DocumentRow;
  type: TypeRow;
  revisions: store.RevisionRow[];
  work: store.RevisionRow | undefined;
  inForce: store.RevisionRow | undefined;
  checkout: store.CheckoutRow | undefined;
  rights: ReadonlySet<Right>;
};

export const subjectOf = (document: { id: string; number: string }, revision?: { id: string; label: string }) => ({
  document: { id: document.id, number: document.number },
  ...(revision ? { revision: { id: revision.id, label: revision.label } } : {}),
});

/** Opens a document for a viewer; what may not be seen answers like what does not exist. */
export const openDocument = async (db: Db | Trx, viewer: Viewer, ref: string, day: string): Promise<Opened> => {
  const document = (await store.findDocument(db, ref)) ?? (await store.findByFormerNumber(db, ref));
  if (!document) throw refused('not_found');
  const { rights } = await explain(db, viewer, toPlace(document), day);
  ensureRight(rights, 'see');
  const revisions = await store.listRevisions(db, document.id);
  const opened = {
    document,
    type: await getType(db, document.type_id),
    revisions,
    work: revisions.find((revision) => isInWork(revision.state)),
    inForce: revisions.find((revision) => revision.state === 'in force'),
    checkout: await store.findCheckout(db, document.id),
    rights,
  };
  // A removed one is there for whoever may bring it back.
  if (document.removed_at && !rights.has('manage')) throw refused('not_found');
  // A document never released exists only for who may read work.
  if (!rights.has('read work') && !revisions.some((revision) => isReleased(revision.state))) throw refused('not_found');
  return opened;
};

/** Whether stored names follow the naming rule: forced by the organisation, else as the document says, else its type. */
export const followsNamingRule = (
  document: Pick<store.DocumentRow, 'follows_naming_rule' | 'organisation_names_by_rule'>,
  type: TypeRow,
): boolean => document.organisation_names_by_rule || (document.follows_naming_rule ?? policyOf(type).followsNamingRule);

/** Opens a document for a command: under its row's lock, so that acts on it happen one after the other. */
export const loadForUpdate = async (work: UnitOfWork, viewer: Viewer, ref: string): Promise<Opened> => {
  const locked = await store.lockDocument(work.trx, ref);
  if (!locked) throw refused('not_found');
  return openDocument(work.trx, viewer, locked.id, work.day);
};

/** The metadata of a revision together: signed ones of the revision, living ones of the document. */
export const allMetadata = (document: { metadata: Metadata }, revision: { metadata: Metadata }): Metadata => ({
  ...document.metadata,
  ...revision.metadata,
});

export type RouteSituation = { steps: number; unfilled: string[]; mayCheckInByStep: boolean; hasOpenRound: boolean };

/** All that the rules of the life of a revision need to know, from rows that were read under the lock. */
export const situationOf = async (
  db: Db | Trx,
  opened: Opened,
  viewer: Viewer,
  route: RouteSituation,
): Promise<Situation> => {
  const { document, type, work, inForce, checkout, revisions } = opened;
  const latest = work?.latest_version_id ? await store.listFiles(db, [work.latest_version_id]) : [];
  const lastReleased = revisions.find((revision) => isReleased(revision.state));
  return {
    person: {
      id: viewer.id,
      rights: opened.rights,
      isAuthor: work ? (await store.listAuthors(db, work.id)).includes(viewer.id) : false,
      mayCheckInByStep: route.mayCheckInByStep,
    },
    ...(work
      ? {
          work: {
            state: work.state,
            label: work.label,
            hasOriginal: latest.some((file) => file.role === 'original'),
            missingFields: missingFields(type.fields, allMetadata(document, work)),
            hasOpenRound: route.hasOpenRound,
            ...(work.planned_on ? { plannedOn: work.planned_on } : {}),
          },
        }
      : {}),
    ...(inForce
      ? { inForce: { label: inForce.label, ...(document.withdraw_on ? { withdrawOn: document.withdraw_on } : {}) } }
      : {}),
    ...(lastReleased ? { lastReleased: { label: lastReleased.label, state: lastReleased.state } } : {}),
    hasAbandoned: revisions.some((revision) => revision.state === 'abandoned'),
    wasSubmitted: document.was_submitted,
    followsNamingRule: followsNamingRule(document, type),
    isWatched: document.origin_watcher !== null || document.origin_check_on !== null,
    ...(checkout
      ? {
          checkout: {
            personId: checkout.person_id,
            personName: checkout.person_name,
            since: checkout.at.toISOString(),
          },
        }
      : {}),
    route: { steps: route.steps, unfilled: route.unfilled },
    releaseWithoutRoute: type.release_without_route,
    oneRevisionOnly: type.scheme.kind === 'none',
    removed: document.removed_at !== null,
    ...(isFolderShut(document.folder_state)
      ? { shutFolder: { folder: document.folder_name, state: document.folder_state } }
      : {}),
  };
};

/** What of the revisions a viewer may see: those in work or abandoned need *read work*. */
export const visibleRevisions = (revisions: store.RevisionRow[], rights: ReadonlySet<Right>): store.RevisionRow[] =>
  rights.has('read work') ? revisions : revisions.filter((revision) => isReleased(revision.state));

export type NewFile = {
  role: 'original' | 'attachment';
  name: string;
  sha256: string;
  size: number;
} & Partial<OriginalAbout>;

/** A file of an earlier version as one of the next. */
export const sameFile = (file: store.FileRow): NewFile => ({
  role: file.role === 'attachment' ? 'attachment' : 'original',
  name: file.name,
  sha256: file.sha256,
  size: file.size,
  description: file.description,
  language: file.language,
  sheet: file.sheet,
});

const NOTHING_SAID: OriginalAbout = { description: '', language: '', sheet: null };

/** Adds the next version to a revision in work: files, metadata and title as they then are. */
export const addVersion = async (
  work: UnitOfWork,
  revision: { id: string; version_count: number },
  input: { files: readonly NewFile[]; note: string; title: string; summary: string; metadata: Metadata },
): Promise<{ id: string; n: number }> => {
  const id = newId();
  const n = revision.version_count + 1;
  await store.insertVersion(work.trx, {
    id,
    revisionId: revision.id,
    n,
    note: input.note,
    by: work.actor.id ?? '',
    now: work.now,
    title: input.title,
    metadata: input.metadata,
  });
  for (const [sort, file] of input.files.entries())
    await store.insertFile(work.trx, { id: newId(), versionId: id, sort, ...NOTHING_SAID, ...file });
  await store.setLatestVersion(work.trx, {
    id: revision.id,
    versionId: id,
    n,
    title: input.title,
    summary: input.summary,
    metadata: input.metadata,
  });
  return { id, n };
};

/** Moves a revision on, refusing when somebody else moved it meanwhile. */
export const moveRevision = async (
  trx: Trx,
  revision: { id: string; state: RevisionState },
  to: RevisionState,
  plannedOn: string | null = null,
): Promise<void> => {
  if ((await store.moveState(trx, { id: revision.id, from: revision.state, to, plannedOn })) === 0)
    throw refused('changed_meanwhile');
};

export const refreshLists = store.refreshLists;
export const refreshWords = store.refreshWords;
export const listRemoved = store.listRemoved;
export const filesOf = store.listFiles;
export const authorsOf = store.listAuthors;
export const versionsOf = store.listVersions;
export const periodsOf = store.listPeriods;
export const findRevision = store.findRevision;
export const listRevisionsOf = store.listRevisions;
export const findDocument = store.findDocument;
export const findCheckout = store.findCheckout;
export const lockDocument = store.lockDocument;
/** Writing of rows that belong to documents, for the features that change them by their own rules. */
export const write = {
  insertRevision: store.insertRevision,
  insertCheckout: store.insertCheckout,
  endCheckout: store.endCheckout,
  changeRevision: store.changeRevision,
  changeDocument: store.changeDocument,
  setPlannedDay: store.setPlannedDay,
  setBlocked: store.setBlocked,
  setWithdrawal: store.setWithdrawal,
  setReviewDay: store.setReviewDay,
  setRemoved: store.setRemoved,
  setNumber: store.setNumber,
  setCheckDay: store.setCheckDay,
  beginPeriod: store.beginPeriod,
  endPeriod: store.endPeriod,
};

export type FieldChange = { label: string; before: string; after: string };

/** What changed in title and metadata from one revision to the next, in words. */
export const fieldChanges = (
  fields: readonly FieldDefinition[],
  before: { title: string; metadata: Metadata } | undefined,
  after: { title: string; metadata: Metadata },
): FieldChange[] => {
  if (!before) return [];
  const changes: FieldChange[] =
    before.title === after.title ? [] : [{ label: 'Title', before: before.title, after: after.title }];
  const [titlesBefore, titles] = [titlesOf(before.metadata), titlesOf(after.metadata)];
  for (const language of new Set([...Object.keys(titlesBefore), ...Object.keys(titles)])) {
    const [a, b] = [titlesBefore[language] ?? '–', titles[language] ?? '–'];
    if (a !== b) changes.push({ label: `Title (${language})`, before: a, after: b });
  }
  for (const field of fields) {
    const [a, b] = [before.metadata[field.key] ?? null, after.metadata[field.key] ?? null];
    if (!equalMetadata(a, b))
      changes.push({ label: field.label, before: showFieldValue(field, a), after: showFieldValue(field, b) });
  }
  return changes;
};

/** The revision that a revision follows: the one in force before it, else the released one with the next lower ordinal. */
export const predecessorOf = (
  revisions: readonly store.RevisionRow[],
  revision: store.RevisionRow,
): store.RevisionRow | undefined =>
  revisions
    .filter((other) => other.ordinal < revision.ordinal && isReleased(other.state))
    .sort((a, b) => b.ordinal - a.ordinal)[0];

export const ensureDocumentRight = (opened: Opened, right: Right): void => ensureRight(opened.rights, right);

/** The label that the next one follows: of the newest revision that was not abandoned. */
export const lastLabelOf = (revisions: readonly { state: string; label: string }[]): string =>
  (revisions.find((r) => r.state !== 'abandoned') ?? revisions[0])?.label ?? '';
