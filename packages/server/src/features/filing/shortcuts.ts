import { type AnswerOf, type api, type BodyOf, sentenceOf } from '@kanonos/contract';
import { isFolderShut } from '@kanonos/core';
import type { App } from '../../platform/app.ts';
import { refused } from '../../platform/refused.ts';
import { actorOf, rightsOnFolders, rightsOnMany, toPlace, type Viewer } from '../access/index.ts';
import { listFolders } from '../rules/index.ts';
import { deleteShortcut, insertShortcut, listForShortcuts } from './store.ts';

/** Shows documents in a further folder: by *author* on that folder and *see* on each document. */
export const addShortcuts = (
  app: App,
  viewer: Viewer,
  { ids, folderId }: BodyOf<typeof api.filing.addShortcuts>,
): Promise<AnswerOf<typeof api.filing.addShortcuts>> =>
  app.command(actorOf(viewer), async (work) => {
    const { trx } = work;
    const folder = (await listFolders(trx)).find((one) => one.id === folderId);
    const given = (await rightsOnFolders(trx, viewer)).get(folderId);
    if (!folder || !given?.has('see')) throw refused('not_found');
    if (!given.has('author')) throw refused('right_missing', { right: 'author' });
    if (isFolderShut(folder.state)) throw refused('folder_shut', { folder: folder.name, state: folder.state });
    const found = await listForShortcuts(trx, { ids });
    const rights = await rightsOnMany(trx, viewer, found.map(toPlace));
    const seen = found.filter((row) => rights.get(row.id)?.has(row.is_public ? 'see' : 'read work'));
    const answer: AnswerOf<typeof api.filing.addShortcuts> = { added: 0, refused: [] };
    for (const row of seen) {
      if (row.folder_id === folderId) {
        answer.refused.push({ number: row.number, reason: sentenceOf('shortcut_at_home', { number: row.number }) });
        continue;
      }
      const added = await insertShortcut(trx, { id: row.id, folderId, by: viewer.id, now: work.now });
      if (added === 0) continue;
      answer.added++;
      work.record({
        kind: 'shortcut.added',
        subject: { document: { id: row.id, number: row.number }, revision: { id: row.revision_id, label: row.label } },
        payload: { folder: folder.path_names.join(' / ') },
      });
    }
    return answer;
  });

/** Takes a shortcut away: by *author* on its folder. The document stays where it is filed. */
export const removeShortcut = (
  app: App,
  viewer: Viewer,
  { documentId, folderId }: BodyOf<typeof api.filing.removeShortcut>,
): Promise<void> =>
  app.command(actorOf(viewer), async (work) => {
    const folder = (await listFolders(work.trx)).find((one) => one.id === folderId);
    const given = (await rightsOnFolders(work.trx, viewer)).get(folderId);
    if (!folder || !given?.has('see')) throw refused('not_found');
    if (!given.has('author')) throw refused('right_missing', { right: 'author' });
    const [row] = await deleteShortcut(work.trx, { documentId, folderId });
    if (!row) throw refused('not_found');
    work.record({
      kind: 'shortcut.removed',
      subject: { document: { id: documentId, number: row.number } },
      payload: { folder: folder.path_names.join(' / ') },
    });
  });
