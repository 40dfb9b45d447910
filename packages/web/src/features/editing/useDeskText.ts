import { api } from '@kanonos/contract';
import { useEffect, useRef, useState } from 'react';
import { call } from '../../app/client.ts';

export type SaveState = { kind: 'saved'; at: string | null } | { kind: 'waiting' } | { kind: 'failed'; why: string };

const REST_MS = 1500;

/** Keeps what is written a moment after the last change, one after the other, and again until it is kept. */
export const useDeskText = (document: string, start: string, savedAt: string | null) => {
  const [state, setState] = useState<SaveState>({ kind: 'saved', at: savedAt });
  const text = useRef(start);
  const kept = useRef(start);
  const running = useRef<Promise<void> | null>(null);
  const timer = useRef<ReturnType<typeof setTimeout>>(undefined);
  const gone = useRef(false);
  /** Whether all that was written is kept afterwards. */
  const save = async (): Promise<boolean> => {
    clearTimeout(timer.current);
    await running.current;
    const wanted = text.current;
    if (wanted === kept.current) return true;
    running.current = call(api.programs.saveDeskText, { params: { document }, body: { text: wanted } })
      .then(({ savedAt: at }) => {
        kept.current = wanted;
        setState(text.current === wanted ? { kind: 'saved', at } : { kind: 'waiting' });
      })
      .catch((error: Error) => {
        setState({ kind: 'failed', why: error.message });
        if (!gone.current) timer.current = setTimeout(() => void save(), REST_MS * 3);
      })
      .finally(() => {
        running.current = null;
      });
    await running.current;
    return kept.current === wanted;
  };
  const change = (next: string) => {
    text.current = next;
    setState({ kind: 'waiting' });
    clearTimeout(timer.current);
    timer.current = setTimeout(() => void save(), REST_MS);
  };
  const latest = useRef(save);
  latest.current = save;
  useEffect(() => {
    gone.current = false;
    // What is not kept yet is not lost by closing the window without a word.
    const warn = (event: BeforeUnloadEvent) => text.current !== kept.current && event.preventDefault();
    window.addEventListener('beforeunload', warn);
    return () => {
      window.removeEventListener('beforeunload', warn);
      gone.current = true;
      // Whoever goes elsewhere in the application a moment after the last letter has it kept all the same.
      void latest.current();
    };
  }, []);
  return { state, change, save, isLost: () => state.kind === 'failed' && text.current !== kept.current };
};
