import { expect, test } from 'vitest';
import { type OwnState, ownStatesFor, repeatedOwnStates } from './ownStates.ts';

const STATES: OwnState[] = [
  { name: 'waiting for test', within: 'draft', unitIds: [] },
  { name: 'in translation', within: 'draft', unitIds: ['translators'] },
  { name: 'with the authority', within: 'in review', unitIds: ['control', 'legal'] },
];
const nobody = { mayAuthor: false, unitIds: new Set<string>() };

test('an own state without units is set by whoever may author, another by its units alone', () => {
  expect(ownStatesFor(STATES, { ...nobody, state: 'draft', mayAuthor: true })).toEqual(['waiting for test']);
  expect(ownStatesFor(STATES, { ...nobody, state: 'draft', unitIds: new Set(['translators']) })).toEqual([
    'in translation',
  ]);
  expect(ownStatesFor(STATES, { state: 'in review', mayAuthor: true, unitIds: new Set(['legal']) })).toEqual([
    'with the authority',
  ]);
});

test('there are none where nothing is worked on, nor for who may set none', () => {
  for (const state of ['approved', 'in force', 'withdrawn', undefined] as const)
    expect(ownStatesFor(STATES, { state, mayAuthor: true, unitIds: new Set(['control']) })).toEqual([]);
  expect(ownStatesFor(STATES, { ...nobody, state: 'draft' })).toEqual([]);
});

test('a name may be used again within another state only', () => {
  const named = (name: string, within: OwnState['within']) => ({ name, within });
  expect(repeatedOwnStates([named('Paused', 'draft'), named('Paused', 'in review')])).toEqual([]);
  expect(repeatedOwnStates([named('Paused', 'draft'), named(' paused', 'draft')])).toEqual([' paused']);
});
