import { NEW_TYPE, type TypeRule } from '@kanonos/contract';
import { type KnownRule, parseRule } from '@kanonos/core';
import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import {
  collisionWords,
  differenceWords,
  keyFrom,
  placeInWords,
  refusalsOf,
  rulesWith,
  sampleLabels,
  sampleNumbers,
  useInWords,
} from './words.ts';

const ruleOf = (text: string, types: string[]): KnownRule => {
  const parsed = parseRule(text);
  if (!parsed.ok) throw new Error(text);
  return { id: text, rule: parsed.value, codes: { types, areas: ['1', '2'], departments: ['OPS'], fields: {} } };
};
const type = (code: string, numbering: string | null, more: Partial<TypeRule> = {}): TypeRule => ({
  ...NEW_TYPE,
  code,
  name: code,
  numbering,
  ...more,
});
const ORGANISATION = [
  ruleOf('THR-{type}-{counter:4}', ['PRO', 'FRM']),
  ruleOf('THR-{type}-{area}{counter:3}', ['DWG']),
];

describe('what changed in a rule', () => {
  test('uses the names of the page on which it is set', () => {
    expect(placeInWords('fields.limit.mandatory')).toBe('Fields › limit › required');
    expect(placeInWords('route.steps.Approve as owner.assignees')).toBe('Route › steps › Approve as owner › assignees');
  });

  test('omits a missing side', () => {
    expect(differenceWords({ what: 'help', before: '–', after: 'How to' })).toEqual({
      where: 'Purpose',
      before: '',
      after: 'How to',
    });
    expect(differenceWords({ what: 'help', before: 'How to', after: '–' }).after).toBe('');
  });
});

describe('a rule that is being written', () => {
  test('is judged with the others of the organisation: a type leaves its old one and joins the new one', () => {
    const moved = rulesWith(ORGANISATION, 'FRM', type('FRM', 'THR-{type}-{area}{counter:3}'));
    expect(moved.map((rule) => [rule.id, rule.codes.types])).toEqual([
      ['THR-{type}-{counter:4}', ['PRO']],
      ['THR-{type}-{area}{counter:3}', ['DWG', 'FRM']],
    ]);
  });

  test('brings a rule of its own, which goes again when its last type leaves it', () => {
    const own = rulesWith(ORGANISATION, '', type('NIT', 'THR-{type}-{year}-{counter:2}'));
    expect(own.at(-1)?.codes.types).toEqual(['NIT']);
    expect(rulesWith(own, 'NIT', type('NIT', null)).map((rule) => rule.id)).toEqual(
      ORGANISATION.map((rule) => rule.id),
    );
    expect(rulesWith(ORGANISATION, 'DWG', type('DWG', 'THR-{type}-{counter:4}', { retired: true }))).toHaveLength(1);
  });

  test('that cannot be read yet leaves the others as they are', () => {
    expect(rulesWith(ORGANISATION, 'NIT', type('NIT', 'THR-{nothing}')).map((rule) => rule.id)).toEqual(
      ORGANISATION.map((rule) => rule.id),
    );
  });

  test('is refused with the number that could be read in two ways', () => {
    expect(collisionWords(ORGANISATION)).toBeUndefined();
    expect(collisionWords(rulesWith(ORGANISATION, 'NIT', type('NIT', 'THR-PRO-{counter:4}')))).toContain('THR-PRO-0');
  });

  test('says what is wrong with each field', () => {
    const twice = { key: 'limit', label: 'Limit', kind: 'text', mandatory: false, level: 'document' } as const;
    expect(refusalsOf(type('NIT', 'THR-{type}-{counter:2}'))).toEqual([]);
    expect(refusalsOf(type('NIT', 'THR-{type}-{counter:2}', { fields: [twice, twice] })).join(' ')).toMatch(/limit/i);
  });
});

describe('examples beside a rule', () => {
  const CODES = { areas: ['1', '2', '3', '4'], departments: ['OPS'] };

  test('are the next numbers, one for each of the first areas where it counts by them', () => {
    const counters = new Map([['THR-DWG-1#', 124]]);
    expect(sampleNumbers(type('DWG', 'THR-{type}-{area}{counter:3}'), CODES, counters, '2026-11-26')).toEqual([
      { where: 'area 1', number: 'THR-DWG-1125' },
      { where: 'area 2', number: 'THR-DWG-2001' },
      { where: 'area 3', number: 'THR-DWG-3001' },
    ]);
    expect(
      sampleNumbers(type('MIN', 'THR-{type}-{year}-{counter:3:per=year}'), CODES, new Map(), '2026-11-26'),
    ).toEqual([{ where: '', number: 'THR-MIN-2026-001' }]);
  });

  test('are none where numbers come from outside or the rule is not one yet', () => {
    expect(sampleNumbers(type('STD', null), CODES, new Map(), '2026-11-26')).toEqual([]);
    expect(sampleNumbers(type('STD', '{counter'), CODES, new Map(), '2026-11-26')).toEqual([]);
  });

  test('of labels are the first ones of the scheme', () => {
    expect(sampleLabels({ kind: 'letters' })).toBe('A, B, C, D, E');
    expect(sampleLabels({ kind: 'integers', first: 1 })).toBe('1, 2, 3, 4, 5');
    expect(sampleLabels({ kind: 'none' })).toBe('one revision, no label');
    expect(sampleLabels({ kind: 'own' })).toBe("supplier's labels");
  });
});

describe('a key made from a label', () => {
  test('is what one would have typed', () => {
    expect(keyFrom('Tested on', [])).toBe('testedOn');
    expect(keyFrom('Prüfung am', [])).toBe('prufungAm');
    expect(keyFrom('2nd limit', [])).toBe('ndLimit');
    expect(keyFrom('0 A', [])).toBe('a');
    expect(keyFrom('!!', [])).toBe('field');
    expect(keyFrom('Limit', ['limit', 'limit2'])).toBe('limit3');
  });

  test('is usable and free, whatever the label', () => {
    fc.assert(
      fc.property(fc.string({ unit: 'grapheme', maxLength: 60 }), (label) => {
        const key = keyFrom(label, []);
        expect(key).toMatch(/^[a-z][A-Za-z0-9]*$/);
        expect(keyFrom(label, [key])).not.toBe(key);
      }),
    );
  });
});

test('the effects of a field are parts of a sentence', () => {
  expect(useInWords({ what: 'step', step: 'Approve', route: 'minor' })).toBe('assignees in Approve (minor change)');
  expect(useInWords({ what: 'reminder', days: 30, field: 'Permit ends' })).toBe(
    'a reminder 30 days before Permit ends',
  );
  expect(useInWords({ what: 'number' })).toBe('the number');
});
