import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { ANY_STATE, sawThisState, stateTag, type TaggedState } from './stateTag.ts';

const text = fc.stringMatching(/^[A-Za-z0-9-]{1,12}$/);
const state: fc.Arbitrary<TaggedState> = fc
  .record({
    number: text,
    work: fc.option(fc.record({ id: text, rowVersion: fc.nat(99) }), { nil: undefined }),
    inForceId: fc.option(text, { nil: undefined }),
    withdrawOn: fc.option(text, { nil: undefined }),
    holdSince: fc.option(text, { nil: undefined }),
    checkoutId: fc.option(text, { nil: undefined }),
    removed: fc.boolean(),
  })
  .map((one) => Object.fromEntries(Object.entries(one).filter(([, value]) => value !== undefined)) as TaggedState);

describe('the tag of a state', () => {
  it('is equal for equal states and differs as soon as anything of the state differs', () => {
    fc.assert(
      fc.property(state, state, (a, b) => {
        expect(stateTag(a) === stateTag(b)).toBe(JSON.stringify(sorted(a)) === JSON.stringify(sorted(b)));
      }),
    );
  });

  it('lets a command go on only in the state that was seen, or where none was', () => {
    const seen: TaggedState = { number: 'A-1', work: { id: 'r1', rowVersion: 3 }, removed: false };
    expect(sawThisState(stateTag(seen), seen)).toBe(true);
    expect(sawThisState(stateTag(seen), { ...seen, work: { id: 'r1', rowVersion: 4 } })).toBe(false);
    expect(sawThisState(stateTag(seen), { ...seen, checkoutId: 'c1' })).toBe(false);
    expect(sawThisState(ANY_STATE, seen)).toBe(true);
  });
});

const sorted = (value: TaggedState) => Object.entries(value).sort(([a], [b]) => a.localeCompare(b));
