import { spawnSync } from 'node:child_process';
import { createHash } from 'node:crypto';
import { mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { chainEvents } from '@kanonos/core';
import { afterAll, expect, test } from 'vitest';

const dir = mkdtempSync(join(tmpdir(), 'kanonos-verify-'));
afterAll(() => rmSync(dir, { recursive: true, force: true }));

const lines = chainEvents(
  Array.from({ length: 40 }, (_, i) => ({
    kind: 'document.registered',
    actor: 'joren.adeyemi',
    subject: {},
    payload: { i },
  })),
  undefined,
  '2026-01-01T00:00:00.000Z',
  (data) => createHash('sha256').update(data).digest(),
).map(({ event }) => JSON.stringify(event));

const verifyFile = (name: string, content: string) => {
  const path = join(dir, name);
  writeFileSync(path, content);
  const run = spawnSync('node', ['--import', 'tsx', join(import.meta.dirname, 'verify-trail.ts'), path], {
    encoding: 'utf8',
  });
  return { status: run.status, said: run.stdout.trim() };
};

test('an untouched export is intact and a tampered one is broken at the right event', () => {
  expect(verifyFile('good.jsonl', lines.join('\n'))).toEqual({ status: 0, said: 'Intact up to event 40; no head.' });
  const tampered = [...lines];
  tampered[16] = (tampered[16] as string).replace('"i":16', '"i":17');
  expect(verifyFile('bad.jsonl', tampered.join('\n'))).toEqual({
    status: 1,
    said: 'Broken at event 17 (line 17): content does not match its hash.',
  });
});
