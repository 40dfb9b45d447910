import type { Db, Trx } from '../../platform/db/connect.ts';
import { RefusalError, refused } from '../../platform/refused.ts';
import { rightsWithAsked, toPlace, type Viewer } from '../access/index.ts';
import { type Opened, openDocument } from './service.ts';
import type { DocumentRow } from './store.ts';
import { findCircle, listRelatives } from './store.ts';

/** The parent chosen for a document; one that the viewer may not see answers like a missing one. */
export const findParent = async (
  db: Db | Trx,
  viewer: Viewer,
  number: string | null,
  day: string,
): Promise<DocumentRow | undefined> => {
  if (!number) return undefined;
  try {
    const { document } = await openDocument(db, viewer, number, day);
    if (document.removed_at) throw refused('parent_unknown', { number });
    return document;
  } catch (error) {
    if (error instanceof RefusalError) throw refused('parent_unknown', { number });
    throw error;
  }
};

/** Refuses a parent that is below the document itself, and one other than the parent that its number names. */
export const ensureMayStandUnder = async (
  trx: Trx,
  { document, type }: Pick<Opened, 'document' | 'type'>,
  parent: DocumentRow | undefined,
): Promise<void> => {
  if (parent?.id === document.parent_id || (!parent && !document.parent_id)) return;
  if (document.parent_number && type.numbering_rule?.includes('{parent}'))
    throw refused('parent_in_number', { number: document.parent_number });
  if (!parent) return;
  const [below] = await findCircle(trx, { parent: parent.id, id: document.id });
  if (below) throw refused('parent_in_circle', { number: parent.number });
};

/** The documents above and below one, as far as a viewer may see them, with the revision that this viewer sees. */
export const relativesOf = async (db: Db | Trx, viewer: Viewer, document: DocumentRow, day: string) => {
  const found = await listRelatives(db, { id: document.id, parent: document.parent_id });
  const rights = await rightsWithAsked(db, viewer, found.map(toPlace), day);
  const shown = found.flatMap((row) => {
    const given = rights.get(row.id);
    if (given?.has('read work'))
      return [
        { id: row.id, number: row.number, title: row.newest_title, label: row.newest_label, state: row.newest_state },
      ];
    return given?.has('see') && row.public_title !== null
      ? [
          {
            id: row.id,
            number: row.number,
            title: row.public_title,
            label: row.public_label ?? '',
            state: row.public_state ?? '',
          },
        ]
      : [];
  });
  return {
    parent: shown.find((one) => one.id === document.parent_id) ?? null,
    children: shown.filter((one) => one.id !== document.parent_id),
  };
};
