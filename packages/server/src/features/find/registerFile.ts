import type { api, QueryOf, RegisterColumn, RegisterRow } from '@kanonos/contract';
import { dayOf, type FieldDefinition, type TableCell } from '@kanonos/core';
import type { App } from '../../platform/app.ts';
import type { ListFile } from '../../platform/http/sendTable.ts';
import { refused } from '../../platform/refused.ts';
import { listScopeWithNames, type Viewer } from '../access/index.ts';
import { registerPage } from './service.ts';

type Column = { heading: string; width: number; cell: (row: RegisterRow, zone: string) => TableCell };

const day = (instant: string | null, zone: string): TableCell => (instant ? dayOf(new Date(instant), zone) : null);

const FIRST: readonly Column[] = [
  { heading: 'Number', width: 20, cell: (row) => row.number },
  { heading: 'Revision', width: 9, cell: (row) => row.label },
  { heading: 'Title', width: 50, cell: (row) => row.title },
];

const COLUMNS: Record<RegisterColumn, Column> = {
  type: { heading: 'Type', width: 18, cell: (row) => row.typeName },
  area: { heading: 'Area', width: 18, cell: (row) => row.area },
  folder: { heading: 'Folder', width: 22, cell: (row) => row.folder },
  where: { heading: 'Status', width: 26, cell: (row) => row.where },
  state: { heading: 'State', width: 14, cell: (row) => row.state },
  review: { heading: 'Review', width: 12, cell: (row) => (row.state === 'in force' ? row.reviewOn : null) },
  due: { heading: 'Due', width: 12, cell: (row) => row.due },
  owner: { heading: 'Owner', width: 20, cell: (row) => row.owner },
  department: { heading: 'Department', width: 20, cell: (row) => row.department },
  changed: { heading: 'Changed', width: 12, cell: (row, zone) => day(row.changedAt, zone) },
  effective: { heading: 'Effective', width: 12, cell: (row, zone) => day(row.effectiveFrom, zone) },
  checkout: { heading: 'Checked out to', width: 20, cell: (row) => row.checkout?.person ?? null },
};

const FIELD = 'field:';

/** The columns that a person shows, in their order; refuses what is none. */
const columnsOf = (keys: string, fields: ReadonlyMap<string, FieldDefinition>): Column[] =>
  keys
    .split(',')
    .filter(Boolean)
    .map((key) => {
      const own = COLUMNS[key as RegisterColumn];
      if (own) return own;
      const field = key.startsWith(FIELD) ? fields.get(key.slice(FIELD.length)) : undefined;
      if (!field)
        throw refused('input_invalid', {
          field: 'columns',
          reason: `${key} is no column; ${Object.keys(COLUMNS).join(', ')} and ${FIELD} with the key of a field are`,
        });
      return { heading: field.label, width: 18, cell: (row: RegisterRow) => row.metadata[field.key] ?? null };
    });

const PIECE = 200;

/** Everything that a filter of the register finds, as a list with the columns that are shown; read a page at a time. */
export const registerFile = async (
  app: App,
  viewer: Viewer,
  { columns: keys, format: _format, ...query }: QueryOf<typeof api.find.file>,
): Promise<ListFile> => {
  const { zone } = await app.organisation();
  const { names } = await listScopeWithNames(app.db, viewer, dayOf(app.clock(), zone));
  const fields = new Map([...names.types.values()].flatMap(({ shown }) => shown.map((field) => [field.key, field])));
  const columns = [...FIRST, ...columnsOf(keys, fields)];
  const toCells = (row: RegisterRow) => columns.map((column) => column.cell(row, zone));
  // Read before the first byte is sent: what is wrong with the search is still answered as a refusal.
  let page = await registerPage(app, viewer, { ...query, limit: PIECE });
  const pieces = async function* () {
    for (;;) {
      yield page.rows.map(toCells);
      if (page.next === null) return;
      page = await registerPage(app, viewer, { ...query, after: page.next, limit: PIECE });
    }
  };
  return { name: `Register ${dayOf(app.clock(), zone)}`, columns, pieces: pieces() };
};
