import type { FieldOption } from '@kanonos/contract';

/** Options as lines of a table: code, text, what it stands under, retired; as typed or pasted from a spreadsheet. */
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

/** The cells of a line that is parted by a mark; quotes hold marks, and doubled quotes stand for one. */
const cellsOf = (line: string, mark: string): string[] => {
  const cells = [''];
  let quoted = false;
  for (let i = 0; i < line.length; i++) {
    const c = line[i] ?? '';
    if (c === '"' && quoted && line[i + 1] === '"') cells.push(`${cells.pop()}${line[++i]}`);
    else if (c === '"') quoted = !quoted;
    else if (c === mark && !quoted) cells.push('');
    else cells.push(`${cells.pop()}${c}`);
  }
  return cells.map((cell) => cell.trim());
};

/** A CSV or text file as such lines: quotes off, the first mark that parts columns, a heading left out. */
export const linesOfFile = (text: string): string => {
  const lines = text
    .replace(/^\uFEFF/, '')
    .split(/\r?\n/)
    .filter((line) => line.trim() !== '');
  const mark = [';', '\t', ','].find((one) => lines.some((line) => line.includes(one))) ?? ';';
  const cells = lines.map((line) => cellsOf(line, mark));
  const rest = /^code$/i.test(cells[0]?.[0] ?? '') ? cells.slice(1) : cells;
  return rest.map((row) => row.slice(0, 4).join('\t')).join('\n');
};
