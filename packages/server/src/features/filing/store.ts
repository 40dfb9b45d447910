import type { FolderState } from '@kanonos/core';
import { changed, type Db, firstRow, rows, type Trx } from '../../platform/db/connect.ts';
import { type ListScope, rightsOnFolders, SEES, SEES_WORK, type toPlace, type Viewer } from '../access/index.ts';
import { listFolders } from '../rules/index.ts';

/** One after the other: two names that differ in case alone are one folder, which no index enforces. */
export const blockPlan = (trx: Trx) => rows(trx, `select pg_advisory_xact_lock(hashtext('filing plan'))`);

export const insertFolder = (
  trx: Trx,
  folder: { id: string; parentId: string | null; name: string; code: string | null; areaId: string; path: string[] },
) =>
  rows(
    trx,
    `insert into folders (id, parent_id, name, code, area_id, path, sort)
     select :id, :parentId, :name, :code, :areaId, :path::uuid[], coalesce(max(sort), 0) + 1 from folders`,
    folder,
  );

export const updateFolder = (
  trx: Trx,
  folder: {
    id: string;
    name: string;
    code: string | null;
    metadata: Record<string, string>;
    departmentId: string | null;
    state: FolderState;
    rowVersion: number;
  },
) =>
  changed(
    trx,
    `update folders set name = :name, code = :code, metadata = :metadata::jsonb, department_id = :departmentId, state = :state, row_version = row_version + 1
     where id = :id and row_version = :rowVersion`,
    { ...folder, metadata: JSON.stringify(folder.metadata) },
  );

/** Puts a folder with all below it under another one, or at the top. */
export const moveSubtree = (
  trx: Trx,
  by: { id: string; parentId: string | null; depth: number; above: string[]; areaId: string },
) =>
  rows(
    trx,
    `update folders set parent_id = case when id = :id then :parentId else parent_id end, area_id = :areaId,
       path = :above::uuid[] || path[:depth:cardinality(path)]
     where path @> array[:id]::uuid[]`,
    by,
  );

export const deleteFolder = async (trx: Trx, id: string): Promise<void> => {
  await rows(trx, 'delete from grants where folder_id = :id', { id });
  await rows(trx, 'delete from folders where id = :id', { id });
};

/** How many documents of each folder a scope may see. */
export const countIn = async (db: Db | Trx, scope: ListScope): Promise<Map<string, number>> =>
  new Map(
    (
      await rows<{ folder_id: string; n: number }>(
        db,
        `select d.folder_id, count(*)::int as n from documents d where d.removed_at is null and (${SEES_WORK} or (${SEES} and d.public_state is not null)) group by d.folder_id`,
        { ...scope },
      )
    ).map((row) => [row.folder_id, row.n]),
  );
export const isUsed = async (trx: Trx, id: string): Promise<boolean> =>
  (await firstRow(
    trx,
    'select 1 from documents where folder_id = :id union all select 1 from folders where parent_id = :id limit 1',
    { id },
  )) !== undefined;

/** Documents below a folder with a run or a scheduled revision. */
export const countUnderWay = async (trx: Trx, id: string): Promise<number> =>
  (
    await firstRow<{ n: number }>(
      trx,
      `select count(*)::int as n from documents d join folders f on f.id = d.folder_id
       where f.path @> array[:id]::uuid[] and d.removed_at is null and d.newest_state in ('in review', 'in approval', 'approved', 'scheduled')`,
      { id },
    )
  )?.n ?? 0;

export type BlockedDocument = { id: string; type_id: string; folder_id: string; metadata: Record<string, string> };
export const listBelow = (db: Db | Trx, id: string, typeIds: string[]) =>
  rows<BlockedDocument>(
    db,
    `select d.id, d.type_id, d.folder_id, d.metadata from documents d join folders f on f.id = d.folder_id
     where f.path @> array[:id]::uuid[] and d.removed_at is null and d.type_id = any(:typeIds::uuid[]) order by d.number limit 20001`,
    { id, typeIds },
  );

/** Holds a folder for a change of what hangs on it; nothing when somebody else changed it since it was looked at. */
export const touchFolder = (trx: Trx, id: string, rowVersion: number): Promise<number> =>
  changed(trx, 'update folders set row_version = row_version + 1 where id = :id and row_version = :rowVersion', {
    id,
    rowVersion,
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

export const listForShortcuts = (db: Trx, given: { ids: string[] }) =>
  rows<Row>(
    db,
    `select id, number, folder_id, owner_id, confidentiality, newest_revision_id as revision_id, newest_label as label, public_state is not null as is_public
       from documents where id = any(:ids::uuid[]) and removed_at is null order by number`,
    given,
  );

export const insertShortcut = (db: Trx, given: { id: string; folderId: string; by: string; now: Date }) =>
  changed(
    db,
    'insert into shortcuts (document_id, folder_id, by_id, at) values (:id, :folderId, :by, :now) on conflict do nothing',
    given,
  );

export const deleteShortcut = (db: Trx, given: { documentId: string; folderId: string }) =>
  rows<{ number: string }>(
    db,
    `delete from shortcuts s using documents d where s.document_id = :documentId and s.folder_id = :folderId and d.id = s.document_id returning d.number`,
    given,
  );

type Row = Parameters<typeof toPlace>[0] & {
  number: string;
  revision_id: string;
  label: string;
  is_public: boolean;
};
