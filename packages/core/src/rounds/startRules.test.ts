import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { addDays } from '../calendar/zone.ts';
import { checkOccasion, dayReached, dueValues, isOccasion, type Occasion, type OccasionEvent } from './startRules.ts';

const corrected = (before: object, after: object): OccasionEvent => ({
  kind: 'metadata.corrected',
  payload: { before: { metadata: before }, after: { metadata: after }, reason: 'wrong' },
});
const LIMIT: Occasion = { on: 'field changed', field: 'limit' };

describe('an occasion', () => {
  test.each<[string, Occasion, OccasionEvent, boolean]>([
    ['a release', { on: 'in force' }, { kind: 'revision.in-force', payload: {} }, true],
    ['another event', { on: 'in force' }, { kind: 'revision.released', payload: {} }, false],
    ['a withdrawal', { on: 'withdrawn' }, { kind: 'revision.withdrawn', payload: {} }, true],
    ['a correction of the field', LIMIT, corrected({ limit: '5' }, { limit: '6' }), true],
    ['a correction that gives it its first value', LIMIT, corrected({}, { limit: '6' }), true],
    ['a correction of another field', LIMIT, corrected({ limit: '5', line: 'A' }, { limit: '5', line: 'B' }), false],
    [
      'a change of many',
      LIMIT,
      { kind: 'metadata.changed-in-bulk', payload: { before: { limit: '5' }, after: { limit: '7' } } },
      true,
    ],
    ['a check-in that changes it', LIMIT, { kind: 'version.checked-in', payload: { changed: ['limit'] } }, true],
    [
      'a check-in that only tells it',
      LIMIT,
      { kind: 'version.checked-in', payload: { metadata: { limit: '5' } } },
      false,
    ],
    [
      'a file that arrived',
      { on: 'file arrived' },
      { kind: 'version.checked-in', payload: { arrived: 'in/a.pdf' } },
      true,
    ],
    ['a check-in by hand', { on: 'file arrived' }, { kind: 'version.checked-in', payload: {} }, false],
    ['an import', { on: 'file arrived' }, { kind: 'document.imported', payload: {} }, true],
    ['a day', { on: 'day reached', field: 'limit', days: 0 }, { kind: 'revision.in-force', payload: {} }, false],
  ])('%s', (_what, occasion, event, is) => {
    expect(isOccasion(occasion, event)).toBe(is);
  });

  test('names a field of the type, and a day field where a day is reached', () => {
    const fields = [
      { key: 'limit', kind: 'text' },
      { key: 'until', kind: 'date' },
    ] as const;
    expect(checkOccasion(LIMIT, fields)).toEqual([]);
    expect(checkOccasion({ on: 'in force' }, [])).toEqual([]);
    expect(checkOccasion({ on: 'day reached', field: 'until', days: -30 }, fields)).toEqual([]);
    expect(checkOccasion({ on: 'day reached', field: 'limit', days: -30 }, fields)).toMatchObject([
      { code: 'occasion_field_unknown', params: { field: 'limit' } },
    ]);
    expect(checkOccasion({ on: 'field changed', field: 'gone' }, fields)).toHaveLength(1);
  });
});

describe('a day that is reached', () => {
  test('counts from the day of the field, and not from what is no day', () => {
    expect(dayReached('2027-01-31', -30)).toBe('2027-01-01');
    expect(dayReached('2028-02-28', 1)).toBe('2028-02-29');
    expect(dayReached('soon', 0)).toBeUndefined();
    expect(dayReached(undefined, 0)).toBeUndefined();
  });

  test('is looked at exactly once, however the days between two looks are divided', () => {
    fc.assert(
      fc.property(
        fc.integer({ min: -400, max: 400 }),
        fc.integer({ min: -60, max: 60 }),
        fc.array(fc.integer({ min: 0, max: 40 }), { minLength: 1, maxLength: 8 }),
        (days, offset, steps) => {
          const value = addDays('2026-06-01', offset);
          const start = '2026-05-01';
          let [since, seen] = [start, 0];
          for (const step of steps) {
            const until = addDays(since, step);
            const { first, last } = dueValues(days, since, until);
            if (value >= first && value <= last) seen++;
            since = until;
          }
          const due = dayReached(value, days) ?? '';
          expect(seen).toBe(due > start && due <= since ? 1 : 0);
        },
      ),
    );
  });
});
