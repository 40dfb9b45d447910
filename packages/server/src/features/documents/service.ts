import {
  hasRight,
  isFolderShut,
  isInWork,
  isReleased,
  type Metadata,
  missingFields,
  type OwnState,
  ownStatesFor,
  type Right,
  type Situation,
} from '@kanonos/core';
import type { UnitOfWork } from '../../platform/app.ts';
import type { Db, Trx } from '../../platform/db/connect.ts';
import { RefusalError, refused } from '../../platform/refused.ts';
import { ensureRight, explain, toPlace, type Viewer } from '../access/index.ts';
import {
  type CheckoutRow,
  findCheckout,
  listAuthors,
  listFiles,
  listRevisions,
  type RevisionRow,
  visibleRevisions,
} from '../revisions/index.ts';
import { getType, policyOf, type TypeRow } from '../rules/index.ts';
import * as store from './store.ts';

/** A document as a command or a page needs it: its rows and what the viewer may do. */
export type Opened = {
  document: store.DocumentRow;
  type: TypeRow;
  revisions: RevisionRow[];
  work: RevisionRow | undefined;
  inForce: RevisionRow | undefined;
  checkout: CheckoutRow | undefined;
  rights: ReadonlySet<Right>;
};

export const subjectOf = (document: { id: string; number: string }, revision?: { id: string; label: string }) => ({
  document: { id: document.id, number: document.number },
  ...(revision ? { revision: { id: revision.id, label: revision.label } } : {}),
});

/** Opens a document for a viewer; an invisible one answers like a missing one. */
export const openDocument = async (db: Db | Trx, viewer: Viewer, ref: string, day: string): Promise<Opened> => {
  const document = (await store.findDocument(db, ref)) ?? (await store.findByFormerNumber(db, ref));
  if (!document) throw refused('not_found');
  const { rights } = await explain(db, viewer, toPlace(document), day);
  ensureRight(rights, 'see');
  const revisions = await listRevisions(db, document.id);
  const opened = {
    document,
    type: await getType(db, document.type_id),
    revisions,
    work: revisions.find((revision) => isInWork(revision.state)),
    inForce: revisions.find((revision) => revision.state === 'in force'),
    checkout: await findCheckout(db, document.id),
    rights,
  };
  // A removed one is visible to people who may restore it.
  if (document.removed_at && !rights.has('manage')) throw refused('not_found');
  // A document never released exists only for who may read work.
  if (!rights.has('read work') && !revisions.some((revision) => isReleased(revision.state))) throw refused('not_found');
  return opened;
};

/** A document as a viewer sees it; undefined where it does not exist for them. */
export const openIfVisible = async (
  db: Db | Trx,
  viewer: Viewer,
  ref: string,
  day: string,
): Promise<Opened | undefined> => {
  try {
    return await openDocument(db, viewer, ref, day);
  } catch (error) {
    if (error instanceof RefusalError) return undefined;
    throw error;
  }
};

/** Whether stored names follow the naming rule: forced by the organisation, else by the document, else by its type. */
export const followsNamingRule = (
  document: Pick<store.DocumentRow, 'follows_naming_rule' | 'organisation_names_by_rule'>,
  type: TypeRow,
): boolean => document.organisation_names_by_rule || (document.follows_naming_rule ?? policyOf(type).followsNamingRule);

/** Opens a document for a command: under its row's lock, so that commands on it run one after the other. */
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

export type RouteSituation = {
  steps: number;
  /** How many people must be chosen on submitting; null where none are. */
  chosenMinimum: number | null;
  unfilled: string[];
  mayCheckInByStep: boolean;
  hasOpenRound: boolean;
};

/** The states of the organisation's own that a viewer may give what is in work. */
export const offeredOwnStates = (
  { work, rights }: Pick<Opened, 'work' | 'rights'>,
  viewer: Viewer,
  ownStates: readonly OwnState[],
): string[] =>
  ownStatesFor(ownStates, { state: work?.state, mayAuthor: hasRight(rights, 'author'), unitIds: viewer.unitIds });

/** All that the rules of the life of a revision need to know, from rows that were read under the lock. */
export const situationOf = async (
  db: Db | Trx,
  opened: Opened,
  viewer: Viewer,
  route: RouteSituation,
  ownStates: readonly OwnState[],
): Promise<Situation> => {
  const { document, type, work, inForce, checkout, revisions } = opened;
  const latest = work?.latest_version_id ? await listFiles(db, [work.latest_version_id]) : [];
  const lastReleased = revisions.find((revision) => isReleased(revision.state));
  return {
    person: {
      id: viewer.id,
      rights: opened.rights,
      isOwner: document.owner_id === viewer.id,
      isAuthor: work ? (await listAuthors(db, work.id)).includes(viewer.id) : false,
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
            offersOwnState: offeredOwnStates(opened, viewer, ownStates).length > 0,
            ...(work.planned_on ? { plannedOn: work.planned_on } : {}),
          },
        }
      : {}),
    ...(inForce
      ? {
          inForce: {
            label: inForce.label,
            isOnHold: document.hold !== null,
            ...(document.review_on ? { reviewOn: document.review_on } : {}),
            ...(document.withdraw_on ? { withdrawOn: document.withdraw_on } : {}),
          },
        }
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

export const ensureDocumentRight = (opened: Opened, right: Right): void => ensureRight(opened.rights, right);

/** The revision whose content a viewer downloads: the one in force, else the newest visible one. */
export const takenRevision = ({ revisions, rights }: Opened) => {
  const seen = visibleRevisions(revisions, rights);
  return seen.find((one) => one.state === 'in force') ?? seen.find((one) => !isReleased(one.state)) ?? seen[0];
};
