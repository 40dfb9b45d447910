import { type Db, rows } from '../../platform/db/connect.ts';
import { SEES, SEES_WORK } from '../access/index.ts';

export type Match = {
  key: string;
  by: 'number' | 'name' | 'bytes';
  id: string;
  number: string;
  title: string;
  state: string;
  may_check_in: boolean;
};

/**
 * Documents that a viewer may see with one of these numbers, a file of one of these names, or the same bytes. Of
 * documents seen without *read work* only released revisions count, so that a hit reveals nothing of work.
 */
export const listMatches = async (
  db: Db,
  by: { folded: string[]; names: string[]; hashes: string[] },
  scope: Record<string, unknown>,
): Promise<Match[]> => {
  const shown = `d.id, d.number, case when ${SEES_WORK} then d.newest_title else d.public_title end as title,
    case when ${SEES_WORK} then d.newest_state else d.public_state end as state, ${SEES_WORK} and d.newest_state = 'draft' as may_check_in`;
  const visible = `d.removed_at is null and (${SEES_WORK} or (${SEES} and d.public_state is not null))`;
  const file = (column: string, by_: string, list: string) => `
    select f.${column} as key, '${by_}' as by, ${shown} from version_files f join versions v on v.id = f.version_id
      join revisions r on r.id = v.revision_id join documents d on d.id = r.document_id
    where f.role = 'original' and f.${column} = any(:${list}::text[]) and ${visible}
      and (${SEES_WORK} or r.state in ('in force', 'superseded', 'withdrawn'))`;
  return rows<Match>(
    db,
    `select n.folded as key, 'number' as by, ${shown} from numbers n join documents d on d.id = n.document_id
       where n.folded = any(:folded::text[]) and ${visible}
     union ${file('name', 'name', 'names')} union ${file('sha256', 'bytes', 'hashes')} limit 2000`,
    { ...scope, ...by },
  );
};
