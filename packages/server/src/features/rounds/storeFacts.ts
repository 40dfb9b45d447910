import { type Db, firstRow, type Trx } from '../../platform/db/connect.ts';

/** The folder of a document with those above it, and its department, by names and codes. */
export const findPlace = (db: Db | Trx, of: { folderId: string; departmentId: string | null }) =>
  firstRow<{ folders: string[]; department: string[] }>(
    db,
    `select (select coalesce(array_agg(x), '{}') from folders g, unnest(array[g.name, g.code]) x where g.id = any(f.path) and x is not null) as folders,
       (select coalesce(array_agg(x), '{}') from units u, unnest(array[u.name, u.code]) x where u.id = :departmentId::uuid and x is not null) as department
     from folders f where f.id = :folderId::uuid`,
    of,
  );
