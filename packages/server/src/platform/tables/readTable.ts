import { readFile, stat } from 'node:fs/promises';
import { parse } from 'csv-parse/sync';
import ExcelJS from 'exceljs';
import { refused } from '../refused.ts';

/** A table as somebody's spreadsheet holds it: headings, then lines of cells as text. `note` says how it was read. */
export type Table = { headings: string[]; rows: string[][]; note: string | null };

const MOST_COLUMNS = 200;
const MOST_ROWS = 100_000;
const MOST_BYTES = 64 * 1024 * 1024;

/** Reads a CSV or XLSX file. Formulas give the value that was stored with them; nothing in the file is ever run. */
export const readTable = async (path: string, name: string): Promise<Table> => {
  const extension = /\.([a-z0-9]+)$/i.exec(name)?.[1]?.toLowerCase();
  if (extension === 'xlsm' || extension === 'xls') throw refused('table_kind_refused', { kind: extension });
  if ((await stat(path)).size > MOST_BYTES) throw refused('file_too_large', { limit: `${MOST_BYTES / 1048576} MB` });
  const table = extension === 'xlsx' ? await readSheet(path) : await readCsv(path);
  const width = Math.max(table.headings.length, ...table.rows.slice(0, 1000).map((row) => row.length));
  if (width > MOST_COLUMNS) throw refused('table_too_wide', { columns: width, limit: MOST_COLUMNS });
  if (table.rows.length > MOST_ROWS) throw refused('table_too_long', { limit: MOST_ROWS });
  if (table.rows.length === 0) throw refused('table_empty');
  return table;
};

/** Text in its most likely encoding: by its byte order mark, UTF-8 where valid, else Windows-1252. */
export const decodeText = (bytes: Buffer): { text: string; note: string | null } => {
  if (bytes[0] === 0xff && bytes[1] === 0xfe)
    return { text: new TextDecoder('utf-16le').decode(bytes), note: 'read as UTF-16' };
  if (bytes[0] === 0xfe && bytes[1] === 0xff)
    return { text: new TextDecoder('utf-16be').decode(bytes), note: 'read as UTF-16' };
  try {
    return { text: new TextDecoder('utf-8', { fatal: true }).decode(bytes), note: null };
  } catch {
    return {
      text: new TextDecoder('windows-1252').decode(bytes),
      note: 'not UTF-8, read as Windows-1252; check the accents',
    };
  }
};

/** The separator that the first line has most of, outside quotation marks. */
export const guessSeparator = (text: string): string => {
  const [line = ''] = text.split(/\r?\n/, 1);
  const bare = line.replace(/"[^"]*"/g, '');
  const counts = [';', '\t', ','].map((mark) => ({ mark, n: bare.split(mark).length }));
  return counts.reduce((best, one) => (one.n > best.n ? one : best)).mark;
};

const readCsv = async (path: string): Promise<Table> => {
  const bytes = await readFile(path);
  const { text, note } = decodeText(bytes);
  let records: string[][];
  try {
    records = parse(text, {
      bom: true,
      delimiter: guessSeparator(text),
      relax_column_count: true,
      relax_quotes: true,
      skip_empty_lines: true,
      to: MOST_ROWS + 2,
    }) as string[][];
  } catch (error) {
    throw refused('table_unreadable', { reason: (error as Error).message.split('\n')[0] ?? '' });
  }
  const [headings = [], ...rows] = records;
  return { headings, rows, note };
};

const readSheet = async (path: string): Promise<Table> => {
  const workbook = new ExcelJS.Workbook();
  try {
    await workbook.xlsx.readFile(path);
  } catch {
    throw refused('table_unreadable', { reason: 'it is not a readable spreadsheet' });
  }
  const sheet = workbook.worksheets.find((one) => one.actualRowCount > 0);
  if (!sheet) throw refused('table_empty');
  if (sheet.actualColumnCount > MOST_COLUMNS)
    throw refused('table_too_wide', { columns: sheet.actualColumnCount, limit: MOST_COLUMNS });
  const rows: string[][] = [];
  let formulas = 0;
  sheet.eachRow({ includeEmpty: false }, (row) => {
    const cells: string[] = [];
    for (let column = 1; column <= sheet.actualColumnCount; column++) {
      const { value } = row.getCell(column);
      if (value !== null && typeof value === 'object' && ('formula' in value || 'sharedFormula' in value)) formulas++;
      cells.push(cellText(value));
    }
    if (cells.some((cell) => cell !== '')) rows.push(cells);
  });
  const [headings = [], ...lines] = rows;
  const others = workbook.worksheets.length - 1;
  const notes = [
    others > 0 && `sheet “${sheet.name}” was read, ${others} more were not`,
    formulas > 0 && `stored values were used for ${formulas} formulas`,
  ].filter(Boolean);
  return { headings, rows: lines, note: notes.length ? notes.join('; ') : null };
};

/** All sheets of a workbook as far as they are shown: names, the first rows and columns as text, and whether there is more. */
export const readSheets = async (
  path: string,
  most: { rows: number; columns: number },
): Promise<{ name: string; rows: string[][]; more: boolean }[]> => {
  const workbook = new ExcelJS.Workbook();
  try {
    await workbook.xlsx.readFile(path);
  } catch {
    throw refused('table_unreadable', { reason: 'it is not a readable spreadsheet' });
  }
  return workbook.worksheets.map((sheet) => {
    const columns = Math.min(most.columns, sheet.columnCount);
    const rows = Array.from({ length: Math.min(most.rows, sheet.rowCount) }, (_, r) =>
      Array.from({ length: columns }, (_c, c) => cellText(sheet.getRow(r + 1).getCell(c + 1).value)),
    );
    return { name: sheet.name, rows, more: sheet.rowCount > most.rows || sheet.columnCount > most.columns };
  });
};

const cellText = (value: ExcelJS.CellValue): string => {
  if (value === null || value === undefined) return '';
  if (value instanceof Date) return value.toISOString().slice(0, 10);
  if (typeof value !== 'object') return String(value).trim();
  if ('richText' in value)
    return value.richText
      .map((part) => part.text)
      .join('')
      .trim();
  if ('result' in value) return cellText(value.result as ExcelJS.CellValue);
  if ('text' in value) return cellText(value.text as ExcelJS.CellValue);
  return '';
};
