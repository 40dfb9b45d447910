import { describe, expect, test } from 'vitest';
import type { RouteDefinition, StepDefinition, StepKind } from '../routes/route.ts';
import { routeStep } from '../testing/routeStep.ts';
import { decideAddStep, placeOfAdded, type RunningStep, withStepAt } from './addStep.ts';

const running = (...steps: (readonly [StepKind, RunningStep['state'], number?])[]): RunningStep[] =>
  steps.map(([kind, state, stage], at) => ({ kind, state, stage: stage ?? at }));
const RELEASE = {};
const NOTHING = { leadsTo: 'nothing' as const };

describe('the place of a step that is added', () => {
  test.each([
    [
      'after the open ones',
      running(['review', 'open', 0], ['review', 'done', 0], ['approval', 'waiting', 1]),
      'review',
      RELEASE,
      2,
    ],
    [
      'before what waits where nothing is open',
      running(['review', 'done'], ['approval', 'waiting']),
      'task',
      RELEASE,
      1,
    ],
    ['last for an approval', running(['review', 'open'], ['approval', 'waiting']), 'approval', RELEASE, 2],
    [
      'next for a signature that leads to nothing',
      running(['review', 'open'], ['review', 'waiting']),
      'approval',
      NOTHING,
      1,
    ],
  ] as const)('is %s', (_, steps, kind, route, place) => {
    expect(placeOfAdded(steps, kind, route)).toBe(place);
  });
});

test('nothing but an approval is added once something is being approved, and nothing to what has ended', () => {
  const approving = running(['review', 'done'], ['approval', 'open']);
  const codes = (steps: RunningStep[], kind: StepKind, route: object = RELEASE) =>
    decideAddStep(steps, { name: 'More', kind }, route).map(({ code }) => code);
  expect(codes(approving, 'review')).toEqual(['step_after_approval']);
  expect(codes(approving, 'approval')).toEqual([]);
  expect(codes(approving, 'review', NOTHING)).toEqual([]);
  expect(codes(running(['review', 'done']), 'review')).toEqual(['no_step_open']);
});

test('a rejection leads back to the same step as before', () => {
  const step = (name: string, onReject: StepDefinition['onReject']) => routeStep(name, { onReject });
  const route: RouteDefinition = { name: '', steps: [step('a', 'draft'), step('b', 0), step('c', 1)] };
  const after = withStepAt(route, 1, step('new', 'draft'));
  expect(after.steps.map(({ name, onReject }) => [name, onReject])).toEqual([
    ['a', 'draft'],
    ['new', 'draft'],
    ['b', 0],
    ['c', 2],
  ]);
});
