import { expect, test } from 'vitest';
import type { RouteDefinition } from '../routes/route.ts';
import {
  allRoutes,
  checkTypePolicy,
  type FurtherRoute,
  NO_POLICY,
  routeOf,
  routesToChoose,
  routesToNothing,
} from './typePolicy.ts';

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
  expect(
    ['first issue', 'minor', 'major', 'editorial', undefined].map((kind) => routeOf(policy, { changeKind: kind }).name),
  ).toEqual(['whole', 'whole', 'whole', 'short', 'whole']);
});

test('routes of change kinds are checked like that of the type; a sharing code is unique', () => {
  expect(checkTypePolicy({ ...NO_POLICY, routes: { minor: route('x', false) } }).map((r) => r.code)).toEqual([
    'step_asks_nobody',
  ]);
  const sharing = ['S1', 'S2', 'S1'].map((code) => ({ code, text: code }));
  expect(checkTypePolicy({ ...NO_POLICY, sharing }).map((r) => r.params?.code)).toEqual(['S1']);
});

const where = (name: string, when: string): FurtherRoute => ({ route: route(name), taken: { by: 'condition', when } });
const choice = (name: string, mayChoose: 'author' | 'controller', leadsTo?: 'nothing'): FurtherRoute => ({
  route: { ...route(name), ...(leadsTo ? { leadsTo } : {}) },
  taken: { by: 'choice', mayChoose },
});

test('a chosen route comes first, then the first whose condition holds, then that of the change kind', () => {
  const policy = {
    ...NO_POLICY,
    route: route('whole'),
    routes: { editorial: route('short') },
    furtherRoutes: [
      where('secret', 'confidentiality:restricted'),
      where('big', 'change:major'),
      choice('urgent', 'author'),
    ],
  };
  const taken = (changeKind: string, facts: Record<string, string[]>, chosen?: string) =>
    routeOf(policy, { changeKind, facts, ...(chosen ? { chosen } : {}) }).name;
  expect(taken('editorial', { confidentiality: ['internal'], change: ['editorial'] })).toBe('short');
  expect(taken('major', { confidentiality: ['internal'], change: ['major'] })).toBe('big');
  expect(taken('major', { confidentiality: ['restricted'], change: ['major'] })).toBe('secret');
  expect(taken('major', { confidentiality: ['restricted'], change: ['major'] }, 'urgent')).toBe('urgent');
});

test('what may be chosen on submitting leads to release; the rest is for rounds outside the route', () => {
  const policy = {
    furtherRoutes: [choice('urgent', 'controller'), choice('light', 'author'), choice('inform', 'author', 'nothing')],
  };
  expect(routesToChoose(policy, false).map(({ name }) => name)).toEqual(['light']);
  expect(routesToChoose(policy, true).map(({ name }) => name)).toEqual(['urgent', 'light']);
  expect(routesToNothing(policy).map(({ name }) => name)).toEqual(['inform']);
  expect(allRoutes({ ...NO_POLICY, ...policy }).map(({ place }) => place)).toEqual([
    '',
    'further 0',
    'further 1',
    'further 2',
  ]);
});

test('further routes have names of their own, and conditions that can be read', () => {
  const codes = (...furtherRoutes: FurtherRoute[]) =>
    checkTypePolicy({ ...NO_POLICY, furtherRoutes }).map(({ code }) => code);
  expect(codes(where('a', 'change:major'))).toEqual([]);
  expect(codes(where('a', 'change:major'), choice('a', 'author'))).toEqual(['further_route_named']);
  expect(codes(choice(' ', 'author'))).toEqual(['further_route_named']);
  expect(codes(where('a', 'nowhere:x'))).toEqual(['step_condition_unreadable', 'search_field_unknown']);
});
