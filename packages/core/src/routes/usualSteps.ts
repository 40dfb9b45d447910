import type { StepDefinition } from './route.ts';

/** The owner of the document signs that it may be released. */
export const APPROVAL_BY_OWNER: StepDefinition = {
  name: 'Approve as owner',
  kind: 'approval',
  meaning: 'approved as owner',
  assignees: [{ by: 'owner' }],
  rule: { kind: 'all' },
  workingDays: 3,
  onReject: 'draft',
};

/** Any one member of a unit signs. */
export const approvalByUnit = <U extends string>(name: string, meaning: string, unitId: U, workingDays = 3) => ({
  name,
  kind: 'approval' as const,
  meaning,
  assignees: [{ by: 'unit' as const, unitId }],
  rule: { kind: 'any one' as const },
  workingDays,
  onReject: 'draft' as const,
});

/** Whoever submits chooses at least one reviewer. */
export const REVIEW_BY_CHOSEN: StepDefinition = {
  name: 'Review',
  kind: 'review',
  assignees: [{ by: 'chosen', minimum: 1 }],
  rule: { kind: 'all' },
  workingDays: 5,
  onReject: 'draft',
};
