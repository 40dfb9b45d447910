import type { AnswerOf, api } from '@kanonos/contract';

export type Organisation = AnswerOf<typeof api.rules.organisation>;

/** What a change of the organisation must say besides what it changes: all the rest as it is, and which state was seen. */
export const asItStands = (organisation: Organisation) => ({
  name: organisation.name,
  week: organisation.week,
  holidays: organisation.holidays,
  signingIdleMinutes: organisation.signingIdleMinutes,
  fallbackApproverId: organisation.fallbackApprover?.id ?? null,
  rowVersion: organisation.rowVersion,
});
