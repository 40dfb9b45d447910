import type { RefusalCode, RefusalParameters } from '@kanonos/core';
import { authoring } from './problems/authoring.ts';
import { configuration } from './problems/configuration.ts';
import { filing } from './problems/filing.ts';
import { forms } from './problems/forms.ts';
import { imports } from './problems/imports.ts';
import { people } from './problems/people.ts';
import type { Problem } from './problems/problem.ts';
import { registering } from './problems/registering.ts';
import { requests } from './problems/requests.ts';
import { rounds } from './problems/rounds.ts';
import { search } from './problems/search.ts';

/** Sentence and status of every refusal: the one table for the server (status, title, detail) and the web (sentence). */
export const PROBLEMS: { [C in RefusalCode]: Problem<RefusalParameters<C>> } = {
  ...requests,
  ...people,
  ...registering,
  ...configuration,
  ...forms,
  ...imports,
  ...filing,
  ...authoring,
  ...rounds,
  ...search,
};

export type ProblemCode = RefusalCode;

type Parameters = Record<string, string | number>;

/** A problem by a code that came over the wire; an unknown code is a bug and has none. */
const problemOf = (code: string) => (PROBLEMS as unknown as Record<string, Problem<Parameters>>)[code];

/** The status of a code; an unknown code is a bug and answers 500. */
export const statusOf = (code: string): number => problemOf(code)?.status ?? 500;

/** The field that a refusal is about, by its label on the form: named by the refusal itself, or always the same. */
export const fieldOf = (code: string, parameters: Parameters = {}): string | undefined =>
  typeof parameters.field === 'string' ? parameters.field : problemOf(code)?.field;

/** The sentence of a refusal: what happened, then what to do, with times in the organisation's zone. */
export const sentenceOf = (code: string, parameters: Parameters = {}, zone?: string): string => {
  const sentence = problemOf(code)?.sentence;
  if (sentence === undefined) return code;
  return typeof sentence === 'function' ? sentence(parameters, zone) : sentence;
};
