import {
  ALWAYS_SHOWN_CARDS,
  type AnswerOf,
  type api,
  DESK_CARDS,
  DESK_KINDS,
  type Desk,
  type DeskRow,
  type SubmittedRow,
} from '@kanonos/contract';
import { addDays, dayOf, daysBetween, hasRight, readingMinutes, workingDaysBetween } from '@kanonos/core';
import type { App } from '../../platform/app.ts';
import {
  type Handler,
  type ListScope,
  listScope,
  rightsOnFolders,
  rightsOnMany,
  SEES,
  SEES_WORK,
  toPlace,
  type Viewer,
} from '../access/index.ts';
import { listTasksOf, openRequestsFor } from '../changes/index.ts';
import { favouritesOf } from '../favourites/index.ts';
import { countIncomingFiles } from '../intake/index.ts';
import { openOrdersFor } from '../orders/index.ts';
import { listMine } from '../reading/index.ts';
import { markOf } from '../revisions/index.ts';
import { attentionFor } from '../system/index.ts';
import { recentlyOpened } from '../usage/index.ts';
import { dueReminders } from './reminders.ts';
import {
  arrivedRow,
  decisionRow,
  orderRow,
  overdueCheckoutRow,
  readingRow,
  releaseRow,
  reminderRow,
  requestRow,
  reviewRow,
  stuckRow,
  taskRow,
  unfinishedRow,
  waitingRow,
} from './rows.ts';
import * as store from './store.ts';

type FolderRights = Awaited<ReturnType<typeof rightsOnFolders>>;
const OVERDUE_AFTER_DAYS = 14;

/** Rows by due day; those without a day come last, in the order found. */
const byUrgency = (a: DeskRow, b: DeskRow): number =>
  Number(b.overdue) - Number(a.overdue) || (a.due ?? '9999').localeCompare(b.due ?? '9999');

/** What waits for one person to do, by kind and within a kind by urgency. */
const rowsFor = async (
  app: App,
  viewer: Viewer,
  day: string,
  scope: ListScope,
  rights: FolderRights,
): Promise<{ rows: DeskRow[]; minutes: number }> => {
  const { zone, calendar } = await app.organisation();
  const hidden = scope.withheldDocuments;
  const releaseFolders = releaseFoldersOf(rights);
  const oversees = releaseFolders.length > 0;
  const open = (await listMine(app, viewer)).filter(
    (row) => row.state === 'open' && (row.revision_state === 'in force' || row.revision_state === 'scheduled'),
  );
  const incoming = await countIncomingFiles(app, viewer);
  const stuck = oversees ? await mayRelease(app, viewer, await store.listStuck(app.db, scope, day)) : [];
  const rows: DeskRow[] = [
    ...stuck.map((row) => stuckRow(row, day, workingDaysBetween(dayOf(row.since, zone), day, calendar))),
    ...(await store.listDecisions(app.db, { personId: viewer.id, day, hidden })).map((row) => decisionRow(row, day)),
    ...(await listTasksOf(app.db, viewer.id)).map((row) => taskRow(row, day)),
    ...(await openOrdersFor(app, viewer)).map((order) => orderRow(order, day)),
    ...(await openRequestsFor(app, viewer)).map((row) => requestRow(row, day)),
    ...(await store.listToFinish(app.db, { personId: viewer.id, hidden })).map((row) => unfinishedRow(row, day, zone)),
    ...(await toRelease(app, viewer, scope)).map((row) => releaseRow(row, day)),
    ...(incoming > 0 ? [arrivedRow(incoming)] : []),
    ...open.map((row) => readingRow(row, day)),
    ...(await dueReminders(app.db, viewer, day)).map((row) => reminderRow(row, day)),
    ...(oversees ? await overdueCheckouts(app, viewer, scope, rights, day) : []),
    ...(await store.listReviews(app.db, scope, { day, folderIds: releaseFolders })).map((row) => reviewRow(row, day)),
  ];
  return {
    rows: DESK_KINDS.flatMap((kind) => rows.filter((row) => row.kind === kind).sort(byUrgency)),
    minutes: open.reduce((sum, row) => sum + readingMinutes(row), 0),
  };
};

/** Overdue check-outs of others that the viewer may take over. */
const overdueCheckouts = async (app: App, viewer: Viewer, scope: ListScope, rights: FolderRights, day: string) => {
  const { zone } = await app.organisation();
  return (await store.listCheckouts(app.db, scope)).flatMap((row) => {
    const days = daysBetween(dayOf(row.at, zone), day);
    const isOverdue = row.expected_back ? row.expected_back < day : days > OVERDUE_AFTER_DAYS;
    return isOverdue && row.person_id !== viewer.id && rights.get(row.folder_id)?.has('manage')
      ? [overdueCheckoutRow(row, days)]
      : [];
  });
};

const releaseFoldersOf = (rights: FolderRights) =>
  [...rights].filter(([, own]) => hasRight(own, 'release')).map(([id]) => id);

const MOST_RELEASES = 100;
/** What somebody can release, by the rights on each document: also by entries of its own, and without what is withheld. */
const toRelease = async (app: App, viewer: Viewer, scope: ListScope) => {
  return (await mayRelease(app, viewer, await store.listToRelease(app.db, scope))).slice(0, MOST_RELEASES);
};

/** Of these documents the ones on which the viewer has *release*. */
const mayRelease = async <T extends store.PlacedRow>(app: App, viewer: Viewer, found: readonly T[]): Promise<T[]> => {
  const places = found.map((row) => toPlace({ ...row, id: row.document_id }));
  const rights = await rightsOnMany(app.db, viewer, places);
  return found.filter((row) => hasRight(rights.get(row.document_id) ?? new Set(), 'release'));
};

/** What waits for me, and what happens in the part of the organisation that I may see. */
export const desk = async (app: App, viewer: Viewer): Promise<Desk> => {
  const now = app.clock();
  const { zone } = await app.organisation();
  const day = dayOf(now, zone);
  const scope = await listScope(app.db, viewer, day);
  const rights = await rightsOnFolders(app.db, viewer);
  const { rows, minutes } = await rowsFor(app, viewer, day, scope, rights);
  const waiting = (await submittedByMe(app, viewer)).filter((row) => row.runState !== 'done' && row.waiting.length > 0);
  const oversees = releaseFoldersOf(rights).length > 0 || viewer.organisationRights.has('audit');
  const organisation = oversees
    ? await store.organisationToday(app.db, { day, in30: addDays(day, 30), zone, folderIds: scope.seeFolders })
    : undefined;
  return {
    // What waits for others is listed last, and is nobody's task here.
    rows: [...rows, ...waiting.map(waitingRow).sort(byUrgency)],
    readingMinutes: minutes,
    organisation: organisation
      ? {
          running: organisation.running,
          overdue: organisation.overdue,
          onTimePercent: organisation.signed ? Math.round((organisation.on_time / organisation.signed) * 100) : null,
          reviewsSoon: organisation.reviews,
        }
      : null,
    checkedOut: (await store.listCheckedOut(app.db, scope)).map((k) => ({
      number: k.number,
      person: k.person,
      since: k.at.toISOString(),
      days: daysBetween(dayOf(k.at, zone), day),
    })),
    attention: await attentionFor(app, viewer, scope),
    newlyInForce: (await store.listNewlyInForce(app.db, scope, new Date(now.getTime() - 30 * 86_400_000))).map((n) => ({
      number: n.number,
      title: n.title,
      label: n.label,
      since: n.from_at.toISOString(),
      onHold: n.on_hold,
    })),
    favourites: await favouritesOf(app, viewer, scope),
    recentlyOpened: (await recentlyOpened(app.db, viewer.id, scope.withheldDocuments)).map((o) => ({
      number: o.number,
      title: o.title,
      label: o.label,
      at: o.at.toISOString(),
      onHold: o.on_hold,
    })),
    ...(await cardsOf(app, viewer)),
  };
};

/** The cards as a person arranged them; those that came with a later version follow in the order of the product. */
const cardsOf = async (app: App, viewer: Viewer): Promise<Pick<Desk, 'cards' | 'hiddenCards'>> => {
  const saved = await store.findArrangement(app.db, viewer.id);
  const known = (names: readonly string[]) => names.flatMap((name) => DESK_CARDS.find((card) => card === name) ?? []);
  const first = known(saved?.cards ?? []);
  return {
    cards: [...first, ...DESK_CARDS.filter((card) => !first.includes(card))],
    hiddenCards: known(saved?.hidden ?? []).filter((card) => !ALWAYS_SHOWN_CARDS.includes(card)),
  };
};

/** Keeps the order of the cards of a person. It is a matter of the person alone: nothing is recorded. */
export const arrangeDesk: Handler<typeof api.tasks.arrange, void> = async (app, viewer, { cards, hidden }) => {
  await store.saveArrangement(app.db, {
    personId: viewer.id,
    cards: [...new Set(cards)],
    hidden: [...new Set(hidden)],
  });
};

export const counts = async (app: App, viewer: Viewer) => {
  const day = dayOf(app.clock(), (await app.organisation()).zone);
  const scope = await listScope(app.db, viewer, day);
  const { rows } = await rowsFor(app, viewer, day, scope, await rightsOnFolders(app.db, viewer));
  return {
    desk: rows.length,
    overdue: rows.filter((row) => row.overdue).length,
    register: await store.countSeen(app.db, scope, SEES_WORK, SEES),
    reading: rows.filter((row) => row.kind === 'read').length,
    incomingFiles: await countIncomingFiles(app, viewer),
  };
};

/** My submissions, and for whom each has waited since when. */
export const submittedByMe = async (app: App, viewer: Viewer): Promise<SubmittedRow[]> => {
  const now = app.clock();
  const day = dayOf(now, (await app.organisation()).zone);
  const { withheldDocuments: hidden } = await listScope(app.db, viewer, day);
  const since = new Date(now.getTime() - 30 * 86_400_000);
  const submitted = await store.listSubmitted(app.db, { personId: viewer.id, since, hidden });
  const steps = submitted.length
    ? await store.listSteps(
        app.db,
        submitted.map((round) => round.id),
      )
    : [];
  return submitted.map((round) => {
    const own = steps.filter((step) => step.round_id === round.id);
    const open = own.filter((step) => step.state === 'open');
    return {
      documentId: round.document_id,
      number: round.number,
      title: round.title,
      label: round.label,
      mark: markOf(round.state, round.on_hold),
      state: round.state,
      sentAt: round.started_at.toISOString(),
      round: round.n,
      runState: round.run_state === 'running' && round.held_up ? 'held up' : round.run_state,
      step: open.length > 0 ? [...new Set(open.map((s) => s.name))].join(', ') : null,
      stepOf: open[0] ? `${open[0].stage + 1} of ${new Set(own.map((s) => s.stage)).size}` : null,
      waiting: open
        .filter((s) => s.assignment_state === 'open')
        .map((s) => ({
          person: s.person,
          since: s.opened_at?.toISOString() ?? round.started_at.toISOString(),
          due: s.due_on,
          overdue: s.due_on !== null && s.due_on < day,
        })),
      decisions: own
        .filter((s) => s.decision !== null && s.decided_at !== null)
        .map((s) => ({
          person: s.decided_by ?? s.person,
          decision: s.decision ?? '',
          at: s.decided_at?.toISOString() ?? '',
          comment: s.comment,
        })),
    };
  });
};

/** Everything that is checked out as far as a viewer may see work, what has been out longest first. */
export const listCheckouts = async (app: App, viewer: Viewer): Promise<AnswerOf<typeof api.tasks.checkouts>> => {
  const { zone } = await app.organisation();
  const day = dayOf(app.clock(), zone);
  const scope = await listScope(app.db, viewer, day);
  const rights = await rightsOnFolders(app.db, viewer);
  return {
    rows: (await store.listCheckouts(app.db, scope)).map((row) => ({
      documentId: row.document_id,
      number: row.number,
      title: row.title,
      label: row.label,
      person: { id: row.person_id, name: row.person },
      since: row.at.toISOString(),
      days: daysBetween(dayOf(row.at, zone), day),
      expectedBack: row.expected_back,
      overdue: row.expected_back !== null && row.expected_back < day,
      mine: row.person_id === viewer.id,
      mayTakeOver: row.person_id !== viewer.id && (rights.get(row.folder_id)?.has('manage') ?? false),
      note: row.note,
    })),
  };
};
