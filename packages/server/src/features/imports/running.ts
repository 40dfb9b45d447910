import type { App } from '../../platform/app.ts';
import { RefusalError } from '../../platform/refused.ts';
import { blockRules, listTypes } from '../rules/index.ts';
import { judge, saveVerdicts } from './judging.ts';
import * as store from './store.ts';
import { takeOver } from './takeOver.ts';

const AT_ONCE = 25;
/** A job that works longer is taken for dead; it ends in time and asks to go on. */
const WORK_MS = 60_000;

/** After a standstill: every running import continues, even if its job was lost. Two jobs of one import do no harm. */
export const resumeImports = async (app: App): Promise<void> => {
  for (const { id } of await store.listRunning(app.db))
    await app.db.transaction((trx) => app.jobs.enqueue(trx, 'import.run', { importId: id }));
};

/**
 * Takes over ready documents, some in each transaction together with their done mark: killed at any instant it
 * continues from there, and never does a line twice. Works for a while and requests its continuation.
 */
export const runImport = async (app: App, id: string, workMs = WORK_MS): Promise<'done' | 'continues' | 'stopped'> => {
  const row = await store.findImport(app.db, id);
  if (row?.state !== 'running') return 'stopped';
  const plan = await judge(app, app.db, row);
  const types = new Map((await listTypes(app.db)).map((type) => [type.id, type]));
  const actor = { id: row.by_id, signInName: 'system.import', name: row.by_name };
  // Counters begin before the first import: free numbers below are from before the takeover.
  await app.command(actor, async (work) => {
    await saveVerdicts(work.trx, id, plan);
    for (const begin of plan.begins)
      if ((await store.beginCounter(work.trx, begin)) > 0)
        work.record({
          kind: 'counter.started',
          subject: {},
          payload: { scope: begin.scope, last: begin.last, reason: row.reason ?? '' },
        });
  });
  const until = performance.now() + workMs;
  for (let at = 0; at < plan.documents.length; at += AT_ONCE) {
    if (performance.now() > until) {
      await app.command(actor, (work) => app.jobs.enqueue(work.trx, 'import.run', { importId: id }));
      return 'continues';
    }
    const takeBatch = () =>
      app.command(actor, async (work) => {
        await store.lockImport(work.trx, id);
        if ((await store.findImport(work.trx, id))?.state !== 'running') return false;
        await blockRules(work.trx);
        const batch = plan.documents.slice(at, at + AT_ONCE);
        const ready = await store.readyLines(
          work.trx,
          id,
          batch.flatMap((one) => one.revisions.map((revision) => revision.line)),
        );
        const fresh = batch.filter((one) => one.revisions.every((revision) => ready.has(revision.line)));
        if (fresh.length === 0) return true;
        const ids = await takeOver(work, fresh, types, { id: row.by_id, name: row.by_name, importId: id });
        await store.markDone(
          work.trx,
          id,
          fresh.flatMap((one) => one.revisions.map(({ line }) => ({ line, document: ids.get(one.folded) ?? '' }))),
        );
        return true;
      });
    const going = await takeBatch().catch((error: unknown) => {
      if (error instanceof RefusalError && error.refusals[0]?.code === 'number_taken') return 'check again' as const;
      throw error;
    });
    // Somebody else took one of these numbers meanwhile: judged again, its line reports it and the others go on.
    if (going === 'check again') return runImport(app, id, Math.max(0, until - performance.now()));
    if (!going) return 'stopped';
  }
  await app.command(actor, async (work) => {
    await store.lockImport(work.trx, id);
    const now = await store.findImport(work.trx, id);
    if (now?.state !== 'running') return;
    const counts = (await store.countLines(work.trx, [id])).get(id);
    await store.setState(work.trx, { id, state: 'done' });
    work.record({
      kind: 'import.ended',
      subject: {},
      payload: { import: id, done: counts?.done ?? 0, refused: counts?.refused ?? 0 },
    });
  });
  return 'done';
};
