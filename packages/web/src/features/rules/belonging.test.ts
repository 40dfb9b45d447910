import { expect, test } from 'vitest';
import { belongingTo } from './belonging.ts';

const person = (
  name: string,
  department: string | null,
  site: string | null,
  roles: string[] = [],
  state = 'active',
) => ({
  name,
  department,
  site,
  roles,
  state: state as 'active',
});
const PEOPLE = [
  person('Ada', 'Operations', 'Skarn Peak'),
  person('Bo', 'Operations', 'Mid Holt', ['Rescuer']),
  person('Cleo', 'Works hall', 'Skarn Peak', ['Rescuer']),
  person('Dario', 'Operations', 'Skarn Peak', [], 'deactivated'),
  person('Edda', null, null),
];
const operations = { kind: 'department', name: 'Operations' } as const;
const peak = { kind: 'site', name: 'Skarn Peak' } as const;
const rescuer = { kind: 'role', name: 'Rescuer' } as const;

test('who belongs to all of the units is in the group', () => {
  expect(belongingTo(PEOPLE, [operations])).toEqual(['Ada', 'Bo']);
  expect(belongingTo(PEOPLE, [operations, peak])).toEqual(['Ada']);
  expect(belongingTo(PEOPLE, [rescuer])).toEqual(['Bo', 'Cleo']);
  expect(belongingTo(PEOPLE, [rescuer, operations, peak])).toEqual([]);
});

test('no unit is nobody, not everybody', () => {
  expect(belongingTo(PEOPLE, [])).toEqual([]);
});

test('a unit of another kind with the same name counts for nothing', () => {
  expect(belongingTo(PEOPLE, [{ kind: 'site', name: 'Operations' }])).toEqual([]);
  expect(belongingTo(PEOPLE, [{ kind: 'group', name: 'Rescuer' }])).toEqual([]);
});
