import { api } from '@kanonos/contract';
import { useEffect, useRef, useState } from 'react';
import { call, Problem } from '../../app/client.ts';

export type SaveState =
  | { kind: 'saved'; at: string | null }
  | { kind: 'waiting' }
  | { kind: 'failed'; why: string }
  /** Another window or a program on the network drive saved meanwhile: nothing is kept over it unasked. */
  | { kind: 'elsewhere' };

const REST_MS = 1500;

/** Saves a moment after the last change, one save after the other, and retries until saved. */
export const useWorkingText = (document: string, start: string, savedAt: string | null) => {
  const [state, setState] = useState<SaveState>({ kind: 'saved', at: savedAt });
  const text = useRef(start);
  const kept = useRef(start);
  const over = useRef(savedAt);
  const elsewhere = useRef(false);
  const running = useRef<Promise<void> | null>(null);
  const timer = useRef<ReturnType<typeof setTimeout>>(undefined);
  const gone = useRef(false);
  /** Whether all that was written is kept afterwards. */
  const save = async (): Promise<boolean> => {
    clearTimeout(timer.current);
    await running.current;
    const wanted = text.current;
    if (wanted === kept.current) return true;
    if (elsewhere.current) return false;
    running.current = call(api.programs.saveWorkingText, {
      params: { document },
      body: { text: wanted, over: over.current },
    })
      .then(({ savedAt: at }) => {
        kept.current = wanted;
        over.current = at;
        setState(text.current === wanted ? { kind: 'saved', at } : { kind: 'waiting' });
      })
      .catch((error: Error) => {
        if (error instanceof Problem && error.code === 'saved_elsewhere') {
          elsewhere.current = true;
          return setState({ kind: 'elsewhere' });
        }
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
    if (elsewhere.current) return;
    setState({ kind: 'waiting' });
    clearTimeout(timer.current);
    timer.current = setTimeout(() => void save(), REST_MS);
  };
  /** Overwrites the text saved elsewhere with this one. */
  const keepMine = async (): Promise<boolean> => {
    const there = await call(api.programs.workingText, { params: { document } });
    over.current = there.savedAt;
    elsewhere.current = false;
    return save();
  };
  const latest = useRef(save);
  latest.current = save;
  useEffect(() => {
    gone.current = false;
    // Closing the window with unsaved text asks first.
    const warn = (event: BeforeUnloadEvent) => text.current !== kept.current && event.preventDefault();
    window.addEventListener('beforeunload', warn);
    return () => {
      window.removeEventListener('beforeunload', warn);
      gone.current = true;
      // Leaving the page right after the last letter still saves it.
      void latest.current();
    };
  }, []);
  const isUnsaved = () => text.current !== kept.current;
  return { state, change, save, keepMine, isUnsaved };
};
