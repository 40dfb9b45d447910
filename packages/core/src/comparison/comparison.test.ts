import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { type ComparedPart, comparedInWords, compareTexts } from './compareTexts.ts';
import { leastEdits } from './leastEdits.ts';
import { comparable, paragraphsOf, wordsOf } from './tokens.ts';

const olds = (parts: readonly ComparedPart[]) => parts.map((part) => part.old).join('');
const news = (parts: readonly ComparedPart[]) => parts.map((part) => part.new).join('');
/** `-gone-`, `+come+` and `~moved~`, the rest unchanged. */
const drawn = (a: string, b: string) =>
  compareTexts(a, b)
    .parts.map(({ kind, old, new: is }) =>
      kind === 'equal' ? is : kind === 'delete' ? `-${old}-` : kind === 'insert' ? `+${is}+` : `~${old || is}~`,
    )
    .join('');

const WORDS = [
  'rope',
  'grip',
  'cabin',
  'is',
  'the',
  'test',
  '12',
  'kN',
  'daily',
  'limit',
  'well-known',
  'exam\u00adple',
  '–5',
];
const word = fc.constantFrom(...WORDS);
const blank = fc.constantFrom(' ', ' ', ' ', '\n', '\n\n', '. ', ', ', '\t', '');
const text = fc.array(fc.tuple(word, blank), { maxLength: 60 }).map((pairs) => pairs.flat().join(''));
/** A text and the same text edited here and there. */
const edited = fc
  .tuple(text, fc.array(fc.tuple(fc.nat(400), fc.nat(20), text), { maxLength: 3 }))
  .map(([old, edits]) => {
    let now = old;
    for (const [at, length, more] of edits) now = now.slice(0, at) + more.slice(0, 30) + now.slice(at + length);
    return [old, now] as const;
  });
const wild = fc.string({ unit: 'grapheme', maxLength: 80 });

/** The least number of words inserted and deleted, by the table that everybody trusts. */
const leastByTable = (a: readonly string[], b: readonly string[]): number => {
  let row = b.map((_, j) => j + 1);
  row.unshift(0);
  a.forEach((x, i) => {
    const next = [i + 1];
    for (let j = 0; j < b.length; j++)
      next.push(x === b[j] ? (row[j] as number) : Math.min(row[j + 1] as number, next[j] as number) + 1);
    row = next;
  });
  return row.at(-1) as number;
};
const tokens = (of: string) => wordsOf(of).map(comparable).filter(Boolean);

describe('properties', () => {
  test('the old parts give the old text, the new parts the new one', () => {
    fc.assert(
      fc.property(fc.oneof(edited, fc.tuple(text, text), fc.tuple(wild, wild)), ([a, b]) => {
        const { parts } = compareTexts(a, b);
        expect(olds(parts)).toBe(a);
        expect(news(parts)).toBe(b);
        for (const { inner, new: is } of parts) if (inner) expect(news(inner)).toBe(is);
      }),
      { numRuns: 400 },
    );
  });
  test('equal texts give nothing, and so do texts that differ in white space or hyphenation alone', () => {
    fc.assert(
      fc.property(text, (one) => {
        const same = one.replace(/ /g, '  ').replace(/\n/g, '\r\n').replaceAll('well-known', 'well\u00ad\nknown');
        expect(compareTexts(one, one).counts).toEqual({ inserted: 0, deleted: 0, moved: 0, places: 0 });
        expect(compareTexts(one, same).counts.places).toBe(0);
      }),
    );
  });
  test('no more words are shown as changed than twice the least edit', () => {
    fc.assert(
      fc.property(fc.oneof(edited, fc.tuple(text, text)), ([a, b]) => {
        const shown = compareTexts(a, b).parts.reduce(
          (sum, part) => sum + (part.kind === 'equal' ? 0 : tokens(part.old).length + tokens(part.new).length),
          0,
        );
        expect(shown).toBeLessThanOrEqual(2 * leastByTable(tokens(a), tokens(b)));
      }),
      { numRuns: 400 },
    );
  });
  test('the shortest edit script is as short as the table says, and null where the limit forbids it', () => {
    const list = fc.array(fc.constantFrom('a', 'b', 'c', 'd'), { maxLength: 30 });
    fc.assert(
      fc.property(list, list, (a, b) => {
        const least = leastByTable(a, b);
        const common = leastEdits(a, b, 100) ?? [];
        const shared = common.reduce((sum, { length }) => sum + length, 0);
        expect(a.length + b.length - 2 * shared).toBe(least);
        for (const one of common)
          expect(a.slice(one.a, one.a + one.length)).toEqual(b.slice(one.b, one.b + one.length));
        if (least > 0) expect(leastEdits(a, b, least - 1)).toBeNull();
      }),
    );
  });
  test('pieces of a text give it back', () => {
    fc.assert(
      fc.property(fc.oneof(text, wild), (one) => {
        expect(paragraphsOf(one).join('')).toBe(one);
        expect(wordsOf(one).join('')).toBe(one);
      }),
    );
  });
});

const P1 = 'The grip is opened, cleaned and measured before every season by two fitters.\n\n';
const P2 = 'A spring pack that gives less than the limit is replaced and the old one destroyed.\n\n';
const P3 = 'Results stand in the record of the carrier and are signed by both.\n\n';

test('words within a paragraph', () => {
  expect(drawn('The limit is 12 kN per grip.', 'The limit is 13 kN per grip.')).toBe(
    'The limit is -12 -+13 +kN per grip.',
  );
  expect(drawn(P1 + P2, P1 + P2.replace('destroyed', 'kept'))).toContain('old one -destroyed-+kept+.');
});
test('a paragraph that comes or goes is whole', () => {
  expect(drawn(P1 + P3, P1 + P2 + P3)).toBe(`${P1}+${P2}+${P3}`);
  expect(drawn(P1 + P2 + P3, P1 + P3)).toBe(`${P1}-${P2}-${P3}`);
});
test('a paragraph that is elsewhere has moved, with its inner edits', () => {
  const { parts, counts } = compareTexts(P1 + P2 + P3, P1 + P3 + P2.replace('replaced', 'renewed'));
  expect(parts.map(({ kind, move }) => (move ? `${kind} ${move}` : kind))).toEqual([
    'equal',
    'moved 1',
    'equal',
    'moved 1',
  ]);
  expect(parts.at(-1)?.inner?.map(({ kind }) => kind)).toEqual(['equal', 'delete', 'insert', 'equal']);
  expect(counts).toEqual({ inserted: 1, deleted: 1, moved: 1, places: 2 });
  expect(comparedInWords(counts, 2)).toBe('1 word added, 1 word removed, 1 paragraph moved, 2 fields changed');
});
test('short paragraphs do not move: they come and go', () => {
  expect(drawn('One two.\n\nThree four five.\n\n', 'Three four five.\n\nOne two.\n\n')).not.toContain('~');
});
test('lines that are broken elsewhere, as in a PDF of the same text, differ in nothing', () => {
  const broken = (P1 + P2).replace(/(\S+ \S+ \S+) /g, '$1\n').replace('measured', 'mea-\nsured');
  expect(compareTexts(P1 + P2, broken).counts.places).toBe(0);
});
test('a paragraph that was parted in two shows no word as changed', () => {
  expect(compareTexts(`${P1.trim()} ${P2}`, P1 + P2).counts).toMatchObject({ inserted: 0, deleted: 0 });
});
test('what precedes a figure counts: a minus, another figure', () => {
  expect(compareTexts('at 5 °C', 'at -5 °C').counts.places).toBe(1);
  expect(compareTexts('1 5', '15').counts.places).toBe(1);
  expect(compareTexts('rope-test', 'ropetest').counts.places).toBe(0);
});
test('two long texts that have nothing in common end soon, by paragraphs', () => {
  const unlike = (seed: string) =>
    Array.from({ length: 400 }, (_, i) =>
      Array.from({ length: 30 }, (_, j) => `${seed}${(i * 31 + j * 17) % 997}`).join(' '),
    ).join('\n\n');
  const { parts } = compareTexts(unlike('a'), unlike('b'));
  expect(parts.map(({ kind }) => kind)).toEqual(['delete', 'insert']);
});
