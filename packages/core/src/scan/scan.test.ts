import { expect, test } from 'vitest';
import { readScanned } from './readScanned.ts';

const row = (block: number, paragraph: number, line: number, word: string, confidence: number, level = 5) =>
  [level, 1, block, paragraph, line, 1, 0, 0, 10, 10, confidence, word].join('\t');

test('words come as lines and paragraphs, with how sure the reader is', () => {
  const read = readScanned(
    [
      'level\tpage…',
      row(1, 1, 1, '', -1, 4),
      row(1, 1, 1, 'Slip', 90),
      row(1, 1, 1, 'force', 80),
      row(1, 1, 2, '4.2', 70),
      row(2, 1, 1, 'kN', 60),
    ].join('\n'),
  );
  expect(read).toEqual({ text: 'Slip force\n4.2\n\nkN', words: 4, confidence: 75 });
});

test('noise of the paper is left out, and a page without words gives no text', () => {
  expect(readScanned(['head', row(1, 1, 1, '~;', 12), row(1, 1, 1, ' ', 95), 'broken line'].join('\n'))).toEqual({
    text: '',
    words: 0,
    confidence: 0,
  });
});
