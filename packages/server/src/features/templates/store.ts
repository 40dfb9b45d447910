import { changed, type Db, firstRow, rows, type Trx } from '../../platform/db/connect.ts';

export type TemplateRow = {
  id: string;
  type_id: string;
  name: string;
  language: string;
  retired: boolean;
  row_version: number;
  n: number;
  file_name: string;
  sha256: string;
  media_type: string;
};

const TEMPLATE = `select t.*, e.n, e.file_name, e.sha256, c.media_type from templates t
  join lateral (select * from template_editions where template_id = t.id order by n desc limit 1) e on true join contents c on c.sha256 = e.sha256`;
export const listTemplates = (db: Db | Trx) => rows<TemplateRow>(db, `${TEMPLATE} order by t.id`);
export const findTemplate = (db: Db | Trx, id: string) =>
  firstRow<TemplateRow>(db, `${TEMPLATE} where t.id = :id`, { id });

export const listEditions = (db: Db) =>
  rows<{ template_id: string; n: number; at: Date; by_name: string; reason: string; file_name: string }>(
    db,
    'select e.template_id, e.n, e.at, p.name as by_name, e.reason, e.file_name from template_editions e join people p on p.id = e.by_id order by e.n desc',
  );

type Saved = { id: string; typeId: string; name: string; language: string; retired: boolean };
export const insertTemplate = (trx: Trx, template: Saved) =>
  rows(
    trx,
    'insert into templates (id, type_id, name, language, retired) values (:id, :typeId, :name, :language, :retired)',
    template,
  );
export const updateTemplate = (trx: Trx, template: Saved & { rowVersion: number }) =>
  changed(
    trx,
    'update templates set name = :name, language = :language, retired = :retired, row_version = row_version + 1 where id = :id and row_version = :rowVersion',
    template,
  );
export const insertEdition = (
  trx: Trx,
  edition: {
    id: string;
    templateId: string;
    n: number;
    fileName: string;
    sha256: string;
    reason: string;
    by: string;
    now: Date;
  },
) =>
  rows(
    trx,
    'insert into template_editions (id, template_id, n, file_name, sha256, reason, by_id, at) values (:id, :templateId, :n, :fileName, :sha256, :reason, :by, :now)',
    edition,
  );
