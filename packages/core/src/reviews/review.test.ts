import { describe, expect, it } from 'vitest';
import { addDays, isDay } from '../calendar/zone.ts';
import {
  checkReviewRule,
  decidePostponement,
  latestPostponement,
  nextReview,
  PLAIN_REVIEW,
  type ReviewOccasion,
  type ReviewRule,
} from './review.ts';

const release = (day: string, changeKind: string | null = 'major'): ReviewOccasion => ({
  on: 'release',
  day,
  changeKind,
});
const confirmed = (day: string, releasedOn: string): ReviewOccasion => ({ on: 'confirmation', day, releasedOn });
const next = (rule: Partial<ReviewRule>, every: number, occasion: ReviewOccasion, due: string | null = null) =>
  nextReview({ ...PLAIN_REVIEW, ...rule }, every, occasion, due);

describe('the day of the next review', () => {
  it.each([
    ['2026-01-31', 1, '2026-02-28'],
    ['2028-01-31', 1, '2028-02-29'],
    ['2024-02-29', 12, '2025-02-28'],
    ['2024-02-29', 48, '2028-02-29'],
    ['2026-10-31', 4, '2027-02-28'],
    ['2026-11-25', 24, '2028-11-25'],
  ])('is counted in months from %s, %i of them: %s', (day, every, expected) => {
    expect(next({}, every, release(day))).toBe(expected);
    expect(next({}, every, confirmed(day, '2020-01-01'))).toBe(expected);
  });

  it('is counted in days across a year and the change of clocks', () => {
    expect(next({ unit: 'days' }, 90, release('2026-12-31'))).toBe('2027-03-31');
  });

  it('is never where the interval is 0', () => {
    expect(next({}, 0, release('2026-01-31'), '2026-06-01')).toBeNull();
  });

  it('keeps the rhythm of the release, with its month ends, however late or early it is confirmed', () => {
    const rule = { from: 'release' } as const;
    expect(next(rule, 1, confirmed('2026-03-15', '2026-01-31'), '2026-02-28')).toBe('2026-03-31');
    expect(next(rule, 12, confirmed('2027-05-02', '2025-04-30'), '2027-04-30')).toBe('2028-04-30');
    // Two weeks before it was due: not again on that day.
    expect(next(rule, 12, confirmed('2027-04-16', '2025-04-30'), '2027-04-30')).toBe('2028-04-30');
  });

  it('falls on the fixed day, never later than the interval where one lies within it', () => {
    const rule = { from: 'fixed day', fixedDay: '03-31' } as const;
    expect(next(rule, 12, release('2026-11-25'))).toBe('2027-03-31');
    expect(next(rule, 24, release('2026-11-25'))).toBe('2028-03-31');
    expect(next(rule, 12, confirmed('2027-03-31', '2026-11-25'))).toBe('2028-03-31');
    // No fixed day within a quarter: the next one.
    expect(next(rule, 3, release('2026-11-25'))).toBe('2027-03-31');
    expect(next({ from: 'fixed day', fixedDay: '02-29' }, 12, release('2026-06-01'))).toBe('2027-02-28');
  });

  it('stays after a small change where the type says so, and not after a great one', () => {
    const rule = { minorChange: 'leaves the day' } as const;
    expect(next(rule, 12, release('2026-11-25', 'minor'), '2027-02-01')).toBe('2027-02-01');
    expect(next(rule, 12, release('2026-11-25', 'editorial'), '2027-02-01')).toBe('2027-02-01');
    expect(next(rule, 12, release('2026-11-25', 'major'), '2027-02-01')).toBe('2027-11-25');
    expect(next({}, 12, release('2026-11-25', 'minor'), '2027-02-01')).toBe('2027-11-25');
    // There was none before.
    expect(next(rule, 12, release('2026-11-25', 'minor'))).toBe('2027-11-25');
  });

  it('is a real day after the occasion, for any rule', () => {
    let seed = 7;
    const draw = (n: number) => {
      seed = (seed * 1103515245 + 12345) % 2147483648;
      return seed % n;
    };
    for (let i = 0; i < 2000; i++) {
      const unit = draw(2) ? 'months' : 'days';
      const day = addDays('2020-01-01', draw(4000));
      const releasedOn = addDays(day, -draw(2000));
      const rule = {
        unit,
        from: (['release', 'last review', 'fixed day'] as const)[draw(3)] ?? 'release',
        fixedDay: ['02-29', '12-31', '06-30'][draw(3)] ?? null,
        minorChange: 'counts as review',
      } as const;
      const every = 1 + draw(unit === 'months' ? 60 : 900);
      const due = draw(2) ? addDays(day, draw(100) - 50) : null;
      const found = nextReview(rule, every, draw(2) ? confirmed(day, releasedOn) : release(day), due) ?? '';
      expect(isDay(found), JSON.stringify({ rule, every, day, found })).toBe(true);
      expect(found > day).toBe(true);
    }
  });
});

describe('postponing a review', () => {
  const rule = { mostDaysPostponed: 60 };
  const given = { due: '2026-12-01', firstDue: '2026-12-01', today: '2026-11-25' };
  const codes = (to: string, more: Partial<typeof given> = {}) =>
    decidePostponement({ ...given, ...more, to }, rule).map(({ code }) => code);

  it('leads to a later day within the limit', () => {
    expect(codes('2027-01-30')).toEqual([]);
    expect(latestPostponement('2026-12-01', rule)).toBe('2027-01-30');
    expect(codes('2027-01-31')).toEqual(['review_postponed_too_far']);
  });

  it('counts from the day on which it was due first, so that it cannot be put off step by step', () => {
    expect(codes('2027-02-10', { due: '2027-01-20' })).toEqual(['review_postponed_too_far']);
  });

  it('does not lead to a day that is not later, or has passed', () => {
    expect(codes('2026-12-01')).toEqual(['review_not_later']);
    expect(codes('2026-11-25')).toEqual(['day_not_after_today']);
    expect(codes('2026-12-20', { due: '2026-12-01', today: '2026-12-20' })).toEqual(['day_not_after_today']);
  });
});

describe('the rule of a type', () => {
  const codes = (rule: Partial<ReviewRule>, every: number) =>
    checkReviewRule({ ...PLAIN_REVIEW, ...rule }, every).map(({ code }) => code);

  it('has an interval within its limit', () => {
    expect(codes({}, 240)).toEqual([]);
    expect(codes({}, 241)).toEqual(['review_every_invalid']);
    expect(codes({}, 1.5)).toEqual(['review_every_invalid']);
    expect(codes({ unit: 'days' }, 241)).toEqual([]);
  });

  it('names a day that there is where it counts from one', () => {
    expect(codes({ from: 'fixed day', fixedDay: '02-30' }, 12)).toEqual(['review_fixed_day_unknown']);
    expect(codes({ from: 'fixed day', fixedDay: null }, 12)).toEqual(['review_fixed_day_unknown']);
    expect(codes({ from: 'fixed day', fixedDay: '02-29' }, 12)).toEqual([]);
  });
});
