import { stat } from 'node:fs/promises';
import { rowText, type TextBlock } from '@kanonos/core';
import { readSheets } from '../tables/readTable.ts';
import { blocksOfHtml } from './htmlBlocks.ts';
import { readingTextOf } from './readingText.ts';

const DOCX = 'application/vnd.openxmlformats-officedocument.wordprocessingml.document';
const XLSX = 'application/vnd.openxmlformats-officedocument.spreadsheetml.sheet';
/** A larger spreadsheet is data rather than a form: its words are taken out, its cells are not laid out. */
const MOST_SHEET = 4 * 1024 * 1024;
const MOST_CELLS = { rows: 5000, columns: 100 };

const upToLast = (cells: readonly string[]): string[] => cells.slice(0, cells.findLastIndex((cell) => cell !== '') + 1);

/** A row of a sheet; one with words in its first cell alone is a line of text above or below a table. */
const rowBlock = (cells: readonly string[], table: number): TextBlock =>
  cells.length === 1
    ? { kind: 'paragraph', text: rowText(cells), bold: [] }
    : { kind: 'row', table, isHead: false, text: rowText(cells), bold: [] };

const sheetBlocks = async (path: string): Promise<TextBlock[] | undefined> => {
  if ((await stat(path)).size > MOST_SHEET) return undefined;
  const sheets = await readSheets(path, MOST_CELLS);
  if (sheets.some((sheet) => sheet.more)) return undefined;
  return sheets.flatMap(({ name, rows }, i): TextBlock[] => [
    ...(sheets.length > 1 ? [{ kind: 'heading' as const, level: 2, text: name, bold: [] }] : []),
    ...rows
      .map(upToLast)
      .filter((cells) => cells.length > 0)
      .map((cells) => rowBlock(cells, i + 1)),
  ]);
};

/**
 * The blocks of a file whose kind has a structure: Word, Markdown, a spreadsheet.
 *
 * @param pictures whether the pictures are wanted, too: they are large
 * @returns nothing for another kind, or where the file is too large for it
 */
export const blocksOf = async (
  path: string,
  mediaType: string,
  pictures: boolean,
): Promise<TextBlock[] | undefined> => {
  if (mediaType === XLSX) return sheetBlocks(path);
  if (mediaType === DOCX) return blocksOfHtml(await readingTextOf(path, 'html', pictures));
  if (mediaType === 'text/markdown') return blocksOfHtml(await readingTextOf(path, 'markdown', pictures));
  return undefined;
};
