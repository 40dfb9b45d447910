import { type Refusal, type RefusalArguments, type RefusalCode, refusal } from '@kanonos/core';

/** An expected refusal on its way to the one handler that gives it words and a status. */
export class RefusalError extends Error {
  readonly refusals: readonly Refusal[];
  constructor(refusals: readonly Refusal[]) {
    super(refusals.map((refusal) => refusal.code).join(', '));
    this.name = 'RefusalError';
    this.refusals = refusals;
  }
}

/** One refusal to throw, with the parameters that its code asks for. */
export const refused = <C extends RefusalCode>(code: C, ...params: RefusalArguments<C>) =>
  new RefusalError([refusal(code, ...params)]);

/** Throws when a rule of the core gave reasons against. */
export const assertAllowed = (refusals: readonly Refusal[]): void => {
  if (refusals.length > 0) throw new RefusalError(refusals);
};
