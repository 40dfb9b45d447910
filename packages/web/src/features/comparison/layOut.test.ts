import { compareTexts } from '@kanonos/core';
import { expect, test } from 'vitest';
import { folded, isEqualRow, placesOf, rowsOf } from './layOut.ts';

const A = 'The grip is opened and cleaned by two fitters every year.\n\n';
const B = 'The limit of the spring pack is 12 kN.\n\n';
const C = 'Results stand in the record of the carrier and both fitters sign.\n\n';
const laid = (old: string, now: string) => placesOf(compareTexts(old, now).parts);

test('neighbouring removals and additions are one place, with the old and the new text', () => {
  const { pieces, places } = laid(A + B + C, A + B.replace('12', '13') + C);
  expect(places).toEqual([{ n: 1, kind: 'replaced', old: '12', new: '13', oldPage: null, newPage: null }]);
  expect(pieces.map(({ kind, place }) => [kind, place])).toEqual([
    ['equal', null],
    ['delete', 1],
    ['insert', 1],
    ['equal', null],
  ]);
});

test('a moved paragraph is a place at both ends, and pages are counted where there are pages', () => {
  const { places } = laid(`${A}\f${C}${B}`, `${C}${A}\f${B}`);
  expect(places.map(({ kind, oldPage, newPage }) => [kind, oldPage, newPage])).toEqual([
    ['moved', 1, 1],
    ['moved', 2, 1],
  ]);
});

test('rows hold what belongs together, side by side, and give both texts back', () => {
  const [old, now] = [A + B + C, `${A}Something else altogether stands here.\n\n${B.replace('12', '13')}${C}`];
  const rows = rowsOf(laid(old, now).pieces);
  const side = (of: 'old' | 'new') => rows.map((row) => row[of].map((piece) => piece[of]).join(''));
  expect(side('old')).toEqual([A, '', B, C]);
  expect(side('new').join('')).toBe(now);
  expect(rows.map(isEqualRow)).toEqual([true, false, false, true]);
});

test('a replaced paragraph is beside its replacement', () => {
  const rows = rowsOf(laid(A + B, `${A}Wholly other words.\n\n`).pieces);
  expect(rows.map((row) => [row.old.length, row.new.length])).toEqual([
    [1, 1],
    [1, 1],
  ]);
});

test('what is equal and far from a change is left out and counted', () => {
  const same = [A, C, A, C, A, C].join('');
  expect(
    folded(rowsOf(laid(same + B, same + B.replace('12', '13')).pieces)).map((row) =>
      'left' in row ? row.left : 'row',
    ),
  ).toEqual([5, 'row', 'row']);
  expect(folded([])).toEqual([]);
});
