import { z } from 'zod';
import { Day, DocumentParam, Id, Instant, MetadataSchema, RefusalSchema, Seen, State, ToSign, text } from './common.ts';
import { documentCommand } from './documentCommand.ts';
import { Forecast } from './documents.ts';
import { endpoint } from './endpoint.ts';

const Reason = text(2000, 1);

/** A change note that is registered while a revision begins. */
const NewNote = z.strictObject({
  typeId: Id,
  /** Left out where the type is filed by rule. */
  folderId: Id.nullable(),
  title: text(250, 1),
  asked: text(4000).default(''),
  metadata: MetadataSchema.default({}),
});
export type NewNote = z.input<typeof NewNote>;

/** The commands in the life of a revision: sending, recalling, releasing, revising, withdrawing. */
export const lifeEndpoints = {
  submit: documentCommand({
    id: 'submit',
    feature: 'rounds',
    path: '/api/documents/:document/submit',
    summary: 'Submit for review and approval: starts a new round',
    body: z.strictObject({
      seen: Seen,
      message: text(2000).default(''),
      chosen: z.array(Id).max(50).default([]),
      /** A further route of the type, where one is chosen. */
      route: text(80).nullable().optional(),
    }),
    answer: z.object({ round: z.number().int() }),
    problems: [
      'checked_out',
      'original_missing',
      'field_value_missing',
      'route_missing',
      'route_not_offered',
      'step_unfilled',
      'step_too_few_chosen',
      'step_k_greater_than_people',
      'wrong_state',
      'person_inactive',
      'blocking_comment',
    ],
  }),
  submissionRoute: endpoint({
    id: 'submissionRoute',
    feature: 'rounds',
    method: 'GET',
    path: '/api/documents/:document/route',
    summary: 'The route that a submission of the draft would take, by its change kind, with who would be asked',
    params: DocumentParam,
    query: z.strictObject({ route: text(80).optional() }),
    answer: z.object({
      name: z.string(),
      /** Further routes that the viewer may choose. */
      choices: z.array(z.string()),
      changeKind: z.string().nullable(),
      steps: z.array(
        z.object({
          name: z.string(),
          kind: z.string(),
          workingDays: z.number(),
          people: z.array(z.string()),
          /** How many reviewers must be chosen when submitting; null where none are. */
          chosenMinimum: z.number().nullable(),
          /** Runs at the same time as the step before it. */
          beside: z.boolean(),
          /** Its condition, and whether the document meets it; a step that does not apply asks nobody. */
          when: z.string().nullable(),
          applies: z.boolean(),
          /** Why nobody would be asked; null where somebody is. */
          problem: z.string().nullable(),
        }),
      ),
      /** When it would be done if it were submitted today; null where nobody would be asked. */
      forecast: Forecast.nullable(),
    }),
    problems: ['not_found', 'right_missing', 'wrong_state'],
  }),
  recall: documentCommand({
    id: 'recall',
    feature: 'rounds',
    path: '/api/documents/:document/recall',
    summary: 'Recall a round: the revision is a draft again',
    body: z.strictObject({ seen: Seen, reason: Reason }),
    problems: ['wrong_state'],
  }),
  revise: documentCommand({
    id: 'revise',
    feature: 'release',
    path: '/api/documents/:document/revise',
    summary: 'Begin the next revision, minor or major, from the last file or an outside one',
    body: z.strictObject({
      seen: Seen,
      changeKind: z.enum(['minor', 'major', 'editorial']),
      reason: Reason,
      summary: text(4000).default(''),
      uploadId: Id.nullable().default(null),
      toStage: z.number().int().min(0).max(9).optional(),
      label: text(60).nullable().default(null),
      /** The change note that it is made under. */
      changeNote: text(240, 1).nullable().default(null),
      /** Instead: a note that is registered in the same command, with this as its first text. */
      newNote: NewNote.optional(),
    }),
    answer: z.object({ label: z.string() }),
    problems: [
      'change_note_needed',
      'change_note_not_used',
      'change_note_closed',
      'not_a_change_note',
      'revision_in_work',
      'revision_scheduled',
      'withdrawal_planned',
      'nothing_to_revise',
      'scheme_has_one_revision',
      'stage_never_back',
      'no_such_stage',
      'label_given_by_supplier',
      'label_not_of_scheme',
      'label_not_after_last',
      'label_taken',
      'upload_unknown',
      'content_missing',
      'wrong_state',
    ],
  }),
  abandon: documentCommand({
    id: 'abandon',
    feature: 'release',
    path: '/api/documents/:document/abandon',
    summary: 'Abandon the draft',
    body: z.strictObject({ seen: Seen, reason: Reason }),
    problems: ['wrong_state', 'checked_out'],
  }),
  remove: documentCommand({
    id: 'removeDocument',
    feature: 'release',
    path: '/api/documents/:document/remove',
    summary: 'Remove a document that was never in force: it leaves all lists and keeps its number',
    body: z.strictObject({ seen: Seen, reason: Reason }),
    problems: ['wrong_state', 'was_in_force', 'checked_out'],
  }),
  restore: endpoint({
    id: 'restoreDocument',
    feature: 'release',
    method: 'POST',
    path: '/api/documents/:document/restore',
    summary: 'Restore a removed document with the state that it had',
    params: DocumentParam,
    body: z.strictObject({ seen: Seen, reason: Reason }),
    problems: ['changed_meanwhile', 'not_found', 'right_missing', 'not_removed', 'input_invalid'],
  }),
  removed: endpoint({
    id: 'removedDocuments',
    feature: 'release',
    method: 'GET',
    path: '/api/removed',
    summary: 'Removed documents that I may restore, the last one first',
    answer: z.object({
      documents: z.array(
        z.object({
          id: Id,
          number: z.string(),
          title: z.string(),
          removedAt: Instant,
          by: z.string(),
          reason: z.string(),
        }),
      ),
    }),
  }),
  preflight: endpoint({
    id: 'preflight',
    feature: 'release',
    method: 'GET',
    path: '/api/documents/:document/preflight',
    summary: 'Preflight: everything that blocks the release of an approved revision',
    params: DocumentParam,
    answer: z.object({
      label: z.string(),
      lines: z.array(
        z.object({
          check: z.string(),
          blocks: z.boolean(),
          refusal: RefusalSchema.optional(),
          way: z.string().optional(),
        }),
      ),
      supersedes: z.string().nullable(),
      readers: z.number().int(),
      earliestDay: Day,
      /** What the release itself signs, where no route has signed before. */
      signing: ToSign.nullable(),
    }),
    problems: ['not_found', 'right_missing', 'wrong_state'],
  }),
  release: documentCommand({
    id: 'release',
    feature: 'release',
    path: '/api/documents/:document/release',
    summary: 'Release now, or on a future day (`on`)',
    body: z.strictObject({
      seen: Seen,
      on: Day.nullable().default(null),
      name: z.string().max(200).nullable().default(null),
      password: z.string().max(1000).nullable().default(null),
      /** The digest of what the signer saw, where the release is signed. */
      digest: z.string().max(64).nullable().default(null),
    }),
    answer: z.object({ state: State }),
    problems: [
      'signing_needs_password',
      'record_changed',
      'files_not_opened',
      'content_altered',
      'wrong_state',
      'preflight_blocked',
      'day_not_after_today',
      'checked_out',
      'checked_out_by_you',
      'signing_wrong',
      'signing_needs_name',
      'signing_locked',
      'label_taken',
    ],
  }),
  moveDay: documentCommand({
    id: 'moveDay',
    feature: 'release',
    path: '/api/documents/:document/move-day',
    summary: 'Move the day of a scheduled release; without a day the release is no longer scheduled',
    body: z.strictObject({ seen: Seen, on: Day.nullable(), reason: Reason }),
    answer: z.object({ state: State }),
    problems: ['wrong_state', 'day_not_after_today'],
  }),
  reopen: documentCommand({
    id: 'reopen',
    feature: 'release',
    path: '/api/documents/:document/reopen',
    summary: 'Return an approved or scheduled revision to draft; its signatures become void',
    body: z.strictObject({ seen: Seen, reason: Reason }),
    problems: ['wrong_state'],
  }),
  withdraw: documentCommand({
    id: 'withdraw',
    feature: 'release',
    path: '/api/documents/:document/withdraw',
    summary: 'Withdraw what is in force, now or on a future day',
    body: z.strictObject({ seen: Seen, on: Day.nullable().default(null), reason: Reason }),
    problems: ['nothing_in_force', 'revision_in_work', 'day_not_after_today'],
  }),
  reinstatement: endpoint({
    id: 'reinstatement',
    feature: 'release',
    method: 'GET',
    path: '/api/documents/:document/reinstatement',
    summary: 'What is signed when the withdrawn revision is reinstated',
    params: DocumentParam,
    answer: z.object({ label: z.string(), signing: ToSign }),
    problems: ['not_found', 'right_missing', 'nothing_withdrawn'],
  }),
  reinstate: documentCommand({
    id: 'reinstate',
    feature: 'release',
    path: '/api/documents/:document/reinstate',
    summary: 'Reinstate the withdrawn revision: a new period begins',
    body: z.strictObject({
      seen: Seen,
      reason: Reason,
      name: z.string().max(200).nullable().default(null),
      password: z.string().max(1000),
      digest: z.string().max(64),
    }),
    problems: [
      'record_changed',
      'files_not_opened',
      'content_altered',
      'already_in_force',
      'revision_in_work',
      'nothing_withdrawn',
      'signing_wrong',
      'signing_needs_name',
      'signing_locked',
    ],
  }),
  putOnHold: documentCommand({
    id: 'putOnHold',
    feature: 'release',
    path: '/api/documents/:document/put-on-hold',
    summary: 'Say that what is in force must not be used until further notice; its readers and its owner are told',
    body: z.strictObject({ seen: Seen, reason: Reason, wayOut: text(500).default('') }),
    problems: ['nothing_in_force', 'already_on_hold'],
  }),
  setState: documentCommand({
    id: 'setOwnState',
    feature: 'authoring',
    path: '/api/documents/:document/own-state',
    summary: "Set or take back a state of the organisation's own within draft or in review",
    body: z.strictObject({ seen: Seen, state: text(40, 1).nullable(), note: text(500).default('') }),
    problems: ['no_own_state', 'own_state_unknown', 'nothing_changed'],
  }),
  liftHold: documentCommand({
    id: 'liftHold',
    feature: 'release',
    path: '/api/documents/:document/lift-hold',
    summary: 'Let what is on hold be used again',
    body: z.strictObject({ seen: Seen, reason: Reason }),
    problems: ['not_on_hold'],
  }),
  cancelWithdrawal: documentCommand({
    id: 'cancelWithdrawal',
    feature: 'release',
    path: '/api/documents/:document/cancel-withdrawal',
    summary: 'Cancel a planned withdrawal',
    body: z.strictObject({ seen: Seen, reason: Reason }),
    problems: ['no_withdrawal_planned'],
  }),
};
