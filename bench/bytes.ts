// Storing a large file, and verifying a trail.
import { createHash, hash, randomBytes } from 'node:crypto';
import { createReadStream, createWriteStream, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { Readable } from 'node:stream';
import { pipeline } from 'node:stream/promises';
import { chainEvents, createVerifier, eventLine } from '@kanonos/core';
import { sha256 } from '../packages/server/src/platform/trail/append.ts';
import type { TestOrganisation } from '../packages/server/src/tests/organisation.ts';
import { quantile, rate } from './measure.ts';

export const bytes = async (organisation: TestOrganisation) => {
  const source = join(tmpdir(), `kanonos-bench-${process.pid}`);
  await pipeline(
    Readable.from(
      (function* () {
        for (let i = 0; i < 200; i++) yield randomBytes(1 << 20);
      })(),
    ),
    createWriteStream(source),
  );
  const megabytes = 200;
  const bare = async () => {
    const began = performance.now();
    const hash = createHash('sha256');
    await pipeline(
      createReadStream(source, { highWaterMark: 1 << 20 }),
      async function* (stream) {
        for await (const chunk of stream) {
          hash.update(chunk as Buffer);
          yield chunk;
        }
      },
      createWriteStream(`${source}.copy`, { highWaterMark: 1 << 20 }),
    );
    return megabytes / ((performance.now() - began) / 1000);
  };
  const before = process.memoryUsage().rss;
  let most = before;
  const watch = setInterval(() => {
    most = Math.max(most, process.memoryUsage().rss);
  }, 20);
  const ours = async () => {
    const began = performance.now();
    const stored = await organisation.app.content.put(createReadStream(source, { highWaterMark: 1 << 20 }), 1 << 30);
    const speed = megabytes / ((performance.now() - began) / 1000);
    rmSync(organisation.app.content.pathOf(stored.sha256));
    return speed;
  };
  const [a, b] = [[] as number[], [] as number[]];
  for (let i = 0; i < 3; i++) {
    a.push(await ours());
    b.push(await bare());
  }
  clearInterval(watch);
  rate(
    `storing 200 MB with SHA-256 on the way (memory +${Math.round((most - before) / 1048576)} MB)`,
    0,
    quantile(a, 0.5),
    quantile(b, 0.5),
    '≥ 70 MB/s',
    'MB/s',
  );
  rmSync(source);
  rmSync(`${source}.copy`, { force: true });
};

export const verifying = async () => {
  const n = 100_000;
  const text = chainEvents(
    Array.from({ length: n }, (_, i) => ({
      kind: 'document.registered',
      actor: 'joren.adeyemi',
      subject: { document: { id: '018876d0-0000-7000-8000-000000000118', number: 'THR-PRO-0118' } },
      payload: { i },
    })),
    undefined,
    '2026-01-01T00:00:00.000Z',
    sha256,
  );
  const exported = text.map(({ event, text }) => eventLine(text, event.hash));
  const began = performance.now();
  const verifier = createVerifier({ sha256, verifySignature: () => true });
  for (const line of exported) verifier.line(line);
  if (verifier.verdict().kind !== 'intact') throw new Error('the bench chain is broken');
  const ours = n / ((performance.now() - began) / 1000);
  const start = performance.now();
  for (const { text: t } of text) hash('sha256', t);
  rate(
    'verifying a trail of 100,000 events',
    0,
    ours,
    n / ((performance.now() - start) / 1000),
    '≥ 40,000 per s',
    'per s',
  );
};
