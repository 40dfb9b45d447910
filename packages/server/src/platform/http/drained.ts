import { once } from 'node:events';
import type { Writable } from 'node:stream';

/** Until a stream takes more, or its reader has left. No listener is left, however often it is awaited. */
export const drained = async (out: Writable): Promise<void> => {
  const ended = new AbortController();
  try {
    await Promise.race(
      ['drain', 'close', 'error'].map((event) => once(out, event, { signal: ended.signal }).catch(() => undefined)),
    );
  } finally {
    ended.abort();
  }
};
