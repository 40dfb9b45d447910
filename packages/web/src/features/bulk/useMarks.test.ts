import { expect, test } from 'vitest';
import { nextMarks } from './useMarks.ts';

const order = ['a', 'b', 'c', 'd', 'e'];
const after = (before: string[], id: string, from: string | null = null) =>
  [...nextMarks(new Set(before), id, order, from)].sort();

test('a mark is set and removed by the same press', () => {
  expect(after([], 'b')).toEqual(['b']);
  expect(after(['b', 'd'], 'b')).toEqual(['d']);
});

test('extending marks everything between the last one and this one, in both directions, and takes nothing away', () => {
  expect(after(['b'], 'd', 'b')).toEqual(['b', 'c', 'd']);
  expect(after(['a', 'd'], 'b', 'd')).toEqual(['a', 'b', 'c', 'd']);
  expect(after(['b'], 'b', 'gone')).toEqual([]);
});
