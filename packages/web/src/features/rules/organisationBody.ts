import type { AnswerOf, api } from '@kanonos/contract';

export type Organisation = AnswerOf<typeof api.rules.organisation>;

/** The unchanged parts and the seen state that a change of the organisation must send, too. */
export const asItStands = (organisation: Organisation) => ({
  name: organisation.name,
  week: organisation.week,
  holidays: organisation.holidays,
  signingIdleMinutes: organisation.signingIdleMinutes,
  fallbackApproverId: organisation.fallbackApprover?.id ?? null,
  rowVersion: organisation.rowVersion,
});
