import { describe, expect, test } from 'vitest';
import { eventSentence, eventWords } from './sentences.ts';

const said = (kind: string, payload: Record<string, never> | object = {}, label = 'C') =>
  `Ines Varga ${eventSentence({
    kind,
    subject: {
      document: { id: 'd', number: 'THR-PRO-0118' },
      revision: { id: 'r', label },
      person: { id: 'p', name: 'yuki.tanabe' },
    },
    payload: payload as never,
  })}`;

describe('events read as a sentence behind the name of who did it', () => {
  test('coming into force names what it supersedes', () => {
    expect(said('revision.in-force', { supersedes: 'B' })).toBe('Ines Varga brought C into force, which supersedes B');
    expect(said('revision.in-force', {}, '')).toBe('Ines Varga brought it into force');
    expect(said('revision.superseded', { by: 'D' })).toBe('Ines Varga superseded C by D');
  });

  test('days are written out', () => {
    expect(said('revision.scheduled', { on: '2026-12-07' })).toBe('Ines Varga scheduled it for 7 Dec 2026');
    expect(said('revision.day-moved', { before: '2026-12-07', after: '2026-12-09' })).toBe(
      'Ines Varga moved the day from 7 Dec 2026 to 9 Dec 2026',
    );
  });

  test('a decision says what was decided where, a signature what it means', () => {
    expect(said('decision.given', { decision: 'no objection', step: 'Review' })).toBe(
      'Ines Varga had no objection in Review',
    );
    expect(said('decision.given', { decision: 'decline', step: 'Review' })).toBe('Ines Varga declined in Review');
    expect(said('decision.given', { decision: 'approve', signature: 's', meaning: 'approved as owner' })).toBe(
      'Ines Varga signed: approved as owner',
    );
  });

  test('readings tell how many were asked and carried over', () => {
    expect(said('reading.asked', { asked: 12, carried: 3, notNeeded: 0 })).toBe(
      'Ines Varga asked 12 to read, 3 carried over',
    );
  });

  test('memberships name person, kind and day', () => {
    expect(said('membership.begun', { kind: 'department', in: 'Maintenance', from: '2026-12-01' })).toBe(
      'Ines Varga put yuki.tanabe under department Maintenance from 1 Dec 2026',
    );
  });

  test('a kind that nobody worded shows its name', () => {
    expect(said('something.new')).toBe('Ines Varga something.new');
  });
});

test('the words given with an act are the first that hold something', () => {
  const event = (payload: object) => ({ kind: 'x', subject: {}, payload: payload as never });
  expect(eventWords(event({ note: '', reason: 'Trial on carrier 31' }))).toBe('Trial on carrier 31');
  expect(eventWords(event({ text: 'A comment' }))).toBe('A comment');
  expect(eventWords(event({}))).toBeNull();
});
