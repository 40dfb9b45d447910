import type { TypeInfo } from '@kanonos/contract';
import { defaultFacts, type KnownFirst } from '@kanonos/core';
import { useState } from 'react';
import { type FactValues, toValues } from '../document/FactFields.tsx';

/** Values of a form with where each came from; what somebody typed has no origin and is never overwritten. */
export type FirstFacts = {
  values: FactValues;
  origins: Record<string, string>;
  /** Takes values as the person left them. */
  set: (values: FactValues) => void;
  /** Fills in what is known from somewhere, where nobody typed anything. */
  fill: (values: FactValues, origin: string) => void;
  /** Another type or folder: values that were filled in for the old one go, typed ones stay. */
  begin: (type: TypeInfo, known: KnownFirst) => void;
};

const SAID = {
  fixed: 'from the type',
  today: 'the day of registering',
  me: 'you, who register',
  folder: 'from the folder',
  parent: 'from the parent',
};

const OF_RULES: ReadonlySet<string> = new Set(Object.values(SAID));

/** Facts of a document that is being registered. */
export const useFirstFacts = (): FirstFacts => {
  const [state, setState] = useState<{ values: FactValues; origins: Record<string, string> }>({
    values: {},
    origins: {},
  });
  const filled = (before: typeof state, values: FactValues, originOf: (key: string) => string): typeof state => {
    const free = Object.entries(values).filter(
      ([key, value]) => value !== '' && (!before.values[key] || before.origins[key] !== undefined),
    );
    return {
      values: { ...before.values, ...Object.fromEntries(free) },
      origins: { ...before.origins, ...Object.fromEntries(free.map(([key]) => [key, originOf(key)])) },
    };
  };
  return {
    ...state,
    set: (values) =>
      setState((before) => ({
        values,
        origins: Object.fromEntries(
          Object.entries(before.origins).filter(([key]) => values[key] === before.values[key]),
        ),
      })),
    fill: (values, origin) => setState((before) => filled(before, values, () => origin)),
    begin: (type, known) =>
      setState((before) => {
        // What was typed, or read from a model, a name or a text, stays; what the old type or folder said goes.
        const stays = (key: string) => !OF_RULES.has(before.origins[key] ?? '');
        const kept = Object.fromEntries(Object.entries(before.values).filter(([key, value]) => value && stays(key)));
        const first = Object.fromEntries(
          Object.entries(toValues(defaultFacts(type.fields, known))).filter(([key]) => !kept[key]),
        );
        const kindOf = (key: string) => type.fields.find((field) => field.key === key)?.default?.from ?? 'fixed';
        const origins = Object.fromEntries(Object.entries(before.origins).filter(([key]) => kept[key]));
        return filled({ values: kept, origins }, first, (key) => SAID[kindOf(key)]);
      }),
  };
};
