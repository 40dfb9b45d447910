/** A cell of a CSV file. One that a spreadsheet would take for a formula is kept a text. */
const csvCell = (text: string): string => {
  const safe = /^[=+@\t]/.test(text) || /^-(?![\d.])/.test(text) ? `'${text}` : text;
  return /[",\r\n;]/.test(safe) ? `"${safe.replaceAll('"', '""')}"` : safe;
};

/** Rows as a CSV file that spreadsheets read as UTF-8 (RFC 4180). */
export const toCsv = (rows: readonly (readonly string[])[], mark: ',' | ';' = ','): string =>
  `\ufeff${rows.map((cells) => cells.map(csvCell).join(mark)).join('\r\n')}\r\n`;
