import { z } from 'zod';
import { AdHocStepBody } from './adHocSteps.ts';
import { Day, DocumentParam, FileToOpen, Id, PersonRef, text } from './common.ts';
import { documentCommand } from './documentCommand.ts';
import { endpoint } from './endpoint.ts';
import { Covered } from './tasks.ts';

const Asked = {
  /** Otherwise what is in force, or else what is in work. */
  revisionId: Id.optional(),
  name: text(80, 1),
  message: text(2000).default(''),
  /** The last day of the whole round; otherwise each step has the same working days. */
  lastDay: Day.nullable().default(null),
  workingDays: z.number().int().min(0).max(365).default(5),
  steps: z.array(AdHocStepBody).max(20).default([]),
  /** Instead of steps: a route of the type that leads to nothing, with its own rules and days. */
  fromRoute: text(80, 1).optional(),
  /** Documents and uploaded files beside it. */
  documents: z.array(text(240, 1)).max(20).default([]),
  uploads: z.array(Id).max(20).default([]),
};
const START_PROBLEMS = [
  'route_missing',
  'route_not_offered',
  'step_unfilled',
  'step_k_greater_than_people',
  'signs_what_can_change',
  'last_day_past',
  'asked_cannot_read',
  'person_inactive',
  'step_beside_other_kind',
  'step_asks_nobody',
  'upload_unknown',
  'content_missing',
] as const;

/** A round that begins on a day. */
export const PlannedRound = z.object({
  id: Id,
  /** Of which revision. */
  label: z.string(),
  name: z.string(),
  on: Day,
  by: PersonRef,
  mayCancel: z.boolean(),
});
export type PlannedRound = z.infer<typeof PlannedRound>;

/** Rounds outside the route of a type, and signatures outside a round. */
export const adHocRounds = {
  start: documentCommand({
    id: 'startAdHocRound',
    feature: 'rounds',
    path: '/api/documents/:document/ad-hoc-rounds',
    summary: 'Start a round outside the route on a revision that I may read; it leaves the revision in its state',
    body: z.strictObject(Asked),
    answer: z.object({ round: z.number().int() }),
    problems: [...START_PROBLEMS],
  }),
  plan: documentCommand({
    id: 'planAdHocRound',
    feature: 'rounds',
    path: '/api/documents/:document/planned-rounds',
    summary: 'Plan a round outside the route that begins on a day; what stands against it is told now',
    body: z.strictObject({ ...Asked, on: Day }),
    answer: z.object({ id: Id }),
    problems: [...START_PROBLEMS, 'day_not_after_today'],
  }),
  planned: endpoint({
    id: 'plannedRounds',
    feature: 'rounds',
    method: 'GET',
    path: '/api/documents/:document/planned-rounds',
    summary: 'The rounds that will begin on a day, on revisions that I may read',
    params: DocumentParam,
    answer: z.object({ rounds: z.array(PlannedRound) }),
    problems: ['not_found'],
  }),
  cancelPlanned: endpoint({
    id: 'cancelPlannedRound',
    feature: 'rounds',
    method: 'POST',
    path: '/api/planned-rounds/:id/cancel',
    summary: 'Cancel a round before the day on which it begins',
    params: z.strictObject({ id: Id }),
    body: z.strictObject({ reason: text(500, 1) }),
    problems: ['not_found', 'input_invalid'],
  }),
  routes: endpoint({
    id: 'adHocRoutes',
    feature: 'rounds',
    method: 'GET',
    path: '/api/documents/:document/ad-hoc-routes',
    summary: 'The routes of the type that a round outside its route may take, with whom they would ask',
    params: DocumentParam,
    query: z.strictObject({ revisionId: Id.optional() }),
    answer: z.object({
      routes: z.array(
        z.object({
          name: z.string(),
          steps: z.array(
            z.object({
              name: z.string(),
              kind: z.string(),
              applies: z.boolean(),
              people: z.array(z.string()),
              problem: z.string().nullable(),
            }),
          ),
        }),
      ),
    }),
    problems: ['not_found', 'right_missing'],
  }),
  file: endpoint({
    id: 'roundFile',
    feature: 'rounds',
    method: 'GET',
    path: '/api/round-files/:id',
    summary: 'A file that is attached to a round on a revision that I may read',
    params: z.strictObject({ id: Id }),
    stream: 'bytes',
    problems: ['not_found', 'content_missing'],
  }),
  toSign: endpoint({
    id: 'toSignOutsideRound',
    feature: 'rounds',
    method: 'GET',
    path: '/api/documents/:document/signing',
    summary: 'What a signature outside a round would cover, and the meanings that it may have',
    params: DocumentParam,
    query: z.strictObject({ revisionId: Id.optional() }),
    answer: z.object({
      revisionId: Id,
      label: z.string(),
      meanings: z.array(z.string()),
      digest: z.string(),
      covers: Covered,
      files: z.array(FileToOpen),
      asksForName: z.boolean(),
    }),
    problems: ['not_found', 'right_missing', 'signs_what_can_change'],
  }),
  sign: documentCommand({
    id: 'signOutsideRound',
    feature: 'rounds',
    path: '/api/documents/:document/signatures',
    summary: 'Sign a revision outside a round, with a meaning from the list of the organisation',
    body: z.strictObject({
      revisionId: Id.optional(),
      meaning: text(120, 1),
      comment: text(2000).default(''),
      digest: z.string().max(64),
      name: z.string().max(200).nullable().default(null),
      password: z.string().max(1000).nullable().default(null),
    }),
    problems: [
      'signs_what_can_change',
      'meaning_unknown',
      'already_signed_so',
      'record_changed',
      'files_not_opened',
      'signing_wrong',
      'signing_locked',
      'signing_needs_name',
      'signing_needs_password',
      'content_altered',
      'content_missing',
    ],
  }),
};
