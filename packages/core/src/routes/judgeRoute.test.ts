import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { judgeRoute, judgeTrial, type TriedStep } from './judgeRoute.ts';
import { checkRoute, type StepDefinition } from './route.ts';

const step = (given: Partial<StepDefinition>): StepDefinition => ({
  name: 'Approve',
  kind: 'approval',
  meaning: 'approved',
  assignees: [{ by: 'unit', unitId: 'u1' }],
  rule: { kind: 'any one' },
  workingDays: 3,
  onReject: 'draft',
  ...given,
});
const kinds = (steps: StepDefinition[]) => judgeRoute({ name: 'R', steps }).map(({ kind }) => kind);
const person = (personId: string) => ({ by: 'person', personId }) as const;

describe('a route by itself', () => {
  it('is fine with a review and the approval of a unit', () => {
    expect(
      kinds([step({ name: 'Review', kind: 'review', assignees: [{ by: 'chosen', minimum: 1 }] }), step({})]),
    ).toEqual([]);
  });

  it('signs nothing without an approval; without steps nobody is asked, which is meant', () => {
    expect(kinds([step({ kind: 'review' })])).toEqual(['nothing is signed']);
    expect(kinds([])).toEqual([]);
  });

  it('names a signature that means nothing', () => {
    expect(kinds([step({ meaning: ' ' })])).toEqual(['signature without meaning']);
    expect(judgeRoute({ name: 'R', steps: [step({ meaning: '' })] })[0]).toMatchObject({ steps: ['Approve'] });
  });

  it('asks about an owner who approves alone', () => {
    expect(kinds([step({ assignees: [{ by: 'owner' }] })])).toEqual(['owner is the only approver']);
    expect(kinds([step({ assignees: [{ by: 'author' }] })])).toEqual(['author is the only approver']);
    expect(kinds([step({ assignees: [{ by: 'author' }, { by: 'owner' }] })])).toEqual(['author is the only approver']);
    expect(kinds([step({ assignees: [{ by: 'author' }, { by: 'unit', unitId: 'u' }] })])).toEqual([]);
    expect(kinds([step({ assignees: [{ by: 'owner' }] }), step({ name: 'Second' })])).toEqual([]);
  });

  it('sees that one person cannot sign twice', () => {
    expect(
      judgeRoute({
        name: 'R',
        steps: [step({ assignees: [person('a')] }), step({ name: 'Second', assignees: [person('a')] })],
      }),
    ).toEqual([{ kind: 'one person in two approvals', steps: ['Approve', 'Second'], personId: 'a' }]);
    expect(
      kinds([step({ assignees: [person('a')] }), step({ name: 'Second', assignees: [person('a'), person('b')] })]),
    ).toEqual([]);
  });

  it('sees a step that can never be done', () => {
    expect(
      judgeRoute({
        name: 'R',
        steps: [step({ assignees: [person('a'), person('b')], rule: { kind: 'k of n', k: 3 } })],
      }),
    ).toEqual([{ kind: 'never enough people', steps: ['Approve'], needed: 3, named: 2 }]);
    // Of a unit nobody knows how many it will have.
    expect(kinds([step({ rule: { kind: 'k of n', k: 3 } })])).toEqual([]);
  });

  it('accepts every route of reviews by choice and approvals by different people', () => {
    fc.assert(
      fc.property(fc.integer({ min: 0, max: 4 }), fc.integer({ min: 1, max: 4 }), (reviews, approvals) => {
        const steps = [
          ...Array.from({ length: reviews }, (_, i) =>
            step({ name: `Review ${i}`, kind: 'review', assignees: [{ by: 'chosen', minimum: 1 }] }),
          ),
          ...Array.from({ length: approvals }, (_, i) => step({ name: `Approve ${i}`, assignees: [person(`p${i}`)] })),
        ];
        expect(checkRoute({ name: 'R', steps })).toEqual([]);
        expect(kinds(steps)).toEqual([]);
      }),
    );
  });
});

describe('conditions of a route', () => {
  const risk = { key: 'risk', kind: 'choice', mandatory: true, options: [{ code: 'H', text: 'high' }] } as const;
  const fields = [{ ...risk, options: [...risk.options, { code: 'L', text: 'low' }] }];
  const doubts = (...steps: StepDefinition[]) =>
    judgeRoute({ name: 'R', steps }, fields).map(({ kind, steps: [name] }) => [kind, name]);
  const check = (when: string) => step({ name: 'Check', kind: 'review', when });

  it('that are always or never met are named', () => {
    expect(doubts(check('risk:H or risk:L'), step({}))).toEqual([['always asked', 'Check']]);
    expect(doubts(check('risk:H risk:L'), step({}))).toEqual([['never asked', 'Check']]);
    expect(doubts(check('risk:medium'), step({}))).toEqual([['never asked', 'Check']]);
    expect(doubts(check('risk:H'), step({}))).toEqual([]);
  });

  it('that could leave nobody, or no approval, are named', () => {
    expect(doubts(step({ when: 'risk:H' }))).toEqual([['nobody may be asked', undefined]]);
    expect(doubts(step({ name: 'Check', kind: 'review' }), step({ when: 'risk:H' }))).toEqual([
      ['approval may fall away', 'Approve'],
    ]);
    // One of the two is always asked.
    expect(doubts(step({ when: 'risk:H' }), step({ name: 'Second', when: 'not risk:H' }))).toEqual([]);
  });

  it('sees who is asked as well where all must agree', () => {
    const escalations = [{ afterDays: 3, action: 'also ask', to: { by: 'supervisor' } }] as const;
    expect(doubts(step({ rule: { kind: 'all' }, escalations }))).toEqual([['waits for both', 'Approve']]);
    expect(doubts(step({ escalations }))).toEqual([]);
  });
});

describe('a route on a document', () => {
  const tried = (name: string, kind: TriedStep['kind'], ...people: string[]): TriedStep => ({ name, kind, people });
  const authors = new Set(['author']);

  it('is fine where every step asks somebody, and somebody else approves', () => {
    expect(
      judgeTrial([tried('Review', 'review', 'author'), tried('Approve', 'approval', 'author', 'other')], authors),
    ).toEqual([]);
  });

  it('names the step that asks nobody', () => {
    expect(judgeTrial([tried('Review', 'review'), tried('Approve', 'approval', 'other')], authors)).toEqual([
      { kind: 'nobody is asked', steps: ['Review'] },
    ]);
  });

  it('never lets an author approve alone', () => {
    expect(judgeTrial([tried('Approve', 'approval', 'author')], authors)).toEqual([
      { kind: 'only the author approves', steps: ['Approve'] },
    ]);
  });

  it('sees that the same person would have to sign twice', () => {
    const steps = [tried('Owner', 'approval', 'other'), tried('Authority', 'approval', 'other')];
    expect(judgeTrial(steps, authors)).toEqual([
      { kind: 'same person must sign twice', steps: ['Owner', 'Authority'], personId: 'other' },
    ]);
    expect(
      judgeTrial([tried('Owner', 'approval', 'other'), tried('Authority', 'approval', 'other', 'third')], authors),
    ).toEqual([]);
  });
});
