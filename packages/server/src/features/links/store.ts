import { changed, type Db, HOT, rows, type Trx } from '../../platform/db/connect.ts';
import { SEES, SEES_WORK } from '../access/index.ts';

export type LinkRow = {
  id: string;
  kind: string;
  to_revision_id: string | null;
  address: string | null;
  item: unknown;
  note: string;
  at: Date;
  by_name: string;
  number: string | null;
  title: string | null;
  label: string | null;
  state: string | null;
  on_hold: boolean | null;
};
/** The visible facts of a document at the other end (`d`). */
const VISIBLE = `d.removed_at is null and (${SEES_WORK} or (${SEES} and d.public_revision_id is not null))`;
const SHOWN = `l.id, l.kind, l.to_revision_id, l.address, l.item, l.note, l.at, p.name as by_name, d.number, d.hold is not null as on_hold`;

export const listFrom = (db: Db, documentId: string, scope: Record<string, unknown>) =>
  rows<LinkRow>(
    db,
    `select ${SHOWN}, coalesce(r.title, d.public_title, d.newest_title) as title, coalesce(r.label, d.public_label, d.newest_label) as label,
       coalesce(r.state, d.public_state, d.newest_state) as state
     from links l join people p on p.id = l.by_id left join documents d on d.id = l.to_document_id left join revisions r on r.id = l.to_revision_id
     where l.document_id = :documentId and l.ended_at is null and (l.to_document_id is null or ${VISIBLE}) order by l.kind, d.number, l.at`,
    { documentId, ...scope },
  );
export const listTo = (db: Db, documentId: string, scope: Record<string, unknown>) =>
  rows<LinkRow>(
    db,
    `select ${SHOWN}, case when ${SEES_WORK} then d.newest_title else d.public_title end as title,
       case when ${SEES_WORK} then d.newest_label else d.public_label end as label, coalesce(r.state, 'in force') as state
     from links l join people p on p.id = l.by_id join documents d on d.id = l.document_id left join revisions r on r.id = l.to_revision_id
     where l.to_document_id = :documentId and l.ended_at is null and ${VISIBLE} order by l.kind, d.number`,
    { documentId, ...scope },
  );
/** Links to an item outside from documents that may be seen, whatever the case of its code. Uses links_by_item. */
export const listToItem = (db: Db, item: { kind: string; code: string } & Record<string, unknown>) =>
  rows<{
    id: string;
    code: string;
    name: string;
    number: string;
    title: string;
    label: string | null;
    state: string;
    on_hold: boolean;
    note: string;
    at: Date;
    by_name: string;
  }>(
    db,
    `select l.id, l.item->>'code' as code, l.item->>'name' as name, d.number, d.hold is not null as on_hold, l.note, l.at, p.name as by_name,
       case when ${SEES_WORK} then d.newest_title else d.public_title end as title,
       case when ${SEES_WORK} then d.newest_label else d.public_label end as label,
       case when ${SEES_WORK} then d.newest_state else d.public_state end as state
     from links l join people p on p.id = l.by_id join documents d on d.id = l.document_id
     where l.item is not null and l.ended_at is null and lower(l.item->>'code') = lower(:code) and l.item->>'kind' = :kind and ${VISIBLE}
     order by d.number, l.at limit 1000`,
    item,
  );
export const insertLink = (
  trx: Trx,
  l: {
    id: string;
    documentId: string;
    kind: string;
    toDocumentId: string | null;
    toRevisionId: string | null;
    address: string | null;
    item: string | null;
    note: string;
    by: string;
    now: Date;
  },
) =>
  changed(
    trx,
    `insert into links (id, document_id, kind, to_document_id, to_revision_id, address, item, note, by_id, at)
     values (:id, :documentId, :kind, :toDocumentId, :toRevisionId, :address, :item::jsonb, :note, :by, :now) on conflict do nothing`,
    l,
  );
export const endLink = (trx: Trx, by: { id: string; documentId: string; now: Date }) =>
  changed(
    trx,
    'update links set ended_at = :now where id = :id and document_id = :documentId and ended_at is null',
    by,
  );

/** The first few links of each of some documents, in words, for lists. Uses links_from. */
export const linkNames = async (
  db: Db,
  documentIds: readonly string[],
  scope: Record<string, unknown>,
): Promise<Map<string, string[]>> => {
  if (documentIds.length === 0) return new Map();
  const found = await rows<{ document_id: string; name: string }>(
    db,
    `select l.document_id, l.kind || ' ' || coalesce(d.number, l.item->>'code', l.address) as name
     from links l left join documents d on d.id = l.to_document_id
     where l.document_id = any(:documentIds::uuid[]) and l.ended_at is null and (l.to_document_id is null or ${VISIBLE}) order by l.at limit 2000`,
    { documentIds, ...scope },
    HOT,
  );
  const names = new Map<string, string[]>();
  for (const row of found) names.set(row.document_id, [...(names.get(row.document_id) ?? []), row.name]);
  return names;
};
