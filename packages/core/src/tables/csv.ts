/** What a spreadsheet takes for the beginning of a formula, also after blanks; a number with its sign is none. */
const FORMULA = /^[\s\u00a0]*[=+@\-\uff1d\uff0b\uff0d\uff20]/;
const NUMBER = /^-?\d+([.,]\d+)?$/;

/** A cell of a CSV file. One that a spreadsheet would take for a formula is kept a text. */
const csvCell = (text: string): string => {
  const safe = FORMULA.test(text) && !NUMBER.test(text) ? `'${text}` : text;
  return /[",\r\n;\t]/.test(safe) ? `"${safe.replaceAll('"', '""')}"` : safe;
};

/** Rows as a CSV file that spreadsheets read as UTF-8 (RFC 4180, with a byte order mark): the one way in which tables leave as text. */
export const toCsv = (rows: readonly (readonly string[])[], mark: ',' | ';' = ','): string =>
  `\ufeff${rows.map((cells) => cells.map(csvCell).join(mark)).join('\r\n')}\r\n`;
