import type { RevisionState } from '../lifecycle/states.ts';
import { type Refusal, refusal } from '../result.ts';
import type { RouteDefinition, StepDefinition, StepKind } from '../routes/route.ts';

/** A step made on the spot: what is asked of whom. */
export type AdHocStep = {
  name: string;
  kind: StepKind;
  meaning?: string;
  people: readonly string[];
  /** Whether one answer is enough; otherwise all must answer. */
  isAnyOne: boolean;
  beside: boolean;
};

/** The route of an ad hoc round: its steps, each with as many working days; its rounds leave the revision in its state. */
export const adHocRoute = (name: string, steps: readonly AdHocStep[], workingDays: number): RouteDefinition => ({
  name,
  leadsTo: 'nothing',
  keepsDecisions: true,
  steps: steps.map(
    (step): StepDefinition => ({
      name: step.name,
      kind: step.kind,
      ...(step.meaning ? { meaning: step.meaning } : {}),
      assignees: step.people.map((personId) => ({ by: 'person', personId })),
      rule: { kind: step.isAnyOne ? 'any one' : 'all' },
      workingDays,
      onReject: 'draft',
      ...(step.beside ? { beside: true } : {}),
    }),
  ),
});

/** States in which content or signed fields change, or may change again by a rejection. */
const CAN_CHANGE: readonly RevisionState[] = ['draft', 'in review', 'in approval', 'abandoned'];

/** Why a revision cannot be signed outside its route: while its content can change, a signature would soon not match it. */
export const decideSignable = (state: RevisionState): Refusal[] =>
  CAN_CHANGE.includes(state) ? [refusal('signs_what_can_change', { state })] : [];

/** Why an ad hoc round cannot begin: a signature on content that can change, or a last day that is not ahead. */
export const decideAdHocRound = (
  route: RouteDefinition,
  { state, lastDay, today }: { state: RevisionState; lastDay: string | null; today: string },
): Refusal[] => [
  ...(route.steps.length === 0 ? [refusal('route_missing')] : []),
  ...(route.steps.some(({ kind }) => kind === 'approval') ? decideSignable(state) : []),
  ...(lastDay !== null && lastDay < today ? [refusal('last_day_past', { day: lastDay, today })] : []),
];
