import { readdirSync, readFileSync } from 'node:fs';
import { join } from 'node:path';
import { expect, test } from 'vitest';
import { eventSentence } from './sentences.ts';

/** Every kind of event that the services record. */
const recorded = (): string[] => {
  const features = join(import.meta.dirname, '..');
  const files = readdirSync(features, { recursive: true, encoding: 'utf8' }).filter(
    (name) => name.endsWith('.ts') && !name.endsWith('.test.ts'),
  );
  const kinds = files.flatMap((name) =>
    [
      ...readFileSync(join(features, name), 'utf8').matchAll(
        /\bkind: (?:[^\n'?]*\? )?'([a-z-]+\.[a-z-]+)'(?: : '([a-z-]+\.[a-z-]+)')?/g,
      ),
    ].flatMap((match) => [match[1] ?? '', match[2] ?? '']),
  );
  return [...new Set(kinds)].filter(Boolean).sort();
};

test('every event that is recorded is told in a sentence, and not by its key', () => {
  const event = (kind: string) => ({ kind, payload: {}, subject: {} }) as Parameters<typeof eventSentence>[0];
  const found = recorded();
  expect(found.length).toBeGreaterThan(60);
  const bare = found.filter((kind) => {
    try {
      return eventSentence(event(kind)) === kind;
    } catch {
      return false;
    }
  });
  expect(bare).toEqual([]);
});
