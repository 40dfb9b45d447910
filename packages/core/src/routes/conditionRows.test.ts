import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import type { ConditionField } from './condition.ts';
import { type ConditionRow, conditionRows, conditionText } from './conditionRows.ts';

const FIELDS: ConditionField[] = [
  { key: 'risk', kind: 'text', mandatory: false },
  { key: 'span', kind: 'number', mandatory: false },
];

describe('the rows of a condition', () => {
  it.each([
    ['change:major', [{ field: 'change', operator: 'is', values: ['major'] }]],
    ['change:major or change:"first issue"', [{ field: 'change', operator: 'is', values: ['major', 'first issue'] }]],
    [
      'not risk:low span>=10',
      [
        { field: 'risk', operator: 'is not', values: ['low'] },
        { field: 'span', operator: 'at least', values: ['10'] },
      ],
    ], // prettier-ignore
    ['not missing:risk', [{ field: 'risk', operator: 'is given', values: [] }]],
  ] as const)('show %s', (text, rows) => {
    expect(conditionRows(text, FIELDS)).toEqual(rows);
    expect(conditionText(rows)).toBe(text);
  });

  it('do not show what says more than they can', () => {
    expect(conditionRows('change:major or risk:high', FIELDS)).toBeUndefined();
    expect(conditionRows('not span>=10', FIELDS)).toBeUndefined();
    expect(conditionRows('colour:red', FIELDS)).toBeUndefined();
  });

  it('leave out what has no value yet', () => {
    expect(conditionText([{ field: 'risk', operator: 'is', values: [] }])).toBe('');
    expect(conditionText([{ field: 'risk', operator: 'is', values: [''] }])).toBe('');
  });

  it('mean the same when they are written and read again', () => {
    const value = fc.stringMatching(/^[A-Za-zäöü0-9][A-Za-zäöü0-9 .-]{0,12}$/);
    const row: fc.Arbitrary<ConditionRow> = fc.oneof(
      fc.record({
        field: fc.constantFrom('risk', 'change', 'folder'),
        operator: fc.constant('is' as const),
        values: fc.array(value, { minLength: 1, maxLength: 3 }),
      }),
      fc.record({
        field: fc.constant('span'),
        operator: fc.constantFrom('at least' as const, 'at most' as const),
        values: fc.tuple(fc.integer().map(String)),
      }),
      fc.record({
        field: fc.constantFrom('risk', 'span'),
        operator: fc.constantFrom('is given' as const, 'is not given' as const),
        values: fc.constant([]),
      }),
      fc.record({ field: fc.constant('risk'), operator: fc.constant('is not' as const), values: fc.tuple(value) }),
    );
    fc.assert(
      fc.property(fc.array(row, { maxLength: 4 }), (rows) => {
        expect(conditionRows(conditionText(rows), FIELDS)).toEqual(rows);
      }),
    );
  });
});
