import { z } from 'zod';
import { Day, Id, Instant, PersonRef, RowVersion, text } from './common.ts';
import { endpoint } from './endpoint.ts';
import { Field } from './rules.ts';

const FieldKey = z.string().min(1).max(60);

/** What makes a rule start a round. */
export const RoundOccasion = z.discriminatedUnion('on', [
  z.strictObject({ on: z.literal('in force') }),
  z.strictObject({ on: z.literal('withdrawn') }),
  z.strictObject({ on: z.literal('file arrived') }),
  z.strictObject({ on: z.literal('field changed'), field: FieldKey }),
  z.strictObject({
    on: z.literal('day reached'),
    field: FieldKey,
    /** So many days after the day of the field; negative: before it. */
    days: z.number().int().min(-3650).max(3650),
  }),
]);
export type RoundOccasion = z.infer<typeof RoundOccasion>;

const Asked = {
  typeId: Id,
  /** Only documents of this folder and of those below it. */
  folderId: Id.nullable(),
  occasion: RoundOccasion,
  /** Only documents that meet it, as the condition of a step. */
  condition: text(500).nullable(),
  /** A route of the type that leads to nothing, by its name. */
  route: text(80, 1),
  /** In whose name the rounds are. */
  responsibleId: Id,
};

export const RoundRule = z.object({
  id: Id,
  rowVersion: RowVersion,
  name: z.string(),
  ...Asked,
  type: z.object({ code: z.string(), name: z.string() }),
  folder: z.string().nullable(),
  /** The label of the field that the occasion names. */
  field: z.string().nullable(),
  responsible: PersonRef,
  active: z.boolean(),
  /** Rounds that it started, and the occasions on which it could not. */
  started: z.number().int(),
  failed: z.number().int(),
  last: Instant.nullable(),
});
export type RoundRule = z.infer<typeof RoundRule>;

/** What a rule did on an occasion, or would have done. */
export const RuleStart = z.object({
  documentId: Id,
  number: z.string(),
  title: z.string(),
  /** When it was the occasion: a moment, or the day that was reached. */
  at: Instant.nullable(),
  day: Day.nullable(),
  /** Whom the round asks first; in words why there is none. */
  asks: z.array(z.string()),
  problem: z.string().nullable(),
});
export type RuleStart = z.infer<typeof RuleStart>;

const PROBLEMS = [
  'input_invalid',
  'not_found',
  'changed_meanwhile',
  'rule_name_taken',
  'occasion_field_unknown',
  'route_not_offered',
  'person_inactive',
  'condition_without_field',
  'condition_field_unknown',
  'search_field_unknown',
] as const;

/** Rules that start rounds: on which occasion, on which documents, by which route. */
export const roundRules = {
  list: endpoint({
    id: 'roundRules',
    feature: 'roundRules',
    method: 'GET',
    path: '/api/round-rules',
    access: 'administer',
    summary: 'The rules that start rounds, and what each may name of the types',
    answer: z.object({
      rules: z.array(RoundRule),
      types: z.array(
        z.object({
          id: Id,
          code: z.string(),
          name: z.string(),
          /** Its routes that lead to nothing. */
          routes: z.array(z.string()),
          fields: z.array(Field),
        }),
      ),
    }),
  }),
  save: endpoint({
    id: 'saveRoundRule',
    feature: 'roundRules',
    method: 'POST',
    path: '/api/round-rules',
    access: 'administer',
    summary: 'Add a rule that starts rounds, or change one; it looks at what happens from now on',
    body: z.strictObject({
      id: Id.optional(),
      rowVersion: RowVersion.optional(),
      name: text(80, 1),
      active: z.boolean(),
      reason: text(500, 1),
      ...Asked,
    }),
    answer: z.object({ id: Id }),
    problems: [...PROBLEMS],
  }),
  remove: endpoint({
    id: 'removeRoundRule',
    feature: 'roundRules',
    method: 'POST',
    path: '/api/round-rules/:id/remove',
    access: 'administer',
    summary: 'Remove a rule; the rounds that it started go on',
    params: z.strictObject({ id: Id }),
    body: z.strictObject({ rowVersion: RowVersion, reason: text(500, 1) }),
    problems: ['input_invalid', 'not_found', 'changed_meanwhile'],
  }),
  try: endpoint({
    id: 'tryRoundRule',
    feature: 'roundRules',
    method: 'POST',
    path: '/api/round-rules/try',
    access: 'administer',
    summary:
      'Which rounds a rule would have started in the last 30 days, of documents that I may see; nothing is changed',
    body: z.strictObject(Asked),
    answer: z.object({
      /** Occasions, documents that do not meet the condition left out. */
      rounds: z.number().int(),
      starts: z.array(RuleStart),
    }),
    problems: [...PROBLEMS],
  }),
  log: endpoint({
    id: 'roundRuleLog',
    feature: 'roundRules',
    method: 'GET',
    path: '/api/round-rules/:id/log',
    access: 'administer',
    summary: 'What a rule started, and what it could not start, of documents that I may see; the newest first',
    params: z.strictObject({ id: Id }),
    answer: z.object({ starts: z.array(RuleStart) }),
    problems: ['not_found'],
  }),
};
