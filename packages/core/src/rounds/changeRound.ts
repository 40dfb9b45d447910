import { type Refusal, refusal } from '../result.ts';
import type { StepKind } from '../routes/route.ts';

/** What can be done with a round that runs, beside deciding. */
export const ROUND_CHANGES = [
  'remind',
  'reassign',
  'take over',
  'add person',
  'add step',
  'extend',
  'skip step',
  'cancel',
] as const;
export type RoundChange = (typeof ROUND_CHANGES)[number];

/** Who gives the command, towards this round. */
export type RoundChanger = {
  /** Releases or manages where the document is filed. */
  isController: boolean;
  startedIt: boolean;
  /** The round leads to no release: whoever started it says who answers, and until when. */
  isAdHoc?: boolean;
  /** Supervises somebody who is awaited now; for a reassignment, the person replaced. */
  supervisesAwaited: boolean;
};

const rules = (who: RoundChanger): boolean => who.isController || (who.startedIt && who.isAdHoc === true);

const MAY: Record<RoundChange, (who: RoundChanger) => boolean> = {
  remind: (who) => who.isController || who.startedIt || who.supervisesAwaited,
  reassign: (who) => rules(who) || who.supervisesAwaited,
  'take over': (who) => who.isController || who.supervisesAwaited,
  'add person': rules,
  'add step': rules,
  extend: (who) => rules(who) || who.supervisesAwaited,
  'skip step': rules,
  cancel: (who) => who.isController || who.startedIt,
};

/** Which changes somebody may make to a round at all. */
export const roundChangesFor = (who: RoundChanger): RoundChange[] => ROUND_CHANGES.filter((change) => MAY[change](who));

export type RoundStep = {
  name: string;
  kind: StepKind;
  state: 'waiting' | 'open' | 'done' | 'rejected' | 'not needed';
};

/**
 * Why open steps cannot be skipped: none is open, or without them nobody but an author approves, because a document must not be released that
 * nobody else has approved. `signedByOther` tells whether somebody who is no author has signed in this round.
 */
export const decideSkip = (
  steps: readonly RoundStep[],
  skipped: readonly RoundStep[],
  signedByOther: boolean,
): Refusal[] => {
  if (!skipped.some((step) => step.state === 'open')) return [refusal('no_step_open')];
  const approval = skipped.find((step) => step.kind === 'approval');
  if (!approval) return [];
  const approvesStill = steps.some(
    (step) =>
      step.kind === 'approval' && !skipped.includes(step) && (step.state === 'waiting' || step.state === 'open'),
  );
  return approvesStill || signedByOther ? [] : [refusal('skips_last_approval', { step: approval.name })];
};

/** Somebody newly asked in a step: must be able to decide there. */
export type NewAssignee = {
  name: string;
  isActive: boolean;
  isOutside: boolean;
  /** Asked in this step already, whatever the answer. */
  isInStep: boolean;
  isAuthor: boolean;
  /** Somebody else who is no author approves in this round, or has. */
  othersApprove: boolean;
};

/** Why a person cannot be asked in a step; outside parties review and do not approve, and an author is never the only approver. */
export const decideNewAssignee = (step: Pick<RoundStep, 'name' | 'kind'>, person: NewAssignee): Refusal[] => {
  if (!person.isActive) return [refusal('person_inactive', { who: person.name })];
  if (person.isInStep) return [refusal('already_in_step', { who: person.name, step: step.name })];
  if (step.kind !== 'approval') return [];
  if (person.isOutside) return [refusal('outside_approver', { who: person.name })];
  return person.isAuthor && !person.othersApprove ? [refusal('author_only_approver', { who: person.name })] : [];
};
