import { isDay } from '../calendar/zone.ts';
import { type Refusal, refusal } from '../result.ts';

export type FieldKind = 'text' | 'long text' | 'number' | 'date' | 'yes/no' | 'choice' | 'person';

/** A fact that a type asks for. */
export type FieldDefinition = {
  key: string;
  label: string;
  kind: FieldKind;
  mandatory: boolean;
  /** Signed facts belong to the revision and freeze with it; living ones belong to the document. */
  signed: boolean;
  unit?: string;
  options?: readonly { code: string; text: string }[];
  help?: string;
};

export type FactValue = string | number | boolean | null;
export type Facts = Readonly<Record<string, FactValue>>;

const MAX_TEXT = 4000;

/** What is wrong with facts by a type's fields: unknown fields and wrong kinds; gaps are told by `missingFacts`. */
export const checkFacts = (fields: readonly FieldDefinition[], facts: Facts): Refusal[] => {
  const known = new Map(fields.map((field) => [field.key, field]));
  return Object.entries(facts).flatMap(([key, value]) => {
    const field = known.get(key);
    if (!field) return [refusal('fact_unknown', { field: key })];
    if (value === null || value === '') return [];
    const wrong = (wanted: string) => [refusal('fact_wrong_kind', { field: field.label, wanted })];
    switch (field.kind) {
      case 'number':
        return typeof value === 'number' && Number.isFinite(value) ? [] : wrong('a number');
      case 'yes/no':
        return typeof value === 'boolean' ? [] : wrong('yes or no');
      case 'date':
        return typeof value === 'string' && isDay(value) ? [] : wrong('a day such as 2026-11-25');
      case 'choice':
        return typeof value === 'string' && field.options?.some((option) => option.code === value)
          ? []
          : wrong(`one of ${field.options?.map((option) => option.code).join(', ')}`);
      default:
        return typeof value === 'string' && value.length <= MAX_TEXT
          ? []
          : wrong(`a text of at most ${MAX_TEXT} characters`);
    }
  });
};

/** The labels of mandatory fields without a value. */
export const missingFacts = (fields: readonly FieldDefinition[], facts: Facts): string[] =>
  fields
    .filter(
      (field) =>
        field.mandatory && (facts[field.key] === undefined || facts[field.key] === null || facts[field.key] === ''),
    )
    .map((field) => field.label);

/** Facts apart: those that freeze with the revision and those that live with the document. */
export const splitFacts = (fields: readonly FieldDefinition[], facts: Facts): { signed: Facts; living: Facts } => {
  const signedKeys = new Set(fields.filter((field) => field.signed).map((field) => field.key));
  const pick = (signed: boolean) =>
    Object.fromEntries(
      Object.entries(facts).filter(([key, value]) => signedKeys.has(key) === signed && value !== null && value !== ''),
    );
  return { signed: pick(true), living: pick(false) };
};

/** Which facts differ between two sets, with both values. */
export const changedFacts = (before: Facts, after: Facts): { key: string; before: FactValue; after: FactValue }[] =>
  [...new Set([...Object.keys(before), ...Object.keys(after)])]
    .sort()
    .filter((key) => (before[key] ?? null) !== (after[key] ?? null))
    .map((key) => ({ key, before: before[key] ?? null, after: after[key] ?? null }));
