import fc from 'fast-check';
import { expect, test } from 'vitest';
import { formatSearch, parseSearch, SEARCH_FIELDS, type SearchTerm } from './grammar.ts';

const terms = (text: string, metadata = {}) => {
  const parsed = parseSearch(text, metadata);
  return parsed.ok ? parsed.value.terms : parsed.refusals;
};

test('words, phrases, negations and fields are distinguished', () => {
  expect(terms('grip "slip force" not chain owner:me state:overdue effective>=2026-12-01 titl')).toEqual([
    { kind: 'word', text: 'grip', not: false, prefix: false },
    { kind: 'phrase', text: 'slip force', not: false },
    { kind: 'word', text: 'chain', not: true, prefix: false },
    { kind: 'field', field: 'owner', compare: ':', value: 'me', not: false },
    { kind: 'field', field: 'state', compare: ':', value: 'overdue', not: false },
    { kind: 'field', field: 'effective', compare: '>=', value: '2026-12-01', not: false },
    { kind: 'word', text: 'titl', not: false, prefix: true },
  ]);
});

test('a value with blanks is quoted, and metadata of the types are fields', () => {
  expect(terms('type:"work instruction" torque<=40', { torque: 'number' })).toEqual([
    { kind: 'field', field: 'type', compare: ':', value: 'work instruction', not: false },
    { kind: 'field', field: 'torque', compare: '<=', value: '40', not: false },
  ]);
});

test.each([
  ['colour:red', 'search_field_unknown', 1],
  ['grip owner:', 'search_value_missing', 6],
  ['title>=b', 'search_not_comparable', 1],
  ['effective>=tomorrow', 'search_date_invalid', 1],
  ['"open', 'search_quote_open', 1],
])('%s is refused with its position', (text, code, at) => {
  expect(terms(text)[0]).toMatchObject({ code, params: { at } });
});

test('what is written reads back the same', () => {
  const plain = fc.stringMatching(/^[a-zA-Zäöü0-9-]{1,12}$/).filter((s) => s.toLowerCase() !== 'not');
  const term: fc.Arbitrary<SearchTerm> = fc.oneof(
    fc.record({ kind: fc.constant('word' as const), text: plain, not: fc.boolean(), prefix: fc.constant(false) }),
    fc.record({
      kind: fc.constant('phrase' as const),
      text: fc.tuple(plain, plain).map((p) => p.join(' ')),
      not: fc.boolean(),
    }),
    fc.record({
      kind: fc.constant('field' as const),
      field: fc.constantFrom(...Object.keys(SEARCH_FIELDS)),
      compare: fc.constant(':' as const),
      value: fc.tuple(plain, plain).map((p) => p.join(' ')),
      not: fc.boolean(),
    }),
  );
  fc.assert(
    fc.property(fc.array(term, { maxLength: 6 }), (list) => {
      const parsed = parseSearch(`${formatSearch({ terms: list })} `);
      return parsed.ok && JSON.stringify(parsed.value.terms) === JSON.stringify(list);
    }),
  );
});

test('no text makes the reader fail', () => {
  fc.assert(fc.property(fc.string({ maxLength: 80 }), (text) => typeof parseSearch(text).ok === 'boolean'));
});
