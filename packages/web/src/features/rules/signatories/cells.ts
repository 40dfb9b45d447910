import type { AnswerOf, api, SignatoryCell, SignatoryRow, Step, Unit } from '@kanonos/contract';
import { matches } from '../../../ui/matching.ts';
import { assigneeWords } from '../route/stepWords.ts';
import { wording } from './wording.ts';

export type Table = AnswerOf<typeof api.signatories.table>;
/** A cell that can be changed, with where it stands. */
export type Place = { row: SignatoryRow; column: string; cell: SignatoryCell };

export const keyOf = ({ row, cell }: Pick<Place, 'row' | 'cell'>): string => `${row.typeId} ${row.place} ${cell.step}`;

export const placeWords = ({ place, route }: SignatoryRow): string =>
  place.startsWith('further') ? route || wording.furtherRoute : (wording.places[place] ?? place);

/** What names people, units and fields in a row. */
export const namedIn = (table: Table, units: readonly Unit[], row: SignatoryRow) => {
  const names = new Map(table.people.map(({ id, name }) => [id, name]));
  return {
    nameOf: (id: string) => names.get(id) ?? '…',
    units,
    fields: row.fields as unknown as Parameters<typeof assigneeWords>[1]['fields'],
  };
};

export const askedWords = (table: Table, units: readonly Unit[], row: SignatoryRow, cell: SignatoryCell): string[] =>
  cell.assignees.map((one) => assigneeWords(one as Step['assignees'][number], namedIn(table, units, row)));

/** The rows that have what is looked for in their type, route, steps or people. */
export const rowsWith = (table: Table, units: readonly Unit[], find: string): SignatoryRow[] =>
  find.trim() === ''
    ? table.rows
    : table.rows.filter((row) =>
        [
          `${row.code} ${row.name} ${placeWords(row)}`,
          ...row.cells.flatMap((cell, at) =>
            cell ? [`${table.columns[at]} ${askedWords(table, units, row, cell).join(' ')}`] : [],
          ),
        ].some((text) => matches(text, find)),
      );

/** The columns in which some of the rows have a step, by their places in the cells. */
export const columnsIn = (table: Table, rows: readonly SignatoryRow[]): { at: number; name: string }[] =>
  table.columns.flatMap((name, at) => (rows.some(({ cells }) => cells[at]) ? [{ at, name }] : []));

/** The cells of rows in the order of the table. */
export const placesOf = (table: Table, rows: readonly SignatoryRow[]): Place[] =>
  rows.flatMap((row) =>
    row.cells.flatMap((cell, at) => (cell ? [{ row, column: table.columns[at] ?? '', cell }] : [])),
  );
