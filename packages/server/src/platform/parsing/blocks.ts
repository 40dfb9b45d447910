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

const sheetBlocks = async (path: string): Promise<TextBlock[] | undefined> => {
  if ((await stat(path)).size > MOST_SHEET) return undefined;
  const sheets = await readSheets(path, MOST_CELLS);
  if (sheets.some((sheet) => sheet.more)) return undefined;
  return sheets.flatMap(({ name, rows }, i): TextBlock[] => {
    const width = Math.max(0, ...rows.map((cells) => cells.findLastIndex((cell) => cell !== '') + 1));
    return [
      ...(sheets.length > 1 ? [{ kind: 'heading' as const, level: 2, text: name, bold: [] }] : []),
      ...rows
        .filter((cells) => cells.some((cell) => cell !== ''))
        .map((cells) => ({
          kind: 'row' as const,
          table: i + 1,
          isHead: false,
          text: rowText(cells.slice(0, width)),
          bold: [],
        })),
    ];
  });
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
