import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import {
  audienceOn,
  compliance,
  deriveReadings,
  dueDay,
  policyFor,
  type ReadingRequirement,
  type ReadingState,
  readingMinutes,
  type StoredReading,
  shownState,
} from './readings.ts';

const calendar = { week: [1, 2, 3, 4, 5], holidays: new Set<string>() };
const requirement: ReadingRequirement = {
  id: 'r',
  audience: { everyone: false, unitIds: ['operations'], personIds: ['mara'], exceptPersonIds: ['petra'] },
  kind: 'read and sign',
  instructions: '',
  workingDays: 10,
  newJoinerDays: 5,
  perChange: { minor: 'carry over', major: 'read the changes' },
  beforeInForce: false,
  from: '2026-01-01',
};
const people = ['yuki', 'mara', 'petra', 'rafael'].map((personId) => ({ personId, from: '2020-01-01' }));
const memberships = [
  { personId: 'yuki', unitId: 'operations', from: '2026-11-18' },
  { personId: 'petra', unitId: 'operations', from: '2020-01-01' },
  { personId: 'rafael', unitId: 'operations', from: '2021-01-01', to: '2026-06-30' },
];

test('compliance counts signed and carried over against all required readings', () => {
  const states: ReadingState[] = [...Array(9).fill('signed'), 'carried over', 'open', 'overdue', 'not needed'];
  expect(compliance(states)).toEqual({ done: 10, owed: 12, percent: 83.3 });
  expect(compliance(['not needed', 'overtaken', 'void']).percent).toBeUndefined();
});

test('reading minutes are words by 200 and half a minute per picture, at least one, rounded up', () => {
  expect(readingMinutes({ words: 1150, pictures: 3 })).toBe(8);
  expect(readingMinutes({ words: 3, pictures: 0 })).toBe(1);
  expect(readingMinutes({ words: 0, pictures: 0, filmMinutes: 12.2 })).toBe(13);
});

test('an audience is units and named people minus exceptions, by the memberships of that day', () => {
  expect([...audienceOn(requirement.audience, memberships, people, '2026-11-25').keys()].sort()).toEqual([
    'mara',
    'yuki',
  ]);
  expect([...audienceOn(requirement.audience, memberships, people, '2026-05-01').keys()].sort()).toEqual([
    'mara',
    'rafael',
  ]);
  const everyone = { ...requirement.audience, everyone: true };
  expect(
    audienceOn(everyone, [], [...people, { personId: 'left', from: '2020-01-01', to: '2021-01-01' }], '2026-05-01').has(
      'left',
    ),
  ).toBe(false);
});

describe('due days', () => {
  test('a joiner on Mon 23 Nov 2026 with 5 newJoiner days is due on Mon 30 Nov', () => {
    expect(dueDay(requirement, '2026-02-02', '2026-11-23', calendar)).toEqual({ due: '2026-11-30', newJoiner: true });
  });
  test('people in place count from the day it may be read', () => {
    expect(dueDay(requirement, '2026-11-02', '2020-01-01', calendar)).toEqual({ due: '2026-11-16', newJoiner: false });
  });
  test('newJoiner days run from the entry of the requirement when that is later than joining', () => {
    expect(dueDay({ ...requirement, from: '2026-11-23' }, '2026-02-02', '2026-11-02', calendar).due).toBe('2026-11-30');
  });
  test('an open reading is overdue once its due day has ended', () => {
    expect(shownState('open', '2026-11-25', '2026-11-25')).toBe('open');
    expect(shownState('open', '2026-11-24', '2026-11-25')).toBe('overdue');
    expect(shownState('signed', '2026-11-01', '2026-11-25')).toBe('signed');
  });
});

test('read the changes and carry over hold only for who signed an earlier revision', () => {
  expect(policyFor(requirement, 'minor', true)).toBe('carry over');
  expect(policyFor(requirement, 'minor', false)).toBe('read all');
  expect(policyFor(requirement, 'editorial', true)).toBe('read all');
});

describe('assignments follow from requirement, memberships and revision', () => {
  const derive = (stored: StoredReading[], memberSince: Map<string, string>, more: object = {}) =>
    deriveReadings({
      requirement,
      changeKind: 'major',
      readableFrom: '2026-11-02',
      day: '2026-11-25',
      memberSince,
      stored,
      signedEarlier: new Set(),
      calendar,
      ...more,
    });
  test('joiners get theirs and leavers’ open ones close', () => {
    const changes = derive(
      [
        { personId: 'old', state: 'open' },
        { personId: 'signed', state: 'signed' },
      ],
      new Map([['yuki', '2026-11-18']]),
    );
    expect(changes).toEqual([
      { kind: 'close', personId: 'old' },
      { kind: 'open', personId: 'yuki', due: '2026-11-25', policy: 'read all', newJoiner: true },
    ]);
  });
  test('carry over asks nothing of who signed before', () => {
    const changes = derive(
      [],
      new Map([
        ['a', '2020-01-01'],
        ['b', '2020-01-01'],
      ]),
      { changeKind: 'minor', signedEarlier: new Set(['a']) },
    );
    expect(changes.map((c) => c.kind)).toEqual(['carry', 'open']);
  });
  test('applying the changes once leaves nothing to change, and a signature never disappears', () => {
    const person = fc.constantFrom('a', 'b', 'c', 'd', 'e');
    const states = fc.constantFrom<StoredReading['state']>(
      'signed',
      'carried over',
      'open',
      'not needed',
      'void',
      'overtaken',
    );
    fc.assert(
      fc.property(fc.dictionary(person, states), fc.uniqueArray(person), (known, members) => {
        const since = new Map(members.map((m) => [m, '2020-01-01']));
        const stored = new Map(Object.entries(known));
        for (const change of derive(
          [...stored].map(([personId, state]) => ({ personId, state })),
          since,
        )) {
          if (stored.get(change.personId) === 'signed') return false;
          stored.set(
            change.personId,
            change.kind === 'close' ? 'not needed' : change.kind === 'carry' ? 'carried over' : 'open',
          );
        }
        return (
          derive(
            [...stored].map(([personId, state]) => ({ personId, state })),
            since,
          ).length === 0
        );
      }),
    );
  });
});
