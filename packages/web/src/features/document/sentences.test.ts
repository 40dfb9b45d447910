import type { NextStep } from '@kanonos/contract';
import { describe, expect, test } from 'vitest';
import { stateWords } from '../../ui/stateWords.ts';
import { nextSentence } from './sentences.ts';

const step = (more: Partial<NextStep>): NextStep =>
  ({
    kind: 'decide',
    who: [],
    mine: false,
    step: null,
    since: null,
    due: null,
    overdue: false,
    afterCommit: null,
    blockers: 0,
    link: null,
    ...more,
  }) as NextStep;
const sentence = (more: Partial<NextStep>) => {
  const { lead, rest } = nextSentence(step(more), 'Europe/Zurich');
  return `${lead} ${rest}`;
};

describe('the state of a document in a sentence', () => {
  test('says who has to do what, since when, until when, and what comes then', () => {
    expect(
      sentence({
        who: ['Otto Brandvik'],
        step: 'Approve as owner',
        since: '2019-11-23T08:00:00Z',
        due: '2019-11-26',
        afterCommit: 'Approve as technical authority',
      }),
    ).toBe(
      'Waiting for Otto Brandvik to approve as owner since 23 Nov 19. Due 26 Nov 19. Then: approve as technical authority.',
    );
  });

  test('addresses the person who must decide, and says when it is overdue', () => {
    expect(sentence({ mine: true, step: 'Review', due: '2019-11-20', overdue: true })).toBe(
      'Waiting for you to review. Was due 20 Nov 19.',
    );
  });

  test('names several people as a choice', () => {
    expect(sentence({ who: ['A', 'B', 'C'], step: 'Review' })).toContain('Waiting for A, B or C to review');
    expect(sentence({ who: [], step: 'Review' })).toContain('Waiting for somebody');
  });

  test('a draft waits to be finished, or for the answer that a rejection asked for', () => {
    expect(sentence({ kind: 'finish', who: ['A'] })).toBe('Waiting for A to finish the draft and submit it.');
    expect(sentence({ kind: 'finish', who: ['A'], step: 'Limits are missing' })).toBe(
      'Waiting for A to reply: “Limits are missing”',
    );
  });

  test('what is checked out, approved, scheduled, blocked or to be withdrawn has its own words', () => {
    expect(sentence({ kind: 'checked out', who: ['A'], since: '2019-11-23T08:00:00Z' })).toBe(
      'A has it checked out since 23 Nov 19. Check it in to continue.',
    );
    expect(sentence({ kind: 'checked out', mine: true, since: '2019-11-23T08:00:00Z' })).toContain(
      'You have it checked out',
    );
    expect(sentence({ kind: 'held up', blockers: 1 })).toContain('by one blocker');
    expect(sentence({ kind: 'held up', blockers: 3 })).toContain('by 3 blockers');
    expect(sentence({ kind: 'release' })).toContain('Waiting for document control');
    expect(sentence({ kind: 'scheduled', due: '2019-12-07' })).toContain('Comes into force on 7 Dec 2019');
    expect(sentence({ kind: 'blocked', due: '2019-12-07' })).toContain('since 7 Dec 2019');
    expect(sentence({ kind: 'withdrawal planned', due: '2019-12-07' })).toContain('Will be withdrawn on 7 Dec 2019');
  });
});

test('a state begins a line with a capital', () => {
  expect(stateWords('in force')).toBe('In force');
});
