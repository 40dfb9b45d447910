import { EVENT_KINDS } from '@kanonos/core';
import { expect, test } from 'vitest';
import { eventSentence } from './sentences.ts';

const event = (kind: string) => ({ kind, payload: {}, subject: {} }) as Parameters<typeof eventSentence>[0];

test('every kind of event is told in a sentence, and not by its key', () => {
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

test('an event of a kind that this version does not know is shown by its key', () => {
  expect(eventSentence(event('moon.landed'))).toBe('moon.landed');
});
