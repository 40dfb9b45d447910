import { expect, test } from 'vitest';
import { cellDay, cellText, columnWidths, sheetName } from './cells.ts';

test('an ISO day is a day, anything else is not', () => {
  expect(cellDay('2026-11-28')?.toISOString()).toBe('2026-11-28T00:00:00.000Z');
  for (const other of ['2026-02-30', '2026-13-01', '28 Nov 2026', '', null, 20261128, '2026-11-28T10:00'])
    expect(cellDay(other)).toBeUndefined();
});

test('an empty cell is an empty text, a number its digits', () => {
  expect([cellText(null), cellText(0), cellText(12.5), cellText('a')]).toEqual(['', '0', '12.5', 'a']);
});

test('a sheet gets a name that spreadsheets take', () => {
  expect(sheetName('Readings: Q3/2026 [team]')).toBe('Readings  Q3 2026  team');
  expect(sheetName("'quoted'")).toBe('quoted');
  expect(sheetName('??')).toBe('Table');
  expect(sheetName('x'.repeat(40))).toHaveLength(31);
});

test('a column is as wide as its longest cell, within limits', () => {
  expect(
    columnWidths(
      ['No', 'Title', 'Empty'],
      [
        [1, 'x'.repeat(100)],
        [22, 'short'],
      ],
    ),
  ).toEqual([8, 60, 8]);
  expect(columnWidths(['Since'], [['12 November 2026']])).toEqual([17]);
});
