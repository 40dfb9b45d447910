import { expect, test } from 'vitest';
import type { RouteDefinition } from '../routes/route.ts';
import { checkTypePolicy, NO_POLICY, routeOf } from './typePolicy.ts';

const route = (name: string, asks = true): RouteDefinition => ({
  name,
  steps: [
    {
      name: 'Approve',
      kind: 'approval',
      assignees: asks ? [{ by: 'owner' }] : [],
      rule: { kind: 'all' },
      workingDays: 3,
      onReject: 'draft',
    },
  ],
});

test('a change kind takes its own route, every other one that of the type', () => {
  const policy = { ...NO_POLICY, route: route('whole'), routes: { editorial: route('short') } };
  expect(['first issue', 'minor', 'major', 'editorial', undefined].map((kind) => routeOf(policy, kind).name)).toEqual([
    'whole',
    'whole',
    'whole',
    'short',
    'whole',
  ]);
});

test('routes of change kinds are checked like that of the type; a sharing code is unique', () => {
  expect(checkTypePolicy({ ...NO_POLICY, routes: { minor: route('x', false) } }).map((r) => r.code)).toEqual([
    'step_asks_nobody',
  ]);
  const sharing = ['S1', 'S2', 'S1'].map((code) => ({ code, text: code }));
  expect(checkTypePolicy({ ...NO_POLICY, sharing }).map((r) => r.params?.code)).toEqual(['S1']);
});
