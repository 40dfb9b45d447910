import type { AnswerOf, api } from '@kanonos/contract';
import { decideCommand } from '@kanonos/core';
import type { App } from '../../platform/app.ts';
import { assertAllowed } from '../../platform/refused.ts';
import { rightsOnMany, toPlace, type Viewer } from '../access/service.ts';
import { actorOf } from '../session/service.ts';
import { listRemoved, loadForUpdate, situationOf, subjectOf, write } from './service.ts';

/** Nothing of a route stands in the way of removing or bringing back: a run would have left the draft. */
const NO_ROUTE = { steps: 0, unfilled: [], mayCheckInByStep: false, hasOpenRound: false };

/** Removes a document that never was in force: it leaves all lists, keeps its number, and can be restored. */
export const removeDocument = (app: App, viewer: Viewer, ref: string, reason: string): Promise<void> =>
  setRemoved(app, viewer, ref, reason, 'remove');

/** Brings a removed document back with the state that it had. */
export const restore = (app: App, viewer: Viewer, ref: string, reason: string): Promise<void> =>
  setRemoved(app, viewer, ref, reason, 'restore');

const setRemoved = (app: App, viewer: Viewer, ref: string, reason: string, command: 'remove' | 'restore') =>
  app.command(actorOf(viewer), async (work) => {
    const opened = await loadForUpdate(work, viewer, ref);
    assertAllowed(decideCommand(command, await situationOf(work.trx, opened, viewer, NO_ROUTE)));
    const removing = command === 'remove';
    const { document } = opened;
    await write.setRemoved(
      work.trx,
      document.id,
      removing ? work.now : null,
      removing ? reason : null,
      removing ? viewer.id : null,
    );
    work.record({
      kind: removing ? 'document.removed' : 'document.restored',
      subject: subjectOf(document, opened.revisions[0]),
      payload: { reason },
    });
  });

/** Removed documents that a viewer may restore. */
export const removedDocuments = async (app: App, viewer: Viewer): Promise<AnswerOf<typeof api.documents.removed>> => {
  const rows = await listRemoved(app.db);
  const rights = await rightsOnMany(app.db, viewer, rows.map(toPlace));
  return {
    documents: rows
      .filter((row) => rights.get(row.id)?.has('manage'))
      .map((row) => ({
        id: row.id,
        number: row.number,
        title: row.title,
        removedAt: row.removed_at.toISOString(),
        by: row.by_name,
        reason: row.removed_why,
      })),
  };
};
