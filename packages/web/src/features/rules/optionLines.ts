import type { FieldOption } from '@kanonos/contract';

/** Options as lines of a table: code, text, parent, retired; as typed or pasted from a spreadsheet. */
export const toLines = (options: readonly FieldOption[]): string =>
  options
    .map(({ code, text, under, retired }) => {
      const parts = [code, text, under ?? '', retired ? 'retired' : ''];
      while (parts.length > 1 && parts.at(-1) === '') parts.pop();
      return parts.join('\t');
    })
    .join('\n');

/** Lines back as options: columns by tab, else by semicolon, else the code up to the first blank. */
export const fromLines = (text: string): FieldOption[] =>
  text
    .replace(/\r\n?/g, '\n')
    .split('\n')
    .filter((line) => line.trim() !== '')
    .map((line) => {
      const blank = line.trim().indexOf(' ');
      const parts = line.includes('\t')
        ? line.split('\t')
        : line.includes(';')
          ? line.split(';')
          : blank > 0
            ? [line.trim().slice(0, blank), line.trim().slice(blank + 1)]
            : [line];
      const [code = '', words = '', under = '', last = ''] = parts.map((part) => part.trim());
      return {
        code,
        text: words || code,
        ...(under ? { under } : {}),
        ...(last.toLowerCase() === 'retired' ? { retired: true } : {}),
      };
    });

/** The rows of a file as such lines: a heading left out, no more columns than an option has. */
export const optionRows = (rows: readonly (readonly string[])[]): string =>
  (/^code$/i.test(rows[0]?.[0]?.trim() ?? '') ? rows.slice(1) : rows)
    .map((row) => row.slice(0, 4).join('\t'))
    .join('\n');
