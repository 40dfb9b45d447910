import { expect, test } from 'vitest';
import { fromLines, optionRows, toLines } from './optionLines.ts';

const read = (text: string) => fromLines(text).map(({ code, text: words, under }) => [code, words, under]);
const LINES = [
  ['N', 'North line', 'ALP'],
  ['S', 'South line', 'ALP'],
];

test.each([['N\tNorth line\tALP\nS\tSouth line\tALP'], ['N;North line;ALP\r\nS;South line;ALP\r\n']])(
  'options are read however their columns are parted',
  (text) => expect(read(text)).toEqual(LINES),
);

test('a code alone is its own text, and the first blank parts code and text where nothing else does', () => {
  expect(read('daily\nTV Tarn Valley')).toEqual([
    ['daily', 'daily', undefined],
    ['TV', 'Tarn Valley', undefined],
  ]);
});

test('rows of a file become lines without their heading and without further columns', () => {
  expect(
    read(optionRows([['Code', 'Text', 'Under', 'Retired', 'Note'], ...LINES.map((row) => [...row, '', 'x'])])),
  ).toEqual(LINES);
  expect(read(optionRows(LINES))).toEqual(LINES);
});

test('what is written as lines is read as it was', () => {
  const options = [
    { code: 'N', text: 'North line' },
    { code: 'S', text: 'South line', under: 'ALP', retired: true },
  ];
  expect(fromLines(toLines(options))).toEqual(options);
});
