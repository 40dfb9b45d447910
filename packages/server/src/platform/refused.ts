import type { Refusal, RefusalCode } from '@kanonos/core';

/** An expected refusal on its way to the one handler that gives it words and a status. */
export class RefusalError extends Error {
  readonly refusals: readonly Refusal[];
  constructor(refusals: readonly Refusal[]) {
    super(refusals.map((refusal) => refusal.code).join(', '));
    this.name = 'RefusalError';
    this.refusals = refusals;
  }
}

export const refused = (code: RefusalCode, params?: Refusal['params']) =>
  new RefusalError([params ? { code, params } : { code }]);

/** Throws when a rule of the core gave reasons against. */
export const assertAllowed = (refusals: readonly Refusal[]): void => {
  if (refusals.length > 0) throw new RefusalError(refusals);
};
