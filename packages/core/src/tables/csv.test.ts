import fc from 'fast-check';
import { expect, test } from 'vitest';
import { toCsv } from './csv.ts';

test('no cell is taken for a formula by a spreadsheet, and numbers stay numbers', () => {
  fc.assert(
    fc.property(
      fc.constantFrom('=', '+', '-', '@', '\uff1d', '\uff0b', '\uff0d', '\uff20'),
      fc.constantFrom('', ' ', '\t', '\r', '\n', '\u00a0'),
      fc.string(),
      (sign, blank, rest) => {
        const [, cell = ''] = /^\ufeff"?([\s\S]*?)"?\r\n$/.exec(toCsv([[`${blank}${sign}x${rest}`]])) ?? [];
        expect(cell.startsWith("'")).toBe(true);
      },
    ),
  );
  expect(toCsv([['-12.5', '-3', '12']])).toBe('\ufeff-12.5,-3,12\r\n');
});

test('marks, quotation marks and line ends stay inside their cell', () => {
  expect(toCsv([['a,b', 'say "x"', 'two\nlines', 'c;d']])).toBe('\ufeff"a,b","say ""x""","two\nlines","c;d"\r\n');
  expect(toCsv([['a', 'b']], ';')).toBe('\ufeffa;b\r\n');
});
