import { addDays } from '../calendar/zone.ts';
import type { FieldDefinition } from '../metadata/metadata.ts';
import { type Refusal, refusal } from '../result.ts';
import type { EventKind } from '../trail/eventKinds.ts';
import type { EventPayloads } from '../trail/eventPayloads.ts';

/** What makes a rule start a round on a document. */
export const OCCASION_KINDS = ['in force', 'withdrawn', 'field changed', 'file arrived', 'day reached'] as const;
export type OccasionKind = (typeof OCCASION_KINDS)[number];
export type Occasion =
  | { on: 'in force' | 'withdrawn' | 'file arrived' }
  /** A field of the type gets another value. */
  | { on: 'field changed'; field: string }
  /** A day field of the type is reached: so many days before it (negative), on it, or after it. */
  | { on: 'day reached'; field: string; days: number };

/** The events that can be the occasion of a rule, as they are on record in the audit trail. */
export const OCCASION_EVENTS: { readonly [K in Exclude<OccasionKind, 'day reached'>]: readonly EventKind[] } = {
  'in force': ['revision.in-force'],
  withdrawn: ['revision.withdrawn'],
  'field changed': ['metadata.corrected', 'metadata.changed-in-bulk', 'bulk-change.undone', 'version.checked-in'],
  'file arrived': ['document.registered', 'version.checked-in', 'document.imported'],
};

/** An event as far as rules look at it. */
export type OccasionEvent = { kind: EventKind; payload: unknown };

const textOf = (metadata: unknown, field: string): string =>
  JSON.stringify((metadata as Record<string, unknown> | undefined)?.[field] ?? null);

const changesField = ({ kind, payload }: OccasionEvent, field: string): boolean => {
  if (kind === 'metadata.corrected') {
    const { before, after } = payload as EventPayloads['metadata.corrected'];
    return textOf(before.metadata, field) !== textOf(after.metadata, field);
  }
  if (kind === 'metadata.changed-in-bulk' || kind === 'bulk-change.undone') {
    const { before, after } = payload as EventPayloads['metadata.changed-in-bulk'];
    return textOf(before, field) !== textOf(after, field);
  }
  return ((payload as EventPayloads['version.checked-in']).changed ?? []).includes(field);
};

/** Whether an event of the audit trail is an occasion for a rule. A day that is reached is no event: see `dayReached`. */
export const isOccasion = (occasion: Occasion, event: OccasionEvent): boolean => {
  if (occasion.on === 'day reached' || !OCCASION_EVENTS[occasion.on].includes(event.kind)) return false;
  if (occasion.on === 'field changed') return changesField(event, occasion.field);
  if (occasion.on === 'file arrived')
    return event.kind === 'document.imported' || Boolean((event.payload as { arrived?: string }).arrived);
  return true;
};

/** The day on which a rule starts a round for a value of its day field; undefined where the value is no day (ISO 8601). */
export const dayReached = (value: unknown, days: number): string | undefined =>
  typeof value === 'string' && /^\d{4}-\d{2}-\d{2}$/.test(value) ? addDays(value, days) : undefined;

/**
 * The values of a day field for which a rule is due after `since` up to `until`, as the first and the last of them: what a rule has not
 * looked at since it last ran, so that a standstill loses nothing and no day is looked at twice.
 */
export const dueValues = (days: number, since: string, until: string): { first: string; last: string } => ({
  first: addDays(since, 1 - days),
  last: addDays(until, -days),
});

/** What tells one occasion of a document from another: a rule starts at most one round for each. */
export const occasionKey = (of: { seq: string } | { value: string }): string =>
  'seq' in of ? `event ${of.seq}` : `day ${of.value}`;

/** Why a type cannot have this occasion: it has no such field, or the field is no day. */
export const checkOccasion = (
  occasion: Occasion,
  fields: readonly Pick<FieldDefinition, 'key' | 'kind'>[],
): Refusal[] => {
  if (!('field' in occasion)) return [];
  const field = fields.find(({ key }) => key === occasion.field);
  const fits = field && (occasion.on !== 'day reached' || field.kind === 'date');
  return fits ? [] : [refusal('occasion_field_unknown', { field: occasion.field })];
};
