import fc from 'fast-check';
import { expect, test } from 'vitest';
import { formatSearch, parseSearch, SEARCH_FIELDS, type SearchCondition, type SearchTerm } from './grammar.ts';

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

test('“or” joins words, or conditions on fields, and binds closer than what stands side by side', () => {
  const word = (text: string, prefix = false) => ({ kind: 'word', text, not: false, prefix });
  const type = (value: string, not = false) => ({ kind: 'field', field: 'type', compare: ':', value, not });
  expect(terms('new grip or jaw OR "slip force" ')).toEqual([
    word('new'),
    { kind: 'either', of: [word('grip'), word('jaw'), { kind: 'phrase', text: 'slip force', not: false }], not: false },
  ]);
  expect(terms('type:PRO or not type:WIN ow')).toEqual([
    { kind: 'either', of: [type('PRO'), type('WIN', true)], not: false },
    word('ow', true),
  ]);
  expect(terms('grip or ja')).toEqual([{ kind: 'either', of: [word('grip'), word('ja', true)], not: false }]);
  expect(terms('"or" field-or-not')).toHaveLength(2);
});

test.each([
  ['colour:red', 'search_field_unknown', 1],
  ['grip owner:', 'search_value_missing', 6],
  ['title>=b', 'search_not_comparable', 1],
  ['effective>=tomorrow', 'search_date_invalid', 1],
  ['"open', 'search_quote_open', 1],
  ['or grip', 'search_or_alone', 1],
  ['grip or', 'search_or_alone', 6],
  ['grip or or jaw', 'search_or_alone', 9],
  ['grip or type:PRO', 'search_or_mixed', 6],
  ['grip or not jaw', 'search_or_not', 6],
])('%s is refused with its position', (text, code, at) => {
  expect(terms(text)[0]).toMatchObject({ code, params: { at } });
});

test('what is written reads back the same', () => {
  const plain = fc.stringMatching(/^[a-zA-Zäöü0-9-]{1,12}$/).filter((s) => !['not', 'or'].includes(s.toLowerCase()));
  const condition: fc.Arbitrary<SearchCondition> = fc.oneof(
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
  const alternatives = fc
    .tuple(fc.array(condition, { minLength: 2, maxLength: 4 }), fc.boolean())
    .map(([all, fields]) => {
      const of = all
        .filter(({ kind }) => (kind === 'field') === fields)
        .map((one) => (fields ? one : { ...one, not: false }));
      return { kind: 'either' as const, of, not: false as const };
    })
    .filter(({ of }) => of.length > 1);
  const term: fc.Arbitrary<SearchTerm> = fc.oneof(condition, alternatives);
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
