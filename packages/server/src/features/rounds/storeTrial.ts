import { type Db, firstRow, rows } from '../../platform/db/connect.ts';
import { type ListScope, SEES, SEES_WORK } from '../access/index.ts';

export type TriedRow = {
  id: string;
  number: string;
  title: string;
  label: string;
  owner_id: string;
  department_id: string | null;
  folder_id: string;
  confidentiality: string;
  author_id: string;
  change_kind: string;
  metadata: Record<string, unknown>;
  authors: string[];
};

const OF_TYPE = `d.type_id = :typeId and d.removed_at is null and d.newest_state <> 'withdrawn' and ((${SEES} and d.public_state is not null) or ${SEES_WORK})`;

/**
 * Documents of a type as a route would meet them in their newest revision, the most recently made first. Who does not see the work is
 * shown title and label of what is released.
 */
export const listToTry = (db: Db, scope: ListScope, typeId: string, limit: number) =>
  rows<TriedRow>(
    db,
    `select d.id, d.number, case when ${SEES_WORK} then r.title else d.public_title end as title, case when ${SEES_WORK} then r.label else d.public_label end as label, d.owner_id, d.department_id, d.folder_id, d.confidentiality, r.created_by as author_id, r.change_kind, d.metadata || r.metadata as metadata,
       array(select r.created_by union select v.by_id from versions v where v.revision_id = r.id) as authors
     from documents d join revisions r on r.id = d.newest_revision_id where ${OF_TYPE} order by r.created_at desc, d.number desc limit :limit`,
    { ...scope, typeId, limit },
  );

export const countToTry = async (db: Db, scope: ListScope, typeId: string): Promise<number> =>
  (
    await firstRow<{ n: number }>(db, `select count(*)::int as n from documents d where ${OF_TYPE}`, {
      ...scope,
      typeId,
    })
  )?.n ?? 0;
