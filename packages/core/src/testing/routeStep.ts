import type { StepDefinition } from '../routes/route.ts';

/** A review by the owner within three working days, which leads back to draft; as `more` says otherwise. */
export const routeStep = (name: string, more: Partial<StepDefinition> = {}): StepDefinition => ({
  name,
  kind: 'review',
  assignees: [{ by: 'owner' }],
  rule: { kind: 'all' },
  workingDays: 3,
  onReject: 'draft',
  ...more,
});
