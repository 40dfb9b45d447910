import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { createRecogniser } from '../numbering/recogniser.ts';
import { parseRule } from '../numbering/rule.ts';
import { findCitations } from './findCitations.ts';
import { impactOf, type Reference } from './impact.ts';
import { type CitedDocument, judgeCitation } from './judgeCitation.ts';

const rule = parseRule('THR-{type}-{counter:4}');
if (!rule.ok) throw new Error('the rule of this test cannot be read');
const recognise = createRecogniser([
  { id: 'r', rule: rule.value, codes: { types: ['PRO', 'FRM'], areas: [], departments: [], fields: {} } },
]);
const found = (text: string) =>
  findCitations(text, recognise).map(({ number, label }) => (label ? `${number} ${label}` : number));

/** THR-PRO-0118: in force at B, C approved for 7 December. */
const today: CitedDocument = {
  scheme: { kind: 'letters' },
  labels: ['A', 'B', 'C'],
  inForce: 'B',
  everInForce: true,
  withdrawn: false,
};
const on7December: CitedDocument = { ...today, inForce: 'C' };
const kind = (text: string, document: CitedDocument | undefined = today) => {
  const [citation] = findCitations(text, recognise);
  return citation && judgeCitation(citation, document);
};

describe('kinds', () => {
  test.each([
    ['see THR-PRO-0118, rev. B', today, 'current'],
    ['THR\u2011PRO\u20110118', today, 'current'],
    ['see THR-PRO-0118, rev. B', on7December, 'outdated'],
    ['THR-PRO-0118 revision A', today, 'outdated'],
    ['THR-PRO-0118 Rev C', today, 'ahead'],
    ['THR-PRO-0118 Rev K', today, 'no such revision'],
    ['THR-PRO-0118', { ...today, inForce: null, withdrawn: true }, 'withdrawn'],
    ['THR-PRO-0118 rev B', { ...today, inForce: null, withdrawn: true }, 'withdrawn'],
    ['THR-PRO-0118', { ...today, inForce: null, everInForce: false, labels: ['A'] }, 'never in force'],
    ['THR-PRO-0118 rev A', { ...today, inForce: null, everInForce: false, labels: ['A'] }, 'never in force'],
    // Not a label of letters: the number alone is cited.
    ['THR-PRO-0118 version 3', today, 'current'],
  ] as const)('"%s"', (text, document, expected) => {
    expect(kind(text, document)).toBe(expected);
  });
  test('an unused number is unknown, and a document that cites itself is marked', () => {
    expect(findCitations('THR-PRO-9999', recognise)).toHaveLength(1);
    expect(judgeCitation({ label: null }, undefined)).toBe('unknown number');
    expect(judgeCitation({ label: 'A' }, today, true)).toBe('self');
  });
});

describe('in a text', () => {
  test.each([
    ['THR-PRO-0118 and THR-PRO-0121 rev B', ['THR-PRO-0118', 'THR-PRO-0121 B']],
    ['XTHR-PRO-0118', []],
    ['THR-PRO-01185', []],
    ['THR-PRO-118', []],
    ['(THR-FRM-0020)', ['THR-FRM-0020']],
    ['THR-PRO-\n0118 is broken at the line', ['THR-PRO-0118']],
    ['THR\u00ad-PRO\u00ad-0118', ['THR-PRO-0118']],
    ['THR-PRO-0118, issue B; THR-PRO-0118 Revision: C.', ['THR-PRO-0118 B', 'THR-PRO-0118 C']],
    ['THR-PRO-0118 rev b', ['THR-PRO-0118']],
    ['THR-PRO-0118 revised by B', ['THR-PRO-0118']],
    ['THR-PRO-0118, which is far away from its rev B', ['THR-PRO-0118']],
    ['the form\nTHR-FRM-0020\nand more', ['THR-FRM-0020']],
    ['THR-PRO-0118-7', ['THR-PRO-0118']],
  ])('"%s"', (text, expected) => {
    expect(found(text)).toEqual(expected);
  });
  test('each is at the position given, in the original text', () => {
    const text = 'see THR\u2011PRO\u2011\n0118, then THR\u00ad-FRM-0020.';
    const spans = findCitations(text, recognise).map(({ start, end }) => text.slice(start, end));
    expect(spans).toEqual(['THR\u2011PRO\u2011\n0118', 'THR\u00ad-FRM-0020']);
  });
  test('whatever the surroundings, every number that was put in is found once, with its label', () => {
    const word = fc.constantFrom('see', 'of', 'rope', 'and', '12', 'kN', 'Rev', 'B', 'THR', 'PRO-', '0118', '-', '–');
    const words = fc.array(word, { maxLength: 6 }).map((list) => list.join(' '));
    const cited = fc.tuple(
      words,
      fc.constantFrom('PRO', 'FRM'),
      fc.integer({ min: 1, max: 9999 }),
      fc.option(fc.constantFrom('A', 'B', 'AC')),
    );
    fc.assert(
      fc.property(fc.array(cited, { maxLength: 6 }), (list) => {
        const wanted: string[] = [];
        const text = list
          .map(([before, type, counter, label]) => {
            const number = `THR-${type}-${String(counter).padStart(4, '0')}`;
            wanted.push(label ? `${number} ${label}` : number);
            return `${before} . ${number}${label ? `, rev. ${label}` : ''} .`;
          })
          .join(' and so on, further on than any label could reach, ');
        const clean = found(text).filter((one) => wanted.some((number) => number.startsWith(one.slice(0, 12))));
        expect(clean.map((one) => one.slice(0, 12))).toEqual(wanted.map((one) => one.slice(0, 12)));
        for (const [i, one] of wanted.entries()) if (one.length > 12) expect(clean[i]).toBe(one);
      }),
    );
  });
});

describe('impact', () => {
  const graph = fc.array(fc.record({ from: fc.constantFrom(...'abcdefgh'), to: fc.constantFrom(...'abcdefgh') }), {
    maxLength: 24,
  });
  test('reaches all that refer, over any number of steps, by a way that is there and is the shortest', () => {
    fc.assert(
      fc.property(graph, (references) => {
        const has = (from: string, to: string) => references.some((one) => one.from === from && one.to === to);
        const reached = impactOf('a', references);
        for (const { id, distance, path } of reached) {
          expect([path[0], path.at(-1), path.length]).toEqual([id, 'a', distance + 1]);
          for (let i = 0; i + 1 < path.length; i++) expect(has(path[i] as string, path[i + 1] as string)).toBe(true);
        }
        // Nothing that refers to a reached document is left out, and none is more than one step beyond its nearest.
        const distance = new Map([['a', 0], ...reached.map((one) => [one.id, one.distance] as const)]);
        for (const { from, to } of references) {
          const near = distance.get(to);
          if (near !== undefined && from !== 'a') expect(distance.get(from) ?? 99).toBeLessThanOrEqual(near + 1);
        }
      }),
    );
  });
  test('circles end, and a document is not reached by itself', () => {
    const circle: Reference[] = [
      { from: 'a', to: 'b' },
      { from: 'b', to: 'c' },
      { from: 'c', to: 'a' },
      { from: 'a', to: 'a' },
    ];
    expect(impactOf('a', circle)).toEqual([
      { id: 'c', distance: 1, path: ['c', 'a'] },
      { id: 'b', distance: 2, path: ['b', 'c', 'a'] },
    ]);
  });
});
