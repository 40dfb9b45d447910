import { z } from 'zod';
import { Day, Id, Instant, RowVersion, text } from './common.ts';
import { endpoint } from './endpoint.ts';
import { AssigneeRule, Difference } from './rules.ts';

/** One cell: whom a step of a route asks. */
export const SignatoryCell = z.object({
  step: z.number().int(),
  kind: z.string(),
  meaning: z.string().nullable(),
  assignees: z.array(AssigneeRule),
});
export type SignatoryCell = z.infer<typeof SignatoryCell>;

/** One route of a type; `cells` follow the columns, and hold nothing where the route has no such step. */
export const SignatoryRow = z.object({
  typeId: Id,
  code: z.string(),
  name: z.string(),
  rowVersion: RowVersion,
  /** How many documents the type has. */
  documents: z.number().int(),
  /** Where the route stands in its type: empty for that of the type, a change kind, or a further one. */
  place: z.string(),
  route: z.string(),
  /** A change of the type that waits for its day keeps others from being made. */
  planned: Day.nullable(),
  fields: z.array(z.object({ key: z.string(), label: z.string() })),
  cells: z.array(SignatoryCell.nullable()),
});
export type SignatoryRow = z.infer<typeof SignatoryRow>;

/** Who signs what: the steps of all routes of all types in one table. */
export const signatories = {
  table: endpoint({
    id: 'signatories',
    feature: 'rules',
    method: 'GET',
    path: '/api/rules/signatories',
    access: 'administer',
    summary: 'Whom each step of each route asks: types by steps',
    answer: z.object({
      columns: z.array(z.string()),
      rows: z.array(SignatoryRow),
      /** The people that are named in cells. */
      people: z.array(z.object({ id: Id, name: z.string() })),
    }),
  }),
  change: endpoint({
    id: 'changeSignatories',
    feature: 'rules',
    method: 'POST',
    path: '/api/rules/signatories',
    access: 'administer',
    summary: 'Change whom many steps ask, now or from a day on, all or none; rounds that run keep whom they ask',
    body: z.strictObject({
      cells: z
        .array(
          z.strictObject({ typeId: Id, rowVersion: RowVersion, place: z.string().max(40), step: z.number().int() }),
        )
        .min(1)
        .max(500),
      assignees: z.array(AssigneeRule).min(1, 'at least one').max(30),
      /** In place of those who are asked now, or besides them. */
      how: z.enum(['replace', 'add', 'remove']),
      reason: text(500, 1),
      from: Day.nullable().default(null),
    }),
    answer: z.object({ types: z.number().int() }),
    problems: [
      'input_invalid',
      'not_found',
      'changed_meanwhile',
      'nothing_changed',
      'rule_planned_already',
      'day_not_after_today',
      'way_names_unknown',
      'step_field_unknown',
      'step_asks_nobody',
    ],
  }),
  history: endpoint({
    id: 'signatoryHistory',
    feature: 'rules',
    method: 'GET',
    path: '/api/rules/signatories/history',
    access: 'administer',
    summary: 'What changed in the routes of all types, and what will, the newest first',
    answer: z.object({
      changes: z.array(
        z.object({
          typeId: Id,
          code: z.string(),
          /** When it was changed; null for what is planned. */
          at: Instant.nullable(),
          from: Day.nullable(),
          by: z.string(),
          reason: z.string(),
          differences: z.array(Difference),
        }),
      ),
    }),
  }),
};
