import type { App } from '../../platform/app.ts';
import { isConnectionLost } from '../../platform/db/constraints.ts';
import * as store from './store.ts';

/** Background work that is done on one thing after the other. */
export type WorkKind =
  | 'scheduled change of a document'
  | 'required reading'
  | 'planned change of a type'
  | 'end of a reservation'
  | 'citations of a text'
  | 'comparison of a version'
  | 'file of the network drive'
  | 'group by rule'
  | 'reminder'
  | 'answer that takes too long'
  | 'signature from outside'
  | 'planned round'
  | 'round by rule'
  | 'clock';

/** One item of work: its key, and its name for a person. */
export type WorkItem = { subject: string; label: string; documentId?: string };

const MINUTE = 60_000;
/** Pauses before the next try; after the last one it is set aside until somebody acts. */
const PAUSES = [1 * MINUTE, 5 * MINUTE, 30 * MINUTE, 120 * MINUTE];

/**
 * Works on things one after the other, each on its own: what fails is remembered with its reason, tried again with growing pauses and
 * after five tries set aside, and never keeps the others waiting. Answers how many were done.
 *
 * @throws only when the database cannot be reached: that is nobody's fault, and the whole is tried again
 */
export const eachOnItsOwn = async <T>(
  app: App,
  kind: WorkKind,
  items: readonly T[],
  about: (item: T) => WorkItem,
  work: (item: T) => Promise<unknown>,
): Promise<number> => {
  if (items.length === 0) return 0;
  const known = new Map((await store.listFailed(app.db, kind)).map((row) => [row.subject, row]));
  let done = 0;
  for (const item of items) {
    const { subject, label, documentId = null } = about(item);
    const before = known.get(subject);
    if (before?.set_aside || (before && before.next_at > app.clock())) continue;
    try {
      await work(item);
      done++;
      if (before) await store.forgetFailed(app.db, { kind, subject });
    } catch (error) {
      if (isConnectionLost(error)) throw error;
      const now = app.clock();
      const pause = PAUSES[before?.tries ?? 0];
      const reason = String((error as Error).message ?? error).slice(0, 500) || 'unknown';
      app.log.error({ err: error, kind, subject }, 'background work on one thing failed');
      await store.noteFailed(app.db, {
        kind,
        subject,
        label,
        documentId,
        reason,
        now,
        next: new Date(now.getTime() + (pause ?? 0)),
        setAside: pause === undefined,
      });
    }
  }
  return done;
};

/** Runs the stages of the clock, each on its own: one that fails as a whole is shown and keeps no other from its turn. */
export const runStages = async (
  app: App,
  stages: readonly (readonly [name: string, run: () => Promise<unknown>])[],
) => {
  for (const [name, run] of stages)
    await eachOnItsOwn(app, 'clock', [name], () => ({ subject: name, label: name }), run).catch((error) =>
      app.log.warn({ stage: name, reason: (error as Error).message }, 'a stage of the clock waits for the database'),
    );
};
