/**
 * The place of each step in the order of a route: steps that run beside the step before share its place.
 *
 * @returns one whole number from 0 on for each step
 */
export const stagesOf = (steps: readonly { beside?: boolean | undefined }[]): number[] => {
  let stage = -1;
  return steps.map(({ beside }, index) => {
    if (index === 0 || !beside) stage++;
    return stage;
  });
};

/** Steps by their place in the order: each part runs when the part before is done. */
export const inStages = <Step extends { beside?: boolean | undefined }>(steps: readonly Step[]): Step[][] => {
  const stages: Step[][] = [];
  steps.forEach((step, index) => {
    const last = stages.at(-1);
    if (last && index > 0 && step.beside) last.push(step);
    else stages.push([step]);
  });
  return stages;
};
