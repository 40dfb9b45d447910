import { isDay } from '../calendar/zone.ts';
import { type Refusal, refusal } from '../result.ts';

/** What a field can be and a question of a form as well. People are given by id, documents by number. */
export const QUESTION_KINDS = [
  'text',
  'long text',
  'number',
  'date',
  'yes/no',
  'choice',
  'choices',
  'person',
  'people',
  'document',
  'web address',
] as const;
export type QuestionKind = (typeof QUESTION_KINDS)[number];

/** What a field can be. Departments and sites are given by code, folders by id. */
export const FIELD_KINDS = [...QUESTION_KINDS, 'department', 'site', 'folder', 'entry'] as const;
export type FieldKind = (typeof FIELD_KINDS)[number];

/** A revision field freezes with the revision; a document field can be changed at any time. */
export const FIELD_LEVELS = ['revision', 'document'] as const;
export type FieldLevel = (typeof FIELD_LEVELS)[number];

/** One option of a choice. A retired one stays on old documents and is offered no more; `under` is the code it depends on. */
export type FieldOption = { code: string; text: string; under?: string; retired?: boolean };

/** Where the first value of a field comes from when nobody gave one. */
export type FieldDefault =
  | { from: 'fixed'; value: string }
  | { from: 'today' }
  | { from: 'me' }
  | { from: 'folder' }
  | { from: 'parent' };

/** A field that a type asks for. */
export type FieldDefinition = {
  key: string;
  label: string;
  kind: FieldKind;
  mandatory: boolean;
  level: FieldLevel;
  unit?: string;
  /** The shared list that a choice or an entry is from; `options` holds the options of a choice list too. */
  list?: string;
  options?: FieldOption[];
  /** The field whose choice determines the options offered here. */
  dependsOn?: string;
  /** What a text must look like as a whole, and the sentence for one that does not. */
  pattern?: string;
  patternWords?: string;
  /** No two documents of the type may have the same value. */
  unique?: boolean;
  /** The register has a column of it while it shows its type. */
  shown?: boolean;
  default?: FieldDefault;
  /** Of an entry: which metadata it fills (field by field of the entry). */
  fills?: Record<string, string>;
  /** Of a day: whom it reminds how many days before, the owner or the person of a person field. */
  remind?: { days: number; to: string };
  help?: string;
};

export type FieldValue = string | number | boolean | string[] | null;
export type Metadata = Readonly<Record<string, FieldValue>>;

const MAX_TEXT = 4000;
const MAX_PARTS = 50;

export const isEmptyFieldValue = (value: FieldValue | undefined): boolean =>
  value === undefined || value === null || value === '' || (Array.isArray(value) && value.length === 0);

export const equalMetadata = (a: FieldValue | undefined, b: FieldValue | undefined): boolean =>
  isEmptyFieldValue(a) ? isEmptyFieldValue(b) : JSON.stringify(a) === JSON.stringify(b);

/** The options of a choice that are offered beside these metadata: not retired, and under the choice that it depends on. */
export const offeredOptions = (field: FieldDefinition, metadata: Metadata): FieldOption[] => {
  const above = field.dependsOn === undefined ? undefined : metadata[field.dependsOn];
  return (field.options ?? []).filter(
    (option) => !option.retired && (isEmptyFieldValue(above) || option.under === undefined || option.under === above),
  );
};

/**
 * What is wrong with metadata by a type's fields: unknown fields, wrong kinds, options that are not offered; gaps are reported by
 * `missingFields`. What stood there before may stay, also a retired option.
 */
export const checkMetadata = (
  fields: readonly FieldDefinition[],
  metadata: Metadata,
  before: Metadata = {},
): Refusal[] => {
  const known = new Map(fields.map((field) => [field.key, field]));
  return Object.entries(metadata).flatMap(([key, value]) => {
    const field = known.get(key);
    if (!field) return [refusal('field_unknown', { field: key })];
    if (isEmptyFieldValue(value)) return [];
    const unchanged = equalMetadata(value, before[key]);
    const dependsOnSame =
      field.dependsOn === undefined || equalMetadata(metadata[field.dependsOn], before[field.dependsOn] ?? null);
    if (unchanged && dependsOnSame) return [];
    const wanted = whatWouldBeRight(field, value, metadata);
    return wanted === undefined ? [] : [refusal('field_wrong_kind', { field: field.label, wanted })];
  });
};

const whatWouldBeRight = (field: FieldDefinition, value: FieldValue, metadata: Metadata): string | undefined => {
  switch (field.kind) {
    case 'number':
      return typeof value === 'number' && Number.isFinite(value) ? undefined : 'a number';
    case 'yes/no':
      return typeof value === 'boolean' ? undefined : 'yes or no';
    case 'date':
      return typeof value === 'string' && isDay(value) ? undefined : 'a date such as 2026-11-25';
    case 'choice': {
      const offered = offeredOptions(field, metadata);
      return offered.some((option) => option.code === value) ? undefined : oneOf(offered);
    }
    case 'choices': {
      const offered = new Set(offeredOptions(field, metadata).map((option) => option.code));
      const all = Array.isArray(value) && value.length <= MAX_PARTS && value.every((code) => offered.has(code));
      return all ? undefined : `some of ${[...offered].slice(0, 12).join(', ')}`;
    }
    case 'people':
      return Array.isArray(value) && value.length <= MAX_PARTS ? undefined : 'a list of people';
    case 'web address':
      return typeof value === 'string' && isWebAddress(value) ? undefined : 'an address that begins with https://';
    default: {
      if (typeof value !== 'string' || value.length > MAX_TEXT) return `a text of at most ${MAX_TEXT} characters`;
      if (field.pattern && !matchesWhole(field.pattern, value))
        return field.patternWords || `a text that matches ${field.pattern}`;
      return undefined;
    }
  }
};

const oneOf = (offered: readonly FieldOption[]): string => {
  if (offered.length === 0) return 'empty (it has no options)';
  const codes = offered.slice(0, 12).map((option) => option.code);
  return `one of ${codes.join(', ')}${offered.length > 12 ? ' …' : ''}`;
};

/** Whether a text fits a pattern from its first to its last character. */
export const matchesWhole = (pattern: string, text: string): boolean =>
  new RegExp(`^(?:${pattern})$`, 'u').test(text.normalize('NFC'));

const isWebAddress = (text: string): boolean => /^https?:\/\/[^\s/]+\.[^\s/]+(\/\S*)?$/iu.test(text);

/** The labels of mandatory fields without a value. */
export const missingFields = (fields: readonly FieldDefinition[], metadata: Metadata): string[] =>
  fields.filter((field) => field.mandatory && isEmptyFieldValue(metadata[field.key])).map((field) => field.label);

/** Metadata apart: those that freeze with the revision and those that live with the document. */
export const splitMetadata = (
  fields: readonly FieldDefinition[],
  metadata: Metadata,
): { revisionFields: Metadata; documentFields: Metadata } => {
  const revisionKeys = new Set(fields.filter((field) => field.level === 'revision').map((field) => field.key));
  const pick = (ofRevision: boolean) =>
    Object.fromEntries(
      Object.entries(metadata).filter(
        ([key, value]) => revisionKeys.has(key) === ofRevision && !isEmptyFieldValue(value),
      ),
    );
  return { revisionFields: pick(true), documentFields: pick(false) };
};

/** Which metadata differ between two sets, with both values. */
export const changedMetadata = (
  before: Metadata,
  after: Metadata,
): { key: string; before: FieldValue; after: FieldValue }[] =>
  [...new Set([...Object.keys(before), ...Object.keys(after)])]
    .sort()
    .filter((key) => !equalMetadata(before[key], after[key]))
    .map((key) => ({ key, before: before[key] ?? null, after: after[key] ?? null }));

/** How a field is shown: choices by their text, yes/no in words, numbers with their unit, several with commas. */
export const showFieldValue = (field: FieldDefinition | undefined, value: FieldValue | undefined): string => {
  if (value === undefined || isEmptyFieldValue(value)) return '–';
  const text = (code: unknown) => field?.options?.find((option) => option.code === code)?.text ?? String(code);
  if (Array.isArray(value)) return value.map(text).join(', ');
  if (field?.kind === 'choice') return text(value);
  if (typeof value === 'boolean') return value ? 'yes' : 'no';
  return field?.unit ? `${value} ${field.unit}` : String(value);
};

/** What first values of metadata can come from. */
export type KnownFirst = { today: string; me: string; folder: Metadata; parent: Metadata };

/** First values of metadata that nobody gave: fixed ones, today's day, the person who registers, the value of the folder or the parent. */
export const defaultMetadata = (fields: readonly FieldDefinition[], known: KnownFirst): Record<string, FieldValue> => {
  const found: Record<string, FieldValue> = {};
  for (const field of fields) {
    const value = firstValue(field, known);
    if (!isEmptyFieldValue(value)) found[field.key] = value ?? null;
  }
  return found;
};

const firstValue = (field: FieldDefinition, known: KnownFirst): FieldValue | undefined => {
  switch (field.default?.from) {
    case 'today':
      return known.today;
    case 'me':
      return field.kind === 'people' ? [known.me] : known.me;
    case 'folder':
      return known.folder[field.key];
    case 'parent':
      return known.parent[field.key];
    case 'fixed': {
      const { value } = field.default;
      if (field.kind === 'number') return Number(value);
      if (field.kind === 'yes/no') return value === 'true';
      return field.kind === 'choices' || field.kind === 'people' ? value.split(',').map((part) => part.trim()) : value;
    }
    default:
      return undefined;
  }
};
