import { expect, test } from 'vitest';
import { cellOf, cellsOf, columnsOf, filledDown, newRow, pasted, withCell, withSaid } from './manyRows.ts';

const rows = ['a.md', 'b.md', 'c.md'].map((name) => newRow({ name } as File));
const type = {
  numbering: null,
  labelGivenBySupplier: true,
  fields: [
    {
      key: 'sheet',
      label: 'Sheet',
      kind: 'choice',
      mandatory: true,
      level: 'revision',
      options: [{ code: 'A3', text: 'Size A3' }],
    },
    { key: 'team', label: 'Team', kind: 'people', mandatory: false, level: 'revision' },
    { key: 'on', label: 'On', kind: 'date', mandatory: false, level: 'revision' },
  ],
} as never;
const columns = columnsOf(type);

test('the grid has what is typed: title, number and label of a maker, and the metadata that fit into a cell', () => {
  expect(columns.map((column) => column.key)).toEqual(['title', 'number', 'label', 'field:sheet', 'field:on']);
  expect(columnsOf(undefined).map((column) => column.key)).toEqual(['title']);
});

test('a block from a spreadsheet goes right and down from the cell, choices by code or text, and stops at the edges', () => {
  const after = pasted(rows, columns, { row: 1, column: 2 }, cellsOf('B\tsize a3\t2 jan\tlost\r\nC\tA9\n'), (text) =>
    text === '2 jan' ? '2026-01-02' : undefined,
  );
  expect(after.map((row) => columns.map((column) => cellOf(row, column.key)))).toEqual([
    ['', '', '', '', ''],
    ['', '', 'B', 'A3', '2026-01-02'],
    ['', '', 'C', 'A9', ''],
  ]);
});

test('filling down copies a cell into the rows below it, not into those that are done', () => {
  const first = rows.map((row, i) =>
    i === 0 ? withCell(row, 'field:sheet', 'A3') : i === 2 ? { ...row, state: 'done' as const } : row,
  );
  expect(filledDown(first, 'field:sheet', 0).map((row) => cellOf(row, 'field:sheet'))).toEqual(['A3', 'A3', '']);
});

test('the properties of a file fill the gaps of its row, by key or label and only where they fit', () => {
  const match = { named: { Sheet: 'size a3', on: 'some day', other: 'x' } } as never;
  const [row] = rows;
  if (!row) throw new Error('no row');
  expect(withSaid({ ...row, match }, type).metadata).toEqual({ sheet: 'A3' });
  expect(withSaid({ ...row, match, metadata: { sheet: 'A1' } }, type).metadata).toEqual({ sheet: 'A1' });
  expect(withSaid({ ...row, match, state: 'done' }, type).metadata).toEqual({});
  expect(withSaid({ ...row, match }, undefined).metadata).toEqual({});
});
