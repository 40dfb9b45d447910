import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { addDays } from '../calendar/zone.ts';
import { type Due, HORIZON_KINDS, loadPerWeek, weekOf } from './load.ts';

describe('the week of a day', () => {
  it.each([
    ['2026-11-30', '2026-11-30'],
    ['2026-12-06', '2026-11-30'],
    ['2026-12-07', '2026-12-07'],
    ['2027-01-01', '2026-12-28'],
    ['2028-02-29', '2028-02-28'],
  ])('%s lies in the week of Monday %s', (day, monday) => {
    expect(weekOf(day)).toBe(monday);
  });
});

describe('the load of weeks', () => {
  const due = (day: string, kind: Due['kind'], minutes: number): Due => ({ day, kind, minutes });

  it('adds up reading and reviewing, with weeks in which nothing is to be done', () => {
    expect(
      loadPerWeek(
        [
          due('2026-12-01', 'reading', 30),
          due('2026-12-06', 'reading', 10),
          due('2026-12-15', 'review', 60),
          due('2026-12-01', 'effective', 5),
          due('2026-12-21', 'review', 60),
        ],
        '2026-12-01',
        '2026-12-20',
      ),
    ).toEqual([
      { week: '2026-11-30', reading: 40, review: 0 },
      { week: '2026-12-07', reading: 0, review: 0 },
      { week: '2026-12-14', reading: 0, review: 60 },
    ]);
  });

  it('counts what is overdue in the first week', () => {
    expect(loadPerWeek([due('2026-09-01', 'review', 60)], '2026-12-01', '2026-12-01')).toEqual([
      { week: '2026-11-30', reading: 0, review: 60 },
    ]);
  });

  it('loses nothing that is to be read or reviewed up to the last day', () => {
    const item = fc.record({
      day: fc.integer({ min: -40, max: 200 }).map((n) => addDays('2026-12-01', n)),
      kind: fc.constantFrom(...HORIZON_KINDS),
      minutes: fc.integer({ min: 0, max: 500 }),
    });
    fc.assert(
      fc.property(fc.array(item), fc.integer({ min: 0, max: 150 }), (items, length) => {
        const until = addDays('2026-12-01', length);
        const weeks = loadPerWeek(items, '2026-12-01', until);
        const counted = items.filter(({ kind, day }) => (kind === 'reading' || kind === 'review') && day <= until);
        expect(weeks.reduce((sum, { reading, review }) => sum + reading + review, 0)).toBe(
          counted.reduce((sum, { minutes }) => sum + minutes, 0),
        );
        expect(weeks.map(({ week }) => weekOf(week))).toEqual(weeks.map(({ week }) => week));
      }),
    );
  });
});
