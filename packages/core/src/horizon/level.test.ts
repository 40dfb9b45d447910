import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { addDays } from '../calendar/zone.ts';
import { levelWeeks, type Movable } from './level.ts';
import { weekOf } from './load.ts';

const WEEKS = ['2026-11-30', '2026-12-07', '2026-12-14', '2026-12-21', '2026-12-28'];
const isWorkingDay = (day: string) => ![0, 6].includes(new Date(`${day}T00:00:00Z`).getUTCDay());
const none = (minutes = 0) => new Map(WEEKS.map((week) => [week, minutes]));
const review = (id: string, day: string, changes: Partial<Movable> = {}): Movable => ({
  id,
  day,
  earliest: '2026-12-02',
  latest: '2027-01-31',
  minutes: 60,
  ...changes,
});

describe('levelling', () => {
  it('moves what is too much to the nearest week, an earlier one first, on the same weekday', () => {
    const three = ['a', 'b', 'c'].map((id) => review(id, '2026-12-10'));
    expect(levelWeeks(three, none(), 120, isWorkingDay)).toEqual([{ id: 'a', from: '2026-12-10', to: '2026-12-03' }]);
    expect(levelWeeks(three, none(), 60, isWorkingDay)).toEqual([
      { id: 'a', from: '2026-12-10', to: '2026-12-03' },
      { id: 'b', from: '2026-12-10', to: '2026-12-17' },
    ]);
  });

  it('moves nothing where every week holds its work', () => {
    expect(levelWeeks([review('a', '2026-12-10')], none(30), 120, isWorkingDay)).toEqual([]);
  });

  it('keeps to the limits of each, and first moves what has the most room', () => {
    const tight = review('a', '2026-12-10', { earliest: '2026-12-10', latest: '2026-12-11' });
    expect(levelWeeks([tight, review('b', '2026-12-10')], none(), 60, isWorkingDay).map(({ id }) => id)).toEqual(['b']);
    expect(levelWeeks([tight, { ...tight, id: 'b' }], none(), 60, isWorkingDay)).toEqual([]);
  });

  it('takes a working day, and counts work that stays', () => {
    const two = ['a', 'b'].map((id) => review(id, '2026-12-12', { earliest: '2026-12-13' }));
    const [move] = levelWeeks(two, none(), 60, isWorkingDay);
    expect(move).toEqual({ id: 'a', from: '2026-12-12', to: '2026-12-18' });
    const other = none();
    other.set('2026-12-14', 30);
    expect(levelWeeks(two, other, 60, isWorkingDay)[0]?.to).toBe('2026-12-25');
  });

  it('is never worse: no week above its capacity that was not, none higher than before, nothing beyond its limits', () => {
    const one = fc.record({
      id: fc.uuid(),
      day: fc.integer({ min: 0, max: 34 }).map((n) => addDays('2026-11-30', n)),
      before: fc.integer({ min: 0, max: 20 }),
      after: fc.integer({ min: 0, max: 40 }),
      minutes: fc.integer({ min: 1, max: 200 }),
    });
    fc.assert(
      fc.property(
        fc.uniqueArray(one, { selector: ({ id }) => id, maxLength: 30 }),
        fc.array(fc.integer({ min: 0, max: 300 }), { minLength: 5, maxLength: 5 }),
        fc.integer({ min: 0, max: 600 }),
        (given, stays, capacity) => {
          const movable = given.map(({ id, day, before, after, minutes }) => ({
            id,
            day,
            minutes,
            earliest: addDays(day, -before),
            latest: addDays(day, after),
          }));
          const other = new Map(WEEKS.map((week, i) => [week, stays[i] ?? 0]));
          const moves = levelWeeks(movable, other, capacity, isWorkingDay);
          const loads = (days: ReadonlyMap<string, string>) =>
            WEEKS.map((week) =>
              movable
                .filter(({ id, day }) => weekOf(days.get(id) ?? day) === week)
                .reduce((sum, { minutes }) => sum + minutes, other.get(week) ?? 0),
            );
          const [before, after] = [loads(new Map()), loads(new Map(moves.map(({ id, to }) => [id, to])))];
          for (const [i, load] of after.entries())
            expect(load <= Math.max(capacity, before[i] ?? 0), JSON.stringify({ before, after, capacity })).toBe(true);
          expect(after.reduce((a, b) => a + b, 0)).toBe(before.reduce((a, b) => a + b, 0));
          expect(new Set(moves.map(({ id }) => id)).size).toBe(moves.length);
          for (const { id, from, to } of moves) {
            const moved = movable.find((each) => each.id === id);
            expect(from).toBe(moved?.day);
            expect(to >= (moved?.earliest ?? '') && to <= (moved?.latest ?? '') && isWorkingDay(to)).toBe(true);
          }
        },
      ),
    );
  });
});
