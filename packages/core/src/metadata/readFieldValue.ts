import { isDay } from '../calendar/zone.ts';
import { foldText } from '../text.ts';
import type { FieldDefinition, FieldValue, Metadata } from './metadata.ts';

const LONGEST = 400;

/**
 * A written value in the form of its field kind; undefined where it does not fit or is ambiguous. People,
 * places and entries are known by codes that nobody writes into a file: the person who files it sets them.
 */
export const readFieldValue = (field: FieldDefinition, text: string): FieldValue | undefined => {
  const value = text.trim().slice(0, LONGEST);
  if (value === '') return undefined;
  const option = (word: string) =>
    field.options?.find(
      (one) => !one.retired && [one.code, one.text].some((known) => foldText(known) === foldText(word)),
    )?.code;
  switch (field.kind) {
    case 'text':
    case 'long text':
    case 'document':
    case 'web address':
      return value;
    case 'number': {
      const number = Number(/^-?\d+(?:[.,]\d+)?/.exec(value)?.[0]?.replace(',', '.'));
      return Number.isFinite(number) ? number : undefined;
    }
    case 'date':
      return readDay(value);
    case 'yes/no':
      return { yes: true, true: true, no: false, false: false }[value.toLowerCase()];
    case 'choice':
      return option(value);
    case 'choices': {
      const codes = value.split(/[,;]/).map((word) => option(word.trim()));
      return codes.every((code) => code !== undefined) ? (codes as string[]) : undefined;
    }
    default:
      return undefined;
  }
};

/** Metadata from named values, such as the properties of a file: by key or by label of a field. */
export const metadataFromNamed = (
  fields: readonly FieldDefinition[],
  named: Readonly<Record<string, string>>,
): Metadata => {
  const byName = new Map(Object.entries(named).map(([name, text]) => [foldText(name), text]));
  return Object.fromEntries(
    fields.flatMap((field) => {
      const text = byName.get(foldText(field.key)) ?? byName.get(foldText(field.label));
      const value = text === undefined ? undefined : readFieldValue(field, text);
      return value === undefined ? [] : [[field.key, value] as const];
    }),
  );
};

/** A day as 2026-11-25 or 25.11.2026; others could mean two days. */
const readDay = (text: string): string | undefined => {
  const iso = /\b(\d{4}-\d{2}-\d{2})\b/.exec(text)?.[1];
  const [, d = '', m = '', y = ''] = /\b(\d{1,2})\.(\d{1,2})\.(\d{4})\b/.exec(text) ?? [];
  const day = iso ?? (y && `${y}-${m.padStart(2, '0')}-${d.padStart(2, '0')}`);
  return day && isDay(day) ? day : undefined;
};
