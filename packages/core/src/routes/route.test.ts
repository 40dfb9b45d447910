import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import {
  type Answer,
  askedAgainFrom,
  checkRoute,
  type DecisionSituation,
  type DoneRule,
  decideAnswer,
  isToBeChosen,
  resolveStep,
  type StepDefinition,
  stepOutcome,
  stepsFor,
} from './route.ts';

const answers = (text: string): Answer[] =>
  [...text].map((c) => (c === '+' ? 'positive' : c === '-' ? 'reject' : 'open'));
const all: DoneRule = { kind: 'all' };
const any: DoneRule = { kind: 'any one' };
const twoOf3: DoneRule = { kind: 'k of n', k: 2 };

describe('done rules', () => {
  test.each([
    [all, '++.', 'open'],
    [all, '+-.', 'rejected'],
    [all, '+++', 'done'],
    [any, '-..', 'open'],
    [any, '-+.', 'done'],
    [any, '---', 'rejected'],
    [twoOf3, '-+.', 'open'],
    [twoOf3, '--.', 'rejected'],
    [twoOf3, '++.', 'done'],
  ] as const)('%j with %s is %s', (rule, given, state) => {
    expect(stepOutcome(rule, answers(given)).state).toBe(state);
  });

  test('in sequence the next is asked when the one before has answered', () => {
    expect(stepOutcome({ kind: 'in sequence' }, answers('..'))).toEqual({ state: 'open', askedNow: [0] });
    expect(stepOutcome({ kind: 'in sequence' }, answers('+.'))).toEqual({ state: 'open', askedNow: [1] });
    expect(stepOutcome({ kind: 'in sequence' }, answers('-.')).state).toBe('rejected');
  });

  test('a step that has ended asks nobody, an open one somebody, and once ended it stays so whatever else comes', () => {
    const rule = fc.oneof(
      fc.constant(all),
      fc.constant(any),
      fc.record({ kind: fc.constant('k of n' as const), k: fc.integer({ min: 1, max: 3 }) }),
    );
    const given = fc.array(fc.constantFrom<Answer>('positive', 'reject', 'open'), { minLength: 3, maxLength: 6 });
    fc.assert(
      fc.property(rule, given, fc.constantFrom<Answer>('positive', 'reject'), (r, a, later) => {
        const now = stepOutcome(r, a);
        if (now.state === 'open') return now.askedNow.length > 0 && now.askedNow.every((i) => a[i] === 'open');
        const after = stepOutcome(
          r,
          a.map((x) => (x === 'open' ? later : x)),
        );
        return (
          now.askedNow.length === 0 && (r.kind === 'all' && now.state === 'done' ? true : after.state === now.state)
        );
      }),
    );
  });
});

const step = (more: Partial<StepDefinition> = {}): StepDefinition => ({
  name: 'Review',
  kind: 'review',
  assignees: [{ by: 'owner' }],
  rule: all,
  workingDays: 3,
  onReject: 'draft',
  ...more,
});
const lookups = { ownerId: 'otto', unitMembers: { ta: ['lin', 'otto'] }, fieldHolders: {}, chosen: [], fallbacks: [] };

describe('who is asked', () => {
  test('duplicates fold', () => {
    expect(resolveStep(step({ assignees: [{ by: 'owner' }, { by: 'unit', unitId: 'ta' }] }), lookups)).toEqual({
      ok: true,
      value: ['otto', 'lin'],
    });
  });
  test('where nobody is found the fallback is assignees, and without one the step is refused', () => {
    const empty = step({ assignees: [{ by: 'unit', unitId: 'none' }] });
    expect(resolveStep(empty, { ...lookups, fallbacks: ['mara', 'ines'] })).toEqual({ ok: true, value: ['mara'] });
    expect(resolveStep(empty, lookups)).toMatchObject({ refusals: [{ code: 'step_unfilled' }] });
  });
  test('fewer chosen than the minimum, or k greater than the people found, is refused at the start', () => {
    expect(resolveStep(step({ assignees: [{ by: 'chosen', minimum: 1 }] }), lookups)).toMatchObject({
      refusals: [{ code: 'step_too_few_chosen' }],
    });
    expect(resolveStep(step({ rule: twoOf3 }), lookups)).toMatchObject({
      refusals: [{ code: 'step_k_greater_than_people' }],
    });
  });
});

test('a route with a review after approval, an empty step or a rejection that leads forward is refused when saved', () => {
  const codes = checkRoute({
    name: 'x',
    steps: [
      step({ kind: 'approval', assignees: [], onReject: 0 }),
      step({ rule: { kind: 'k of n', k: 0 }, workingDays: 1.5 }),
    ],
  }).map((r) => r.code);
  expect(codes).toEqual([
    'step_asks_nobody',
    'step_reject_not_earlier',
    'step_after_approval',
    'step_k_too_small',
    'step_days_invalid',
  ]);
});

describe('steps at the same time', () => {
  const codes = (...steps: StepDefinition[]) => checkRoute({ name: 'x', steps }).map((r) => r.code);

  test('are of one kind: reviews beside reviews, approvals beside approvals', () => {
    const approval = step({ kind: 'approval' });
    expect(codes(step(), step({ beside: true }), approval, { ...approval, beside: true })).toEqual([]);
    expect(codes(step(), { ...approval, beside: true })).toEqual(['step_beside_other_kind']);
  });

  test('cannot be sent back to by each other', () => {
    expect(codes(step(), step(), step({ beside: true, onReject: 0 }))).toEqual([]);
    expect(codes(step(), step(), step({ beside: true, onReject: 1 }))).toEqual(['step_reject_not_earlier']);
  });
});

describe('what a step may name', () => {
  const fields = [{ key: 'testedOn', kind: 'date', mandatory: false }] as const;
  const codes = (given: Partial<StepDefinition>) =>
    checkRoute({ name: 'x', steps: [step(given)] }, fields).map((r) => r.code);

  test('is a day field, a condition that can be read, and whole days', () => {
    expect(codes({ dueField: 'testedOn', when: 'testedOn>=2026-01-01' })).toEqual([]);
    expect(codes({ dueField: 'span' })).toEqual(['step_due_field_unknown']);
    expect(codes({ when: 'span>=3' })).toEqual(['step_condition_unreadable', 'search_field_unknown']);
    expect(codes({ escalations: [{ afterDays: 0, action: 'remind' }] })).toEqual(['escalation_days_invalid']);
  });

  test('is chosen from a unit where one is named', () => {
    const from = step({ assignees: [{ by: 'chosen', minimum: 1, fromUnitId: 'ta' }] });
    expect(resolveStep(from, { ...lookups, chosen: ['joren', 'lin'] })).toEqual({ ok: true, value: ['lin'] });
    expect(resolveStep(from, { ...lookups, chosen: ['joren'] })).toMatchObject({
      refusals: [{ code: 'step_too_few_chosen', params: { has: 0 } }],
    });
  });

  test('stands for whoever is chosen later', () => {
    const chosen = resolveStep(step({ assignees: [{ by: 'chosen', minimum: 2 }] }), { ...lookups, chosen: 'later' });
    expect(chosen.ok && chosen.value.map(isToBeChosen)).toEqual([true, true]);
  });

  test('keeps a step whose condition can be read no more', () => {
    expect(stepsFor([{ when: 'gone:x' }, { when: 'change:major' }, {}], [])({ change: ['minor'] })).toEqual([
      true,
      false,
      true,
    ]);
  });
});

describe('separation of duties', () => {
  const metadata = (more: Partial<DecisionSituation> = {}): DecisionSituation => ({
    decision: 'approve',
    comment: '',
    kind: 'approval',
    assignmentState: 'open',
    roundOpen: true,
    deciderId: 'lin',
    principalId: 'lin',
    answeredInStepBy: [],
    authors: new Set(['joren']),
    signedBy: [],
    isLastSignature: true,
    ...more,
  });
  const codes = (more: Partial<DecisionSituation>) => decideAnswer(metadata(more)).map((r) => r.code);
  test('a person signs at most one approval step of a round and counts once in a step', () => {
    expect(codes({})).toEqual([]);
    expect(codes({ signedBy: ['lin'] })).toEqual(['signs_one_step_only']);
    expect(codes({ answeredInStepBy: ['lin'] })).toEqual(['counts_once_in_step']);
  });
  test('at least one approver is no author when the last signature falls', () => {
    expect(codes({ deciderId: 'joren', principalId: 'joren' })).toEqual(['only_approver_of_own_work']);
    expect(codes({ deciderId: 'joren', principalId: 'joren', signedBy: ['lin'] })).toEqual([]);
    expect(codes({ deciderId: 'joren', principalId: 'joren', isLastSignature: false })).toEqual([]);
  });
  test('a deputy is neither author nor somebody who has signed', () => {
    expect(codes({ deciderId: 'joren', principalId: 'mara', signedBy: ['lin'] })).toEqual(['deputy_is_author']);
    expect(codes({ deciderId: 'otto', principalId: 'mara', signedBy: ['otto'] })).toEqual(['deputy_has_signed']);
  });
  test('a rejection needs words, and what has ended takes no decision', () => {
    expect(codes({ decision: 'reject', comment: ' ' })).toEqual(['rejection_needs_comment']);
    expect(codes({ assignmentState: 'answered' })).toEqual(['already_decided']);
    expect(codes({ assignmentState: 'not needed' })).toEqual(['decision_not_needed']);
    expect(codes({ assignmentState: 'waiting' })).toEqual(['not_your_turn']);
    expect(codes({ roundOpen: false })).toEqual(['round_ended']);
    expect(codes({ kind: 'review' })).toEqual(['decision_not_offered']);
    expect(codes({ kind: 'review', decision: 'with comments' })).toEqual(['comment_missing']);
  });
});

test('a field that names several persons asks all of them, once each', () => {
  const step: StepDefinition = {
    name: 'Agree',
    kind: 'review',
    assignees: [{ by: 'field', key: 'experts' }, { by: 'owner' }],
    rule: { kind: 'all' },
    workingDays: 3,
    onReject: 'draft',
  };
  const of = (experts: string | string[] | undefined) => resolveStep(step, { ...lookups, fieldHolders: { experts } });
  expect(of(['lin', 'mara', 'otto'])).toEqual({ ok: true, value: ['lin', 'mara', 'otto'] });
  expect(of('lin')).toEqual({ ok: true, value: ['lin', 'otto'] });
  expect(of(undefined)).toEqual({ ok: true, value: ['otto'] });
});

describe('a check-in during the review', () => {
  const given = [
    { step: 0, onVersion: 1 },
    { step: 1, onVersion: 2 },
  ];
  /** A route of two reviews, some of which keep their decisions. */
  const asking = (...keeping: number[]) => ({
    steps: [0, 1].map((n) => step({ keepsDecisions: keeping.includes(n) })),
  });

  test('asks again from the first step with a decision on an older version', () => {
    expect(askedAgainFrom(asking(), given, 3)).toBe(0);
    expect(askedAgainFrom(asking(), given.slice(1), 3)).toBe(1);
  });

  test('asks nobody again where all decided on this version, or nobody yet', () => {
    expect(askedAgainFrom(asking(), [{ step: 0, onVersion: 3 }], 3)).toBeUndefined();
    expect(askedAgainFrom(asking(), [], 3)).toBeUndefined();
  });

  test('asks nobody again where the route keeps decisions', () => {
    expect(askedAgainFrom({ ...asking(), keepsDecisions: true }, given, 3)).toBeUndefined();
  });

  test('passes over the steps that keep their decisions', () => {
    expect(askedAgainFrom(asking(0), given, 3)).toBe(1);
    expect(askedAgainFrom(asking(0, 1), given, 3)).toBeUndefined();
  });
});
