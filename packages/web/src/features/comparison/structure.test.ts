import { compareTexts, rowText, type TextBlock, textOfBlocks } from '@kanonos/core';
import { expect, test } from 'vitest';
import { placesOf, rowsOf } from './layOut.ts';
import { boldParts, cellsOf, picturesApart, type Shape, shapesOf, structureOf } from './structure.ts';

const heading = (text: string): TextBlock => ({ kind: 'heading', level: 2, text, bold: [] });
const paragraph = (text: string): TextBlock => ({ kind: 'paragraph', text, bold: [] });
const row = (...cells: string[]): TextBlock => ({
  kind: 'row',
  table: 1,
  isHead: false,
  text: rowText(cells),
  bold: [],
});
const picture = (source: string): TextBlock => ({ kind: 'picture', source, description: '' });

const compared = (old: TextBlock[], now: TextBlock[]): Shape[] => {
  const { pieces } = placesOf(compareTexts(textOfBlocks(old), textOfBlocks(now)).parts);
  return rowsOf(pieces).flatMap((one) => shapesOf(one, structureOf(old), structureOf(now)));
};
const words = (pieces: { kind: string; old: string; new: string }[]) =>
  pieces.map(
    ({ kind, old, new: now }) => `${kind === 'insert' ? '+' : kind === 'delete' ? '-' : ''}${(now || old).trim()}`,
  );

test('a changed word keeps the shape of its block on both sides', () => {
  const shapes = compared(
    [heading('4 Test'), paragraph('The grip holds more than 6.2 kN.')],
    [heading('4 Test'), paragraph('The grip holds more than 6.8 kN.')],
  );
  expect(shapes.map((shape) => [shape.old?.block.kind, shape.new?.block.kind])).toEqual([
    ['heading', 'heading'],
    ['paragraph', 'paragraph'],
  ]);
  expect(words(shapes[1]?.pieces ?? [])).toEqual(['The grip holds more than', '-6.2', '+6.8', 'kN.']);
});

test('a row that came is one row of the table, and cells are compared as cells', () => {
  const old = [
    row('Part', 'New', 'Rejected'),
    row('Jaw lining', '9.0 mm', 'below 4.0 mm'),
    row('Bush', '', 'above 0.30 mm'),
  ];
  const now = [
    row('Part', 'New', 'Rejected'),
    row('Jaw lining', '9.0 mm', 'below 4.5 mm'),
    row('Spring pack', '412 mm', 'below 404 mm'),
    row('Bush', '', 'above 0.30 mm'),
  ];
  const shapes = compared(old, now);
  expect(shapes.map((shape) => shape.new?.block.kind)).toEqual(['row', 'row', 'row', 'row']);
  expect(shapes.map((shape) => cellsOf(shape.pieces).map((cell) => words(cell).join(' ').trim()))).toEqual([
    ['Part', 'New', 'Rejected'],
    ['Jaw lining', '9.0 mm', 'below -4.0 +4.5 mm'],
    ['+Spring pack', '+412 mm', '+below 404 mm'],
    ['Bush', '', 'above 0.30 mm'],
  ]);
});

test('what went and what came without a word in common are two blocks', () => {
  const shapes = compared(
    [paragraph('Clean the jaws.'), heading('An old heading'), paragraph('Test it.')],
    [paragraph('Clean the jaws.'), paragraph('Something that nobody wrote before'), paragraph('Test it.')],
  );
  expect(shapes.map((shape) => [shape.old?.block.kind ?? null, shape.new?.block.kind ?? null])).toEqual([
    ['paragraph', 'paragraph'],
    ['heading', null],
    [null, 'paragraph'],
    ['paragraph', 'paragraph'],
  ]);
});

test('pictures keep their place, and one is another where its bytes are', () => {
  const blocks = [picture('a'), paragraph('One'), picture('b'), picture('c'), paragraph('Two')];
  const { pictures, starts } = structureOf(blocks);
  expect([...pictures].map(([n, all]) => [n, all.map(({ source }) => source)])).toEqual([
    [-1, ['a']],
    [0, ['b', 'c']],
  ]);
  expect(starts).toEqual([0, 5]);
  expect(picturesApart(blocks, [picture('a'), picture('c')]).map(({ source }) => source)).toEqual(['b']);
});

test('bold is cut to the stretch of text that is shown', () => {
  expect(boldParts('holds more than', 9, [[0, 14]])).toEqual([
    { text: 'holds', bold: true },
    { text: ' more than', bold: false },
  ]);
  expect(boldParts('all', 3, [[0, 20]])).toEqual([{ text: 'all', bold: true }]);
});
