import fc from 'fast-check';
import { expect, test } from 'vitest';
import { dxfWords } from './words.ts';

const drawing = (...entities: (readonly [number, string])[][]) =>
  `  0\nSECTION\n  2\nENTITIES\n${entities
    .flat()
    .map(([code, value]) => `${String(code).padStart(3)}\n${value}`)
    .join('\n')}\n  0\nEOF\n`;
const text = (value: string, kind = 'TEXT') => [[0, kind] as const, [8, 'TITLE'] as const, [1, value] as const];

test('texts, attributes of a title block and dimensions are read in their order', () => {
  expect(
    dxfWords(
      drawing(
        text('THR-DWG-2207'),
        text('Sheave assembly', 'ATTRIB'),
        text('<>', 'DIMENSION'),
        text('40 h7', 'DIMENSION'),
        // Layers and blocks have texts in group 1 that nobody reads.
        text('xref.dxf', 'BLOCK'),
        text('', 'TEXT'),
      ),
    ),
  ).toEqual(['THR-DWG-2207', 'Sheave assembly', '40 h7']);
});

test('a long paragraph is put together from its pieces and parted at its own line ends', () => {
  const paragraph = [
    [0, 'MTEXT'],
    [3, 'Torque the bolts '],
    [3, 'in the order of '],
    [1, 'figure 3.\\PUse grease G-11.'],
  ] as const;
  expect(dxfWords(drawing([...paragraph]))).toEqual(['Torque the bolts in the order of figure 3.', 'Use grease G-11.']);
  // What began before another entity does not leak into it.
  expect(
    dxfWords(
      drawing(
        [
          [0, 'MTEXT'],
          [3, 'lost '],
        ],
        text('Kept'),
      ),
    ),
  ).toEqual(['Kept']);
});

test('formatting is left out, codes become their characters', () => {
  const read = (value: string) => dxfWords(drawing(text(value, 'MTEXT')));
  expect(read('{\\fArial|b1|i0;\\H2.5;Scale} 1:10')).toEqual(['Scale 1:10']);
  expect(read('\\A1;%%c40 %%p0.1 at 20 %%d')).toEqual(['Ø40 ±0.1 at 20 °']);
  expect(read('\\S1/2; inch')).toEqual(['1/2 inch']);
  expect(read('Pr\\U+00FCfung \\Lunder\\l')).toEqual(['Prüfung under']);
  expect(read('a\\{b\\}c \\\\ d')).toEqual(['a{b}c \\ d']);
});

test('plain words come through unchanged, whatever the surroundings', () => {
  fc.assert(
    fc.property(
      fc.array(fc.stringMatching(/^[A-Za-z0-9][A-Za-z0-9 .,-]{0,30}[A-Za-z0-9]$/), { maxLength: 8 }),
      (words) => {
        expect(dxfWords(drawing(...words.map((one) => text(one))))).toEqual(words);
      },
    ),
  );
});

test('what is no drawing has no words', () => {
  expect(dxfWords('')).toEqual([]);
  expect(dxfWords('1\nTEXT')).toEqual([]);
});
