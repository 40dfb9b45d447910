import { EVENT_KINDS } from '@kanonos/core';
import { expect, test } from 'vitest';
import { eventSentence } from './sentences.ts';

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
