import { api, type SideContent } from '@kanonos/contract';
import type { Compared } from '@kanonos/core';
import { useQuery } from '@tanstack/react-query';
import { useEffect, useState } from 'react';
import { ask } from '../../app/client.ts';
import type { CompareRequest } from './compare.worker.ts';

/** Beyond this the texts are taken for too unlike to be worth the wait. */
const MOST_MS = 20_000;

export type Comparison = {
  old: SideContent | undefined;
  new: SideContent | undefined;
  compared: Compared | null;
  error: Error | null;
};

/** A side of a comparison; it is requested again until its text is extracted. */
const useSide = (version: string | undefined, file: string | undefined) =>
  useQuery({
    ...ask(api.comparison.side, { params: { version: version ?? '' }, query: file ? { file } : {} }),
    enabled: version !== undefined,
    staleTime: 60_000,
    refetchInterval: (query) => (query.state.data?.textState === 'waiting' ? 1500 : false),
  });

/** Two versions compared in a worker, which is ended when another pair is wished or the page is left. */
export const useComparison = (
  versions: { old: string | undefined; new: string | undefined },
  files: { old: string | undefined; new: string | undefined },
): Comparison => {
  const [before, after] = [useSide(versions.old, files.old), useSide(versions.new, files.new)];
  const [state, setState] = useState<{ key: string; compared: Compared | null; error: Error | null } | null>(null);
  const isReady = before.data?.textState === 'done' && after.data?.textState === 'done';
  const [oldText, newText] = [before.data?.text ?? '', after.data?.text ?? ''];
  const key = `${before.data?.fileId} ${after.data?.fileId}`;
  useEffect(() => {
    if (!isReady) return;
    const worker = new Worker(new URL('./compare.worker.ts', import.meta.url), { type: 'module' });
    const finish = (compared: Compared | null, error: Error | null) => {
      clearTimeout(timer);
      worker.terminate();
      setState({ key, compared, error });
    };
    const timer = setTimeout(
      () => finish(null, new Error('The texts differ too much to be compared in reasonable time.')),
      MOST_MS,
    );
    worker.onmessage = ({ data }: MessageEvent<Compared>) => finish(data, null);
    worker.onerror = () => finish(null, new Error('The texts could not be compared.'));
    const request: CompareRequest = { old: oldText, new: newText };
    worker.postMessage(request);
    return () => {
      clearTimeout(timer);
      worker.terminate();
    };
  }, [isReady, oldText, newText, key]);
  const mine = state?.key === key ? state : null;
  return {
    old: before.data,
    new: after.data,
    compared: mine?.compared ?? null,
    error: before.error ?? after.error ?? mine?.error ?? null,
  };
};
