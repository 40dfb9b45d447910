import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { inStages, stagesOf } from './stages.ts';

describe('stages', () => {
  it('put steps that run beside the step before into its place', () => {
    expect(stagesOf([{}, { beside: true }, {}, { beside: true }, { beside: true }])).toEqual([0, 0, 1, 1, 1]);
    // Nothing is before the first.
    expect(stagesOf([{ beside: true }, {}])).toEqual([0, 1]);
    expect(stagesOf([])).toEqual([]);
  });

  it('are the same as numbers and as parts', () => {
    fc.assert(
      fc.property(fc.array(fc.record({ beside: fc.boolean() }), { maxLength: 12 }), (steps) => {
        const numbers = stagesOf(steps);
        expect(inStages(steps).flatMap((part, stage) => part.map(() => stage))).toEqual(numbers);
        expect(inStages(steps).flat()).toEqual(steps);
      }),
    );
  });
});
