import { formatSearch, type Search, type SearchCondition } from '../search/grammar.ts';
import { type ConditionField, parseCondition } from './condition.ts';

export const CONDITION_OPERATORS = ['is', 'is not', 'at least', 'at most', 'is given', 'is not given'] as const;
export type ConditionOperator = (typeof CONDITION_OPERATORS)[number];

/** A condition as a row: a field, how it is compared, and the values of which any one will do. */
export type ConditionRow = { field: string; operator: ConditionOperator; values: readonly string[] };

const isField = (one: SearchCondition): one is Extract<SearchCondition, { kind: 'field' }> => one.kind === 'field';

const toRow = (one: SearchCondition): ConditionRow | undefined => {
  if (!isField(one)) return undefined;
  const { field, compare, value, not } = one;
  if (field === 'missing') return { field: value, operator: not ? 'is given' : 'is not given', values: [] };
  if (compare === ':') return { field, operator: not ? 'is not' : 'is', values: [value] };
  return not ? undefined : { field, operator: compare === '>=' ? 'at least' : 'at most', values: [value] };
};

const rowsOf = ({ terms }: Search): ConditionRow[] | undefined => {
  const rows = terms.map((term): ConditionRow | undefined => {
    if (term.kind !== 'either') return toRow(term);
    const sides = term.of.map(toRow);
    const [first] = sides;
    const isOneField = sides.every((side) => side?.operator === 'is' && side.field === first?.field);
    return first && isOneField ? { ...first, values: sides.flatMap((side) => side?.values ?? []) } : undefined;
  });
  return rows.every((row) => row !== undefined) ? rows : undefined;
};

/** The rows of a condition, of which all must hold; undefined where it cannot be read, or says more than rows can show. */
export const conditionRows = (text: string, fields: readonly ConditionField[]): ConditionRow[] | undefined => {
  const parsed = parseCondition(text, fields);
  return parsed.ok ? rowsOf(parsed.value) : undefined;
};

const COMPARED = { is: ':', 'is not': ':', 'at least': '>=', 'at most': '<=' } as const;

/** Writes rows as a condition. A row that needs a value and has none says nothing yet and is left out. */
export const conditionText = (rows: readonly ConditionRow[]): string =>
  formatSearch({
    terms: rows.flatMap(({ field, operator, values }): Search['terms'] => {
      if (operator === 'is given' || operator === 'is not given')
        return [{ kind: 'field', field: 'missing', compare: ':', value: field, not: operator === 'is given' }];
      const not = operator === 'is not';
      const sides = values
        .filter((value) => value !== '')
        .map((value) => ({ kind: 'field', field, compare: COMPARED[operator], value, not }) as const);
      const [first, ...others] = sides;
      if (!first) return [];
      // *Is not* any of them: all must differ.
      return others.length === 0 || not ? sides : [{ kind: 'either', of: sides, not: false }];
    }),
  });
