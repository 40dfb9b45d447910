import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { dayOf } from '../calendar/zone.ts';
import { findCollision } from './ambiguity.ts';
import { guessNumbers, type KnownRule, readNumber } from './recognise.ts';
import {
  cleanOutsideNumber,
  foldNumber,
  type NumberingRule,
  parseRule,
  type RuleCodes,
  renderNumber,
  scopeOf,
} from './rule.ts';

const rule = (text: string): NumberingRule => {
  const parsed = parseRule(text);
  if (!parsed.ok) throw new Error(JSON.stringify(parsed.refusals));
  return parsed.value;
};
const codes = (more: Partial<RuleCodes> = {}): RuleCodes => ({
  types: [],
  areas: [],
  departments: [],
  fields: {},
  ...more,
});
const known = (text: string, more: Partial<RuleCodes> = {}): KnownRule => ({
  id: text,
  rule: rule(text),
  codes: codes(more),
});
const number = (text: string, metadata: Parameters<typeof renderNumber>[1], counter: number) => {
  const made = renderNumber(rule(text), metadata, counter);
  return made.ok ? made.value : made.refusals[0]?.code;
};
const day = '2026-11-25';
const general = known('THR-{type}-{counter:4}', { types: ['PRO', 'WIN', 'POL', 'FRM'] });
const drawings = known('THR-{type}-{area}{counter:3}', { types: ['DWG'], areas: ['1', '2', '3'] });
const minutes = known('THR-{type}-{year}-{counter:3:per=year}', { types: ['MIN'] });
const forms = known('{parent}-F{counter:2}');
const rules = [general, drawings, minutes, forms];

describe('rendering', () => {
  test('a counter has at least its width and grows beyond it', () => {
    expect(number('THR-{type}-{counter:4}', { type: 'PRO', day }, 119)).toBe('THR-PRO-0119');
    expect(number('THR-{type}-{counter:4}', { type: 'PRO', day }, 10000)).toBe('THR-PRO-10000');
    expect(number('THR-DWG-{area}{counter:3}', { type: 'DWG', area: '2', day }, 208)).toBe('THR-DWG-2208');
    expect(number('{parent}-F{counter:2}', { type: 'FRM', parent: 'THR-PRO-0118', day }, 2)).toBe('THR-PRO-0118-F02');
  });

  test('the year is that of registering in the zone of the organisation', () => {
    const local = dayOf(new Date('2026-12-31T23:30:00Z'), 'Europe/Zurich');
    expect(number('THR-MIN-{year}-{counter:3:per=year}', { type: 'MIN', day: local }, 1)).toBe('THR-MIN-2027-001');
  });

  test('a field that the rule needs and does not get is named', () => {
    const made = renderNumber(rule('THR-DWG-{area}{counter:3}'), { type: 'DWG', day }, 1);
    expect(made).toEqual({ ok: false, refusals: [{ code: 'number_needs_field_value', params: { token: 'area' } }] });
  });

  test('a number of more than 80 bytes is refused', () => {
    expect(number('{field:a}-{counter:4}', { type: 'X', day, fields: { a: 'ä'.repeat(40) } }, 1)).toBe(
      'number_too_long',
    );
  });
});

describe('scopes', () => {
  const scope = (text: string, metadata: Parameters<typeof scopeOf>[1]) => {
    const made = scopeOf(rule(text), metadata);
    return made.ok ? made.value : '';
  };
  test('a counter counts per rendered rest of the number', () => {
    expect(scope('THR-{type}-{counter:4}', { type: 'PRO', day })).toBe('THR-PRO-#');
    expect(scope('THR-{type}-{counter:4}', { type: 'WIN', day })).not.toBe(
      scope('THR-{type}-{counter:4}', { type: 'PRO', day }),
    );
  });
  test('with per it counts anew for each value of the named tokens only', () => {
    const text = '{type}-{year}-{counter:3:per=year}';
    expect(scope(text, { type: 'MIN', day })).toBe(scope(text, { type: 'RPT', day }));
    expect(scope(text, { type: 'MIN', day })).not.toBe(scope(text, { type: 'MIN', day: '2027-01-01' }));
  });
});

describe('a rule is refused when it is saved', () => {
  test.each([
    ['{type}-{counter:3:per=year}', 'rule_per_not_in_rule'],
    ['THR-{type}', 'rule_without_counter'],
    ['{counter:2}-{counter:3}', 'rule_with_two_counters'],
    ['{colour}-{counter:2}', 'rule_token_unknown'],
    ['{counter:0}', 'rule_token_unknown'],
    ['THR-{type-{counter:3}', 'rule_token_unknown'],
    ['THR-}{counter:3}', 'rule_brace_unmatched'],
    ['{type}{type}{counter:3}', 'rule_token_twice'],
    [`${'X'.repeat(90)}{counter:3}`, 'number_too_long'],
  ])('%s: %s', (text, code) => {
    const parsed = parseRule(text);
    expect(parsed.ok ? [] : parsed.refusals.map((r) => r.code)).toContain(code);
  });
});

describe('reading back', () => {
  test('the parts of a number are found again', () => {
    expect(readNumber(rules, 'THR-PRO-0118')).toMatchObject({ kind: 'read', parts: { type: 'PRO', counter: 118 } });
    expect(readNumber(rules, 'THR-DWG-2207')).toMatchObject({
      kind: 'read',
      parts: { type: 'DWG', area: '2', counter: 207 },
    });
    expect(readNumber(rules, 'THR-MIN-2027-001')).toMatchObject({ kind: 'read', parts: { year: '2027', counter: 1 } });
    expect(readNumber(rules, 'THR-PRO-0118-F02')).toMatchObject({
      kind: 'read',
      parts: { parent: 'THR-PRO-0118', counter: 2 },
    });
  });

  test('a malformed number names token, character and what would be right', () => {
    expect(readNumber(rules, 'THR-PRO-118')).toMatchObject({
      kind: 'malformed',
      token: 'counter',
      at: 9,
      reason: 'too few digits',
      needs: 4,
      has: 3,
    });
    expect(readNumber(rules, 'THR-PRO-00118')).toMatchObject({
      kind: 'malformed',
      token: 'counter',
      at: 9,
      reason: 'leading zero',
      needs: 4,
    });
    expect(readNumber([general], 'THR-XYZ-0118')).toMatchObject({
      kind: 'malformed',
      token: 'type',
      at: 5,
      reason: 'unknown code',
    });
    expect(readNumber(rules, 'THR-PRO-0118x')).toMatchObject({ kind: 'malformed', token: 'end', at: 13 });
  });

  test('what no rule begins to read is an outside number', () => {
    expect(readNumber(rules, 'BRH 88-104')).toEqual({ kind: 'outside' });
  });

  test('every rendered number reads back into its parts', () => {
    fc.assert(
      fc.property(fc.constantFrom('PRO', 'WIN', 'POL', 'FRM'), fc.integer({ min: 1, max: 2_000_000 }), (type, n) => {
        const made = renderNumber(general.rule, { type, day }, n);
        if (!made.ok) return false;
        const reading = readNumber(rules, made.value);
        return reading.kind === 'read' && reading.parts.type === type && reading.parts.counter === n;
      }),
    );
  });
});

describe('ambiguity', () => {
  test('codes of one length or a separator keep rules apart', () => {
    expect(findCollision(rules)).toBeUndefined();
  });

  test('an area code that makes a counter readable in two ways is refused with the smallest such number', () => {
    const collision = findCollision([known('THR-DWG-{area}{counter:3}', { areas: ['2', '22'] })]);
    expect(collision?.number).toBe('THR-DWG-22001');
    expect(collision?.readings.join(' / ')).toContain('area 2, counter 2001');
    expect(collision?.readings.join(' / ')).toContain('area 22, counter 001');
  });

  test('types A and A1 before a counter collide at A1001', () => {
    expect(findCollision([known('{type}{counter:3}', { types: ['A', 'A1'] })])?.number).toBe('A1001');
  });

  test('two rules that render the same number collide', () => {
    const collision = findCollision([known('X-{counter:2}'), known('X-{year:2}{counter:1}')]);
    expect(collision?.number).toBe('X-101');
  });

  test('rules of random codes are proven apart or a number is found that both readings give', () => {
    const code = fc.stringMatching(/^[AB1]{1,3}$/);
    fc.assert(
      fc.property(
        fc.uniqueArray(code, { minLength: 1, maxLength: 4 }),
        fc.integer({ min: 1, max: 3 }),
        (types, width) => {
          const one = known(`{type}{counter:${width}}`, { types });
          const collision = findCollision([one]);
          const readings = (text: string) =>
            types.filter((type) => {
              const rest = text.slice(type.length);
              return (
                text.startsWith(type) &&
                new RegExp(`^(\\d{${width}}|[1-9]\\d{${width},})$`).test(rest) &&
                Number(rest) > 0
              );
            }).length;
          if (collision) return readings(collision.number) >= 2;
          for (const type of types) {
            for (const n of [1, 9, 10, 99, 100, 111, 1000, 1111, 11111]) {
              if (readings(type + String(n).padStart(width, '0')) !== 1) return false;
            }
          }
          return true;
        },
      ),
      { numRuns: 150 },
    );
  });
});

describe('a number typed in any usual form', () => {
  test.each([
    ['pro 118', 'THR-PRO-0118'],
    ['THR-PRO-0118', 'THR-PRO-0118'],
    ['thr pro 0118', 'THR-PRO-0118'],
    ['PRO118', 'THR-PRO-0118'],
    ['dwg 2207', 'THR-DWG-2207'],
    ['min 2026 4', 'THR-MIN-2026-004'],
  ])('%s goes to %s', (typed, wanted) => {
    expect(guessNumbers(rules, typed)).toContain(wanted);
  });

  test('words are not taken for numbers', () => {
    expect(guessNumbers(rules, 'grip overhaul')).toEqual([]);
    expect(guessNumbers(rules, 'wind 40 m/s')).toEqual([]);
  });
});

test('outside numbers are kept as given, trimmed, and compared without case and runs of blanks', () => {
  expect(cleanOutsideNumber('  BRH   88-104 ').number).toBe('BRH 88-104');
  expect(foldNumber('brh 88-104')).toBe(cleanOutsideNumber('BRH   88-104').folded);
});
