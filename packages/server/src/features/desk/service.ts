import type { AnswerOf, api, Desk, DeskRow, SubmittedRow } from '@kanonos/contract';
import { addDays, dayInWords, dayOf, daysBetween, hasRight, readingMinutes, shownState } from '@kanonos/core';
import type { App } from '../../platform/app.ts';
import {
  type ListScope,
  listScope,
  rightsOnFolders,
  rightsOnMany,
  SEES,
  SEES_WORK,
  toPlace,
  type Viewer,
} from '../access/index.ts';
import { countIncomingFiles } from '../intake/index.ts';

import { listMine } from '../reading/index.ts';
import { markOf } from '../revisions/index.ts';
import { attentionFor } from '../system/index.ts';
import { recentlyOpened } from '../usage/index.ts';
import { dueReminders } from './reminders.ts';
import * as store from './store.ts';

const plural = (n: number, one: string, many = `${one}s`) => `${n} ${n === 1 ? one : many}`;

const rowsFor = async (
  app: App,
  viewer: Viewer,
  day: string,
  scope: ListScope,
): Promise<{ rows: DeskRow[]; minutes: number; oldest: number }> => {
  const { zone } = await app.organisation();
  const hidden = scope.withheldDocuments;
  const [decisions, finish, release, mine] = [
    await store.listDecisions(app.db, { personId: viewer.id, day, hidden }),
    await store.listToFinish(app.db, { personId: viewer.id, hidden }),
    await toRelease(app, viewer, scope),
    await listMine(app, viewer),
  ];
  const open = mine.filter(
    (row) => row.state === 'open' && (row.revision_state === 'in force' || row.revision_state === 'scheduled'),
  );
  const overdue = (due: string | null) => ({
    overdue: due !== null && due < day,
    daysOverdue: due !== null && due < day ? daysBetween(due, day) : 0,
  });
  const rows: DeskRow[] = [
    ...decisions.map(
      (d): DeskRow => ({
        kind: 'decide',
        id: d.id,
        documentId: d.document_id,
        number: d.number,
        title: d.title,
        label: d.label,
        mark: 'open',
        due: d.due_on,
        ...overdue(d.due_on),
        action: d.kind === 'approval' ? 'Decide' : 'Review',
        link: `/tasks/${d.id}`,
        primary: true,
        detail: [
          d.step,
          d.principal ? `acting for ${d.principal} until ${d.until ? dayInWords(d.until) : ''}` : `from ${d.sender}`,
          d.kind === 'approval'
            ? ''
            : `${plural(readingMinutes({ words: d.words, pictures: 0 }), 'minute')}, ${plural(d.comments, 'open comment')}`,
        ]
          .filter(Boolean)
          .join(' · '),
      }),
    ),
    ...finish.map((f): DeskRow => {
      const days = daysBetween(dayOf(f.since, zone), day);
      const overdue = f.out && (f.expected_back ? f.expected_back < day : days > 14);
      const back =
        f.run_state === 'rejected' && f.said_by
          ? `Returned by ${f.said_by}: “${f.comment}”`
          : f.run_state === 'recalled'
            ? 'Recalled'
            : f.out
              ? 'Checked out to you'
              : `Draft, version ${f.versions}`;
      return {
        kind: 'finish',
        id: f.id,
        documentId: f.document_id,
        number: f.number,
        title: f.title,
        label: f.label,
        mark: 'open',
        due: f.expected_back,
        overdue: overdue,
        daysOverdue: f.out ? days : 0,
        action: 'Continue',
        detail: `${back}${f.comments ? ` · ${plural(f.comments, 'open comment')}` : ''}`,
        link: `/d/${encodeURIComponent(f.number)}`,
        primary: false,
      };
    }),
    ...release.map(
      (r): DeskRow => ({
        kind: 'release',
        id: r.id,
        documentId: r.document_id,
        number: r.number,
        title: r.title,
        label: r.label,
        mark: 'open',
        due: r.planned_on,
        overdue: r.blocked_since !== null,
        daysOverdue: 0,
        action: r.state === 'approved' ? 'Release' : 'View',
        primary: r.state === 'approved' || r.blocked_since !== null,
        link: `/d/${encodeURIComponent(r.number)}/release`,
        detail: [
          r.blocked_since
            ? 'Release blocked: the preflight found a blocker'
            : r.state === 'approved'
              ? `${plural(r.signatures, 'signature')} in`
              : 'Comes into force automatically',
          r.owed ? `readers ${Math.round((r.done / r.owed) * 100)} % done` : '',
          r.in_force ? `replaces ${r.in_force}` : 'first release',
        ]
          .filter(Boolean)
          .join(' · '),
      }),
    ),
    ...open.map(
      (m): DeskRow => ({
        kind: 'read',
        id: m.id,
        documentId: m.document_id,
        number: m.number,
        title: m.title,
        label: m.label,
        mark: markOf(m.revision_state as never),
        due: m.due_on,
        ...overdue(shownState(m.state, m.due_on, day) === 'overdue' ? m.due_on : null),
        action: 'Read',
        link: `/reading/${m.id}`,
        primary: false,
        detail: [
          m.policy === 'read the changes'
            ? 'You signed an earlier revision; read the changes'
            : m.new_joiner
              ? 'New to you'
              : 'Read and sign',
          plural(readingMinutes(m), 'minute'),
        ].join(' · '),
      }),
    ),
    ...(await dueReminders(app.db, viewer, day)).map(
      (due): DeskRow => ({
        kind: 'check',
        id: due.id,
        documentId: due.id,
        number: due.number,
        title: due.title,
        label: due.label,
        mark: 'open',
        due: due.on_day,
        ...overdue(due.on_day),
        action: due.kind === 'source' ? 'View' : 'Open',
        link: `/d/${encodeURIComponent(due.number)}${due.kind === 'source' ? '?command=check%20source' : ''}`,
        primary: false,
        detail:
          due.kind === 'source' ? 'External document: check the source' : `${due.what} is ${dayInWords(due.on_day)}`,
      }),
    ),
  ];
  const waits = [
    ...decisions.map((d) => d.opened_at),
    ...finish.map((f) => f.since),
    ...open.map((m) => m.opened_at),
  ].map((at) => daysBetween(dayOf(at, zone), day));
  return { rows, minutes: open.reduce((sum, m) => sum + readingMinutes(m), 0), oldest: Math.max(0, ...waits) };
};

const releaseFoldersOf = async (app: App, viewer: Viewer) =>
  [...(await rightsOnFolders(app.db, viewer))].filter(([, rights]) => hasRight(rights, 'release')).map(([id]) => id);

const MOST_RELEASES = 100;
/** What somebody can release, by the rights on each document: also by entries of its own, and without what is withheld. */
const toRelease = async (app: App, viewer: Viewer, scope: ListScope) => {
  const found = await store.listToRelease(app.db, scope);
  const places = found.map((row) => toPlace({ ...row, id: row.document_id }));
  const rights = await rightsOnMany(app.db, viewer, places);
  return found.filter((row) => hasRight(rights.get(row.document_id) ?? new Set(), 'release')).slice(0, MOST_RELEASES);
};

/** What waits for me, and what happens in the part of the organisation that I may see. */
export const desk = async (app: App, viewer: Viewer): Promise<Desk> => {
  const now = app.clock();
  const { zone } = await app.organisation();
  const day = dayOf(now, zone);
  const scope = await listScope(app.db, viewer, day);
  const releaseFolders = await releaseFoldersOf(app, viewer);
  const { rows, minutes, oldest } = await rowsFor(app, viewer, day, scope);
  const oversees = releaseFolders.length > 0 || viewer.organisationRights.has('audit');
  const organisation = oversees
    ? await store.organisationToday(app.db, { day, in30: addDays(day, 30), zone, folderIds: scope.seeFolders })
    : undefined;
  return {
    rows,
    readingMinutes: minutes,
    oldestDays: oldest,
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
    })),
    recentlyOpened: (await recentlyOpened(app.db, viewer.id, scope.withheldDocuments)).map((o) => ({
      number: o.number,
      title: o.title,
      label: o.label,
      at: o.at.toISOString(),
    })),
  };
};

export const counts = async (app: App, viewer: Viewer) => {
  const day = dayOf(app.clock(), (await app.organisation()).zone);
  const scope = await listScope(app.db, viewer, day);
  const { rows } = await rowsFor(app, viewer, day, scope);
  return {
    desk: rows.length,
    overdue: rows.filter((row) => row.overdue).length,
    register: await store.countSeen(app.db, scope, SEES_WORK, SEES),
    reading: rows.filter((row) => row.kind === 'read').length,
    incomingFiles: await countIncomingFiles(app, viewer),
  };
};

/** What I sent, and what waits for whom since when. */
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
      mark: markOf(round.state),
      state: round.state,
      sentAt: round.started_at.toISOString(),
      round: round.n,
      runState: round.run_state === 'running' && round.held_up ? 'held up' : round.run_state,
      step: open[0]?.name ?? null,
      stepOf: open[0] ? `${open[0].n + 1} of ${new Set(own.map((s) => s.n)).size}` : null,
      waiting: open
        .filter((s) => s.assignment_state === 'open')
        .map((s) => ({
          person: s.person,
          since: s.opened_at?.toISOString() ?? round.started_at.toISOString(),
          due: s.due_on,
          overdue: s.due_on !== null && s.due_on < day,
        })),
      said: own
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
