import { ROUND_CHANGES, ROUTE_DOUBTS, TRIAL_PROBLEMS } from '@kanonos/core';
import { z } from 'zod';
import { AdHocStepBody } from './adHocSteps.ts';
import { ChangeKindSchema, Day, Id, Instant, PersonRef, RefusalSchema, text } from './common.ts';
import { DocumentLine, Forecast } from './documents.ts';
import { endpoint } from './endpoint.ts';
import { Route } from './rules.ts';

/** How many rounds one answer holds: more than two screens of them. */
export const ROUNDS_AT_ONCE = 60;
/** How many rounds one command changes. */
const MOST_CHANGED = 200;
export const ROUND_FILTERS = ['all', 'stuck', 'overdue'] as const;

/** A step that was opened, as a bar on the calendar: with whom it was or is, from when to when. */
const Span = z.object({ step: z.string(), people: z.array(z.string()), from: Day, to: Day.nullable() });
export const OpenRound = DocumentLine.extend({
  id: Id,
  n: z.number().int(),
  type: z.string(),
  /** What an ad hoc round is for; null for one on its route. */
  adHoc: z.string().nullable(),
  startedBy: PersonRef,
  startedAt: Instant,
  step: z.string().nullable(),
  stepNumber: z.number().int(),
  stepCount: z.number().int(),
  due: Day.nullable(),
  overdue: z.boolean(),
  /** What keeps the round from entering approval. */
  blockers: z.array(RefusalSchema),
  waitingFor: z.array(
    z.object({
      assignmentId: Id,
      person: PersonRef,
      since: Day.nullable(),
      waitedDays: z.number().int(),
      absentUntil: Day.nullable(),
      deputy: PersonRef.nullable(),
    }),
  ),
  /** How many answers are enough for the step, where that is fewer than all. */
  enough: z.number().int().nullable(),
  spans: z.array(Span),
  forecast: Forecast.nullable(),
  /** When all steps are done if each takes its days: the due day of the open one and the days of those that follow. */
  plannedBy: Day.nullable(),
  mayChange: z.array(z.enum(ROUND_CHANGES)),
});
export type OpenRound = z.infer<typeof OpenRound>;

const Counts = z.object({ all: z.number().int(), stuck: z.number().int(), overdue: z.number().int() });
export const OpenRounds = z.object({
  rows: z.array(OpenRound),
  counts: Counts,
  /** Where the next part begins, or null after the last. */
  next: z.string().nullable(),
});
export type OpenRounds = z.infer<typeof OpenRounds>;

/** Which of the open steps is meant, from 1 on; where several run at the same time and none is named, all of them. */
const StepNumber = z.number().int().min(1).optional();

/** A change to running rounds; who may make which is ruled by `roundChangesFor` of the core. */
export const RoundChangeBody = z.discriminatedUnion('kind', [
  z.strictObject({ kind: z.literal('remind') }),
  z.strictObject({ kind: z.literal('reassign'), from: Id, to: Id }),
  z.strictObject({ kind: z.literal('take over'), from: Id }),
  z.strictObject({ kind: z.literal('add person'), person: Id, step: StepNumber }),
  z.strictObject({ kind: z.literal('add step'), added: AdHocStepBody, workingDays: z.number().int().min(0).max(250) }),
  z.strictObject({ kind: z.literal('extend'), workingDays: z.number().int().min(1).max(250), step: StepNumber }),
  z.strictObject({ kind: z.literal('skip step'), step: StepNumber }),
  z.strictObject({ kind: z.literal('cancel') }),
]);
export type RoundChangeBody = z.infer<typeof RoundChangeBody>;

export const BOTTLENECK_GROUPS = ['step', 'person', 'department', 'month'] as const;
export type BottleneckGroup = (typeof BOTTLENECK_GROUPS)[number];
export const Bottleneck = z.object({
  key: z.string(),
  name: z.string(),
  answers: z.number().int(),
  medianDays: z.number(),
  slowDays: z.number(),
  latePercent: z.number().int(),
  rejections: z.number().int(),
});
export type Bottleneck = z.infer<typeof Bottleneck>;

export const rounds = {
  open: endpoint({
    id: 'openRounds',
    feature: 'rounds',
    method: 'GET',
    path: '/api/rounds',
    summary: 'Open rounds that one controls, started or supervises somebody in, the earliest due first',
    query: z.strictObject({
      only: z.enum(ROUND_FILTERS).optional(),
      person: Id.optional(),
      q: text(200).optional(),
      after: z.string().max(200).optional(),
    }),
    answer: OpenRounds,
    problems: ['input_invalid'],
  }),
  awaited: endpoint({
    id: 'awaitedPeople',
    feature: 'rounds',
    method: 'GET',
    path: '/api/rounds/awaited',
    summary: 'For whom these open rounds wait, whomever most wait for first, at most 200',
    query: z.strictObject({ q: text(200).optional() }),
    answer: z.object({ people: z.array(z.object({ id: Id, name: z.string(), rounds: z.number().int() })) }),
    problems: ['input_invalid'],
  }),
  change: endpoint({
    id: 'changeRounds',
    feature: 'rounds',
    method: 'POST',
    path: '/api/rounds/change',
    summary: 'Remind, reassign, take over, add a person, extend, skip a step or cancel, in one or many rounds',
    body: z.strictObject({
      rounds: z.array(Id).min(1).max(MOST_CHANGED),
      change: RoundChangeBody,
      reason: text(500).default(''),
    }),
    answer: z.object({
      changed: z.number().int(),
      refused: z.array(z.object({ round: Id, number: z.string(), reasons: z.array(z.string()) })),
    }),
    problems: ['input_invalid', 'reason_missing'],
  }),
  bottlenecks: endpoint({
    id: 'bottlenecks',
    feature: 'rounds',
    method: 'GET',
    path: '/api/rounds/bottlenecks',
    summary: 'How long answers took in the last twelve months, by step, person, department or month',
    query: z.strictObject({ by: z.enum(BOTTLENECK_GROUPS).optional() }),
    answer: z.object({ rows: z.array(Bottleneck) }),
    problems: ['input_invalid'],
  }),
  tryRoute: endpoint({
    id: 'tryRoute',
    feature: 'rounds',
    method: 'POST',
    path: '/api/rules/types/:id/route-trial',
    access: 'administer',
    summary: 'Try a route before it is used: whom it would ask for documents of the type, and where it would stop',
    params: z.strictObject({ id: Id }),
    body: z.strictObject({
      route: Route,
      fallbackApproverId: Id.nullable().default(null),
      /** Tried as if each document were changed so; otherwise by its own last change. */
      changeKind: ChangeKindSchema.optional(),
    }),
    answer: z.object({
      doubts: z.array(
        z.object({
          kind: z.enum(ROUTE_DOUBTS),
          steps: z.array(z.string()),
          person: z.string().nullable(),
          needed: z.number().int().nullable(),
          named: z.number().int().nullable(),
        }),
      ),
      tried: z.number().int(),
      all: z.number().int(),
      stopped: z.number().int(),
      documents: z.array(
        DocumentLine.extend({
          steps: z.array(
            z.object({
              name: z.string(),
              applies: z.boolean(),
              people: z.array(z.string()),
              problem: z.string().nullable(),
            }),
          ),
          problems: z.array(
            z.object({ kind: z.enum(TRIAL_PROBLEMS), steps: z.array(z.string()), person: z.string().nullable() }),
          ),
          forecast: Forecast.nullable(),
        }),
      ),
    }),
    problems: ['not_found', 'input_invalid'],
  }),
  pastAnswers: endpoint({
    id: 'pastAnswers',
    feature: 'rounds',
    method: 'GET',
    path: '/api/rounds/past-answers',
    summary: 'The answers behind one figure of the bottlenecks, the slowest first',
    query: z.strictObject({ by: z.enum(BOTTLENECK_GROUPS), key: z.string().max(300) }),
    answer: z.object({
      rows: z.array(
        DocumentLine.extend({
          round: z.number().int(),
          step: z.string(),
          person: z.string(),
          decision: z.string(),
          asked: Day,
          answered: Day,
          workingDays: z.number().int(),
          late: z.boolean(),
        }),
      ),
    }),
    problems: ['input_invalid'],
  }),
};
