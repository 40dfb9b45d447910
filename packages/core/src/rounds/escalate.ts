import type { Escalation } from '../routes/route.ts';

/**
 * Which escalations of a step are due for somebody who has not answered: those whose days have passed and that were not carried out
 * before, in the order of their days.
 *
 * @param waited working days since the person was asked
 * @param done the places of escalations that were carried out
 */
export const dueEscalations = (
  escalations: readonly Escalation[],
  waited: number,
  done: ReadonlySet<number>,
): { place: number; escalation: Escalation }[] =>
  escalations
    .map((escalation, place) => ({ place, escalation }))
    .filter(({ place, escalation }) => escalation.afterDays <= waited && !done.has(place))
    .sort((a, b) => a.escalation.afterDays - b.escalation.afterDays || a.place - b.place);
