import { z } from 'zod';
import { Day, Id, Instant, PersonRef, TypeRef, text } from './common.ts';
import { endpoint } from './endpoint.ts';
import { TABLE_PROBLEMS } from './uploadEndpoints.ts';

/** Most numbers that are judged in one call; the rule bench sends its list in such pieces. */
export const JUDGED_AT_ONCE = 5000;

const Codes = z.object({
  types: z.array(z.string()),
  areas: z.array(z.string()),
  departments: z.array(z.string()),
  fields: z.record(z.string(), z.array(z.string())),
});
export const NumberRule = z.object({
  rule: z.string(),
  /** A rule of the past counts with the numbers that it gave in a scope. */
  retired: z.object({ scope: z.string(), last: z.number().int() }).nullable(),
  types: z.array(TypeRef),
  codes: Codes,
  scopes: z.array(
    z.object({
      scope: z.string(),
      last: z.number().int(),
      /** The last number before the organisation: what is free up to it is no gap. */
      startedAt: z.number().int(),
      /** Numbers given since: to documents, reserved or void. */
      given: z.number().int(),
      /** Numbers before the organisation that came in by taking over. */
      takenOver: z.number().int(),
      /** Numbers since the start that nothing accounts for, from and to; the first twenty. There should be none. */
      gaps: z.array(z.tuple([z.number().int(), z.number().int()])),
    }),
  ),
});
export type NumberRule = z.infer<typeof NumberRule>;

export const Reservation = z.object({
  id: Id,
  type: TypeRef,
  first: z.string(),
  last: z.string(),
  count: z.number().int(),
  open: z.number().int(),
  forPerson: PersonRef,
  by: PersonRef,
  at: Instant,
  reason: z.string(),
  until: Day,
  endedWhy: z.string().nullable(),
});
export type Reservation = z.infer<typeof Reservation>;

export const Known = z.object({
  folded: z.string(),
  /** Exists: a document that the asker may see; taken: one that the asker may not. */
  state: z.enum(['exists', 'taken', 'void', 'reserved']),
  title: z.string().nullable(),
  words: z.string().nullable(),
});
export type Known = z.infer<typeof Known>;

/** Where a number counts: what would be registered, and where it would be filed. */
const Place = {
  typeId: Id,
  folderId: Id,
  metadata: z.record(z.string().max(60), z.string().max(200)).default({}),
};

/** Why no number counts there. */
const PLACE_PROBLEMS = [
  'not_found',
  'input_invalid',
  'number_needs_field_value',
  'number_too_long',
  'number_is_external',
] as const;

export const numbers = {
  rules: endpoint({
    id: 'numberRules',
    feature: 'numbers',
    method: 'GET',
    path: '/api/numbers/rules',
    access: 'administer',
    summary: 'Numbering rules with their codes and the counters that they have begun',
    answer: z.object({ rules: z.array(NumberRule) }),
  }),
  known: endpoint({
    id: 'knownNumbers',
    feature: 'numbers',
    method: 'POST',
    path: '/api/numbers/known',
    access: 'administer',
    summary: 'Which of some numbers are taken by a document, reserved, or void',
    body: z.strictObject({ folded: z.array(z.string().max(240)).max(JUDGED_AT_ONCE) }),
    answer: z.object({ known: z.array(Known) }),
    problems: ['input_invalid'],
  }),
  lines: endpoint({
    id: 'numberLines',
    feature: 'numbers',
    method: 'POST',
    path: '/api/numbers/lines',
    access: 'administer',
    summary: 'The numbers of an uploaded table (CSV or XLSX): of the column with most numbers of the organisation',
    body: z.strictObject({ uploadId: Id }),
    answer: z.object({ column: z.string(), lines: z.array(z.string()), note: z.string().nullable() }),
    problems: TABLE_PROBLEMS,
  }),
  reservations: endpoint({
    id: 'reservations',
    feature: 'numbers',
    method: 'GET',
    path: '/api/numbers/reservations',
    access: 'administer',
    summary: 'Reserved numbers, open ones first, and void numbers',
    answer: z.object({
      reservations: z.array(Reservation),
      voids: z.array(z.object({ number: z.string(), reason: z.string() })),
    }),
  }),
  reserve: endpoint({
    id: 'reserveNumbers',
    feature: 'numbers',
    method: 'POST',
    path: '/api/numbers/reservations',
    access: 'administer',
    summary: 'Reserve numbers of a counter for somebody',
    body: z.strictObject({
      ...Place,
      count: z.number().int().min(1, 'at least 1').max(500, 'at most 500'),
      forPersonId: Id,
      reason: text(500, 1),
      until: Day,
    }),
    answer: z.object({ id: Id, first: z.string(), last: z.string() }),
    problems: [...PLACE_PROBLEMS, 'day_not_after_today', 'person_inactive', 'type_retired'],
  }),
  start: endpoint({
    id: 'startCounter',
    feature: 'numbers',
    method: 'POST',
    path: '/api/numbers/counters',
    access: 'administer',
    summary: 'Set the starting number of a counter before its first number is taken',
    body: z.strictObject({
      ...Place,
      last: z.number().int().min(1, 'at least 1').max(999_999_999),
      reason: text(500, 1),
    }),
    answer: z.object({ scope: z.string(), next: z.string() }),
    problems: [...PLACE_PROBLEMS, 'type_retired', 'counter_begun'],
  }),
  endReservation: endpoint({
    id: 'endReservation',
    feature: 'numbers',
    method: 'POST',
    path: '/api/numbers/reservations/:id/end',
    access: 'administer',
    summary: 'End a reservation: its unused numbers become void with the reason',
    params: z.strictObject({ id: Id }),
    body: z.strictObject({ reason: text(500, 1) }),
    answer: z.object({ voided: z.number().int() }),
    problems: ['not_found', 'input_invalid', 'reservation_ended'],
  }),
};
