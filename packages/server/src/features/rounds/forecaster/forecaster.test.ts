import { type AwaitedPerson, groupPastAnswers, type RemainingStep } from '@kanonos/core';
import { expect, test, vi } from 'vitest';
import { forecastApart } from './index.ts';

// Drawn here, it would throw: what is answered comes from the thread.
vi.mock('./draw.ts', () => ({
  drawAll: () => {
    throw new Error('drawn in the server itself');
  },
}));

const awaited = (person: string): AwaitedPerson => ({ person, waited: 0, absences: [] });
const step = (person: string): RemainingStep => ({
  type: 'PRO',
  name: 'Review',
  kind: 'review',
  rule: { kind: 'all' },
  positive: 0,
  workingDays: 3,
  awaited: [awaited(person)],
});
const past = (days: number) =>
  groupPastAnswers(
    Array.from({ length: 9 }, () => ({
      person: 'p',
      type: 'PRO',
      step: 'Review',
      kind: 'review' as const,
      workingDays: days,
    })),
  );
const ask = (rounds: RemainingStep[][], from: ReturnType<typeof past>) =>
  forecastApart(
    { rounds, today: '2026-11-30', calendar: { week: [1, 2, 3, 4, 5], holidays: new Set(['2026-12-08']) }, draws: 500 },
    from,
  );

test('forecasts are drawn in a thread, each with the past that it was asked with', async () => {
  const [quick, slow] = [past(2), past(10)];
  const [first, second, third] = await Promise.all([
    ask([[step('p')], [], [step('p'), step('p')]], quick),
    ask([[step('p')]], slow),
    ask([[step('p')]], quick),
  ]);
  expect(first.map((one) => one?.half)).toEqual(['2026-12-02', undefined, '2026-12-04']);
  // Ten working days, the holiday left out.
  expect(second[0]?.nearlyAll).toBe('2026-12-15');
  expect(third[0]?.half).toBe('2026-12-02');
});
