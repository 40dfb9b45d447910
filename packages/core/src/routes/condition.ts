import type { FieldDefinition } from '../metadata/metadata.ts';
import { type Refusal, type Result, refusal } from '../result.ts';
import { parseSearch, type Search, type SearchCondition } from '../search/grammar.ts';

/** What every document has that a condition can ask for, beside the fields of its type. */
export const CONDITION_FIELDS = ['change', 'folder', 'department', 'confidentiality', 'owner'] as const;
/** What the condition on a change can name. */
export const CONDITION_CHANGES = ['first issue', 'minor', 'major', 'editorial'] as const;

/** A field that a condition can ask for: of a type, with the values that it can have where they are a list. */
export type ConditionField = Pick<FieldDefinition, 'key' | 'kind' | 'mandatory' | 'options'>;

/** The values of a document by field, as they are written and by code and text where they have both; nothing for what is not given. */
export type ConditionFacts = Readonly<Record<string, readonly string[]>>;

const kindOf = (field: ConditionField): 'text' | 'date' | 'number' | 'person' =>
  field.kind === 'date' || field.kind === 'number'
    ? field.kind
    : field.kind === 'person' || field.kind === 'people'
      ? 'person'
      : 'text';

const conditionsOf = ({ terms }: Search): SearchCondition[] =>
  terms.flatMap((term) => (term.kind === 'either' ? term.of : [term]));

/**
 * Reads a condition: conditions on fields in the grammar of the search, of which all must hold, with *or* and *not*. A word alone, and
 * a field that neither every document nor the type has, are refused.
 */
export const parseCondition = (text: string, fields: readonly ConditionField[]): Result<Search> => {
  const kinds = {
    ...Object.fromEntries(fields.map((field) => [field.key, kindOf(field)])),
    ...Object.fromEntries(CONDITION_FIELDS.map((key) => [key, 'text' as const])),
  };
  const parsed = parseSearch(text, kinds);
  if (!parsed.ok) return parsed;
  const refusals = conditionsOf(parsed.value).flatMap((one): Refusal[] => {
    if (one.kind !== 'field') return [refusal('condition_without_field', { text: one.text })];
    const asked = one.field === 'missing' ? one.value : one.field;
    return asked in kinds ? [] : [refusal('condition_field_unknown', { field: asked })];
  });
  return refusals.length > 0 ? { ok: false, refusals } : parsed;
};

const holds = (condition: SearchCondition, facts: ConditionFacts): boolean => {
  if (condition.kind !== 'field') return false;
  const { field, compare, value, not } = condition;
  const given = facts[field] ?? [];
  const meant = value.toLowerCase();
  const met =
    field === 'missing'
      ? (facts[value] ?? []).length === 0
      : given.some((one) => {
          const written = one.toLowerCase();
          if (compare === ':') return written === meant || (meant !== '' && Number(written) === Number(meant));
          const [a, b] = [Number(written), Number(meant)];
          const order = Number.isNaN(a) || Number.isNaN(b) ? (written < meant ? -1 : written > meant ? 1 : 0) : a - b;
          return compare === '>=' ? order >= 0 : order <= 0;
        });
  return met !== not;
};

/** Whether a document meets a condition. Values are compared whole, in any case of letters; days and numbers by their order. */
export const meetsCondition = ({ terms }: Search, facts: ConditionFacts): boolean =>
  terms.every((term) => (term.kind === 'either' ? term.of.some((one) => holds(one, facts)) : holds(term, facts)));

/** More combinations of values are not tried: then nothing is said of the conditions. */
const MOST_CASES = 20_000;
const ANOTHER = '\u0000another';

const around = (value: string, field: ConditionField | undefined): string[] => {
  if (field?.kind === 'number') return [String(Number(value) - 1), value, String(Number(value) + 1)];
  return field?.kind === 'date' ? ['0000-01-01', value, '9999-12-31'] : [value];
};

/** The values that decide how conditions on a field come out: those of its list, or those that are named and another. */
const decisiveValues = (
  key: string,
  named: readonly string[],
  field: ConditionField | undefined,
): (readonly string[])[] => {
  if (key === 'change') return CONDITION_CHANGES.map((change) => [change]);
  const isList = field?.kind === 'choice' || field?.kind === 'choices';
  const single = isList
    ? (field.options ?? []).map(({ code, text }) => [code, text])
    : [...new Set([...named.flatMap((value) => around(value, field)), ANOTHER])].map((value) => [value]);
  const several = field?.kind === 'choices' || field?.kind === 'people' || key === 'folder' ? [single.flat()] : [];
  const mayBeMissing = field ? !field.mandatory : key === 'department';
  return [...single, ...several, ...(mayBeMissing ? [[]] : [])];
};

/**
 * Every case in which conditions come out differently, as the values that decide it; undefined where there are too many. A case that
 * is not among them comes out like one of them.
 */
export const decisiveCases = (
  conditions: readonly Search[],
  fields: readonly ConditionField[],
): ConditionFacts[] | undefined => {
  const named = new Map<string, string[]>();
  for (const condition of conditions.flatMap(conditionsOf)) {
    if (condition.kind !== 'field') continue;
    const key = condition.field === 'missing' ? condition.value : condition.field;
    named.set(key, [...(named.get(key) ?? []), ...(condition.field === 'missing' ? [] : [condition.value])]);
  }
  let cases: ConditionFacts[] = [{}];
  for (const [key, values] of named) {
    const decisive = decisiveValues(
      key,
      values,
      fields.find((field) => field.key === key),
    );
    if (cases.length * decisive.length > MOST_CASES) return undefined;
    cases = cases.flatMap((one) => decisive.map((value) => ({ ...one, [key]: value })));
  }
  return cases;
};
