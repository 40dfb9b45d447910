import type { Confidentiality, Metadata } from '@kanonos/core';
import { changed, type Db, firstRow, rows, type Trx } from '../../platform/db/connect.ts';

export type BulkRow = {
  id: string;
  number: string;
  title: string;
  public_title: string | null;
  label: string;
  revision_id: string;
  type_id: string;
  folder_id: string;
  owner_id: string;
  confidentiality: Confidentiality;
  metadata: Metadata;
  revisionFields: Metadata;
  keywords: string[];
  review_on: string | null;
  row_version: number;
  is_draft: boolean;
};

const ROW = `select d.id, d.number, d.newest_title as title, d.public_title, d.newest_label as label, d.newest_revision_id as revision_id, d.type_id, d.folder_id, d.owner_id, d.confidentiality, d.metadata, r.metadata as revisionFields,
  d.keywords, d.review_on, d.row_version, d.newest_state = 'draft' as is_draft
  from documents d join revisions r on r.id = d.newest_revision_id where d.id = any(:ids::uuid[]) and d.removed_at is null order by d.number`;
export const listDocuments = (db: Db | Trx, ids: readonly string[]) => rows<BulkRow>(db, ROW, { ids });
/** Locks the documents in one order, so that two changes of the same ones wait instead of blocking each other. */
export const lockDocuments = (trx: Trx, ids: readonly string[]) =>
  rows(trx, 'select id from documents where id = any(:ids::uuid[]) order by id for update', { ids });

export type NewState = {
  id: string;
  metadata: Metadata;
  keywords: readonly string[];
  owner: string;
  folder: string;
  review: string | null;
  version: number;
};
/** New document fields of many documents, each only while it is as it was read. */
export const updateDocuments = (trx: Trx, states: readonly NewState[], now: Date) =>
  changed(
    trx,
    `update documents d set metadata = n.metadata, keywords = array(select jsonb_array_elements_text(n.keywords)), owner_id = n.owner, folder_id = n.folder, review_on = n.review,
       changed_at = :now, row_version = d.row_version + 1
     from jsonb_to_recordset(:states::jsonb) n(id uuid, metadata jsonb, keywords jsonb, owner uuid, folder uuid, review date, version int)
     where d.id = n.id and d.row_version = n.version`,
    { states: JSON.stringify(states), now },
  );

export const insertBulk = (trx: Trx, bulk: { id: string; by: string; now: Date; reason: string; change: unknown }) =>
  rows(
    trx,
    `insert into bulk_changes (id, by_id, at, reason, change) values (:id, :by, :now, :reason, :change::jsonb) on conflict (id) do nothing`,
    { ...bulk, change: JSON.stringify(bulk.change) },
  );
export const findBulk = (db: Db | Trx, id: string) =>
  firstRow<{ id: string; by_id: string; reason: string }>(
    db,
    'select id, by_id, reason from bulk_changes where id = :id',
    { id },
  );

export const listItemIds = async (trx: Trx, bulkId: string, ids: readonly string[]): Promise<Set<string>> =>
  new Set(
    (
      await rows<{ document_id: string }>(
        trx,
        'select document_id from bulk_items where bulk_id = :bulkId and document_id = any(:ids::uuid[])',
        { bulkId, ids },
      )
    ).map((row) => row.document_id),
  );
export const insertItems = (
  trx: Trx,
  bulkId: string,
  items: readonly { id: string; before: unknown; version: number }[],
) =>
  rows(
    trx,
    `insert into bulk_items (bulk_id, document_id, before, row_version)
     select :bulkId, i.id, i.before, i.version from jsonb_to_recordset(:items::jsonb) i(id uuid, before jsonb, version int)`,
    { bulkId, items: JSON.stringify(items) },
  );

export type ItemRow = {
  document_id: string;
  before: { metadata: Metadata; keywords: string[]; ownerId: string; folderId: string; reviewOn: string | null };
  row_version: number;
};
export const takeOpenItems = (trx: Trx, bulkId: string, limit: number) =>
  rows<ItemRow>(
    trx,
    `select document_id, before, row_version from bulk_items where bulk_id = :bulkId and undone is null order by document_id limit :limit for update`,
    { bulkId, limit },
  );
export const markUndone = (trx: Trx, by: { bulkId: string; ids: readonly string[]; how: 'undone' | 'changed again' }) =>
  rows(trx, 'update bulk_items set undone = :how where bulk_id = :bulkId and document_id = any(:ids::uuid[])', by);
export const countOpenItems = async (trx: Trx, bulkId: string): Promise<number> =>
  (
    await firstRow<{ n: number }>(
      trx,
      'select count(*)::int as n from bulk_items where bulk_id = :bulkId and undone is null',
      { bulkId },
    )
  )?.n ?? 0;
export const listMine = (db: Db, by: { personId: string; since: Date }) =>
  rows<{ id: string; at: Date; reason: string; documents: number; undone: number }>(
    db,
    `select b.id, b.at, b.reason, count(i.document_id)::int as documents, count(i.undone)::int as undone
     from bulk_changes b join bulk_items i on i.bulk_id = b.id where b.by_id = :personId and b.at >= :since
     group by b.id order by b.at desc limit 20`,
    by,
  );

export const insertDownloadPackage = (
  db: Db | Trx,
  given: { id: string; by: string; now: Date; ids: string[]; content: 'released' | 'work' },
) =>
  rows(
    db,
    'insert into download_packages (id, by_id, at, document_ids, content) values (:id, :by, :now, :ids::uuid[], :content)',
    given,
  );

export const findDownloadPackage = (db: Db | Trx, given: { id: string; by: string }) =>
  firstRow<{ document_ids: string[]; content: 'released' | 'work' }>(
    db,
    'select document_ids, content from download_packages where id = :id and by_id = :by',
    given,
  );
