import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { EVENT_KINDS } from './eventKinds.ts';
import { historyLines, KINDS_OF_TOPIC } from './history.ts';

const dayOf = (at: string) => at.slice(0, 10);
const event = (at: string, kind: string, label: string | null = 'C', who = 'x') => ({
  at,
  actor: who,
  kind,
  label,
  who,
});

describe('the lines of a history', () => {
  it('put what followed from a command under it, in the order in which it happened', () => {
    const at = '2026-11-25T23:00:00.000Z';
    const lines = historyLines(
      [event(at, 'revision.superseded', 'B'), event(at, 'revision.in-force'), event(at, 'revision.released')],
      dayOf,
    );
    expect(lines).toHaveLength(1);
    expect(lines[0]?.commands[0].lead.kind).toBe('revision.released');
    expect(lines[0]?.commands[0].followed.map(({ kind }) => kind)).toEqual([
      'revision.in-force',
      'revision.superseded',
    ]);
  });

  it('make one of similar ones of a day, also with others between them', () => {
    const lines = historyLines(
      [
        event('2026-11-26T10:00:00.000Z', 'reading.signed', 'C', 'c'),
        event('2026-11-26T09:00:00.000Z', 'decision.given'),
        event('2026-11-26T08:00:00.000Z', 'reading.signed', 'C', 'b'),
        event('2026-11-25T08:00:00.000Z', 'reading.signed', 'C', 'a'),
      ],
      dayOf,
    );
    expect(lines.map(({ commands }) => commands.map(({ lead }) => lead.who).join(''))).toEqual(['cb', 'x', 'a']);
  });

  it('never fold decisions, nor readings of another revision', () => {
    const lines = historyLines(
      [
        event('2026-11-26T10:00:00.000Z', 'decision.given'),
        event('2026-11-26T09:00:00.000Z', 'decision.given'),
        event('2026-11-26T08:00:00.000Z', 'reading.signed', 'C'),
        event('2026-11-26T07:00:00.000Z', 'reading.signed', 'B'),
      ],
      dayOf,
    );
    expect(lines).toHaveLength(4);
  });

  it('lose and double no event', () => {
    const some = fc.array(
      fc.record({
        at: fc.constantFrom('2026-11-25T08:00:00.000Z', '2026-11-25T09:00:00.000Z', '2026-11-26T09:00:00.000Z'),
        kind: fc.constantFrom('reading.signed', 'decision.given', 'comment.written'),
        actor: fc.constantFrom('x', 'y'),
        label: fc.constantFrom('A', 'B', null),
      }),
    );
    fc.assert(
      fc.property(some, (events) => {
        const sorted = events
          .map((one, n) => ({ ...one, n }))
          .sort((a, b) => (a.at < b.at ? 1 : a.at > b.at ? -1 : a.n - b.n));
        const shown = historyLines(sorted, dayOf).flatMap(({ commands }) =>
          commands.flatMap(({ lead, followed }) => [lead.n, ...followed.map(({ n }) => n)]),
        );
        expect([...shown].sort((a, b) => a - b)).toEqual(sorted.map(({ n }) => n).sort((a, b) => a - b));
      }),
    );
  });
});

it('every kind of a topic is a kind of event, in one topic alone', () => {
  const kinds = Object.values(KINDS_OF_TOPIC).flat();
  expect(new Set(kinds).size).toBe(kinds.length);
  for (const kind of kinds) expect(EVENT_KINDS).toContain(kind);
});
