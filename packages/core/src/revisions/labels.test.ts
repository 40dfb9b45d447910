import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import {
  canFollow,
  compareLabels,
  firstLabel,
  isLabel,
  labelsAhead,
  nextLabel,
  type RevisionScheme,
  toLetters,
  versionLabel,
} from './labels.ts';

const letters: RevisionScheme = { kind: 'letters' };
const integers: RevisionScheme = { kind: 'integers', first: 1 };
const majorMinor: RevisionScheme = { kind: 'major.minor' };
const staged: RevisionScheme = {
  kind: 'staged',
  stages: [
    { prefix: 'P', width: 2 },
    { prefix: 'C', width: 2 },
  ],
};
const stagedThenLetters: RevisionScheme = { kind: 'staged', stages: [{ prefix: 'P', width: 2 }, { letters: true }] };

const value = (result: ReturnType<typeof nextLabel>) => (result.ok ? result.value : result.refusals[0]?.code);

describe('letters follow ASME Y14.35', () => {
  test.each([
    [1, 'A'],
    [8, 'H'],
    [9, 'J'],
    [14, 'P'],
    [15, 'R'],
    [20, 'Y'],
    [21, 'AA'],
    [40, 'AY'],
    [41, 'BA'],
    [420, 'YY'],
    [421, 'AAA'],
  ])('the %ith label is %s', (n, label) => {
    expect(toLetters(n)).toBe(label);
  });

  test('a label with a letter that is left out does not belong to the scheme', () => {
    for (const letter of 'IOQSXZ') expect(isLabel(letters, letter)).toBe(false);
  });

  test('H < J < Y < AA', () => {
    for (const [a, b] of [
      ['H', 'J'],
      ['J', 'Y'],
      ['Y', 'AA'],
    ] as const) {
      const order = compareLabels(letters, a, b);
      expect(order.ok && order.value).toBeLessThan(0);
    }
  });
});

test('integers go on, padded where the scheme pads', () => {
  expect(value(nextLabel(integers, '9', 'minor'))).toBe('10');
  expect(value(nextLabel({ kind: 'integers', first: 0, width: 2 }, '09', 'major'))).toBe('10');
  expect(value(firstLabel({ kind: 'integers', first: 0 }))).toBe('0');
});

test('in major.minor a minor or editorial change raises the second part, a major one the first', () => {
  expect(value(nextLabel(majorMinor, '1.9', 'minor'))).toBe('1.10');
  expect(value(nextLabel(majorMinor, '1.0', 'editorial'))).toBe('1.1');
  expect(value(nextLabel(majorMinor, '1.3', 'major'))).toBe('2.0');
  const order = compareLabels(majorMinor, '1.9', '1.10');
  expect(order.ok && order.value < 0).toBe(true);
});

test('a staged scheme goes on in its stage or steps to a later one, never back', () => {
  expect(value(nextLabel(staged, 'P01', 'minor'))).toBe('P02');
  expect(value(nextLabel(staged, 'P02', 'major', 1))).toBe('C01');
  expect(value(nextLabel(staged, 'C01', 'major', 0))).toBe('stage_never_back');
  expect(value(nextLabel(stagedThenLetters, 'P02', 'major', 1))).toBe('A');
  expect(value(nextLabel(stagedThenLetters, 'A', 'minor'))).toBe('B');
  expect(canFollow(staged, 'P10', 'C01')).toBe(true);
  expect(canFollow(staged, 'P10', 'P09')).toBe(false);
});

test('a scheme of one revision has no next label, and the maker gives labels of its own', () => {
  expect(value(nextLabel({ kind: 'none' }, '', 'minor'))).toBe('scheme_has_one_revision');
  expect(value(firstLabel({ kind: 'own' }))).toBe('label_given_by_supplier');
  expect(canFollow({ kind: 'own' }, 'Issue 3', 'Issue 3')).toBe(false);
  expect(isLabel({ kind: 'own' }, 'x'.repeat(17))).toBe(false);
});

test('the next label always belongs to the scheme and comes after the last', () => {
  const scheme = fc.constantFrom<RevisionScheme>(letters, integers, majorMinor, staged, stagedThenLetters);
  const kinds = fc.array(fc.constantFrom('minor' as const, 'major' as const, 'editorial' as const), { maxLength: 60 });
  fc.assert(
    fc.property(scheme, kinds, (s, changes) => {
      const first = firstLabel(s);
      let last = first.ok ? first.value : '';
      for (const kind of changes) {
        const next = nextLabel(s, last, kind);
        if (!next.ok) return false;
        if (!isLabel(s, next.value) || !canFollow(s, last, next.value)) return false;
        last = next.value;
      }
      return true;
    }),
  );
});

describe('the labels that may follow', () => {
  test('are one per change kind, and differ by it only in major.minor', () => {
    expect(labelsAhead({ kind: 'letters' }, 'C')).toEqual({
      by: 'change kind',
      labels: { minor: 'D', major: 'D', editorial: 'D' },
    });
    expect(labelsAhead({ kind: 'major.minor' }, '1.9')).toEqual({
      by: 'change kind',
      labels: { minor: '1.10', major: '2.0', editorial: '1.10' },
    });
  });

  test('are the next of the stage and the first of every later one, never of an earlier', () => {
    const scheme = {
      kind: 'staged',
      stages: [{ prefix: 'P', width: 2 }, { prefix: 'C', width: 2 }, { letters: true }],
    } as const;
    expect(labelsAhead(scheme, 'P02')).toEqual({
      by: 'stage',
      stages: [
        { stage: 0, label: 'P03' },
        { stage: 1, label: 'C01' },
        { stage: 2, label: 'A' },
      ],
    });
    expect(labelsAhead(scheme, 'C01')).toEqual({
      by: 'stage',
      stages: [
        { stage: 1, label: 'C02' },
        { stage: 2, label: 'A' },
      ],
    });
  });

  test('are the maker’s own, or none where a document has one revision', () => {
    expect(labelsAhead({ kind: 'own' }, 'rev. 7')).toEqual({ by: 'maker' });
    expect(labelsAhead({ kind: 'none' }, '')).toEqual({ by: 'none' });
  });

  test('are the labels that revising then gives', () => {
    fc.assert(
      fc.property(fc.integer({ min: 1, max: 500 }), fc.constantFrom('minor', 'major', 'editorial'), (n, kind) => {
        for (const [scheme, last] of [
          [{ kind: 'letters' }, toLetters(n)],
          [{ kind: 'integers', first: 1 }, String(n)],
          [{ kind: 'major.minor' }, `${n}.0`],
        ] as const) {
          const ahead = labelsAhead(scheme, last);
          const next = nextLabel(scheme, last, kind);
          expect(ahead.by === 'change kind' && next.ok && ahead.labels[kind]).toBe(next.ok && next.value);
        }
      }),
    );
  });
});

test('before the first release versions are numbered as the scheme says, afterwards by their number', () => {
  const shown = (scheme: RevisionScheme, everReleased = false) => versionLabel(scheme, everReleased, 3);
  expect([shown(majorMinor), shown({ kind: 'letters' })]).toEqual(['0.3', '3']);
  expect([shown({ ...majorMinor, drafts: 'n' }), shown({ kind: 'letters', drafts: '0.n' })]).toEqual(['3', '0.3']);
  expect([shown(majorMinor, true), shown({ kind: 'letters', drafts: '0.n' }, true)]).toEqual(['3', '3']);
});
