import { type ConditionField, decisiveCases, parseCondition } from './condition.ts';
import { type RouteDefinition, type StepDefinition, stepsFor } from './route.ts';

export const ROUTE_DOUBTS = [
  'nothing is signed',
  'signature without meaning',
  'owner is the only approver',
  'author is the only approver',
  'one person in two approvals',
  'never enough people',
  'never asked',
  'always asked',
  'approval may fall away',
  'nobody may be asked',
  'waits for both',
] as const;

/**
 * What is doubtful in a route that can be saved, with the steps that it is about. None forbids saving; each is what an experienced
 * administrator would ask about.
 */
export type RouteDoubt = {
  kind: (typeof ROUTE_DOUBTS)[number];
  steps: string[];
  /** The one person who is asked in both steps. */
  personId?: string;
  /** How many people the step needs, and how many it names. */
  needed?: number;
  named?: number;
};

const onlyPerson = (step: StepDefinition): string | undefined => {
  const [first, ...others] = step.assignees;
  return first?.by === 'person' && others.every((one) => one.by === 'person' && one.personId === first.personId)
    ? first.personId
    : undefined;
};

const neededIn = ({ rule, assignees }: StepDefinition): number =>
  rule.kind === 'any one'
    ? 1
    : rule.kind === 'k of n'
      ? rule.k
      : new Set(assignees.map((one) => JSON.stringify(one))).size;

/** What conditions do to a route, by trying every case in which they come out differently. */
const judgeConditions = (steps: readonly StepDefinition[], fields: readonly ConditionField[]): RouteDoubt[] => {
  const conditions = steps.flatMap(({ when }) => {
    const parsed = when === undefined ? undefined : parseCondition(when, fields);
    return parsed?.ok ? [parsed.value] : [];
  });
  const cases = conditions.length > 0 ? decisiveCases(conditions, fields) : undefined;
  if (!cases) return [];
  const asked = cases.map(stepsFor(steps, fields));
  const doubts: RouteDoubt[] = steps.flatMap(({ when, name }, index): RouteDoubt[] => {
    if (when === undefined) return [];
    if (asked.every((one) => !one[index])) return [{ kind: 'never asked', steps: [name] }];
    return asked.every((one) => one[index]) ? [{ kind: 'always asked', steps: [name] }] : [];
  });
  const remains = (is: (step: StepDefinition) => boolean) =>
    asked.every((one) => steps.some((step, index) => is(step) && one[index]));
  const approvals = steps.filter((step) => step.kind === 'approval');
  if (!remains(() => true)) doubts.push({ kind: 'nobody may be asked', steps: [] });
  else if (approvals.length > 0 && !remains((step) => step.kind === 'approval'))
    doubts.push({ kind: 'approval may fall away', steps: approvals.map(({ name }) => name) });
  return doubts;
};

/**
 * Judges a route by itself, before it meets a document.
 *
 * @param fields the fields of the type that the route belongs to, which conditions may ask for
 */
export const judgeRoute = ({ steps }: RouteDefinition, fields: readonly ConditionField[] = []): RouteDoubt[] => {
  const doubts: RouteDoubt[] = judgeConditions(steps, fields);
  const approvals = steps.filter((step) => step.kind === 'approval');
  if (steps.length > 0 && approvals.length === 0) doubts.push({ kind: 'nothing is signed', steps: [] });
  for (const step of approvals)
    if (!step.meaning?.trim()) doubts.push({ kind: 'signature without meaning', steps: [step.name] });
  const [only] = approvals;
  const asked = new Set(approvals.flatMap((step) => step.assignees.map(({ by }) => by)));
  if (only && asked.size === 1 && asked.has('owner'))
    doubts.push({ kind: 'owner is the only approver', steps: [only.name] });
  // Whoever wrote it never releases it alone: such a round would stop in the approval.
  if (only && asked.has('author') && [...asked].every((by) => by === 'author' || by === 'owner'))
    doubts.push({ kind: 'author is the only approver', steps: [only.name] });
  for (const [index, step] of approvals.entries()) {
    const personId = onlyPerson(step);
    const later = personId && approvals.slice(index + 1).find((other) => onlyPerson(other) === personId);
    if (personId && later)
      doubts.push({ kind: 'one person in two approvals', steps: [step.name, later.name], personId });
  }
  for (const { name, rule, escalations = [] } of steps)
    if (rule.kind === 'all' && escalations.some(({ action }) => action === 'also ask'))
      doubts.push({ kind: 'waits for both', steps: [name] });
  for (const step of steps) {
    const named = step.assignees.every((one) => one.by === 'person');
    const people = new Set(step.assignees.flatMap((one) => (one.by === 'person' ? [one.personId] : []))).size;
    if (named && people > 0 && neededIn(step) > people)
      doubts.push({ kind: 'never enough people', steps: [step.name], needed: neededIn(step), named: people });
  }
  return doubts;
};

/** A step of a route as it meets a document: who would be asked, or nobody. */
export type TriedStep = { name: string; kind: StepDefinition['kind']; people: readonly string[] };

export const TRIAL_PROBLEMS = ['nobody is asked', 'only the author approves', 'same person must sign twice'] as const;
export type TrialProblem = { kind: (typeof TRIAL_PROBLEMS)[number]; steps: string[]; personId?: string };

/**
 * What would stop a round of this document on the route: a step that asks nobody, approvals that only an author could give, or two
 * approvals of which both ask the same one person, who signs at most one.
 */
export const judgeTrial = (steps: readonly TriedStep[], authors: ReadonlySet<string>): TrialProblem[] => {
  const problems: TrialProblem[] = steps
    .filter((step) => step.people.length === 0)
    .map((step) => ({ kind: 'nobody is asked', steps: [step.name] }));
  const approvals = steps.filter((step) => step.kind === 'approval' && step.people.length > 0);
  const [first] = approvals;
  if (first && approvals.every((step) => step.people.every((id) => authors.has(id))))
    problems.push({ kind: 'only the author approves', steps: [first.name] });
  for (const [index, step] of approvals.entries()) {
    const [personId, ...others] = step.people;
    const later = approvals.slice(index + 1).find(({ people }) => people.length === 1 && people[0] === personId);
    if (personId && others.length === 0 && later)
      problems.push({ kind: 'same person must sign twice', steps: [step.name, later.name], personId });
  }
  return problems;
};
