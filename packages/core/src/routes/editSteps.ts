import { stagesOf } from './stages.ts';

/** What of a step its place among the others decides. */
type Placed = { kind: string; beside?: boolean | undefined; onReject: 'draft' | number };

/** Steps by where they were, in a new order; what they say of each other follows them, or is dropped where it holds no more. */
const inNewOrder = <Step extends Placed>(steps: readonly Step[], order: readonly number[]): Step[] => {
  const kept = order.flatMap((from) => steps.slice(from, from + 1));
  const tidied = kept.map((step, index): Step => {
    const isBeside = step.beside && index > 0 && (kept[index - 1]?.kind === 'approval') === (step.kind === 'approval');
    const { beside: _, ...alone } = step;
    return (isBeside ? step : alone) as Step;
  });
  const stages = stagesOf(tidied);
  return tidied.map((step, index) => {
    if (step.onReject === 'draft') return step;
    const target = order.indexOf(step.onReject);
    const isEarlier = target >= 0 && (stages[target] ?? 0) < (stages[index] ?? 0);
    return { ...step, onReject: isEarlier ? target : 'draft' };
  });
};

/** Moves a step to another place. A rejection still leads to the same step where that is earlier, otherwise to the draft. */
export const moveStep = <Step extends Placed>(steps: readonly Step[], from: number, to: number): Step[] => {
  const order = steps.map((_, index) => index);
  order.splice(from, 1);
  order.splice(to, 0, from);
  return inNewOrder(steps, order);
};

export const removeStep = <Step extends Placed>(steps: readonly Step[], at: number): Step[] =>
  inNewOrder(
    steps,
    steps.flatMap((_, index) => (index === at ? [] : [index])),
  );

/** Replaces a step by another state of itself; what other steps say of it is dropped where it holds no more. */
export const changeStep = <Step extends Placed>(steps: readonly Step[], at: number, change: Partial<Step>): Step[] =>
  inNewOrder(
    steps.map((step, index) => (index === at ? { ...step, ...change } : step)),
    steps.map((_, index) => index),
  );
