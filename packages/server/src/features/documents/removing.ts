import type { AnswerOf, api, BodyOf } from '@kanonos/contract';
import type { App } from '../../platform/app.ts';
import { rightsOnMany, toPlace, type Viewer } from '../access/index.ts';
import { runCommand } from './runCommand.ts';
import { subjectOf } from './service.ts';
import { listRemoved, setRemoved } from './store.ts';

type Removal = BodyOf<typeof api.documents.remove>;

/** Removes a document that never was in force: it leaves all lists, keeps its number, and can be restored. */
export const removeDocument = (app: App, viewer: Viewer, ref: string, input: Removal): Promise<void> =>
  changeRemoval(app, viewer, ref, input, 'remove');

/** Brings a removed document back with the state that it had. */
export const restore = (app: App, viewer: Viewer, ref: string, input: Removal): Promise<void> =>
  changeRemoval(app, viewer, ref, input, 'restore');

const changeRemoval = (
  app: App,
  viewer: Viewer,
  ref: string,
  { reason, seen }: Removal,
  command: 'remove' | 'restore',
) =>
  runCommand(app, viewer, { document: ref, command, seen }, async (work, opened) => {
    const removing = command === 'remove';
    const { document } = opened;
    await setRemoved(
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
