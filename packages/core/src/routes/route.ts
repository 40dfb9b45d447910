import { ok, type Refusal, type Result, refusal } from '../result.ts';

export type StepKind = 'review' | 'acknowledge' | 'task' | 'approval';

/** When a step is done. */
export type DoneRule = { kind: 'all' } | { kind: 'any one' } | { kind: 'k of n'; k: number } | { kind: 'in sequence' };

/** Who is asked in a step. */
export type AssigneeRule =
  | { by: 'person'; personId: string }
  | { by: 'unit'; unitId: string }
  | { by: 'owner' }
  | { by: 'owner supervisor' }
  | { by: 'field'; key: string }
  | { by: 'chosen'; minimum: number };

export type StepDefinition = {
  name: string;
  kind: StepKind;
  /** What a signature in this step means (21 CFR 11.50); only approval signs. */
  meaning?: string;
  assignees: readonly AssigneeRule[];
  rule: DoneRule;
  workingDays: number;
  editing?: boolean;
  /** Where a rejection leads: to draft, or to an earlier step (index). */
  onReject: 'draft' | number;
};

export type RouteDefinition = {
  name: string;
  steps: readonly StepDefinition[];
  /** Decisions given before a check-in in review stay; otherwise those who gave them are asked again. */
  keepsDecisions?: boolean;
};

/** A decision that was given in review, by the place of its step. */
export type GivenDecision = { step: number; onVersion: number };

/**
 * From which step on those who have decided are asked again after a check-in in review; undefined where nobody is, because the route
 * keeps decisions or nobody has decided on an older version.
 */
export const askedAgainFrom = (
  route: Pick<RouteDefinition, 'keepsDecisions'>,
  given: readonly GivenDecision[],
  newVersion: number,
): number | undefined => {
  if (route.keepsDecisions) return undefined;
  const outdated = given.filter(({ onVersion }) => onVersion < newVersion).map(({ step }) => step);
  return outdated.length > 0 ? Math.min(...outdated) : undefined;
};

/**
 * Checks a route when it is saved: steps before approval come first, k is at least 1, a rejection leads to draft or to an
 * earlier step, every step asks somebody, working days are whole and not negative.
 */
export const checkRoute = (route: RouteDefinition): Refusal[] => {
  const refusals: Refusal[] = [];
  let approvalSeen = false;
  for (const [index, step] of route.steps.entries()) {
    const params = { step: step.name };
    if (step.kind === 'approval') approvalSeen = true;
    else if (approvalSeen) refusals.push(refusal('step_after_approval', params));
    if (step.assignees.length === 0) refusals.push(refusal('step_asks_nobody', params));
    if (step.rule.kind === 'k of n' && !(Number.isInteger(step.rule.k) && step.rule.k >= 1)) {
      refusals.push(refusal('step_k_too_small', params));
    }
    if (!Number.isInteger(step.workingDays) || step.workingDays < 0)
      refusals.push(refusal('step_days_invalid', params));
    if (typeof step.onReject === 'number' && (step.onReject < 0 || step.onReject >= index)) {
      refusals.push(refusal('step_reject_not_earlier', params));
    }
  }
  return refusals;
};

/** How persons are found for a step: what the server looked up beforehand. */
export type StepLookups = {
  ownerId: string;
  ownerSupervisorId?: string;
  unitMembers: Readonly<Record<string, readonly string[]>>;
  /** People named in fields, one or several. */
  fieldHolders: Readonly<Record<string, string | readonly string[] | undefined>>;
  chosen: readonly string[];
  /** The type's, the department's and the organisation's fallback, in this order; those that are not set left out. */
  fallbacks: readonly string[];
};

/** The persons asked in a step, without duplicates, in order; a refusal when nobody is found or too few for its rule. */
export const resolveStep = (step: StepDefinition, lookups: StepLookups): Result<string[]> => {
  const found: (string | undefined)[] = [];
  for (const assignees of step.assignees) {
    switch (assignees.by) {
      case 'person':
        found.push(assignees.personId);
        break;
      case 'unit':
        found.push(...(lookups.unitMembers[assignees.unitId] ?? []));
        break;
      case 'owner':
        found.push(lookups.ownerId);
        break;
      case 'owner supervisor':
        found.push(lookups.ownerSupervisorId);
        break;
      case 'field':
        found.push(...[lookups.fieldHolders[assignees.key] ?? []].flat());
        break;
      case 'chosen':
        if (lookups.chosen.length < assignees.minimum) {
          return {
            ok: false,
            refusals: [
              refusal('step_too_few_chosen', {
                step: step.name,
                minimum: assignees.minimum,
                has: lookups.chosen.length,
              }),
            ],
          };
        }
        found.push(...lookups.chosen);
        break;
    }
  }
  let persons = [...new Set(found.filter((id): id is string => Boolean(id)))];
  if (persons.length === 0) persons = lookups.fallbacks.slice(0, 1);
  if (persons.length === 0) return { ok: false, refusals: [refusal('step_unfilled', { step: step.name })] };
  if (step.rule.kind === 'k of n' && step.rule.k > persons.length) {
    return {
      ok: false,
      refusals: [refusal('step_k_greater_than_people', { step: step.name, k: step.rule.k, people: persons.length })],
    };
  }
  return ok(persons);
};

/** An answer in a step, in the order of the persons asked. */
export type Answer = 'positive' | 'reject' | 'open';

export type StepOutcome = { state: 'open' | 'done' | 'rejected'; askedNow: number[] };

/**
 * The state of a step by its done rule. A rejection ends *all* and *in sequence* at once, the others when k can no longer be
 * reached. `askedNow` are the positions whose answer is awaited now; empty when the step has ended.
 */
export const stepOutcome = (rule: DoneRule, answers: readonly Answer[]): StepOutcome => {
  const positive = answers.filter((a) => a === 'positive').length;
  const rejected = answers.filter((a) => a === 'reject').length;
  const open = answers.flatMap((a, i) => (a === 'open' ? [i] : []));
  const needed = rule.kind === 'any one' ? 1 : rule.kind === 'k of n' ? rule.k : answers.length;
  if (positive >= needed) return { state: 'done', askedNow: [] };
  const lost = rule.kind === 'all' || rule.kind === 'in sequence' ? rejected > 0 : positive + open.length < needed;
  if (lost) return { state: 'rejected', askedNow: [] };
  return { state: 'open', askedNow: rule.kind === 'in sequence' ? open.slice(0, 1) : open };
};

export const DECISIONS = ['no objection', 'with comments', 'done', 'approve', 'reject'] as const;
export type Decision = (typeof DECISIONS)[number];

/** The decisions that a kind of step offers. */
export const decisionsFor = (kind: StepKind): readonly Decision[] => {
  switch (kind) {
    case 'review':
      return ['no objection', 'with comments', 'reject'];
    case 'acknowledge':
      return ['no objection'];
    case 'task':
      return ['done', 'reject'];
    case 'approval':
      return ['approve', 'reject'];
  }
};

export const isPositive = (decision: Decision): boolean => decision !== 'reject';

/** What separation of duties needs to know of a decision about to be given. */
export type DecisionSituation = {
  decision: Decision;
  comment: string;
  kind: StepKind;
  assignmentState: 'waiting' | 'open' | 'answered' | 'not needed';
  roundOpen: boolean;
  /** Who is deciding, and the person asked when the decider is the deputy. */
  deciderId: string;
  principalId: string;
  /** Persons asked in this step besides the principal, because a person counts once in a step. */
  answeredInStepBy: readonly string[];
  authors: ReadonlySet<string>;
  /** Who has signed an approval step of this round so far. */
  signedBy: readonly string[];
  /** Whether this signature, when positive, ends the last approval step. */
  isLastSignature: boolean;
};

/**
 * Why a decision cannot be given by this person (separation of duties): once in a step, one approval step of a round, at
 * least one approver who is no author when the last signature falls, a deputy neither author nor signer.
 */
export const decideAnswer = (situation: DecisionSituation): Refusal[] => {
  if (!situation.roundOpen) return [refusal('round_ended')];
  if (situation.assignmentState === 'answered') return [refusal('already_decided')];
  if (situation.assignmentState === 'waiting') return [refusal('not_your_turn')];
  if (situation.assignmentState === 'not needed') return [refusal('decision_not_needed')];
  const refusals: Refusal[] = [];
  if (!decisionsFor(situation.kind).includes(situation.decision)) {
    refusals.push(refusal('decision_not_offered', { decision: situation.decision, kind: situation.kind }));
  }
  if (situation.decision === 'reject' && situation.comment.trim() === '')
    refusals.push(refusal('rejection_needs_comment'));
  if (situation.decision === 'with comments' && situation.comment.trim() === '')
    refusals.push(refusal('comment_missing'));
  if (situation.answeredInStepBy.includes(situation.deciderId)) refusals.push(refusal('counts_once_in_step'));
  const asDeputy = situation.deciderId !== situation.principalId;
  if (situation.kind === 'approval' && isPositive(situation.decision)) {
    if (situation.signedBy.includes(situation.deciderId)) {
      refusals.push(asDeputy ? refusal('deputy_has_signed') : refusal('signs_one_step_only'));
    }
    if (asDeputy && situation.authors.has(situation.deciderId)) refusals.push(refusal('deputy_is_author'));
    const approvers = [...situation.signedBy, situation.deciderId];
    if (situation.isLastSignature && approvers.every((id) => situation.authors.has(id))) {
      refusals.push(refusal('only_approver_of_own_work'));
    }
  }
  return refusals;
};
