import { type ChildProcess, spawn } from 'node:child_process';
import { expect, test } from 'vitest';
import { keepAlive } from './lib/keepAlive.mjs';

test('a server that ends is started again, after pauses that grow, until its command stops', async () => {
  let stopping = false;
  const begun: number[] = [];
  const begin = (): ChildProcess => {
    begun.push(Date.now());
    return spawn('node', ['-e', 'process.exit(1)'], { stdio: ['ignore', 'pipe', 'inherit'] });
  };
  let child = begin();
  const lines: string[] = [];
  keepAlive({
    begin,
    isStopping: () => stopping,
    current: () => child,
    replace: (next: ChildProcess) => {
      child = next;
    },
    pauses: [0.1, 0.5],
    tell: (line: string) => void lines.push(line),
  });
  await expect.poll(() => begun.length, { timeout: 20_000 }).toBe(4);
  stopping = true;
  expect(
    lines.filter((line) => line.includes('started again in')).map((line) => /in ([\d.]+) s/.exec(line)?.[1]),
  ).toEqual(expect.arrayContaining(['0.1', '0.5']));
  expect((begun[3] ?? 0) - (begun[2] ?? 0)).toBeGreaterThan(450);
  await new Promise((resolve) => setTimeout(resolve, 1500));
  expect(begun).toHaveLength(4);
}, 30_000);
