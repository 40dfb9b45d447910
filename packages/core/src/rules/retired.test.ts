import fc from 'fast-check';
import { expect, test } from 'vitest';
import { findCollision } from '../numbering/ambiguity.ts';
import { type KnownRule, readNumber } from '../numbering/recognise.ts';
import { createRecogniser } from '../numbering/recogniser.ts';
import { parseRule } from '../numbering/rule.ts';
import { isCarriedOn, retiredRule, scopesLeftBehind } from './retired.ts';

const codes = { types: ['PRO', 'DWG'], areas: ['1', '2'], departments: [], fields: {} };
const rule = (text: string, types = codes.types): KnownRule => {
  const parsed = parseRule(text);
  if (!parsed.ok) throw new Error(parsed.refusals[0]?.code);
  return { id: text, rule: parsed.value, codes: { ...codes, types } };
};
const leave = (before: string, after: string[], scope: string, last: number, types?: string[]) =>
  scopesLeftBehind(
    [rule(before, types)],
    after.map((text) => rule(text)),
    [{ scope, last }],
  );

test('a rule that writes its numbers as before abandons no scope, another one abandons each scope with its last number', () => {
  expect(leave('THR-{type}-{counter:4}', ['THR-{type}-{counter:4}'], 'THR-PRO-#', 118)).toEqual([]);
  expect(leave('THR-PRO-{counter:4}', ['THR-{type}-{counter:4}'], 'THR-PRO-#', 118)).toEqual([]);
  expect(leave('THR-{type}-{counter:4}', ['THR-{type}-{counter:5}'], 'THR-PRO-#', 118)[0]).toMatchObject({
    rule: 'THR-PRO-{counter:4}',
    last: 118,
  });
  expect(leave('THR-{type}-{counter:4}', [], 'THR-PRO-#', 118)).toHaveLength(1);
  expect(leave('THR-{type}-{counter:4}', [], 'THR-PRO-#', 0)).toEqual([]);
  expect(leave('{type}-{year}-{counter:3:per=year}', [], '{type}-2026-#', 7)[0]?.rule).toBe('{type}-2026-{counter:3}');
});

test('a retired rule reads the numbers up to the last that it gave, and no more', () => {
  const [left] = leave('THR-{type}-{counter:4}', [], 'THR-PRO-#', 118);
  const retired = left && retiredRule(left);
  const rules = [rule('{type}/{counter:3}'), ...(retired ? [retired] : [])];
  const recognise = createRecogniser(rules);
  for (const read of [(text: string) => readNumber(rules, text), recognise]) {
    expect(read('THR-PRO-0118')).toMatchObject({ kind: 'read', parts: { counter: 118 } });
    expect(read('THR-PRO-0119')).toEqual({ kind: 'outside' });
    expect(read('PRO/004')).toMatchObject({ kind: 'read' });
  }
});

test('a new rule may not give a number that a retired one gave; after it it may continue', () => {
  const retired = retiredRule({ scope: 'THR-PRO-#', rule: 'THR-PRO-{counter:4}', codes, last: 118 }) as KnownRule;
  // The same scope with more digits continues after 118.
  expect(findCollision([rule('THR-{type}-{counter:5}'), retired])).toBeUndefined();
  // Another scope begins at 1 and would come to the same text.
  expect(findCollision([rule('THR-{type}-0{counter:3}'), retired])?.number).toBe('THR-PRO-0001');
  const few = retiredRule({ scope: 'THR-PRO-#', rule: 'THR-PRO-{counter:4}', codes, last: 99 }) as KnownRule;
  expect(findCollision([rule('THR-{type}-01{counter:2}'), few])).toBeUndefined();
  expect(findCollision([rule('THR-{type}-01{counter:2}'), retired])?.number).toBe('THR-PRO-0101');
});

test('a scope that is carried on as it was written needs no memory', () => {
  const left = { scope: 'THR-PRO-#', rule: 'THR-PRO-{counter:4}', codes, last: 118 };
  expect(isCarriedOn([rule('THR-{type}-{counter:4}')], left)).toBe(true);
  expect(isCarriedOn([rule('THR-{type}-{counter:5}')], left)).toBe(false);
  expect(isCarriedOn([rule('THR-{type}-{counter:4}', ['DWG'])], left)).toBe(false);
});

test('the proof knows exactly the numbers that were given, for any last number and width', () => {
  fc.assert(
    fc.property(
      fc.integer({ min: 1, max: 2500 }),
      fc.integer({ min: 1, max: 4 }),
      fc.integer({ min: 1, max: 3000 }),
      (last, width, n) => {
        const retired = retiredRule({ scope: 'A-#', rule: `A-{counter:${width}}`, codes, last }) as KnownRule;
        const text = String(n).padStart(width, '0');
        // A rule that gives only numbers beginning with this text collides exactly when that number, or a longer one, was given.
        const given = Array.from({ length: last }, (_, i) => String(i + 1).padStart(width, '0'));
        const other = rule(`A-${text}{counter:1}`);
        const collides = given.some(
          (g) => g.startsWith(text) && g.length > text.length && !/^0/.test(g.slice(text.length)),
        );
        expect(findCollision([other, retired]) !== undefined).toBe(collides);
      },
    ),
    { numRuns: 300 },
  );
});
