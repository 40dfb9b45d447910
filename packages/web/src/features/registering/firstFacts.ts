import type { TypeInfo } from '@kanonos/contract';
import { defaultFacts, type KnownFirst } from '@kanonos/core';
import { type FactValues, toValues } from '../document/factValues.ts';

/** Values of a form with where each came from; what somebody typed has no origin and is never overwritten. */
export type HeldFacts = { values: FactValues; origins: Record<string, string> };

export const NO_FACTS: HeldFacts = { values: {}, origins: {} };

const SAID = {
  fixed: 'from the type',
  today: 'the day of registering',
  me: 'you, who register',
  folder: 'from the folder',
  parent: 'from the parent',
};

const OF_RULES: ReadonlySet<string> = new Set(Object.values(SAID));

const filled = (before: HeldFacts, values: FactValues, originOf: (key: string) => string): HeldFacts => {
  const free = Object.entries(values).filter(
    ([key, value]) => value !== '' && (!before.values[key] || before.origins[key] !== undefined),
  );
  return {
    values: { ...before.values, ...Object.fromEntries(free) },
    origins: { ...before.origins, ...Object.fromEntries(free.map(([key]) => [key, originOf(key)])) },
  };
};

/** Fills in what is known from somewhere, where nobody typed anything. */
export const fillFacts = (before: HeldFacts, values: FactValues, origin: string): HeldFacts =>
  filled(before, values, () => origin);

/** Takes values as a person left them: what is no more as it was filled in is that person's own. */
export const takeFacts = (before: HeldFacts, values: FactValues): HeldFacts => ({
  values,
  origins: Object.fromEntries(Object.entries(before.origins).filter(([key]) => values[key] === before.values[key])),
});

/**
 * Another type or folder: what the old one said goes, what was typed, or read from a model, a name or a text, stays, and what the new
 * one knows first is filled in beside it.
 */
export const beginFacts = (before: HeldFacts, type: Pick<TypeInfo, 'fields'>, known: KnownFirst): HeldFacts => {
  const stays = (key: string) => !OF_RULES.has(before.origins[key] ?? '');
  const kept = Object.fromEntries(Object.entries(before.values).filter(([key, value]) => value && stays(key)));
  const first = Object.fromEntries(
    Object.entries(toValues(defaultFacts(type.fields, known))).filter(([key]) => !kept[key]),
  );
  const kindOf = (key: string) => type.fields.find((field) => field.key === key)?.default?.from ?? 'fixed';
  const origins = Object.fromEntries(Object.entries(before.origins).filter(([key]) => kept[key]));
  return filled({ values: kept, origins }, first, (key) => SAID[kindOf(key)]);
};
