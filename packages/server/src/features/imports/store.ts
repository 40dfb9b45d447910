import type { ImportMapping } from '@kanonos/contract';
import type { Confidentiality, Refusal } from '@kanonos/core';
import { changed, type Db, firstRow, rows, type Trx } from '../../platform/db/connect.ts';

export type ImportRow = {
  id: string;
  name: string;
  by_id: string;
  by_name: string;
  at: Date;
  headings: string[];
  mapping: ImportMapping;
  state: 'prepared' | 'checked' | 'running' | 'stopped' | 'done';
  begins: { scope: string; last: number }[];
  reason: string | null;
  row_version: number;
};
const IMPORT = `select i.id, i.name, i.by_id, p.name as by_name, i.at, i.headings, i.mapping, i.state, i.begins, i.reason, i.row_version
  from imports i join people p on p.id = i.by_id`;
export const findImport = (db: Db | Trx, id: string) => firstRow<ImportRow>(db, `${IMPORT} where i.id = :id`, { id });
/** Locks an import for the rest of the transaction, so that its state cannot change between two batches. */
export const lockImport = (trx: Trx, id: string) =>
  rows(trx, 'select 1 from imports where id = :id for update', { id });
export const listImports = (db: Db, personId: string | null) =>
  rows<ImportRow>(db, `${IMPORT} where :personId::uuid is null or i.by_id = :personId order by i.at desc limit 100`, {
    personId,
  });
/** How columns with the same headings were read last. */
export const findMapping = async (db: Db | Trx, headings: string[]): Promise<ImportMapping | undefined> =>
  (
    await firstRow<{ mapping: ImportMapping }>(
      db,
      `select mapping from imports where headings = :headings::jsonb and state <> 'prepared' order by at desc limit 1`,
      { headings: JSON.stringify(headings) },
    )
  )?.mapping;
export const insertImport = (
  trx: Trx,
  made: { id: string; name: string; by: string; now: Date; headings: string[]; mapping: ImportMapping },
) =>
  rows(
    trx,
    `insert into imports (id, name, by_id, at, headings, mapping, state) values (:id, :name, :by, :now, :headings::jsonb, :mapping::jsonb, 'prepared')`,
    { ...made, headings: JSON.stringify(made.headings), mapping: JSON.stringify(made.mapping) },
  );
export const setMapping = (trx: Trx, by: { id: string; mapping: ImportMapping; rowVersion: number }) =>
  changed(
    trx,
    `update imports set mapping = :mapping::jsonb, state = 'prepared', row_version = row_version + 1 where id = :id and row_version = :rowVersion`,
    { ...by, mapping: JSON.stringify(by.mapping) },
  );
export const setState = (
  trx: Trx,
  by: { id: string; state: ImportRow['state']; reason?: string | null; begins?: ImportRow['begins'] },
) =>
  rows(
    trx,
    `update imports set state = :state, reason = coalesce(:reason, reason), begins = coalesce(:begins::jsonb, begins), row_version = row_version + 1 where id = :id`,
    { id: by.id, state: by.state, reason: by.reason ?? null, begins: by.begins ? JSON.stringify(by.begins) : null },
  );

export const insertLines = (trx: Trx, importId: string, lines: readonly { line: number; cells: string[] }[]) =>
  rows(
    trx,
    `insert into import_lines (import_id, line, cells) select :importId, l.line, l.cells from jsonb_to_recordset(:lines::jsonb) l(line int, cells jsonb)`,
    { importId, lines: JSON.stringify(lines) },
  );
export type LineRow = {
  line: number;
  cells: string[];
  state: 'waiting' | 'ready' | 'refused' | 'done';
  reasons: Refusal[];
  warnings: Refusal[];
  number: string | null;
};
export const listLines = (
  db: Db,
  by: { importId: string; where: string; reason?: string | undefined; after: number; limit: number },
) =>
  rows<LineRow>(
    db,
    `select l.line, l.cells, l.state, l.reasons, l.warnings, d.number from import_lines l left join documents d on d.id = l.document_id
     where l.import_id = :importId and l.line > :after and ${by.where}
       and (:reason::text is null or l.reasons @> jsonb_build_array(jsonb_build_object('code', :reason::text)))
     order by l.line limit :limit`,
    { importId: by.importId, reason: by.reason ?? null, after: by.after, limit: by.limit },
  );
export const findLine = (trx: Trx, importId: string, line: number) =>
  firstRow<Pick<LineRow, 'cells' | 'state'>>(
    trx,
    'select cells, state from import_lines where import_id = :importId and line = :line',
    { importId, line },
  );
/** Cells that were corrected; what was found about the line before no longer holds. */
export const saveCells = (trx: Trx, importId: string, line: number, cells: readonly string[]) =>
  rows(
    trx,
    `update import_lines set cells = :cells::jsonb, state = 'waiting', reasons = '[]', warnings = '[]'
     where import_id = :importId and line = :line`,
    { importId, line, cells: JSON.stringify(cells) },
  );
/** Every line that is not yet taken over, with its cells. */
export const listOpenLines = (db: Db | Trx, importId: string) =>
  rows<{ line: number; cells: string[] }>(
    db,
    `select line, cells from import_lines where import_id = :importId and state <> 'done' order by line`,
    { importId },
  );
export const saveVerdicts = (
  trx: Trx,
  importId: string,
  verdicts: readonly { line: number; state: string; reasons: readonly Refusal[]; warnings: readonly Refusal[] }[],
) =>
  rows(
    trx,
    `update import_lines l set state = v.state, reasons = v.reasons, warnings = v.warnings
     from jsonb_to_recordset(:verdicts::jsonb) v(line int, state text, reasons jsonb, warnings jsonb)
     where l.import_id = :importId and l.line = v.line and l.state <> 'done'`,
    { importId, verdicts: JSON.stringify(verdicts) },
  );
export const countLines = async (db: Db | Trx, ids: string[]) =>
  new Map(
    (
      await rows<{ import_id: string; lines: number; ready: number; warned: number; refused: number; done: number }>(
        db,
        `select import_id, count(*)::int as lines, count(*) filter (where state = 'ready')::int as ready,
           count(*) filter (where state = 'ready' and warnings <> '[]')::int as warned,
           count(*) filter (where state = 'refused')::int as refused, count(*) filter (where state = 'done')::int as done
         from import_lines where import_id = any(:ids::uuid[]) group by import_id`,
        { ids },
      )
    ).map(({ import_id, ...counts }) => [import_id, counts]),
  );
export const countReasons = (db: Db, importId: string) =>
  rows<{ code: string; params: Refusal['params'] | null; lines: number }>(
    db,
    `select r ->> 'code' as code, (array_agg(r -> 'params'))[1] as params, count(*)::int as lines
     from import_lines l, jsonb_array_elements(l.reasons) r where l.import_id = :importId and l.state = 'refused' group by 1 order by 3 desc limit 50`,
    { importId },
  );
/** The lines of some documents that are still to be taken over. */
export const readyLines = async (trx: Trx, importId: string, lines: number[]): Promise<Set<number>> =>
  new Set(
    (
      await rows<{ line: number }>(
        trx,
        `select line from import_lines where import_id = :importId and line = any(:lines::int[]) and state = 'ready'`,
        { importId, lines },
      )
    ).map((row) => row.line),
  );
export const markDone = (trx: Trx, importId: string, done: readonly { line: number; document: string }[]) =>
  rows(
    trx,
    `update import_lines l set state = 'done', document_id = d.document from jsonb_to_recordset(:done::jsonb) d(line int, document uuid)
     where l.import_id = :importId and l.line = d.line`,
    { importId, done: JSON.stringify(done) },
  );

export const insertFile = (
  trx: Trx,
  file: { importId: string; folded: string; path: string; sha256: string; size: number },
) =>
  rows(
    trx,
    `insert into import_files (import_id, folded, path, sha256, size) values (:importId, :folded, :path, :sha256, :size)
     on conflict (import_id, folded) do update set path = excluded.path, sha256 = excluded.sha256, size = excluded.size`,
    file,
  );
export const listFiles = (db: Db | Trx, importId: string) =>
  rows<{ path: string; sha256: string; size: number }>(
    db,
    'select path, sha256, size from import_files where import_id = :importId order by path',
    { importId },
  );

export const listPeopleNames = (db: Db | Trx) =>
  rows<{ id: string; name: string; sign_in_name: string }>(
    db,
    `select id, name, sign_in_name from people where state <> 'deactivated'`,
  );
export const listKnownNumbers = (db: Db | Trx, folded: string[]) =>
  rows<{ folded: string; state: 'taken' | 'void' | 'reserved' }>(
    db,
    'select folded, state from numbers where folded = any(:folded::text[])',
    { folded },
  );
export const listLasts = (db: Db | Trx) =>
  rows<{ scope: string; last: number }>(db, 'select scope, last from counters');
export const beginCounter = (trx: Trx, by: { scope: string; last: number }) =>
  changed(
    trx,
    'insert into counters (scope, last, started_at) values (:scope, :last, :last) on conflict (scope) do nothing',
    by,
  );

export const listRunning = (db: Db) => rows<{ id: string }>(db, `select id from imports where state = 'running'`);

export const listUnverified = (db: Db | Trx, given: { ids: readonly string[] | null }) =>
  rows<UnverifiedRow>(
    db,
    `select id, number, newest_title as title, newest_label as label, newest_state as state, newest_revision_id as revision_id, folder_id, owner_id, confidentiality, unverified_since as since
     from documents where unverified_since is not null and removed_at is null and (:ids::uuid[] is null or id = any(:ids::uuid[])) order by unverified_since, number limit ${MOST}`,
    given,
  );

export const setVerified = (db: Trx, given: { ids: string[] }) =>
  rows(db, 'update documents set unverified_since = null where id = any(:ids::uuid[])', given);

export type UnverifiedRow = {
  id: string;
  number: string;
  title: string;
  label: string;
  state: string;
  revision_id: string;
  folder_id: string;
  owner_id: string;
  confidentiality: Confidentiality;
  since: Date;
};

const MOST = 2000;
