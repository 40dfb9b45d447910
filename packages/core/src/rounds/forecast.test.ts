import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { addDays } from '../calendar/zone.ts';
import type { DoneRule } from '../routes/route.ts';
import {
  type AwaitedPerson,
  dayTables,
  forecastRound,
  groupPastAnswers,
  type PastAnswer,
  type RemainingStep,
} from './forecast.ts';

// Monday, 30 November 2026; 8 December is a holiday.
const TODAY = '2026-11-30';
const CALENDAR = { week: [1, 2, 3, 4, 5], holidays: new Set(['2026-12-08']) };
const at = () => ({ today: TODAY, tables: dayTables(TODAY, CALENDAR) });
const awaited = (person: string, waited = 0, absences: AwaitedPerson['absences'] = []): AwaitedPerson => ({
  person,
  waited,
  absences,
});
const step = (given: Partial<RemainingStep>): RemainingStep => ({
  type: 'PRO',
  name: 'Review',
  kind: 'review',
  rule: { kind: 'all' },
  positive: 0,
  awaited: [awaited('a')],
  workingDays: 5,
  ...given,
});
const past = (days: readonly number[], given: Partial<PastAnswer> = {}): PastAnswer[] =>
  days.map((workingDays) => ({ person: 'a', type: 'PRO', step: 'Review', kind: 'review', workingDays, ...given }));
const times = (n: number, days: number) => Array.from({ length: n }, () => days);

describe('the forecast of a round', () => {
  it('is the one possible day where answers always took the same', () => {
    const known = groupPastAnswers(past(times(6, 3)));
    expect(forecastRound([step({})], known, at())).toEqual({
      half: '2026-12-03',
      mostly: '2026-12-03',
      nearlyAll: '2026-12-03',
    });
  });

  it('adds steps, and leaves weekends and holidays out', () => {
    const known = groupPastAnswers(past(times(6, 3)));
    // Thursday 3 December, then Friday, Monday, and Wednesday after the holiday.
    expect(forecastRound([step({}), step({ name: 'Review' })], known, at())?.half).toBe('2026-12-09');
  });

  it('lets steps of one stage run at the same time', () => {
    const known = groupPastAnswers(past(times(6, 3)));
    const [first, beside, last] = [step({ stage: 0 }), step({ stage: 0 }), step({ stage: 1 })];
    expect(forecastRound([first, beside], known, at())?.half).toBe('2026-12-03');
    expect(forecastRound([first, beside, last], known, at())?.half).toBe('2026-12-09');
  });

  it('counts only what took at least as long as it has waited', () => {
    const known = groupPastAnswers(past([...times(20, 1), ...times(5, 8)]));
    expect(forecastRound([step({ awaited: [awaited('a', 6)] })], known, at())?.half).toBe('2026-12-02');
  });

  it('asks the wider group where the narrower knows fewer than five', () => {
    const known = groupPastAnswers([...past(times(4, 9)), ...past(times(30, 2), { person: 'b' })]);
    // Four of the person alone say too little; of this step 30 of 34 took two days.
    expect(forecastRound([step({})], known, at())?.half).toBe('2026-12-02');
  });

  it('goes by the days of the step where nothing is known', () => {
    expect(forecastRound([step({ workingDays: 4 })], groupPastAnswers([]), at())?.half).toBe('2026-12-04');
  });

  it('expects who has waited longer than anybody ever did on the next working day', () => {
    const known = groupPastAnswers(past(times(9, 2)));
    expect(forecastRound([step({ awaited: [awaited('a', 30)] })], known, at())?.nearlyAll).toBe('2026-12-01');
  });

  it('does not count days on which the person is absent', () => {
    const known = groupPastAnswers(past(times(6, 1)));
    const absent = awaited('a', 0, [{ from: '2026-11-28', to: '2026-12-14' }]);
    expect(forecastRound([step({ awaited: [absent] })], known, at())?.half).toBe('2026-12-15');
  });

  it.each<[string, DoneRule, number, string]>([
    ['all wait for the slowest', { kind: 'all' }, 0, '2026-12-04'],
    ['any one for the quickest', { kind: 'any one' }, 0, '2026-12-01'],
    ['two of three for the second', { kind: 'k of n', k: 2 }, 0, '2026-12-02'],
    ['two of three, one given, for the quickest of the others', { kind: 'k of n', k: 2 }, 1, '2026-12-01'],
    ['in sequence for one after another', { kind: 'in sequence' }, 0, '2026-12-10'],
  ])('%s', (_, rule, positive, day) => {
    const known = groupPastAnswers([
      ...past(times(5, 1), { person: 'a' }),
      ...past(times(5, 2), { person: 'b' }),
      ...past(times(5, 4), { person: 'c' }),
    ]);
    const people = ['a', 'b', 'c'].slice(positive ? 1 : 0).map((one) => awaited(one));
    const days = positive ? [awaited('a'), ...people.slice(1)] : people;
    expect(forecastRound([step({ rule, positive, awaited: days })], known, at())?.half).toBe(day);
  });

  it('comes close to a known distribution: half of one to ten days is at five or six', () => {
    const known = groupPastAnswers(past(Array.from({ length: 100 }, (_, i) => (i % 10) + 1)));
    const found = forecastRound([step({})], known, at());
    expect(['2026-12-07', '2026-12-09']).toContain(found?.half);
    // Eight working days on, and the last of the ten at the most.
    expect(found?.mostly).toBe('2026-12-11');
    expect(['2026-12-14', '2026-12-15']).toContain(found?.nearlyAll);
  });

  it('gives nothing where nobody is awaited', () => {
    expect(forecastRound([step({ awaited: [] })], groupPastAnswers([]), at())).toBeUndefined();
  });

  it('is never before today, never out of order, and the same for the same input', () => {
    fc.assert(
      fc.property(
        fc.array(fc.integer({ min: 0, max: 40 }), { maxLength: 30 }),
        fc.array(fc.integer({ min: 0, max: 60 }), { minLength: 1, maxLength: 4 }),
        fc.constantFrom<DoneRule>(
          { kind: 'all' },
          { kind: 'any one' },
          { kind: 'in sequence' },
          { kind: 'k of n', k: 1 },
        ),
        fc.integer({ min: 0, max: 30 }),
        (days, waits, rule, away) => {
          const people = waits.map((waited, i) =>
            awaited(`p${i}`, waited, away ? [{ from: TODAY, to: addDays(TODAY, away) }] : []),
          );
          const known = groupPastAnswers(past(days, { person: 'p0' }));
          const ask = () => forecastRound([step({ rule, awaited: people })], known, { ...at(), draws: 200 });
          const found = ask();
          expect(found).toEqual(ask());
          expect(found && found.half >= TODAY && found.half <= found.mostly && found.mostly <= found.nearlyAll).toBe(
            true,
          );
        },
      ),
      { numRuns: 60 },
    );
  });

  it('is later, never earlier, when a person is away longer', () => {
    const known = groupPastAnswers(past([1, 2, 3, 4, 5, 6, 7]));
    const until = (days: number) =>
      forecastRound([step({ awaited: [awaited('a', 0, [{ from: TODAY, to: addDays(TODAY, days) }])] })], known, at())
        ?.half ?? '';
    for (let days = 0; days < 20; days++) expect(until(days + 1) >= until(days)).toBe(true);
  });
});
