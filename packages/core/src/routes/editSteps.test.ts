import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { routeStep as step } from '../testing/routeStep.ts';
import { changeStep, moveStep, removeStep } from './editSteps.ts';
import { checkRoute, type StepDefinition } from './route.ts';

const shape = (steps: StepDefinition[]) =>
  steps.map(({ name, beside, onReject }) => `${name}${beside ? '|' : ''}${onReject === 'draft' ? '' : `>${onReject}`}`);

describe('moving a step', () => {
  const steps = [step('a'), step('b'), step('c', { onReject: 0 })];

  it('keeps where a rejection leads, as long as that is earlier', () => {
    expect(shape(moveStep(steps, 1, 0))).toEqual(['b', 'a', 'c>1']);
    expect(shape(moveStep(steps, 2, 0))).toEqual(['c', 'a', 'b']);
  });

  it('leaves nothing beside nothing, or beside another kind', () => {
    const beside = [step('a'), step('b', { beside: true }), step('s', { kind: 'approval' })];
    expect(shape(moveStep(beside, 1, 0))).toEqual(['b', 'a', 's']);
    expect(shape(moveStep([...beside, step('t', { kind: 'approval', beside: true })], 3, 1))).toEqual([
      'a',
      't',
      'b',
      's',
    ]);
  });

  it('drops what led to a step that is gone', () => {
    expect(shape(removeStep(steps, 0))).toEqual(['b', 'c']);
    expect(shape(removeStep(steps, 1))).toEqual(['a', 'c>0']);
  });

  it('drops what no longer holds when a step is changed', () => {
    const route = [step('a'), step('b', { onReject: 0 })];
    expect(shape(changeStep(route, 1, { beside: true }))).toEqual(['a', 'b|']);
    expect(shape(changeStep([step('a'), step('b', { beside: true })], 1, { kind: 'approval' }))).toEqual(['a', 'b']);
  });

  it('never makes a route of reviews that cannot be saved', () => {
    const route = fc.array(fc.record({ beside: fc.boolean(), back: fc.nat(5) }), { minLength: 1, maxLength: 6 });
    fc.assert(
      fc.property(route, fc.nat(5), fc.nat(5), (given, from, to) => {
        let made: StepDefinition[] = [];
        for (const [i, { beside, back }] of given.entries())
          made = changeStep(made.concat(step(`s${i}`)), i, { beside, onReject: back < i ? back : 'draft' });
        expect(checkRoute({ name: 'R', steps: made })).toEqual([]);
        const moved = moveStep(made, from % made.length, to % made.length);
        expect(moved.map(({ name }) => name).sort()).toEqual(made.map(({ name }) => name).sort());
        expect(checkRoute({ name: 'R', steps: moved })).toEqual([]);
        expect(checkRoute({ name: 'R', steps: removeStep(made, from % made.length) })).toEqual([]);
      }),
    );
  });
});
