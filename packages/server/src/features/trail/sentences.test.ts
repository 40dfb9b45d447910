import { EVENT_KINDS } from '@kanonos/core';
import { expect, test } from 'vitest';
import { eventSentence, eventWords } from './sentences.ts';

const event = (kind: string) => ({ kind, payload: {}, subject: {} }) as Parameters<typeof eventSentence>[0];

test('every kind of event has a sentence, not its key', () => {
  expect(EVENT_KINDS.length).toBeGreaterThan(100);
  const bare = EVENT_KINDS.filter((kind) => {
    try {
      return eventSentence(event(kind)) === kind;
    } catch {
      // It wants more of its payload than nothing: it has a sentence.
      return false;
    }
  });
  expect(bare).toEqual([]);
});

test('requested readings are counted with those carried over', () => {
  const payload = { asked: 12, carriedOver: 3, notNeeded: 0 };
  expect(eventSentence({ kind: 'reading.asked', payload, subject: {} } as Parameters<typeof eventSentence>[0])).toBe(
    'asked 12 people to read it, carried over 3',
  );
});

test('an event of a kind that this version does not know is shown by its key', () => {
  expect(eventSentence(event('moon.landed'))).toBe('moon.landed');
});

test('the words of an event are what somebody said, never which comment it was', () => {
  const words = (kind: string, payload: Record<string, unknown>) =>
    eventWords({ kind, payload, subject: {} } as Parameters<typeof eventWords>[0]);
  expect(words('comment.replied', { comment: 'c1', answer: 'c2', text: 'Yes: ten sheaves.' })).toBe(
    'Yes: ten sheaves.',
  );
  expect(words('comment.reopened', { comment: 'c1', reason: 'Still open' })).toBe('Still open');
  expect(words('comment.withdrawn', { comment: 'c1' })).toBeNull();
  expect(words('step.decided', { comment: 'The limit is missing' })).toBe('The limit is missing');
});
