import type { Field } from '@kanonos/contract';
import { isEmptyFieldValue, type Metadata } from '@kanonos/core';

/** Values of a form: everything as text, several values one a line. */
export type MetadataValues = Record<string, string>;

const SEVERAL = new Set<Field['kind']>(['choices', 'people']);
/** The values of one that may have several. */
export const partsOf = (value: string | undefined) => (value ?? '').split('\n').filter(Boolean);

/**
 * Values of a form as metadata: numbers, yes/no and several by their kind, empty ones as none. What is no number stays as it was typed, so
 * that it is refused with its field named instead of being lost.
 */
export const toMetadata = (
  fields: readonly Field[],
  values: MetadataValues,
): Record<string, string | number | boolean | string[] | null> =>
  Object.fromEntries(
    fields.map((field) => {
      const value = values[field.key]?.trim() ?? '';
      if (value === '') return [field.key, null];
      if (SEVERAL.has(field.kind)) return [field.key, partsOf(value)];
      if (field.kind === 'number') {
        const number = Number(value.replace(',', '.'));
        return [field.key, Number.isFinite(number) ? number : value];
      }
      if (field.kind === 'yes/no') return [field.key, value === 'true'];
      return [field.key, value];
    }),
  );

/** Metadata as values of a form. */
export const toValues = (metadata: Metadata): MetadataValues =>
  Object.fromEntries(
    Object.entries(metadata).map(([key, value]) => [
      key,
      isEmptyFieldValue(value) ? '' : Array.isArray(value) ? value.join('\n') : String(value),
    ]),
  );
