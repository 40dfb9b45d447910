import type { Known } from '@kanonos/contract';
import { createNumberBench, type KnownRule, type LineVerdict, parseRule } from '@kanonos/core';
import { describe, expect, test } from 'vitest';
import {
  detailOf,
  gapWords,
  givenWords,
  linesOf,
  nextOf,
  STANDING_WORDS,
  scopeWords,
  standingOf,
  verdictsAsCsv,
} from './words.ts';

const rule = parseRule('THR-{type}-{counter:4}');
const RULES: KnownRule[] = rule.ok
  ? [{ id: rule.value.text, rule: rule.value, codes: { types: ['PRO'], areas: [], departments: [], fields: {} } }]
  : [];
const judged = (...lines: string[]) => createNumberBench(RULES).judge(lines);
const known = (state: Known['state'], more: Partial<Known> = {}): Known => ({
  folded: 'thr-pro-0118',
  state,
  title: null,
  words: null,
  ...more,
});
const inWords = (verdict: LineVerdict | undefined, of?: Known) =>
  verdict ? `${STANDING_WORDS[standingOf(verdict, of)]}: ${detailOf(verdict, of)}` : '';

describe('the verdict on a line in words', () => {
  test('names the parts of what fits', () => {
    expect(inWords(judged('THR-PRO-0118')[0])).toBe('Valid, not given: type PRO, counter 118');
  });

  test('names token, character and what would be right of what is malformed', () => {
    const [few, zero, code, behind] = judged('THR-PRO-118', 'THR-PRO-00118', 'THR-XXX-0118', 'THR-PRO-0118x');
    expect(inWords(few)).toBe(
      'Malformed: counter (from character 9) needs 4 digits, has 3; rule THR-{type}-{counter:4}',
    );
    expect(inWords(zero)).toContain('has a leading zero beyond 4 digits');
    expect(inWords(code)).toContain('type (from character 5) is not a code of the rule');
    expect(inWords(behind)).toContain('text after the number, from character 13');
  });

  test('says what is known before what the shape says, and that a line is a duplicate before both', () => {
    const [first, second] = judged('THR-PRO-0118', '', 'THR-PRO-0118');
    expect(inWords(first, known('exists', { title: 'Grip overhaul' }))).toBe('Exists: Grip overhaul');
    expect(inWords(first, known('taken'))).toBe('Taken: by a document you may not see');
    expect(inWords(first, known('void', { words: 'Not used' }))).toBe('Void: Not used');
    expect(inWords(first, known('reserved', { words: 'for Joren until 1 Dec 2026' }))).toBe(
      'Reserved: for Joren until 1 Dec 2026',
    );
    expect(inWords(second, known('exists'))).toBe('Duplicate in the list: the same as line 1');
    expect(inWords(judged('BRH 26')[0])).toBe('External: no numbering rule starts like this');
  });
});

test('gaps are counted and the first ones named', () => {
  const gaps = (list: [number, number][]) => gapWords({ gaps: list });
  expect(gaps([])).toBe('no gap');
  expect(
    gaps([
      [3, 3],
      [7, 9],
    ]),
  ).toBe('4 missing: 3, 7–9');
  expect(gaps(Array.from({ length: 9 }, (_, i) => [i * 2, i * 2] as [number, number]))).toBe(
    '9 missing: 0, 2, 4, 6, 8, 10, 12, 14 and more',
  );
});

describe('a list that is pasted or dropped', () => {
  test('gives a line each, of several columns the first, without quotation marks', () => {
    expect(linesOf('THR-PRO-0118\r\nTHR-PRO-0119\tTitle\r\n"BRH, 26";x\nA;b\n\n')).toEqual([
      'THR-PRO-0118',
      'THR-PRO-0119',
      'BRH, 26',
      'A',
      '',
    ]);
  });

  test('goes out as CSV in which nothing becomes a formula', () => {
    const [fits, evil] = judged('THR-PRO-0118', '=HYPERLINK("x"),1');
    const csv = verdictsAsCsv([fits, evil].flatMap((verdict) => (verdict ? [{ verdict, known: undefined }] : [])));
    expect(csv.split('\r\n')).toEqual([
      '\ufeffline,number,verdict,detail',
      '1,THR-PRO-0118,"Valid, not given","type PRO, counter 118"',
      `2,"'=HYPERLINK(""x""),1",External,no numbering rule starts like this`,
      '',
    ]);
  });
});

test('a scope shows the numbers it has given, and those taken over from before', () => {
  const scope = { scope: 'THR-PRO-#', last: 1125, startedAt: 0, given: 1125, takenOver: 0, gaps: [] };
  expect(givenWords(scope)).toBe('1,125 given, no gap');
  expect(givenWords({ ...scope, startedAt: 111, given: 14 })).toBe('14 given, no gap; started after 111');
  expect(givenWords({ ...scope, startedAt: 1111, given: 14, takenOver: 9 })).toBe(
    '14 given, no gap; 9 of 1,111 earlier numbers imported',
  );
  // Gaps are named apart.
  expect(givenWords({ ...scope, gaps: [[3, 4]] })).toBe('1,125 given');
});

test('the next number is complete where the scope determines all of it, and its counter alone where types share it', () => {
  const min = { id: '1', code: 'MIN', name: 'Minutes' };
  const rule = { rule: 'THR-{type}-{year}-{counter:3:per=year}', types: [min] };
  const scope = { scope: 'THR-{type}-2026-#', last: 24 };
  expect(scopeWords(rule, scope.scope)).toBe('THR-MIN-2026-#');
  expect(nextOf(rule, scope)).toBe('THR-MIN-2026-025');
  const shared = { ...rule, types: [min, { id: '2', code: 'AGE', name: 'Agenda' }] };
  expect(scopeWords(shared, scope.scope)).toBe('THR-{type}-2026-#');
  expect(nextOf(shared, scope)).toBe('025');
});
