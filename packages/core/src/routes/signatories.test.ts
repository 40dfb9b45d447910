import { describe, expect, test } from 'vitest';
import { NO_POLICY } from '../rules/typePolicy.ts';
import { routeStep } from '../testing/routeStep.ts';
import type { AssigneeRule, RouteDefinition } from './route.ts';
import { changedAssignees, namedSteps, signatoryColumns, withAssignees } from './signatories.ts';

const [OWNER, MARA, OTTO]: AssigneeRule[] = [
  { by: 'owner' },
  { by: 'person', personId: 'mara' },
  { by: 'person', personId: 'otto' },
] as never;
const route = (...names: string[]): RouteDefinition => ({
  name: names.join(),
  steps: names.map((name) => routeStep(name)),
});
const type = {
  ...NO_POLICY,
  route: route('Review', 'Approval'),
  routes: { editorial: route('Approval') },
  furtherRoutes: [{ route: route('Review', 'Review'), taken: { by: 'choice', mayChoose: 'author' } as const }],
};

test('columns follow the order of the steps, and the second step of one name has its own', () => {
  expect(namedSteps(route('Review', 'Review')).map(({ column }) => column)).toEqual(['Review', 'Review (2)']);
  expect(signatoryColumns([type, { ...NO_POLICY, route: route('First look', 'Review', 'Approval') }])).toEqual([
    'First look',
    'Review',
    'Approval',
    'Review (2)',
  ]);
});

describe('a change of those who are asked', () => {
  test('takes their place, adds to them without repeating, or takes them away', () => {
    const before = [OWNER, MARA] as AssigneeRule[];
    expect(changedAssignees(before, [OTTO as AssigneeRule], 'replace')).toEqual([OTTO]);
    expect(changedAssignees(before, [MARA, OTTO] as AssigneeRule[], 'add')).toEqual([OWNER, MARA, OTTO]);
    expect(changedAssignees(before, [{ personId: 'mara', by: 'person' }], 'remove')).toEqual([OWNER]);
  });

  test('reaches the cells that are named, and nothing else', () => {
    const cells = [
      { place: '', step: 1 },
      { place: 'further 0', step: 0 },
      { place: 'nowhere', step: 0 },
    ];
    const after = withAssignees(type, cells, () => [MARA as AssigneeRule]);
    expect(after.route.steps.map(({ assignees }) => assignees)).toEqual([[OWNER], [MARA]]);
    expect(after.routes.editorial).toBe(type.routes.editorial);
    expect(after.furtherRoutes[0]?.route.steps.map(({ assignees }) => assignees)).toEqual([[MARA], [OWNER]]);
    expect(type.route.steps[1]?.assignees).toEqual([OWNER]);
  });
});
