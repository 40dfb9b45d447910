import type { TypeInfo } from '@kanonos/contract';
import { defaultMetadata, type KnownFirst } from '@kanonos/core';
import { type MetadataValues, toValues } from '../document/metadataValues.ts';
import { wording } from './wording.ts';

/** Values of a form with where each came from; what somebody typed has no origin and is never overwritten. */
export type EnteredMetadata = { values: MetadataValues; origins: Record<string, string> };

export const NO_METADATA: EnteredMetadata = { values: {}, origins: {} };

const SAID = {
  fixed: wording.fromTheType,
  today: wording.theDayOfRegistering,
  me: wording.youWhoRegister,
  folder: wording.fromTheFolder,
  parent: wording.fromTheParent,
};

const OF_RULES: ReadonlySet<string> = new Set(Object.values(SAID));

const filled = (
  before: EnteredMetadata,
  values: MetadataValues,
  originOf: (key: string) => string,
): EnteredMetadata => {
  const free = Object.entries(values).filter(
    ([key, value]) => value !== '' && (!before.values[key] || before.origins[key] !== undefined),
  );
  return {
    values: { ...before.values, ...Object.fromEntries(free) },
    origins: { ...before.origins, ...Object.fromEntries(free.map(([key]) => [key, originOf(key)])) },
  };
};

/** Fills in what is known from somewhere, where nobody typed anything. */
export const fillMetadata = (before: EnteredMetadata, values: MetadataValues, origin: string): EnteredMetadata =>
  filled(before, values, () => origin);

/** Takes values as a person left them: what is no more as it was filled in is that person's own. */
export const takeMetadata = (before: EnteredMetadata, values: MetadataValues): EnteredMetadata => ({
  values,
  origins: Object.fromEntries(Object.entries(before.origins).filter(([key]) => values[key] === before.values[key])),
});

/**
 * Another type or folder: values of the old one go, values typed, or read from a model, a name or a text, stay, and what the new
 * one knows first is filled in beside it.
 */
export const beginMetadata = (
  before: EnteredMetadata,
  type: Pick<TypeInfo, 'fields'>,
  known: KnownFirst,
): EnteredMetadata => {
  const stays = (key: string) => !OF_RULES.has(before.origins[key] ?? '');
  const kept = Object.fromEntries(Object.entries(before.values).filter(([key, value]) => value && stays(key)));
  const first = Object.fromEntries(
    Object.entries(toValues(defaultMetadata(type.fields, known))).filter(([key]) => !kept[key]),
  );
  const kindOf = (key: string) => type.fields.find((field) => field.key === key)?.default?.from ?? 'fixed';
  const origins = Object.fromEntries(Object.entries(before.origins).filter(([key]) => kept[key]));
  return filled({ values: kept, origins }, first, (key) => SAID[kindOf(key)]);
};
