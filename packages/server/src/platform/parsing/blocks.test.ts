import { mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { textOfBlocks } from '@kanonos/core';
import ExcelJS from 'exceljs';
import { afterAll, expect, test } from 'vitest';
import { blocksOf } from './blocks.ts';

const dir = mkdtempSync(join(tmpdir(), 'kanonos-blocks-'));
afterAll(() => rmSync(dir, { recursive: true, force: true }));
const XLSX = 'application/vnd.openxmlformats-officedocument.spreadsheetml.sheet';

test('a sheet is its rows up to the last cell with words, and a line alone is a paragraph', async () => {
  const book = new ExcelJS.Workbook();
  const sheet = book.addWorksheet('Form');
  sheet.addRow(['Wind stop and restart record']);
  sheet.addRow([]);
  sheet.addRow(['Date', 'Gust km/h', 'Stood']);
  sheet.addRow(['3 May', 84, { formula: 'B4/2', result: 42 }]);
  sheet.addRow(['', '', '']);
  const path = join(dir, 'wind.xlsx');
  await book.xlsx.writeFile(path);
  const blocks = (await blocksOf(path, XLSX, false)) ?? [];
  expect(blocks.map(({ kind }) => kind)).toEqual(['paragraph', 'row', 'row']);
  expect(textOfBlocks(blocks)).toBe('Wind stop and restart record\n\nDate | Gust km/h | Stood\n\n3 May | 84 | 42');
});

test('Markdown has the text that it shows, without its signs', async () => {
  const path = join(dir, 'snow.md');
  writeFileSync(path, '# Snow\n\nClear **all** towers.\n\n| Tower | Time |\n|---|---|\n| 1 | 20 min |\n');
  expect(textOfBlocks((await blocksOf(path, 'text/markdown', false)) ?? [])).toBe(
    'Snow\n\nClear all towers.\n\nTower | Time\n\n1 | 20 min',
  );
});

test('a kind without a structure has no blocks', async () => {
  expect(await blocksOf(join(dir, 'any.pdf'), 'application/pdf', false)).toBeUndefined();
});
