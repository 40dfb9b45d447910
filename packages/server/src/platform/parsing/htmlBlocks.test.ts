import { textOfBlocks } from '@kanonos/core';
import { expect, test } from 'vitest';
import { blocksOfHtml } from './htmlBlocks.ts';

test('headings, paragraphs with bold words, items and pictures come in their order', () => {
  expect(
    blocksOfHtml(
      '<h1>Grip</h1><p>Open it <strong>slowly</strong>,\n never by hand.</p><img src="data:image/png;base64,AA" alt="Jaw"><ol start="3"><li>Clean</li><li>Measure<ul><li>wear</li></ul></li></ol>',
    ),
  ).toEqual([
    { kind: 'heading', level: 1, text: 'Grip', bold: [] },
    { kind: 'paragraph', text: 'Open it slowly, never by hand.', bold: [[8, 14]] },
    { kind: 'picture', source: 'data:image/png;base64,AA', description: 'Jaw' },
    { kind: 'item', level: 1, mark: '3.', text: 'Clean', bold: [] },
    { kind: 'item', level: 1, mark: '4.', text: 'Measure', bold: [] },
    { kind: 'item', level: 2, mark: '•', text: 'wear', bold: [] },
  ]);
});

test('a row of a table is one text with its cells, also empty ones and those of several paragraphs', () => {
  const blocks = blocksOfHtml(
    '<table><thead><tr><th><p>Part</p></th><th>Limit</th></tr></thead><tbody><tr><td><p>Jaw</p><p>lining</p></td><td>4 | 5 mm</td></tr><tr><td></td><td>x</td></tr></tbody></table><p>After</p>',
  );
  expect(blocks).toEqual([
    { kind: 'row', table: 1, isHead: true, text: 'Part | Limit', bold: [] },
    { kind: 'row', table: 1, isHead: false, text: 'Jaw lining | 4 ¦ 5 mm', bold: [] },
    { kind: 'row', table: 1, isHead: false, text: ' | x', bold: [] },
    { kind: 'paragraph', text: 'After', bold: [] },
  ]);
  expect(textOfBlocks(blocks)).toBe('Part | Limit\n\nJaw lining | 4 ¦ 5 mm\n\n | x\n\nAfter');
});

test('nothing is lost of what nobody closed', () => {
  expect(textOfBlocks(blocksOfHtml('<p>One<p>Two <b>three</b><h2>Four'))).toBe('One\n\nTwo three\n\nFour');
  expect(blocksOfHtml('')).toEqual([]);
});
