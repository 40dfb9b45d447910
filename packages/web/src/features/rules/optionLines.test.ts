import { expect, test } from 'vitest';
import { fromLines, linesOfFile } from './optionLines.ts';

const read = (text: string) => fromLines(linesOfFile(text)).map(({ code, text: words, under }) => [code, words, under]);

test.each([
  ['\uFEFFcode;text;under\r\nN;North line;ALP\r\nS;South line;ALP\r\n'],
  ['N,"North line",ALP\nS,South line,ALP'],
  ['N\tNorth line\tALP\nS\tSouth line\tALP'],
])('a file of options is read however its columns are parted', (text) => {
  expect(read(text)).toEqual([
    ['N', 'North line', 'ALP'],
    ['S', 'South line', 'ALP'],
  ]);
});

test('quotes keep marks and quotes inside', () => {
  expect(read('A;"one; ""two"""')).toEqual([['A', 'one; "two"', undefined]]);
});
