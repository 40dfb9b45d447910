import { type Refusal, refusal } from '../result.ts';
import { leadsToRelease, type RouteDefinition, type StepDefinition, type StepKind } from '../routes/route.ts';

/** A step of a running round as far as a new one finds its place by it. */
export type RunningStep = {
  kind: StepKind;
  /** Steps of one stage run at the same time. */
  stage: number;
  state: 'waiting' | 'open' | 'done' | 'rejected' | 'not needed';
};

/**
 * The place of a step that is added to a running round: after those that are open. In a round that leads to release, an approval comes
 * last, because what is approved changes no more.
 */
export const placeOfAdded = (
  steps: readonly RunningStep[],
  kind: StepKind,
  route: Pick<RouteDefinition, 'leadsTo'>,
): number => {
  if (kind === 'approval' && leadsToRelease(route)) return steps.length;
  const open = steps.findLast(({ state }) => state === 'open');
  if (open) return steps.findLastIndex(({ stage }) => stage === open.stage) + 1;
  const waiting = steps.findIndex(({ state }) => state === 'waiting');
  return waiting >= 0 ? waiting : steps.length;
};

/** Why a step cannot be added there: once something is being approved, nothing else is asked any more in a round that leads to release. */
export const decideAddStep = (
  steps: readonly RunningStep[],
  step: Pick<StepDefinition, 'name' | 'kind'>,
  route: Pick<RouteDefinition, 'leadsTo'>,
): Refusal[] => {
  if (!steps.some(({ state }) => state === 'open' || state === 'waiting')) return [refusal('no_step_open')];
  const isApproving = steps.some(({ kind, state }) => kind === 'approval' && state !== 'waiting');
  return leadsToRelease(route) && step.kind !== 'approval' && isApproving
    ? [refusal('step_after_approval', { step: step.name })]
    : [];
};

/** The route with a step more; where a rejection leads back to a step behind it, it still leads to the same one. */
export const withStepAt = (route: RouteDefinition, at: number, step: StepDefinition): RouteDefinition => {
  const moved = route.steps.map((one) =>
    typeof one.onReject === 'number' && one.onReject >= at ? { ...one, onReject: one.onReject + 1 } : one,
  );
  // What ran beside the step before it still does; the new one has a stage of its own.
  return { ...route, steps: [...moved.slice(0, at), step, ...moved.slice(at)] };
};
