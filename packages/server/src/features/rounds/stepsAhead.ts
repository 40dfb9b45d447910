import * as store from './store.ts';

export type Step = store.StepRow & { assignments: readonly store.AssignmentRow[] };

/** What remains of a round: the answers that are awaited now and later. */
export const stepsAhead = (steps: readonly Step[]) =>
  steps
    .filter((step) => step.state === 'open' || step.state === 'waiting')
    .map((step) => ({
      name: step.name,
      kind: step.kind,
      stage: step.stage,
      rule: step.rule,
      workingDays: step.working_days,
      positive: step.assignments.filter((one) => store.toAnswer(one) === 'positive').length,
      awaited: step.assignments
        .filter((one) => one.state === 'open' || one.state === 'waiting')
        .map((one) => ({ personId: one.person_id, askedAt: one.opened_at })),
    }));
