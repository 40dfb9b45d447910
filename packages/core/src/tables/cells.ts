/** A cell of a table that leaves the application: text, a number, a day as ISO 8601, or nothing. */
export type TableCell = string | number | null;

const DAY = /^(\d{4})-(\d\d)-(\d\d)$/;

/** A cell as a CSV file contains it. */
export const cellText = (cell: TableCell): string => (cell === null ? '' : String(cell));

/** The day of a cell at midnight UTC, as spreadsheets keep days; undefined for any other cell. */
export const cellDay = (cell: TableCell): Date | undefined => {
  const [, year, month, day] = (typeof cell === 'string' && DAY.exec(cell)) || [];
  if (!year) return undefined;
  const date = new Date(Date.UTC(Number(year), Number(month) - 1, Number(day)));
  return date.getUTCMonth() === Number(month) - 1 ? date : undefined;
};

/** A name for a sheet: at most 31 characters, without those that a spreadsheet refuses (ECMA-376 part 1, 18.2.19). */
export const sheetName = (name: string): string =>
  name
    .replace(/[[\]:*?/\\]/g, ' ')
    .replace(/^'+|'+$/g, '')
    .trim()
    .slice(0, 31)
    .trim() || 'Table';

const NARROWEST = 8;
const WIDEST = 60;

/** How wide each column should be, in characters, by its heading and its cells. */
export const columnWidths = (headings: readonly string[], rows: readonly (readonly TableCell[])[]): number[] =>
  headings.map((heading, column) => {
    let width = heading.length + 2;
    for (const row of rows) width = Math.max(width, cellText(row[column] ?? null).length + 1);
    return Math.min(WIDEST, Math.max(NARROWEST, width));
  });
