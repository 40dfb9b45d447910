import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { createNumberBench } from './bench.ts';
import { type KnownRule, readNumber } from './recognise.ts';
import { createRecogniser } from './recogniser.ts';
import { parseRule, type RuleCodes, renderNumber, scopeOf, scopePattern } from './rule.ts';

const known = (text: string, codes: Partial<RuleCodes> = {}): KnownRule => {
  const rule = parseRule(text);
  if (!rule.ok) throw new Error(text);
  return { id: text, rule: rule.value, codes: { types: [], areas: [], departments: [], fields: {}, ...codes } };
};
const RULES = [
  known('THR-{type}-{counter:4}', { types: ['PRO', 'WIN', 'FRM'] }),
  known('THR-DWG-{area}{counter:3}', { areas: ['1', '2', '5'] }),
  known('THR-MIN-{year}-{counter:3:per=year}'),
  known('{parent}-F{counter:2}'),
  known('{department}/{year:2}{month}/{counter:3}', { departments: ['OPS', 'ENG'] }),
  known('K{field:kind}-{counter:2}b', { fields: { kind: ['A', 'AB'] } }),
];

describe('the recogniser of many rules', () => {
  const recognise = createRecogniser(RULES);

  test.each([
    'THR-PRO-0118',
    'THR-PRO-118',
    'THR-PRO-00118',
    'THR-PRO-12345',
    'THR-PRO-0000',
    'THR-XXX-0118',
    'THR-DWG-2208',
    'THR-DWG-2007',
    'THR-DWG-9208',
    'THR-MIN-2026-001',
    'THR-MIN-26-001',
    'THR-PRO-0118-F02',
    'THR-PRO-0118-F2',
    'OPS/2611/004',
    'OPS/2613/004',
    'KA-07b',
    'KAB-07b',
    'KAB-07',
    'BRH 26-0388',
    'THR-PRO-0118 ',
    '',
    'T',
  ])('says of %j what the rules one by one say', (text) => {
    expect(recognise(text)).toEqual(readNumber(RULES, text));
  });

  test('gives the verdicts of the single rules, for rendered, slightly changed and random numbers', () => {
    const rendered = fc
      .record({
        rule: fc.constantFrom(...RULES),
        type: fc.constantFrom('PRO', 'WIN', 'FRM'),
        area: fc.constantFrom('1', '2', '5'),
        department: fc.constantFrom('OPS', 'ENG'),
        kind: fc.constantFrom('A', 'AB'),
        parent: fc.constantFrom('THR-PRO-0118', 'THR-WIN-0001'),
        day: fc.constantFrom('2026-11-25', '2027-01-01'),
        counter: fc.integer({ min: 1, max: 20_000 }),
      })
      .map(({ rule, kind, counter, ...metadata }) => {
        const number = renderNumber(rule.rule, { ...metadata, fields: { kind } }, counter);
        return number.ok ? number.value : '';
      });
    const changed = fc
      .tuple(rendered, fc.nat(30), fc.constantFrom('', '0', '9', '-', 'X', 'é'))
      .map(([text, at, letter]) => text.slice(0, at) + letter + text.slice(at + 1));
    fc.assert(
      fc.property(fc.oneof(rendered, changed, fc.string({ maxLength: 20 })), (text) => {
        expect(recognise(text)).toEqual(readNumber(RULES, text));
      }),
      { numRuns: 2000 },
    );
  });
});

describe('the rule bench', () => {
  test('gives each line its verdict: fits with its parts, malformed with token and character, outside, duplicate', () => {
    const { judge } = createNumberBench(RULES);
    const verdicts = judge(['THR-PRO-0118', 'THR-PRO-118', '', ' BRH  26-0388 ', 'thr-pro-0118', 'THR-PRO-0118']);
    expect(verdicts).toEqual([
      {
        line: 1,
        number: 'THR-PRO-0118',
        folded: 'thr-pro-0118',
        kind: 'fits',
        parts: { rule: 'THR-{type}-{counter:4}', type: 'PRO', counter: 118 },
        scope: 'THR-PRO-#',
      },
      {
        line: 2,
        number: 'THR-PRO-118',
        folded: 'thr-pro-118',
        kind: 'malformed',
        rule: 'THR-{type}-{counter:4}',
        token: 'counter',
        at: 9,
        reason: 'too few digits',
        needs: 4,
        has: 3,
      },
      { line: 4, number: 'BRH 26-0388', folded: 'brh 26-0388', kind: 'outside' },
      { line: 5, number: 'thr-pro-0118', folded: 'thr-pro-0118', kind: 'outside', duplicateOf: 1 },
      {
        line: 6,
        number: 'THR-PRO-0118',
        folded: 'thr-pro-0118',
        kind: 'fits',
        parts: { rule: 'THR-{type}-{counter:4}', type: 'PRO', counter: 118 },
        scope: 'THR-PRO-#',
        duplicateOf: 1,
      },
    ]);
  });

  test('lists the gaps of each scope, counted anew where the rule counts per year', () => {
    const { judge, gaps } = createNumberBench(RULES);
    judge(['THR-PRO-0003', 'THR-PRO-0007', 'THR-MIN-2026-001']);
    judge(['THR-PRO-0004', 'THR-MIN-2027-003', 'THR-MIN-2027-001', 'THR-PRO-0007']);
    expect(gaps()).toEqual([
      { scope: 'THR-MIN-2026-#', first: 1, last: 1, count: 1, gaps: [] },
      { scope: 'THR-MIN-2027-#', first: 1, last: 3, count: 2, gaps: [[2, 2]] },
      { scope: 'THR-PRO-#', first: 3, last: 7, count: 3, gaps: [[5, 6]] },
    ]);
  });

  test('a list in pieces gives the same as in one', () => {
    fc.assert(
      fc.property(fc.array(fc.integer({ min: 1, max: 40 }), { maxLength: 60 }), fc.nat(60), (counters, cut) => {
        const lines = counters.map((n) => `THR-WIN-${String(n).padStart(4, '0')}`);
        const [whole, pieces] = [createNumberBench(RULES), createNumberBench(RULES)];
        const inOne = whole.judge(lines);
        const inTwo = [...pieces.judge(lines.slice(0, cut)), ...pieces.judge(lines.slice(cut))];
        expect(inTwo).toEqual(inOne);
        expect(pieces.gaps()).toEqual(whole.gaps());
        const missing = whole
          .gaps()
          .flatMap((scope) =>
            scope.gaps.flatMap(([from, to]) => Array.from({ length: to - from + 1 }, (_, i) => from + i)),
          );
        const [smallest, largest] = [Math.min(...counters), Math.max(...counters)];
        const expected = Array.from({ length: counters.length ? largest - smallest + 1 : 0 }, (_, i) => smallest + i);
        expect(missing).toEqual(expected.filter((n) => !counters.includes(n)));
      }),
    );
  });
});

describe('the scopes of a rule', () => {
  const patternOf = (text: string, codes: Partial<RuleCodes> = {}) => {
    const { rule, codes: all } = known(text, codes);
    return scopePattern(rule, all);
  };

  test('are distinguished from those of other rules', () => {
    const pattern = patternOf('THR-{type}-{counter:4}', { types: ['PRO', 'WIN'] });
    expect(
      ['THR-PRO-#', 'THR-WIN-#', 'THR-MIN-#', 'THR-{type}-2026-#', 'THR-PRO-2026-#'].map((s) => pattern.test(s)),
    ).toEqual([true, true, false, false, false]);
    const perYear = patternOf('THR-{type}-{year}-{counter:3:per=year}', { types: ['MIN'] });
    expect(['THR-{type}-2026-#', 'THR-MIN-2026-#', 'THR-{type}-26-#'].map((s) => perYear.test(s))).toEqual([
      true,
      false,
      false,
    ]);
  });

  test('are those in which its numbers count', () => {
    const metadata = {
      type: 'PRO',
      area: '2',
      department: 'OPS',
      day: '2026-11-25',
      parent: 'THR-PRO-0118',
      fields: { kind: 'A' },
    };
    for (const { rule, codes } of RULES) {
      const scope = scopeOf(rule, metadata);
      expect([rule.text, scope.ok && scopePattern(rule, codes).test(scope.value)]).toEqual([rule.text, true]);
    }
  });
});
