import { expect, test } from 'vitest';
import { checkRoute, leadsToRelease } from '../routes/route.ts';
import { type AdHocStep, adHocRoute, decideAdHocRound, type decideSignable } from './adHoc.ts';

const step = (name: string, more: Partial<AdHocStep> = {}): AdHocStep => ({
  name,
  kind: 'review',
  people: ['p1'],
  isAnyOne: false,
  beside: false,
  ...more,
});
const SIGN = step('Witness', { kind: 'approval', meaning: 'Witnessed' });
const on = (state: Parameters<typeof decideSignable>[0], lastDay: string | null = null) => ({
  state,
  lastDay,
  today: '2026-11-30',
});

test('a round made on the spot leads to nothing, and may ask for a comment after a signature', () => {
  const route = adHocRoute('Minutes', [SIGN, step('Comment', { isAnyOne: true, people: ['p1', 'p2'] })], 5);
  expect(leadsToRelease(route)).toBe(false);
  expect(checkRoute(route)).toEqual([]);
  expect(checkRoute({ ...route, leadsTo: undefined } as never).map(({ code }) => code)).toEqual([
    'step_after_approval',
  ]);
  expect(route.steps.map(({ rule, workingDays }) => [rule.kind, workingDays])).toEqual([
    ['all', 5],
    ['any one', 5],
  ]);
});

test.each([
  ['draft', ['signs_what_can_change']],
  ['in review', ['signs_what_can_change']],
  ['in approval', ['signs_what_can_change']],
  ['approved', []],
  ['in force', []],
  ['withdrawn', []],
] as const)('signing what is %s', (state, codes) => {
  expect(decideAdHocRound(adHocRoute('', [SIGN], 5), on(state)).map(({ code }) => code)).toEqual(codes);
  expect(decideAdHocRound(adHocRoute('', [step('Check')], 5), on(state))).toEqual([]);
});

test('the last day is today or later, and something is asked', () => {
  const route = adHocRoute('', [step('Check')], 5);
  expect(decideAdHocRound(route, on('draft', '2026-11-30'))).toEqual([]);
  expect(decideAdHocRound(route, on('draft', '2026-11-29')).map(({ code }) => code)).toEqual(['last_day_past']);
  expect(decideAdHocRound({ ...route, steps: [] }, on('draft')).map(({ code }) => code)).toEqual(['route_missing']);
});
