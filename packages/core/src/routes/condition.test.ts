import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { type ConditionField, decisiveCases, meetsCondition, parseCondition } from './condition.ts';

const FIELDS: ConditionField[] = [
  {
    key: 'risk',
    kind: 'choice',
    mandatory: true,
    options: [
      { code: 'H', text: 'high' },
      { code: 'L', text: 'low' },
    ],
  }, // prettier-ignore
  { key: 'span', kind: 'number', mandatory: false },
  { key: 'testedOn', kind: 'date', mandatory: false },
  { key: 'experts', kind: 'people', mandatory: false },
];

const meets = (text: string, facts: Record<string, string[]>) => {
  const parsed = parseCondition(text, FIELDS);
  if (!parsed.ok) throw new Error(JSON.stringify(parsed.refusals));
  return meetsCondition(parsed.value, facts);
};
const codes = (text: string) => {
  const parsed = parseCondition(text, FIELDS);
  return parsed.ok ? [] : parsed.refusals.map((one) => one.code);
};

describe('a condition', () => {
  it.each([
    ['change:major', { change: ['major'] }, true],
    ['change:major', { change: ['minor'] }, false],
    ['change:"first issue" or change:major', { change: ['first issue'] }, true],
    ['not change:editorial', { change: ['minor'] }, true],
    ['risk:High', { risk: ['H', 'high'] }, true],
    ['risk:h', { risk: ['H', 'high'] }, true],
    // Whole values, not parts of them.
    ['risk:hi', { risk: ['H', 'high'] }, false],
    ['folder:"Ropeway 2"', { folder: ['Plant', 'Ropeway 2'] }, true],
    ['span>=100', { span: ['250'] }, true],
    ['span>=100', { span: ['99.5'] }, false],
    ['span:100', { span: ['100.0'] }, true],
    ['span>=100', {}, false],
    ['testedOn<=2026-12-31', { testedOn: ['2026-03-01'] }, true],
    ['missing:testedOn', {}, true],
    ['not missing:testedOn', { testedOn: ['2026-03-01'] }, true],
    ['experts:"Lin Sato"', { experts: ['Otto Brandvik', 'Lin Sato'] }, true],
    ['change:major risk:H', { change: ['major'], risk: ['L', 'low'] }, false],
  ] as const)('%s on %j is %s', (text, facts, expected) => {
    expect(meets(text, Object.fromEntries(Object.entries(facts).map(([key, value]) => [key, [...value]])))).toBe(
      expected,
    );
  });

  it('compares fields only, and only those that there are', () => {
    expect(codes('major')).toEqual(['condition_without_field']);
    expect(codes('colour:red')).toEqual(['search_field_unknown']);
    // Fields of the search that say nothing of a route.
    expect(codes('number:X')).toEqual(['condition_field_unknown']);
    expect(codes('missing:colour')).toEqual(['condition_field_unknown']);
    expect(codes('change:major or')).toEqual(['search_or_alone']);
  });
});

describe('decisive cases', () => {
  const casesOf = (text: string) => {
    const parsed = parseCondition(text, FIELDS);
    return parsed.ok ? decisiveCases([parsed.value], FIELDS) : undefined;
  };

  it('are the values of a list, with nothing where a field may be empty', () => {
    expect(casesOf('risk:H')).toEqual([{ risk: ['H', 'high'] }, { risk: ['L', 'low'] }]);
    expect(casesOf('change:major')).toHaveLength(4);
    expect(casesOf('span>=100')?.map(({ span }) => span)).toContainEqual([]);
  });

  it('find out for every condition whether it can come out either way', () => {
    const side = fc.constantFrom('risk:H', 'risk:L', 'span>=10', 'span<=3', 'change:major', 'missing:span');
    const value = fc.record({
      risk: fc.constantFrom(['H', 'high'], ['L', 'low']),
      span: fc.oneof(
        fc.constant([]),
        fc.integer({ min: -50, max: 50 }).map((n) => [String(n)]),
      ), // prettier-ignore
      change: fc.constantFrom(['first issue'], ['minor'], ['major'], ['editorial']),
    });
    fc.assert(
      fc.property(
        fc.array(side, { minLength: 1, maxLength: 4 }),
        fc.constantFrom(' ', ' or '),
        value,
        (sides, by, facts) => {
          const text = sides.join(by);
          const parsed = parseCondition(text, FIELDS);
          const cases = casesOf(text) ?? [];
          if (!parsed.ok) return false;
          const outcomes = cases.map((one) => meetsCondition(parsed.value, one));
          return outcomes.includes(meetsCondition(parsed.value, facts));
        },
      ),
    );
  });

  it('are given up where there are too many', () => {
    const text = Array.from({ length: 40 }, (_, i) => `owner:p${i} department:d${i} folder:f${i}`).join(' ');
    expect(casesOf(text)).toBeUndefined();
  });
});
