import { DECISIONS } from '@kanonos/core';
import { z } from 'zod';
import { Day, FileToOpen, Id, Instant, PersonRef, State, text } from './common.ts';
import { DocumentLine, Mark, RoundInfo, VersionInfo } from './documents.ts';
import { endpoint } from './endpoint.ts';

/** What waits, by what would take it further; the order is that of the Desk. */
export const DESK_KINDS = [
  'stuck',
  'decide',
  'task',
  'order',
  'request',
  'returned',
  'coming',
  'release',
  'arrived',
  'read',
  'check',
  'overdue',
  'writing',
  'review',
  'waiting',
] as const;
/** The cards of the Desk: what waits, then what is beside it. */
export const DESK_CARDS = [
  ...DESK_KINDS,
  'attention',
  'organisation',
  'favourites',
  'checked out',
  'newly in force',
  'recently opened',
] as const;
export type DeskCard = (typeof DESK_CARDS)[number];
/** Cards that nobody can hide: they tell what is wrong. */
export const ALWAYS_SHOWN_CARDS: readonly DeskCard[] = ['attention'];
const DeskCards = z.array(z.enum(DESK_CARDS)).max(DESK_CARDS.length);
export const DeskRow = DocumentLine.extend({
  kind: z.enum(DESK_KINDS),
  id: Id,
  due: Day.nullable(),
  overdue: z.boolean(),
  daysOverdue: z.number().int(),
  action: z.string(),
  detail: z.string(),
  link: z.string(),
  primary: z.boolean(),
});
export type DeskRow = z.infer<typeof DeskRow>;
export const Desk = z.object({
  rows: z.array(DeskRow),
  readingMinutes: z.number().int(),
  organisation: z
    .object({
      running: z.number().int(),
      overdue: z.number().int(),
      onTimePercent: z.number().nullable(),
      reviewsSoon: z.number().int(),
    })
    .nullable(),
  checkedOut: z.array(z.object({ number: z.string(), person: z.string(), since: Instant, days: z.number().int() })),
  newlyInForce: z.array(
    z.object({ number: z.string(), title: z.string(), label: z.string(), since: Instant, onHold: z.boolean() }),
  ),
  /** What keeps the system from its work, for those who can put it right. */
  attention: z.array(z.object({ kind: z.enum(['content', 'work', 'mail']), text: z.string(), link: z.string() })),
  favourites: z.array(DocumentLine.omit({ mark: true }).extend({ state: State, onHold: z.boolean() })),
  recentlyOpened: z.array(
    z.object({ number: z.string(), title: z.string(), label: z.string(), at: Instant, onHold: z.boolean() }),
  ),
  /** All cards in the order that the person wants, and those that they do not want to see. */
  cards: DeskCards,
  hiddenCards: DeskCards,
});
export type Desk = z.infer<typeof Desk>;
export const SubmittedRow = DocumentLine.extend({
  state: State,
  sentAt: Instant,
  round: z.number().int(),
  runState: z.string(),
  step: z.string().nullable(),
  stepOf: z.string().nullable(),
  waiting: z.array(z.object({ person: z.string(), since: Instant, due: Day.nullable(), overdue: z.boolean() })),
  decisions: z.array(z.object({ person: z.string(), decision: z.string(), at: Instant, comment: z.string() })),
});
export type SubmittedRow = z.infer<typeof SubmittedRow>;

/** How many steps are decided in by one command. */
export const DECIDED_AT_ONCE = 50;

/** What a signature covers: the files with their roles and hashes, and the fields as they are shown. */
export const Covered = z.object({
  files: z.array(z.object({ role: z.string(), name: z.string(), sha256: z.string() })),
  fields: z.array(z.object({ label: z.string(), value: z.string() })),
});
export type Covered = z.infer<typeof Covered>;

/** Everything that a person needs to decide in a step. */
export const Task = z.object({
  assignmentId: Id,
  document: z.object({ id: Id, number: z.string(), type: z.string() }),
  /** It is a change note: what it affects is part of what is decided on. */
  isChangeNote: z.boolean(),
  label: z.string(),
  title: z.string(),
  mark: Mark,
  step: z.string(),
  stepKind: z.string(),
  meaning: z.string().nullable(),
  stepOf: z.string(),
  due: Day.nullable(),
  overdue: z.boolean(),
  askedBy: PersonRef,
  message: z.string(),
  asDeputyFor: PersonRef.nullable(),
  reason: z.string(),
  summary: z.string(),
  changeKind: z.string(),
  changes: z.array(z.object({ label: z.string(), before: z.string(), after: z.string() })),
  inForceLabel: z.string().nullable(),
  /** Versions that this one can be compared with, the one that is shown at first in front. */
  comparedWith: z.array(
    z.object({
      kind: z.enum(['last seen', 'submitted', 'revision before']),
      versionId: Id,
      label: z.string(),
      n: z.number().int(),
    }),
  ),
  /** The next of the viewer's own tasks, in the order of the Desk. */
  nextTask: z.object({ assignmentId: Id, number: z.string() }).nullable(),
  version: VersionInfo,
  round: RoundInfo,
  decisions: z.array(z.enum(DECISIONS)),
  signs: z.boolean(),
  digest: z.string().nullable(),
  /** What is signed here; null where nothing is. */
  covers: Covered.nullable(),
  files: z.array(FileToOpen),
  asksForName: z.boolean(),
  refusals: z.array(z.object({ code: z.string(), detail: z.string() })),
  revisionId: Id,
  mayEdit: z.boolean(),
  /** The type forbids to decide on it together with others. */
  decidedAlone: z.boolean(),
  zone: z.string(),
  signInName: z.string(),
});
export type Task = z.infer<typeof Task>;

export const tasks = {
  desk: endpoint({
    id: 'desk',
    feature: 'desk',
    method: 'GET',
    path: '/api/desk',
    summary: 'What waits for me',
    answer: Desk,
  }),
  submitted: endpoint({
    id: 'submitted',
    feature: 'desk',
    method: 'GET',
    path: '/api/desk/submitted',
    summary: 'What I submitted, and what waits for whom since when',
    answer: z.object({ rows: z.array(SubmittedRow) }),
  }),
  arrange: endpoint({
    id: 'arrangeDesk',
    feature: 'desk',
    method: 'PUT',
    path: '/api/desk/cards',
    summary: 'Arrange the cards of your Desk, and hide those that you do not want to see',
    body: z.strictObject({ cards: DeskCards, hidden: DeskCards }),
    problems: ['input_invalid'],
  }),
  checkouts: endpoint({
    id: 'checkOuts',
    feature: 'desk',
    method: 'GET',
    path: '/api/check-outs',
    summary: 'What is checked out, to whom and since when, the longest first',
    answer: z.object({
      rows: z.array(
        z.object({
          documentId: Id,
          number: z.string(),
          title: z.string(),
          label: z.string(),
          person: PersonRef,
          since: Instant,
          days: z.number().int(),
          expectedBack: Day.nullable(),
          overdue: z.boolean(),
          mine: z.boolean(),
          mayTakeOver: z.boolean(),
          note: z.string(),
        }),
      ),
    }),
  }),
  counts: endpoint({
    id: 'deskCounts',
    feature: 'desk',
    method: 'GET',
    path: '/api/desk/counts',
    summary: 'The figures beside the menu entries',
    answer: z.object({
      desk: z.number().int(),
      overdue: z.number().int(),
      register: z.number().int(),
      reading: z.number().int(),
      /** What waits in the intake folder; nothing for who may not register. */
      incomingFiles: z.number().int(),
    }),
  }),
  task: endpoint({
    id: 'task',
    feature: 'rounds',
    method: 'GET',
    path: '/api/tasks/:assignment',
    summary: 'A review or approval step that names me, with what is to be decided',
    params: z.strictObject({ assignment: Id }),
    answer: Task,
    problems: ['not_found'],
  }),
  decide: endpoint({
    id: 'decide',
    feature: 'rounds',
    method: 'POST',
    path: '/api/tasks/:assignment/decision',
    summary: 'Decide; approving signs with the password',
    params: z.strictObject({ assignment: Id }),
    body: z.strictObject({
      decision: z.enum(DECISIONS),
      comment: text(4000).default(''),
      name: z.string().max(200).nullable().default(null),
      password: z.string().max(1000).nullable().default(null),
      digest: z.string().max(64).nullable().default(null),
      version: z.number().int(),
    }),
    answer: z.object({ runState: z.string(), documentState: State }),
    problems: [
      'not_found',
      'round_ended',
      'not_your_turn',
      'already_decided',
      'decision_not_needed',
      'decision_not_offered',
      'rejection_needs_comment',
      'comment_missing',
      'counts_once_in_step',
      'signs_one_step_only',
      'deputy_has_signed',
      'deputy_is_author',
      'only_approver_of_own_work',
      'signing_wrong',
      'signing_needs_name',
      'signing_locked',
      'record_changed',
      'input_invalid',
      'changed_meanwhile',
    ],
  }),
  decideSeveral: endpoint({
    id: 'decideSeveral',
    feature: 'rounds',
    method: 'POST',
    path: '/api/tasks/decisions',
    summary: 'Decide positively in several steps; approvals are signed with one password, each bound to its own record',
    body: z.strictObject({
      decisions: z
        .array(
          z.strictObject({
            assignment: Id,
            decision: z.enum(['no objection', 'done', 'approve']),
            comment: text(4000).default(''),
            digest: z.string().max(64).nullable().default(null),
            version: z.number().int(),
          }),
        )
        .min(1)
        .max(DECIDED_AT_ONCE),
      name: z.string().max(200).nullable().default(null),
      password: z.string().max(1000).nullable().default(null),
    }),
    answer: z.object({
      decided: z.number().int(),
      signed: z.number().int(),
      refused: z.array(z.object({ assignment: Id, reasons: z.array(z.string()) })),
    }),
    problems: ['signing_wrong', 'signing_needs_name', 'signing_locked', 'record_changed', 'input_invalid'],
  }),
  remind: endpoint({
    id: 'remindApprovers',
    feature: 'rounds',
    method: 'POST',
    path: '/api/documents/:document/remind',
    summary: 'Remind the assignees who have not decided',
    params: z.strictObject({ document: z.string().max(100) }),
    body: z.strictObject({}),
    answer: z.object({ reminded: z.number().int() }),
    problems: ['not_found', 'wrong_state', 'right_missing'],
  }),
};
