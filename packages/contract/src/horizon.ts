import { HORIZON_KINDS } from '@kanonos/core';
import { z } from 'zod';
import { Day, Id, PersonRef, RefusalSchema, text } from './common.ts';
import { Mark } from './documents.ts';
import { endpoint } from './endpoint.ts';

/** Something that comes due: what, on which day, of which document, and who does it. */
export const HorizonItem = z.object({
  id: z.string(),
  kind: z.enum(HORIZON_KINDS),
  day: Day,
  overdue: z.boolean(),
  documentId: Id,
  number: z.string(),
  title: z.string(),
  label: z.string(),
  mark: Mark,
  /** Who does it; nobody by name where several people read. */
  person: PersonRef.nullable(),
  /** How many people have to read. */
  people: z.number().int(),
  /** What is to be done, where it is a task of a change note. */
  what: z.string(),
  minutes: z.number().int(),
});
export type HorizonItem = z.infer<typeof HorizonItem>;

/** Whose, and up to which day. */
const Asked = {
  until: Day.optional(),
  /** My own, or all that I answer for. */
  whose: z.enum(['mine', 'all']).default('mine'),
  person: Id.optional(),
  department: Id.optional(),
};

/** What comes due in the months ahead. */
export const horizon = {
  show: endpoint({
    id: 'horizon',
    feature: 'horizon',
    method: 'GET',
    path: '/api/horizon',
    summary:
      'Reviews, effective days, readings, check-outs and tasks that come due up to a day, overdue ones first, with the load of each week',
    query: z.strictObject(Asked),
    answer: z.object({
      from: Day,
      until: Day,
      mayAll: z.boolean(),
      items: z.array(HorizonItem),
      weeks: z.array(z.object({ week: Day, reading: z.number().int(), review: z.number().int() })),
      /** More than could be listed came due. */
      isCut: z.boolean(),
    }),
    problems: ['input_invalid', 'right_missing'],
  }),
  level: endpoint({
    id: 'levelHorizon',
    feature: 'horizon',
    method: 'GET',
    path: '/api/horizon/level',
    summary: 'Other days for reviews in weeks with more work than they hold; nothing is moved',
    query: z.strictObject({
      ...Asked,
      /** What a week holds of reading and reviewing. */
      hours: z.coerce.number().int().min(1).max(1000).default(12),
    }),
    answer: z.object({
      moves: z.array(
        z.object({
          documentId: Id,
          number: z.string(),
          title: z.string(),
          person: PersonRef.nullable(),
          from: Day,
          to: Day,
        }),
      ),
      /** How many weeks have more than they hold: before the reviews are moved, and after. */
      overfull: z.object({ before: z.number().int(), after: z.number().int() }),
    }),
    problems: ['input_invalid', 'right_missing'],
  }),
  move: endpoint({
    id: 'moveReviews',
    feature: 'horizon',
    method: 'POST',
    path: '/api/horizon/level',
    summary: 'Move reviews to other days, each on its own: those that cannot be moved are named',
    body: z.strictObject({
      moves: z
        .array(z.strictObject({ documentId: Id, from: Day, to: Day }))
        .min(1)
        .max(200),
      reason: text(500, 1),
    }),
    answer: z.object({
      moved: z.number().int(),
      left: z.array(z.object({ documentId: Id, refusals: z.array(RefusalSchema) })),
    }),
    problems: ['input_invalid'],
  }),
};
