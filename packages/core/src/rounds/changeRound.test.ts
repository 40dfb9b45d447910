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
  const codes = (steps: RoundStep[], signedByOther = false) =>
    decideSkip(
      steps,
      steps.filter((one) => one.state === 'open'),
      signedByOther,
    ).map((r) => r.code);

  it('is possible for a review', () => {
    expect(codes([step('review', 'open'), step('approval', 'waiting')])).toEqual([]);
  });

  it('needs an open step', () => {
    expect(codes([step('review', 'done'), step('approval', 'waiting')])).toEqual(['no_step_open']);
  });

  it('never leaves a round without the approval of somebody who is no author', () => {
    const last = step('approval', 'open');
    expect(decideSkip([step('review', 'done'), last], [last], false)).toEqual([
      { code: 'skips_last_approval', params: { step: 'approval open' } },
    ]);
    expect(codes([step('approval', 'not needed'), step('approval', 'open')])).toEqual(['skips_last_approval']);
    // Signed, but by an author: that alone is not enough.
    expect(codes([step('approval', 'done'), step('approval', 'open')])).toEqual(['skips_last_approval']);
    expect(codes([step('approval', 'done'), step('approval', 'open')], true)).toEqual([]);
    expect(codes([step('approval', 'open'), step('approval', 'waiting')])).toEqual([]);
  });

  it('looks at the approvals that run at the same time', () => {
    const [first, second] = [step('approval', 'open'), step('approval', 'open')];
    expect(decideSkip([first, second], [first], false)).toEqual([]);
    expect(decideSkip([first, second], [first, second], false)).toMatchObject([{ code: 'skips_last_approval' }]);
  });
});

describe('asking somebody else in a step', () => {
  const person = {
    name: 'Uwe Marten',
    isActive: true,
    isOutside: false,
    isInStep: false,
    isAuthor: false,
    othersApprove: false,
  };
  const codes = (kind: RoundStep['kind'], given: Partial<typeof person>) =>
    decideNewAssignee(step(kind, 'open'), { ...person, ...given }).map((r) => r.code);

  it('takes a colleague', () => expect(codes('approval', {})).toEqual([]));
  it('refuses who is deactivated', () => expect(codes('review', { isActive: false })).toEqual(['person_inactive']));
  it('counts a person once in a step', () => expect(codes('review', { isInStep: true })).toEqual(['already_in_step']));
  it('lets outside parties review and not approve', () => {
    expect(codes('review', { isOutside: true })).toEqual([]);
    expect(codes('approval', { isOutside: true })).toEqual(['outside_approver']);
  });
  it('never makes an author the only approver', () => {
    expect(codes('approval', { isAuthor: true })).toEqual(['author_only_approver']);
    expect(codes('approval', { isAuthor: true, othersApprove: true })).toEqual([]);
    expect(codes('review', { isAuthor: true })).toEqual([]);
  });
});
