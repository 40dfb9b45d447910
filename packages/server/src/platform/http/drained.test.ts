import { Writable } from 'node:stream';
import { expect, test } from 'vitest';
import { drained } from './drained.ts';

test('waiting a hundred times leaves no listener, and ends when the reader leaves', async () => {
  const slow = new Writable({ highWaterMark: 1, write: (_chunk, _encoding, done) => void setImmediate(done) });
  const count = () => slow.eventNames().reduce((n, name) => n + slow.listenerCount(name), 0);
  const before = count();
  for (let i = 0; i < 100; i++) {
    if (!slow.write('some text')) await drained(slow);
  }
  expect(count()).toBe(before);
  const stuck = new Writable({ highWaterMark: 1, write: () => {} });
  stuck.write('some text');
  const waited = drained(stuck).then(() => 'ended');
  stuck.destroy();
  expect(await waited).toBe('ended');
});
