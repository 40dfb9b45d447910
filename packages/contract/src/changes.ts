import { AFFECTED_STANDINGS, AFFECTED_WAYS, TASK_LIMITS, TASK_STATES } from '@kanonos/core';
import { z } from 'zod';
import { Day, DocumentParam, Id, Instant, PersonRef, RefusalSchema, Seen, State, text } from './common.ts';
import { Mark, Relative } from './documents.ts';
import { endpoint } from './endpoint.ts';
import { Field } from './rules.ts';

const Standing = z.enum(AFFECTED_STANDINGS);
const Way = z.enum(AFFECTED_WAYS);

/** A document that a change note affects, with where it stands. */
export const Affected = z.object({
  id: Id,
  number: z.string(),
  title: z.string(),
  way: Way,
  /** What is to change in it. */
  what: z.string(),
  /** Why nothing changes in it; null where something does, or nobody has said. */
  noChangeReason: z.string().nullable(),
  standing: Standing,
  /** Label of the revision in force, and since when. */
  inForce: z.object({ label: z.string(), since: Instant, mark: Mark }).nullable(),
  /** The revision that is made under the note. */
  revision: z
    .object({
      label: z.string(),
      state: State,
      mark: Mark,
      summary: z.string(),
      reason: z.string(),
      plannedOn: Day.nullable(),
    })
    .nullable(),
  stateTag: z.string(),
  /** Whether the viewer may begin a revision, submit it, release it now. */
  may: z.object({ revise: z.boolean(), submit: z.boolean(), release: z.boolean() }),
});
export type Affected = z.infer<typeof Affected>;

export const ChangeTask = z.object({
  id: Id,
  n: z.number().int(),
  what: z.string(),
  assignee: PersonRef,
  dueOn: Day.nullable(),
  overdue: z.boolean(),
  before: z.enum(TASK_LIMITS),
  state: z.enum(TASK_STATES),
  /** The result of a task that is done, or why one was dropped. */
  result: z.string(),
  files: z.array(z.object({ id: Id, name: z.string() })),
  endedBy: z.string().nullable(),
  endedAt: Instant.nullable(),
  mine: z.boolean(),
});
export type ChangeTask = z.infer<typeof ChangeTask>;

export const ChangeNote = z.object({
  affected: z.array(Affected),
  /** Affected documents that the viewer may not see. */
  hidden: z.number().int(),
  tasks: z.array(ChangeTask),
  isAgreed: z.boolean(),
  closed: z.object({ at: Instant, by: z.string(), result: z.string() }).nullable(),
  /** Why it cannot be closed yet. */
  open: z.array(RefusalSchema),
  mayChange: z.boolean(),
});
export type ChangeNote = z.infer<typeof ChangeNote>;

export const ChangeNoteRow = z.object({
  id: Id,
  number: z.string(),
  title: z.string(),
  mark: Mark,
  isClosed: z.boolean(),
  owner: z.string(),
  createdAt: Instant,
  documents: z.object({ all: z.number().int(), done: z.number().int() }),
  tasks: z.object({ all: z.number().int(), done: z.number().int(), overdue: z.number().int() }),
  nextDue: Day.nullable(),
});
export type ChangeNoteRow = z.infer<typeof ChangeNoteRow>;

const TaskBody = z.strictObject({
  what: text(500, 1),
  assigneeId: Id,
  dueOn: Day.nullable().default(null),
  before: z.enum(TASK_LIMITS).default('closure'),
});
const OfTask = DocumentParam.extend({ task: Id });
const OfAffected = DocumentParam.extend({ affected: Id });

/** Several documents as one set: each with the state in which it was seen. */
const Members = z
  .array(z.strictObject({ id: Id, seen: Seen }))
  .min(1, 'choose at least one document')
  .max(100);
/** What became of a set: all of it, or nothing with the reasons by document. */
const SetOutcome = z.object({
  done: z.boolean(),
  documents: z.array(z.object({ id: Id, number: z.string(), refusals: z.array(RefusalSchema) })),
});

/** Change notes: what a change affects, who does what, and when it is done. */
export const changes = {
  list: endpoint({
    id: 'changeNotes',
    feature: 'changes',
    method: 'GET',
    path: '/api/change-notes',
    summary: 'The change notes that I may see, the open ones first',
    answer: z.object({ notes: z.array(ChangeNoteRow) }),
  }),
  open: endpoint({
    id: 'openChangeNotes',
    feature: 'changes',
    method: 'GET',
    path: '/api/documents/:document/change-notes',
    summary:
      'The notes under which a revision of this document can begin, those that name it first, and whether one is needed',
    params: DocumentParam,
    answer: z.object({
      use: z.enum(['never', 'may', 'must']),
      notes: z.array(z.object({ number: z.string(), title: z.string(), namesIt: z.boolean() })),
      /** Types of change notes that the viewer may register. */
      types: z.array(
        z.object({
          id: Id,
          code: z.string(),
          name: z.string(),
          /** Where the viewer would register one; null where its rule decides. */
          folder: z.object({ id: Id, name: z.string() }).nullable(),
          /** What must be filled in. */
          fields: z.array(Field),
        }),
      ),
    }),
    problems: ['not_found', 'right_missing'],
  }),
  note: endpoint({
    id: 'changeNote',
    feature: 'changes',
    method: 'GET',
    path: '/api/documents/:document/change-note',
    summary: 'The affected documents and tasks of a change note',
    params: DocumentParam,
    answer: ChangeNote,
    problems: ['not_found', 'right_missing', 'not_a_change_note'],
  }),
  proposals: endpoint({
    id: 'proposedForChangeNote',
    feature: 'changes',
    method: 'GET',
    path: '/api/documents/:document/change-note/proposals',
    summary: 'Documents that cite, link to, or lie above or below the affected ones, with the way that leads there',
    params: DocumentParam,
    answer: z.object({
      proposals: z.array(Relative.extend({ way: Way, via: z.string(), distance: z.number().int() })),
    }),
    problems: ['not_found', 'right_missing', 'not_a_change_note'],
  }),
  addAffected: endpoint({
    id: 'addAffectedDocuments',
    feature: 'changes',
    method: 'POST',
    path: '/api/documents/:document/change-note/documents',
    summary: 'Name documents that a change affects',
    params: DocumentParam,
    body: z.strictObject({
      numbers: z.array(text(240, 1)).min(1).max(100),
      way: Way.default('picked'),
      what: text(2000).default(''),
    }),
    answer: z.object({ added: z.number().int() }),
    problems: ['not_found', 'right_missing', 'not_a_change_note', 'change_note_closed', 'input_invalid'],
  }),
  changeAffected: endpoint({
    id: 'changeAffectedDocument',
    feature: 'changes',
    method: 'PUT',
    path: '/api/documents/:document/change-note/documents/:affected',
    summary: 'Say what changes in an affected document, or that nothing does',
    params: OfAffected,
    body: z.strictObject({ what: text(2000).default(''), noChangeReason: text(2000, 1).nullable().default(null) }),
    problems: ['not_found', 'right_missing', 'not_a_change_note', 'change_note_closed', 'input_invalid'],
  }),
  removeAffected: endpoint({
    id: 'removeAffectedDocument',
    feature: 'changes',
    method: 'DELETE',
    path: '/api/documents/:document/change-note/documents/:affected',
    summary: 'Take a document off a change note, as long as nothing was revised under it',
    params: OfAffected,
    problems: ['not_found', 'right_missing', 'not_a_change_note', 'change_note_closed', 'change_note_document_in_work'],
  }),
  addTask: endpoint({
    id: 'addChangeTask',
    feature: 'changes',
    method: 'POST',
    path: '/api/documents/:document/change-note/tasks',
    summary: 'Give somebody a task that a change brings',
    params: DocumentParam,
    body: TaskBody,
    answer: z.object({ id: Id }),
    problems: [
      'not_found',
      'right_missing',
      'not_a_change_note',
      'change_note_closed',
      'person_inactive',
      'task_not_readable',
      'input_invalid',
    ],
  }),
  changeTask: endpoint({
    id: 'changeChangeTask',
    feature: 'changes',
    method: 'PUT',
    path: '/api/documents/:document/change-note/tasks/:task',
    summary: 'Change a task: what, who, by when, before what',
    params: OfTask,
    body: TaskBody,
    problems: [
      'not_found',
      'right_missing',
      'not_a_change_note',
      'change_note_closed',
      'task_ended',
      'person_inactive',
      'task_not_readable',
      'input_invalid',
    ],
  }),
  doneTask: endpoint({
    id: 'doneChangeTask',
    feature: 'changes',
    method: 'POST',
    path: '/api/documents/:document/change-note/tasks/:task/done',
    summary: 'Report a task as done, with its result and files',
    params: OfTask,
    body: z.strictObject({ result: text(4000, 1), uploadIds: z.array(Id).max(20).default([]) }),
    problems: [
      'not_found',
      'right_missing',
      'not_a_change_note',
      'change_note_closed',
      'not_your_task',
      'task_ended',
      'upload_unknown',
      'content_missing',
      'input_invalid',
    ],
  }),
  dropTask: endpoint({
    id: 'dropChangeTask',
    feature: 'changes',
    method: 'POST',
    path: '/api/documents/:document/change-note/tasks/:task/drop',
    summary: 'Drop a task with a reason',
    params: OfTask,
    body: z.strictObject({ reason: text(2000, 1) }),
    problems: ['not_found', 'right_missing', 'not_a_change_note', 'change_note_closed', 'task_ended', 'input_invalid'],
  }),
  close: endpoint({
    id: 'closeChangeNote',
    feature: 'changes',
    method: 'POST',
    path: '/api/documents/:document/change-note/closing',
    summary: 'Close a change note: everything that it brought is done',
    params: DocumentParam,
    body: z.strictObject({ result: text(4000, 1) }),
    problems: [
      'not_found',
      'right_missing',
      'not_a_change_note',
      'change_note_closed',
      'change_note_not_agreed',
      'change_note_tasks_open',
      'change_note_document_open',
      'input_invalid',
    ],
  }),
  reviseSet: endpoint({
    id: 'reviseSet',
    feature: 'release',
    method: 'POST',
    path: '/api/revisions',
    summary: 'Begin the next revision of several documents, all or none, under a change note',
    body: z.strictObject({
      documents: Members,
      changeNote: text(240, 1).nullable().default(null),
      changeKind: z.enum(['minor', 'major', 'editorial']),
      reason: text(2000, 1),
    }),
    answer: SetOutcome,
    problems: ['input_invalid'],
  }),
  releaseSet: endpoint({
    id: 'releaseSet',
    feature: 'release',
    method: 'POST',
    path: '/api/releases',
    summary: 'Release several documents as one set, all or none: now, or on one day',
    body: z.strictObject({ documents: Members, on: Day.nullable().default(null) }),
    answer: SetOutcome,
    problems: ['input_invalid', 'day_not_after_today'],
  }),
};
