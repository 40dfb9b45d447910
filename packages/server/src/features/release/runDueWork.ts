import { dayOf } from '@kanonos/core';
import { type App, SYSTEM_CLOCK } from '../../platform/app.ts';
import { findDocument, lockDocument } from '../documents/index.ts';
import { deriveFor, listDutiful } from '../reading/index.ts';
import { findRevision } from '../revisions/index.ts';
import { eachOnItsOwn } from '../system/index.ts';
import { applyDue } from './applyDue.ts';
import * as store from './store.ts';

/**
 * The clock's job: everything that is due, one document per transaction, then readings of joiners and leavers. A document that fails
 * keeps no other waiting.
 */
export const runDueWork = async (app: App): Promise<{ settled: number; readings: number }> => {
  const day = dayOf(app.clock(), (await app.organisation()).zone);
  let settled = 0;
  await eachOnItsOwn(
    app,
    'scheduled change of a document',
    await store.listDue(app.db, day),
    ({ id, number }) => ({ subject: id, label: number, documentId: id }),
    async ({ id }) => {
      const did = await app.command(SYSTEM_CLOCK, async (work) =>
        (await lockDocument(work.trx, id)) ? applyDue(app, work, id) : false,
      );
      if (did) settled++;
    },
  );
  let readings = 0;
  await eachOnItsOwn(
    app,
    'required reading',
    await listDutiful(app.db),
    ({ document_id, number }) => ({ subject: document_id, label: number, documentId: document_id }),
    async ({ document_id, revision_id }) => {
      if (!(await store.readersMayHaveChanged(app.db, document_id, revision_id, day))) return;
      readings += await app.command(SYSTEM_CLOCK, async (work) => {
        await lockDocument(work.trx, document_id);
        const [document, revision] = [
          await findDocument(work.trx, document_id),
          await findRevision(work.trx, revision_id),
        ];
        return document && revision ? deriveFor(app, work, document, revision) : 0;
      });
    },
  );
  return { settled, readings };
};
