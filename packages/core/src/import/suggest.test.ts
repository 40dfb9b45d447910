import fc from 'fast-check';
import { expect, test } from 'vitest';
import { createSuggester } from './suggest.ts';

const suggest = createSuggester([
  'Otto Brandvik',
  'Mara Quill',
  'Area one / Below',
  'grip-test-rev-b.pdf',
  'RPT',
  'PRO',
]);

test.each([
  ['Otto Brandvig', 'Otto Brandvik'],
  ['area one > below', 'Area one / Below'],
  ['Grip test rev B.pdf', 'grip-test-rev-b.pdf'],
  ['grip-test-rev-b', 'grip-test-rev-b.pdf'],
  ['RPTT', 'RPT'],
  ['Somebody else', undefined],
  ['x', undefined],
])('for %s it names %s', (word, meant) => {
  expect(suggest(word)).toBe(meant);
});

test('of two that are equally near none is named', () => {
  expect(createSuggester(['rope 1.pdf', 'rope 2.pdf'])('rope 3.pdf')).toBeUndefined();
});

test('a word with one letter changed is found again among others that are far from it', () => {
  fc.assert(
    fc.property(fc.stringMatching(/^[a-z]{8,14}$/), fc.nat(), (word, at) => {
      const i = at % word.length;
      const changed = `${word.slice(0, i)}0${word.slice(i + 1)}`;
      expect(createSuggester([word, '99999999999999999999'])(changed)).toBe(word);
    }),
  );
});
