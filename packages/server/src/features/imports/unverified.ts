import type { AnswerOf, api } from '@kanonos/contract';
import type { App } from '../../platform/app.ts';
import type { Db, Trx } from '../../platform/db/connect.ts';
import { actorOf, rightsOnMany, toPlace, type Viewer } from '../access/index.ts';
import { subjectOf } from '../documents/index.ts';
import { listUnverified, setVerified, type UnverifiedRow } from './store.ts';

const list = (db: Db | Trx, ids: readonly string[] | null) => listUnverified(db, { ids });

const managed = async (db: Db | Trx, viewer: Viewer, found: UnverifiedRow[]): Promise<UnverifiedRow[]> => {
  const rights = await rightsOnMany(db, viewer, found.map(toPlace));
  return found.filter((row) => rights.get(row.id)?.has('manage'));
};

/** Imported documents that nobody has verified yet, as far as a viewer manages them. */
export const unverifiedDocuments = async (
  app: App,
  viewer: Viewer,
): Promise<AnswerOf<typeof api.imports.unverified>> => {
  const found = await managed(app.db, viewer, await list(app.db, null));
  return {
    documents: found.slice(0, 500).map(({ id, number, title, label, state, since }) => ({
      id,
      number,
      title,
      label,
      state,
      since: since.toISOString(),
    })),
    total: found.length,
  };
};

/** Marks them as verified, with an event for each. */
export const confirmTakenOver = (app: App, viewer: Viewer, ids: readonly string[]): Promise<{ confirmed: number }> =>
  app.command(actorOf(viewer), async (work) => {
    const found = await managed(work.trx, viewer, await list(work.trx, ids));
    await setVerified(work.trx, {
      ids: found.map((row) => row.id),
    });
    for (const row of found)
      work.record({
        kind: 'document.verified',
        subject: subjectOf(row, { id: row.revision_id, label: row.label }),
      });
    return { confirmed: found.length };
  });
