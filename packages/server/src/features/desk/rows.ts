import type { DeskRow, Order, SubmittedRow } from '@kanonos/contract';
import { addDays, dayInWords, dayOf, daysBetween, readingMinutes, shownState } from '@kanonos/core';
import { documentAddress, workAddress } from '../../platform/addresses.ts';
import type { listTasksOf, openRequestsFor } from '../changes/index.ts';
import { addressOfOrder, ORDERS_ADDRESS } from '../orders/index.ts';
import type { listMine } from '../reading/index.ts';
import { markOf } from '../revisions/index.ts';
import type { dueReminders } from './reminders.ts';
import type * as store from './store.ts';

// biome-ignore lint/suspicious/noExplicitAny: the parameters do not matter, only what a row is
type RowOf<List extends (...input: any[]) => Promise<readonly unknown[]>> = Awaited<ReturnType<List>>[number];

/** The intake is no document: its line needs an id all the same. */
const INTAKE = '00000000-0000-4000-8000-000000000001';
const plural = (n: number, one: string, many = `${one}s`) => `${n} ${n === 1 ? one : many}`;

const overdueBy = (due: string | null, day: string) => ({
  overdue: due !== null && due < day,
  daysOverdue: due !== null && due < day ? daysBetween(due, day) : 0,
});

/** What is open until a day, or without one. */
const waitingUntil = (due: string | null, day: string) => ({ mark: 'open' as const, due, ...overdueBy(due, day) });

/** A step of a round that waits for this person's decision. */
export const decisionRow = (d: RowOf<typeof store.listDecisions>, day: string): DeskRow => ({
  kind: 'decide',
  id: d.id,
  ...waitingUntil(d.due_on, day),
  documentId: d.document_id,
  number: d.number,
  title: d.title,
  label: d.label,
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
});

/** A task of a change note that is given to this person. */
export const taskRow = (task: RowOf<typeof listTasksOf>, day: string): DeskRow => ({
  kind: 'task',
  id: task.id,
  ...waitingUntil(task.due_on, day),
  mark: markOf(task.state, false),
  documentId: task.note_id,
  number: task.number,
  title: task.title,
  label: task.label,
  action: 'Open',
  link: documentAddress(task.number, 'tab=change'),
  primary: false,
  detail: task.what,
});

/** An order that this person has, or gave and waits for. */
export const orderRow = (order: Order, day: string): DeskRow => ({
  kind: 'order',
  id: order.id,
  ...waitingUntil(order.dueOn, day),
  mark: order.document?.mark ?? 'open',
  // What is still to be registered has no id of its own.
  documentId: order.document?.id ?? order.id,
  number: order.document?.number ?? order.reservedNumber ?? order.number,
  title: order.title,
  label: order.document?.label ?? '',
  action: order.mine ? (order.standing === 'not begun' ? 'Begin' : 'Continue') : 'Open',
  link: order.mine ? addressOfOrder(order) : ORDERS_ADDRESS,
  primary: order.mine && order.standing === 'not begun',
  detail: `${order.mine ? `from ${order.by.name}` : `for ${order.assignee.name}, ${order.standing}`}: ${order.why}`,
});

/** What a reader suggested for a document that this person answers for. */
export const requestRow = (request: Awaited<ReturnType<typeof openRequestsFor>>[number], day: string): DeskRow => ({
  kind: 'request',
  id: request.id,
  ...waitingUntil(null, day),
  mark: 'in force',
  documentId: request.document_id,
  number: request.document_number,
  title: request.title,
  label: request.label,
  action: 'Answer',
  link: '/changes?show=requests',
  primary: false,
  detail: `${request.by_name}: ${request.what}`,
});

/** A draft of one's own: not submitted yet, returned, recalled, or checked out. */
export const unfinishedRow = (f: RowOf<typeof store.listToFinish>, day: string, zone: string): DeskRow => {
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
    kind: f.run_state === 'rejected' && !f.out ? 'returned' : 'writing',
    id: f.id,
    documentId: f.document_id,
    number: f.number,
    title: f.title,
    label: f.label,
    mark: 'open',
    due: f.expected_back,
    overdue,
    daysOverdue: f.out ? days : 0,
    action: 'Continue',
    detail: `${back}${f.comments ? ` · ${plural(f.comments, 'open comment')}` : ''}`,
    link: workAddress(f.number),
    primary: false,
  };
};

const SOON_DAYS = 7;

/** A revision that is approved, or scheduled, for whoever may release it; one that comes into force within a week, or is blocked, apart. */
export const releaseRow = (r: RowOf<typeof store.listToRelease>, day: string): DeskRow => ({
  kind:
    r.blocked_since !== null || (r.planned_on !== null && r.planned_on <= addDays(day, SOON_DAYS))
      ? 'coming'
      : 'release',
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
});

/** A reading assigned to this person and not signed yet. */
export const readingRow = (m: RowOf<typeof listMine>, day: string): DeskRow => ({
  kind: 'read',
  id: m.id,
  documentId: m.document_id,
  number: m.number,
  title: m.title,
  label: m.label,
  mark: markOf(m.revision_state, m.on_hold),
  due: m.due_on,
  ...overdueBy(shownState(m.state, m.due_on, day) === 'overdue' ? m.due_on : null, day),
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
});

/** A reminder that is due: a source to check, or a date field of a document that comes near. */
export const reminderRow = (due: RowOf<typeof dueReminders>, day: string): DeskRow => ({
  kind: 'check',
  id: due.id,
  ...waitingUntil(due.on_day, day),
  documentId: due.id,
  number: due.number,
  title: due.title,
  label: due.label,
  action: due.kind === 'source' ? 'View' : 'Open',
  link: documentAddress(due.number, due.kind === 'source' ? 'command=check%20source' : ''),
  primary: false,
  detail: due.kind === 'source' ? 'External document: check the source' : `${due.what} is ${dayInWords(due.on_day)}`,
});

const waitedWords = (days: number): string =>
  days === 0 ? '' : days === 1 ? 'one working day ' : `${days} working days `;

/** A round that will miss its day unless somebody acts: for whom it has waited how many working days, and why nobody answers. */
export const stuckRow = (s: RowOf<typeof store.listStuck>, day: string, waited: number): DeskRow => ({
  kind: 'stuck',
  id: s.id,
  documentId: s.document_id,
  number: s.number,
  title: s.title,
  label: s.label,
  mark: 'open',
  due: s.due_on,
  ...overdueBy(s.due_on, day),
  action: 'Open',
  link: workAddress(s.number, 'tab=route'),
  primary: s.absent !== null,
  detail: s.blocked
    ? `Blocked in ${s.step}`
    : `Waiting ${waitedWords(waited)}for ${s.waiting.join(', ')}${
        s.absent?.[0] ? `, absent until ${dayInWords(s.absent[0].until)} without a deputy` : ''
      } · ${s.step}`,
});

/** A check-out of somebody else that should have ended, for whoever may take it over. */
export const overdueCheckoutRow = (c: RowOf<typeof store.listCheckouts>, days: number): DeskRow => ({
  kind: 'overdue',
  id: c.document_id,
  documentId: c.document_id,
  number: c.number,
  title: c.title,
  label: c.label,
  mark: 'open',
  due: c.expected_back,
  overdue: true,
  daysOverdue: days,
  action: 'Take over',
  link: workAddress(c.number, 'command=take%20over%20check-out'),
  primary: false,
  detail: [
    `Checked out by ${c.person}`,
    c.expected_back ? `expected back on ${dayInWords(c.expected_back)}` : '',
    c.note ? `“${c.note}”` : '',
  ]
    .filter(Boolean)
    .join(' · '),
});

/** A document that is in force and due for its periodic review. */
export const reviewRow = (r: RowOf<typeof store.listReviews>, day: string): DeskRow => ({
  kind: 'review',
  id: r.id,
  documentId: r.id,
  number: r.number,
  title: r.title,
  label: r.label,
  mark: markOf('in force', r.on_hold),
  due: r.review_on,
  ...overdueBy(r.review_on, day),
  action: 'Review',
  link: `${documentAddress(r.number)}/review`,
  primary: false,
  detail: `Periodic review by ${r.owner}`,
});

/** A round that one started and that waits for others. */
export const waitingRow = (row: SubmittedRow): DeskRow => {
  const due = row.waiting.map((one) => one.due).find((one) => one !== null) ?? null;
  return {
    kind: 'waiting',
    id: row.documentId,
    documentId: row.documentId,
    number: row.number,
    title: row.title,
    label: row.label,
    mark: row.mark,
    due,
    overdue: row.waiting.some((one) => one.overdue),
    daysOverdue: 0,
    action: 'Open',
    link: workAddress(row.number, 'tab=route'),
    primary: false,
    detail:
      row.runState === 'held up'
        ? `Blocked in ${row.step ?? 'its round'}`
        : `Waiting for ${row.waiting.map((one) => one.person).join(', ') || 'the next step'} · ${row.step ?? ''}`,
  };
};

/** What waits in the intake folder, as one line that leads there. */
export const arrivedRow = (files: number): DeskRow => ({
  kind: 'arrived',
  id: INTAKE,
  documentId: INTAKE,
  number: '',
  title: plural(files, 'incoming file'),
  label: '',
  mark: 'open',
  due: null,
  overdue: false,
  daysOverdue: 0,
  action: 'Open',
  link: '/intake',
  primary: false,
  detail: 'To be registered, checked in, or set aside',
});
