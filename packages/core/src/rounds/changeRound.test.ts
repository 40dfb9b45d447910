import { describe, expect, it } from 'vitest';
import { decideNewAssignee, decideSkip, ROUND_CHANGES, type RoundStep, roundChangesFor } from './changeRound.ts';

const nobody = { isController: false, startedIt: false, supervisesAwaited: false };

describe('changes to a round', () => {
  it('are all open to who controls the document', () => {
    expect(roundChangesFor({ ...nobody, isController: true })).toEqual(ROUND_CHANGES);
  });

  it('let who started it remind and cancel, not choose other approvers', () => {
    expect(roundChangesFor({ ...nobody, startedIt: true })).toEqual(['remind', 'cancel']);
  });

  it('let a supervisor act for the people supervised', () => {
    expect(roundChangesFor({ ...nobody, supervisesAwaited: true })).toEqual([
      'remind',
      'reassign',
      'take over',
      'extend',
    ]);
  });

  it('are open to nobody else', () => {
    expect(roundChangesFor(nobody)).toEqual([]);
  });
});

const step = (kind: RoundStep['kind'], state: RoundStep['state']): RoundStep => ({
  name: `${kind} ${state}`,
  kind,
  state,
});

describe('skipping a step', () => {
  it('is possible for a review', () => {
    expect(decideSkip([step('review', 'open'), step('approval', 'waiting')])).toEqual([]);
  });

  it('needs an open step', () => {
    expect(decideSkip([step('review', 'done'), step('approval', 'waiting')]).map((r) => r.code)).toEqual([
      'no_step_open',
    ]);
  });

  it('never leaves a round without an approval', () => {
    expect(decideSkip([step('review', 'done'), step('approval', 'open')])).toEqual([
      { code: 'skips_last_approval', params: { step: 'approval open' } },
    ]);
    expect(decideSkip([step('approval', 'not needed'), step('approval', 'open')]).map((r) => r.code)).toEqual([
      'skips_last_approval',
    ]);
    expect(decideSkip([step('approval', 'done'), step('approval', 'open')])).toEqual([]);
    expect(decideSkip([step('approval', 'open'), step('approval', 'waiting')])).toEqual([]);
  });
});

describe('asking somebody else in a step', () => {
  const person = { name: 'Uwe Marten', isActive: true, isOutside: false, isInStep: false };
  const codes = (kind: RoundStep['kind'], given: Partial<typeof person>) =>
    decideNewAssignee(step(kind, 'open'), { ...person, ...given }).map((r) => r.code);

  it('takes a colleague', () => expect(codes('approval', {})).toEqual([]));
  it('refuses who is deactivated', () => expect(codes('review', { isActive: false })).toEqual(['person_inactive']));
  it('counts a person once in a step', () => expect(codes('review', { isInStep: true })).toEqual(['already_in_step']));
  it('lets outside parties review and not approve', () => {
    expect(codes('review', { isOutside: true })).toEqual([]);
    expect(codes('approval', { isOutside: true })).toEqual(['outside_approver']);
  });
});
