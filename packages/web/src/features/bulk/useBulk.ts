import { api, BULK_AT_ONCE, type BulkChange, type BulkTrial } from '@kanonos/contract';
import { useState } from 'react';
import { call, refreshAll } from '../../app/client.ts';
import { count } from '../../ui/format.ts';
import { toast } from '../../ui/toast.ts';
import { wording } from './wording.ts';

/** Undoes a bulk change part by part and lists what stayed because it was changed again. */
export const undoBulk = async (id: string): Promise<void> => {
  let undone = 0;
  const kept: string[] = [];
  for (;;) {
    const part = await call(api.bulk.undo, { params: { id } });
    undone += part.undone;
    kept.push(...part.kept.map((document) => document.number));
    if (part.left === 0) break;
  }
  await refreshAll();
  toast.success(
    `${count(undone, 'document', 'documents')} restored.${kept.length ? wording.changedSinceAndLeftAsThey(kept.slice(0, 5).join(', '), kept.length > 5 ? wording.andMore : '') : ''}`,
  );
};

/** Runs a tried change part by part with progress; stopped, what is done stays done and can be undone. */
export const useBulk = () => {
  const [share, setShare] = useState<number | null>(null);
  const [error, setError] = useState<Error | null>(null);
  const [stop] = useState(() => ({ requested: false }));
  const run = async (trial: BulkTrial, change: BulkChange, reason: string): Promise<boolean> => {
    const id = crypto.randomUUID();
    stop.requested = false;
    setError(null);
    setShare(0);
    let changed = 0;
    try {
      for (let at = 0; at < trial.ids.length && !stop.requested; at += BULK_AT_ONCE) {
        const ids = trial.ids.slice(at, at + BULK_AT_ONCE);
        const part = await call(api.bulk.apply, { params: { id }, body: { ids, change, reason } });
        changed += part.changed;
        setShare((at + ids.length) / trial.ids.length);
      }
      return true;
    } catch (failure) {
      setError(failure as Error);
      return false;
    } finally {
      setShare(null);
      if (changed > 0) {
        await refreshAll();
        toast.success(`${count(changed, 'document', 'documents')} changed.`, {
          duration: 15_000,
          action: { label: wording.undo, onClick: () => void undoBulk(id) },
        });
      }
    }
  };
  return { run, share, error, stop: () => (stop.requested = true) };
};
