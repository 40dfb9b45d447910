import { changed, type Db, firstRow, rows, type Trx } from '../../platform/db/connect.ts';

export type BlueprintRow = {
  id: string;
  name: string;
  folder_id: string;
  outline: string;
  lookup: string | null;
  retired: boolean;
  row_version: number;
  projects: number;
  /** Its files by name, with their content. */
  files: Record<string, string>;
};
const BLUEPRINT = `select b.id, b.name, b.folder_id, b.outline, b.lookup, b.retired, b.row_version,
  (select count(*)::int from projects p where p.blueprint_id = b.id) as projects,
  (select coalesce(jsonb_object_agg(f.name, f.sha256), '{}') from blueprint_files f where f.blueprint_id = b.id) as files from blueprints b`;
export const listBlueprints = (db: Db) => rows<BlueprintRow>(db, `${BLUEPRINT} order by b.retired, b.name`);
export const findBlueprint = (db: Db | Trx, id: string) =>
  firstRow<BlueprintRow>(db, `${BLUEPRINT} where b.id = :id`, { id });
type Saved = { id: string; name: string; folderId: string; outline: string; lookup: string | null; retired: boolean };
export const insertBlueprint = (trx: Trx, made: Saved) =>
  rows(
    trx,
    'insert into blueprints (id, name, folder_id, outline, lookup, retired) values (:id, :name, :folderId, :outline, :lookup, :retired)',
    made,
  );
export const updateBlueprint = (trx: Trx, made: Saved & { rowVersion: number }) =>
  changed(
    trx,
    `update blueprints set name = :name, folder_id = :folderId, outline = :outline, lookup = :lookup, retired = :retired, row_version = row_version + 1
     where id = :id and row_version = :rowVersion`,
    made,
  );
/** The files of a blueprint, all of them: what is not among them is no longer its own. */
export const replaceFiles = async (trx: Trx, id: string, files: Readonly<Record<string, string>>): Promise<void> => {
  await rows(trx, 'delete from blueprint_files where blueprint_id = :id', { id });
  await rows(
    trx,
    `insert into blueprint_files (blueprint_id, name, sha256) select :id, key, value from jsonb_each_text(:files::jsonb)`,
    { id, files: JSON.stringify(files) },
  );
};
export const setMetadata = (trx: Trx, id: string, metadata: Record<string, string>) =>
  rows(
    trx,
    `update folders set metadata = metadata || :metadata::jsonb, row_version = row_version + 1 where id = :id`,
    {
      id,
      metadata: JSON.stringify(metadata),
    },
  );
/** The folders of a project that was laid out with the same values, without regard to case; 0 when there is none. */
export const updateProject = (
  trx: Trx,
  project: { blueprintId: string; values: Record<string, string>; folderIds: string[] },
) =>
  changed(
    trx,
    `update projects set folder_ids = :folderIds::uuid[] where blueprint_id = :blueprintId and lower(values::text) = lower((:values::jsonb)::text)`,
    { ...project, values: JSON.stringify(project.values) },
  );

export const insertProject = (
  trx: Trx,
  project: {
    id: string;
    blueprintId: string;
    values: Record<string, string>;
    folderIds: string[];
    by: string;
    now: Date;
  },
) =>
  rows(
    trx,
    `insert into projects (id, blueprint_id, values, folder_ids, by_id, at) values (:id, :blueprintId, :values::jsonb, :folderIds::uuid[], :by, :now)`,
    { ...project, values: JSON.stringify(project.values) },
  );
export const listProjects = (db: Db, blueprintId: string) =>
  rows<{ id: string; values: Record<string, string>; folder_ids: string[]; at: Date; by_name: string }>(
    db,
    `select r.id, r.values, r.folder_ids, r.at, p.name as by_name from projects r join people p on p.id = r.by_id
     where r.blueprint_id = :blueprintId order by r.at desc limit 200`,
    { blueprintId },
  );

/** Units by the name that outlines call them: kind and code. */
export const listUnitNames = async (trx: Trx): Promise<Map<string, string>> =>
  new Map(
    (await rows<{ id: string; name: string }>(trx, `select id, kind || '/' || code as name from units`)).map((unit) => [
      unit.name,
      unit.id,
    ]),
  );
