import { expect, test } from 'vitest';
import { columnOfNumbers } from './lines.ts';

const isNumber = (text: string) => /^THR-\d+$/.test(text);

test('the column with most numbers is taken, the first one when there are none', () => {
  expect(columnOfNumbers([['1', 'THR-1', 'x'], ['2', 'THR-2', 'THR-9'], ['3']], isNumber)).toBe(1);
  expect(columnOfNumbers([['a', 'b']], isNumber)).toBe(0);
  expect(columnOfNumbers([], isNumber)).toBe(0);
});
