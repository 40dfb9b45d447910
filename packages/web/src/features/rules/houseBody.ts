import type { AnswerOf, api } from '@kanonos/contract';

export type House = AnswerOf<typeof api.rules.house>;

/** What a change of the house must say besides what it changes: all the rest as it is, and which state was seen. */
export const asItStands = (house: House) => ({
  name: house.name,
  week: house.week,
  holidays: house.holidays,
  signingIdleMinutes: house.signingIdleMinutes,
  fallbackApproverId: house.fallbackApprover?.id ?? null,
  rowVersion: house.rowVersion,
});
