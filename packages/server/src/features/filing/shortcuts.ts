import { type AnswerOf, type api, type BodyOf, sentenceOf } from '@kanonos/contract';
import { isFolderShut } from '@kanonos/core';
import type { App } from '../../platform/app.ts';
import { changed, type Db, rows, type Trx } from '../../platform/db/connect.ts';
import { refused } from '../../platform/refused.ts';
import { rightsOnFolders, rightsOnMany, toPlace, type Viewer } from '../access/index.ts';
import { listFolders } from '../rules/index.ts';
import { actorOf } from '../session/index.ts';

type Row = Parameters<typeof toPlace>[0] & {
  number: string;
  revision_id: string;
  label: string;
  is_public: boolean;
};

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
    const found = await rows<Row>(
      trx,
      `select id, number, folder_id, owner_id, confidentiality, newest_revision_id as revision_id, newest_label as label, public_state is not null as is_public
       from documents where id = any(:ids::uuid[]) and removed_at is null order by number`,
      { ids },
    );
    const rights = await rightsOnMany(trx, viewer, found.map(toPlace));
    const seen = found.filter((row) => rights.get(row.id)?.has(row.is_public ? 'see' : 'read work'));
    const answer: AnswerOf<typeof api.filing.addShortcuts> = { added: 0, refused: [] };
    for (const row of seen) {
      if (row.folder_id === folderId) {
        answer.refused.push({ number: row.number, reason: sentenceOf('shortcut_at_home', { number: row.number }) });
        continue;
      }
      const added = await changed(
        trx,
        'insert into shortcuts (document_id, folder_id, by_id, at) values (:id, :folderId, :by, :now) on conflict do nothing',
        { id: row.id, folderId, by: viewer.id, now: work.now },
      );
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
    const [row] = await rows<{ number: string }>(
      work.trx,
      `delete from shortcuts s using documents d where s.document_id = :documentId and s.folder_id = :folderId and d.id = s.document_id returning d.number`,
      { documentId, folderId },
    );
    if (!row) throw refused('not_found');
    work.record({
      kind: 'shortcut.removed',
      subject: { document: { id: documentId, number: row.number } },
      payload: { folder: folder.path_names.join(' / ') },
    });
  });

/** The further folders of a document that a viewer may see. */
export const shortcutsOf = async (db: Db | Trx, viewer: Viewer, documentId: string) => {
  const ids = await rows<{ folder_id: string }>(db, 'select folder_id from shortcuts where document_id = :documentId', {
    documentId,
  });
  if (ids.length === 0) return [];
  const rights = await rightsOnFolders(db, viewer);
  return (await listFolders(db))
    .filter((folder) => ids.some((one) => one.folder_id === folder.id) && rights.get(folder.id)?.has('see'))
    .map((folder) => ({
      id: folder.id,
      path: folder.path_names,
      mayRemove: rights.get(folder.id)?.has('author') ?? false,
    }));
};
