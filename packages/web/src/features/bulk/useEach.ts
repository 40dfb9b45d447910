import type { AnswerOf, api } from '@kanonos/contract';
import { useState } from 'react';
import { refreshAll } from '../../app/client.ts';

type Answer = AnswerOf<typeof api.bulk.submit>;
const AT_ONCE = 20;

/** Runs a command over documents part by part, with its progress and the result of each. */
export const useEach = (command: (ids: string[]) => Promise<Answer>) => {
  const [share, setShare] = useState<number | null>(null);
  const [error, setError] = useState<Error | null>(null);
  const [result, setResult] = useState<Answer | null>(null);
  const run = async (ids: readonly string[]) => {
    const all: Answer = { done: [], refused: [] };
    setError(null);
    setShare(0);
    try {
      for (let at = 0; at < ids.length; at += AT_ONCE) {
        const part = await command(ids.slice(at, at + AT_ONCE));
        all.done.push(...part.done);
        all.refused.push(...part.refused);
        setShare(Math.min(1, (at + AT_ONCE) / ids.length));
      }
    } catch (failure) {
      setError(failure as Error);
    } finally {
      setShare(null);
      setResult(all);
      await refreshAll();
    }
    return all;
  };
  return { run, share, error, result };
};
