import type { AssigneeRule, StepDefinition } from '@kanonos/core';
import type { TestOrganisation } from './organisation.ts';

/** A review of three working days that all must agree to; as `more` says otherwise. */
export const stepBy = (
  name: string,
  assignees: readonly AssigneeRule[],
  more: Partial<StepDefinition> = {},
): StepDefinition => ({
  name,
  kind: 'review',
  assignees,
  rule: { kind: 'all' },
  workingDays: 3,
  onReject: 'draft',
  ...more,
});

/** The same step, which asks people of the organisation by their names. */
export const stepOf = (
  organisation: TestOrganisation,
  name: string,
  people: readonly string[],
  more: Partial<StepDefinition> = {},
): StepDefinition =>
  stepBy(
    name,
    people.map((person) => ({ by: 'person', personId: organisation.ids[person] ?? '' })),
    more,
  );
