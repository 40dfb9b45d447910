import { ok, type Refusal, type Result, refusal } from '../result.ts';
import { type ConditionFacts, type ConditionField, meetsCondition, parseCondition } from './condition.ts';
import { stagesOf } from './stages.ts';

export type StepKind = 'review' | 'acknowledge' | 'task' | 'approval';

/** When a step is done. */
export type DoneRule = { kind: 'all' } | { kind: 'any one' } | { kind: 'k of n'; k: number } | { kind: 'in sequence' };

/** Who is asked in a step. */
export type AssigneeRule =
  | { by: 'person'; personId: string }
  | { by: 'unit'; unitId: string }
  | { by: 'owner' }
  | { by: 'owner supervisor' }
  /** Whoever started the work on the revision. */
  | { by: 'author' }
  | { by: 'field'; key: string }
  /** Chosen on submitting: at least so many, from a unit where one is named. */
  | { by: 'chosen'; minimum: number; fromUnitId?: string };

/** Whom a step that waits is brought to the notice of. */
export type EscalationTo =
  | { by: 'supervisor' }
  | { by: 'owner' }
  | { by: 'submitter' }
  | { by: 'person'; personId: string };

/**
 * What happens when somebody has not answered some working days after being asked: they are reminded, somebody else is told or asked
 * as well, or the assignment is handed over.
 */
export type Escalation =
  | { afterDays: number; action: 'remind' }
  | { afterDays: number; action: 'tell' | 'also ask' | 'hand over'; to: EscalationTo };

export type StepDefinition = {
  name: string;
  kind: StepKind;
  /** What a signature in this step means (21 CFR 11.50); only approval signs. */
  meaning?: string;
  assignees: readonly AssigneeRule[];
  rule: DoneRule;
  workingDays: number;
  /** The day field of the type that the step is due on, where the document has a day in it; otherwise the working days count. */
  dueField?: string;
  editing?: boolean;
  /** Where a rejection leads: to draft, or to an earlier step (index). */
  onReject: 'draft' | number;
  /** After a rejection to an earlier step, reviews that agreed later than it keep their answers; otherwise all decide again. */
  keepsAgreed?: boolean;
  /** Its decisions stay after a later check-in in review, marked as given on an older version. */
  keepsDecisions?: boolean;
  /** Runs at the same time as the step before it. */
  beside?: boolean;
  /** The step is asked only where this condition holds (`parseCondition`). */
  when?: string;
  escalations?: readonly Escalation[];
};

export type RouteDefinition = {
  name: string;
  steps: readonly StepDefinition[];
  /** Decisions given before a check-in in review stay in all steps; otherwise those who gave them are asked again, but for steps that keep theirs. */
  keepsDecisions?: boolean;
  /** Its documents are decided on one by one, never several with one password. */
  decidedAlone?: boolean;
  /** Its rounds inform or record: they leave the revision in its state. Otherwise a round leads towards its release. */
  leadsTo?: 'nothing';
};

/** Whether rounds of a route lead a revision towards its release. */
export const leadsToRelease = ({ leadsTo }: Pick<RouteDefinition, 'leadsTo'>): boolean => leadsTo !== 'nothing';

/** A decision that was given in review, by the place of its step. */
export type GivenDecision = { step: number; onVersion: number };

/**
 * From which step on those who have decided are asked again after a check-in in review; undefined where nobody is, because the route
 * or the steps keep decisions, or nobody has decided on an older version.
 */
export const askedAgainFrom = (
  route: Pick<RouteDefinition, 'keepsDecisions' | 'steps'>,
  given: readonly GivenDecision[],
  newVersion: number,
): number | undefined => {
  if (route.keepsDecisions) return undefined;
  const outdated = given
    .filter(({ step, onVersion }) => onVersion < newVersion && !route.steps[step]?.keepsDecisions)
    .map(({ step }) => step);
  return outdated.length > 0 ? Math.min(...outdated) : undefined;
};

/** A field that a step names must be one of the type, and its condition must be readable. */
const checkFieldsOf = ({ name, dueField, when }: StepDefinition, fields: readonly ConditionField[]): Refusal[] => {
  const isDay = fields.some(({ key, kind }) => key === dueField && kind === 'date');
  const condition = when === undefined ? undefined : parseCondition(when, fields);
  const reason = condition && !condition.ok ? condition.refusals[0] : undefined;
  return [
    ...(dueField === undefined || isDay ? [] : [refusal('step_due_field_unknown', { step: name, field: dueField })]),
    ...(reason ? [refusal('step_condition_unreadable', { step: name, condition: when ?? '' }), reason] : []),
  ];
};

/**
 * Checks a route when it is saved: steps before approval come first, where the route leads to release, and run beside their like, k is at least 1, a rejection leads to
 * draft or to a step that was done before, every step asks somebody, days are whole and not negative, conditions can be read.
 *
 * @param fields the fields of the type that the route belongs to
 */
export const checkRoute = (route: RouteDefinition, fields: readonly ConditionField[] = []): Refusal[] => {
  const refusals: Refusal[] = [];
  let approvalSeen = false;
  const stages = stagesOf(route.steps);
  for (const [index, step] of route.steps.entries()) {
    const params = { step: step.name };
    const before = route.steps[index - 1];
    if (step.beside && (before?.kind === 'approval') !== (step.kind === 'approval'))
      refusals.push(refusal('step_beside_other_kind', params));
    if (step.kind === 'approval') approvalSeen = leadsToRelease(route);
    else if (approvalSeen) refusals.push(refusal('step_after_approval', params));
    if (step.assignees.length === 0) refusals.push(refusal('step_asks_nobody', params));
    if (step.rule.kind === 'k of n' && !(Number.isInteger(step.rule.k) && step.rule.k >= 1)) {
      refusals.push(refusal('step_k_too_small', params));
    }
    if (!Number.isInteger(step.workingDays) || step.workingDays < 0)
      refusals.push(refusal('step_days_invalid', params));
    const back = typeof step.onReject === 'number' ? stages[step.onReject] : -1;
    if (back === undefined || back >= (stages[index] ?? 0)) refusals.push(refusal('step_reject_not_earlier', params));
    if (step.escalations?.some(({ afterDays }) => !Number.isInteger(afterDays) || afterDays < 1))
      refusals.push(refusal('escalation_days_invalid', params));
    refusals.push(...checkFieldsOf(step, fields));
  }
  return refusals;
};

/** How persons are found for a step: what the server looked up beforehand. */
export type StepLookups = {
  ownerId: string;
  ownerSupervisorId?: string;
  authorId?: string;
  unitMembers: Readonly<Record<string, readonly string[]>>;
  /** People named in fields, one or several. */
  fieldHolders: Readonly<Record<string, string | readonly string[] | undefined>>;
  /** Whom the submitter chose; `later` where nothing is submitted yet. */
  chosen: readonly string[] | 'later';
  /** The type's, the department's and the organisation's fallback, in this order; those that are not set left out. */
  fallbacks: readonly string[];
};

/** Stand in for people who are chosen only on submitting. */
const TO_BE_CHOSEN = 'to be chosen';
export const isToBeChosen = (personId: string): boolean => personId.startsWith(TO_BE_CHOSEN);

const chosenFor = (
  { minimum, fromUnitId }: Extract<AssigneeRule, { by: 'chosen' }>,
  { chosen, unitMembers }: StepLookups,
): readonly string[] => {
  if (chosen === 'later') return Array.from({ length: Math.max(1, minimum) }, (_, i) => `${TO_BE_CHOSEN} ${i}`);
  const members = fromUnitId === undefined ? undefined : (unitMembers[fromUnitId] ?? []);
  return members ? chosen.filter((id) => members.includes(id)) : chosen;
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
      case 'author':
        found.push(lookups.authorId);
        break;
      case 'field':
        found.push(...[lookups.fieldHolders[assignees.key] ?? []].flat());
        break;
      case 'chosen': {
        const chosen = chosenFor(assignees, lookups);
        if (chosen.length < assignees.minimum) {
          return {
            ok: false,
            refusals: [
              refusal('step_too_few_chosen', { step: step.name, minimum: assignees.minimum, has: chosen.length }),
            ],
          };
        }
        found.push(...chosen);
        break;
      }
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

/**
 * Tells which steps of a route a document is asked in: those without a condition, and those whose condition it meets. Conditions are
 * read once, for many documents.
 */
export const stepsFor = <Step extends Pick<StepDefinition, 'when'>>(
  steps: readonly Step[],
  fields: readonly ConditionField[],
): ((facts: ConditionFacts) => boolean[]) => {
  const conditions = steps.map(({ when }) => (when === undefined ? undefined : parseCondition(when, fields)));
  // A condition that can be read no more, because its field is gone, must not let a step fall away.
  return (facts) => conditions.map((one) => !one?.ok || meetsCondition(one.value, facts));
};
