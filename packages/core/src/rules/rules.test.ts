import { expect, test } from 'vitest';
import type { FieldDefinition } from '../metadata/metadata.ts';
import { field } from '../testing/field.ts';
import { ruleDifferences } from './difference.ts';
import { checkFields } from './fields.ts';

const codes = (fields: FieldDefinition[]) => checkFields(fields).map((r) => `${r.code} ${r.params?.field}`);

test('keys of fields are usable, not taken by the search, and once each', () => {
  expect(codes([field('limit'), field('testedOn')])).toEqual([]);
  expect(codes([field('Limit'), field('two words'), field('title'), field('a'), field('a')])).toEqual([
    'field_key_invalid Limit',
    'field_key_invalid two words',
    'field_key_reserved title',
    'field_key_twice a',
  ]);
});

test('a choice needs options or a list, an entry a list', () => {
  expect(codes([field('c', { kind: 'choice' }), field('e', { kind: 'entry' })])).toEqual([
    'field_without_options c',
    'field_without_list e',
  ]);
  expect(
    codes([field('c', { kind: 'choice', list: 'region' }), field('e', { kind: 'entry', list: 'project' })]),
  ).toEqual([]);
  expect(
    codes([
      field('c', {
        kind: 'choices',
        options: [
          { code: 'A', text: '' },
          { code: 'A', text: '' },
          { code: ' ', text: '' },
        ],
      }),
    ]),
  ).toEqual(['option_code_twice c', 'option_code_invalid c']);
});

test('choices that depend on each other in a circle are refused, and those that depend on nothing', () => {
  const choice = (key: string, dependsOn: string) => field(key, { kind: 'choice', list: key, dependsOn });
  expect(
    codes([field('region', { kind: 'choice', list: 'r' }), choice('country', 'region'), choice('site', 'country')]),
  ).toEqual([]);
  expect(codes([choice('a', 'b'), choice('b', 'c'), choice('c', 'a')])).toEqual([
    'field_depends_in_circle a',
    'field_depends_in_circle b',
    'field_depends_in_circle c',
  ]);
  expect(codes([choice('a', 'nothing'), choice('b', 'free'), field('free')])).toEqual([
    'field_depends_on_nothing a',
    'field_depends_on_nothing b',
  ]);
});

test('patterns that cannot be read and defaults that do not fit are refused', () => {
  expect(
    codes([
      field('p', { pattern: '[A-Z' }),
      field('n', { kind: 'number', default: { from: 'fixed', value: 'many' } }),
      field('d', { default: { from: 'today' } }),
      field('m', { kind: 'person', default: { from: 'me' } }),
      field('q', { pattern: '[A-Z]{2}', default: { from: 'fixed', value: 'abc' } }),
    ]),
  ).toEqual([
    'field_pattern_unreadable p',
    'field_default_misfits n',
    'field_default_misfits d',
    'field_default_misfits q',
  ]);
});

test('the difference of two editions names each place once, and things by their key', () => {
  const before = {
    name: 'Procedure',
    fields: [
      { key: 'limit', mandatory: false },
      { key: 'tool', label: 'Tool' },
    ],
    scheme: { kind: 'letters' },
  };
  const after = {
    name: 'Procedure',
    fields: [
      { key: 'limit', mandatory: true },
      { key: 'area', label: 'Area' },
    ],
    scheme: { kind: 'integers', first: 1 },
  };
  expect(ruleDifferences(before, after)).toEqual([
    { what: 'fields.limit.mandatory', before: 'no', after: 'yes' },
    { what: 'fields.tool', before: 'label Tool', after: '–' },
    { what: 'fields.area', before: '–', after: 'label Area' },
    { what: 'scheme.kind', before: 'letters', after: 'integers' },
    { what: 'scheme.first', before: '–', after: '1' },
  ]);
  expect(ruleDifferences(before, structuredClone(before))).toEqual([]);
});

test('things in another order are shown as an order, not as changed things', () => {
  const [a, b] = [
    { code: 'A', text: 'a' },
    { code: 'B', text: 'b' },
  ];
  expect(ruleDifferences({ options: [a, b] }, { options: [b, a] })).toEqual([
    { what: 'options, order', before: 'A, B', after: 'B, A' },
  ]);
});

test('a thing that is no more than its code came or went', () => {
  expect(ruleDifferences({ options: [{ code: 'A', text: '' }] }, { options: [{ code: 'B' }] })).toEqual([
    { what: 'options.A', before: 'there', after: '–' },
    { what: 'options.B', before: '–', after: 'there' },
  ]);
});

test('the order of keys is no difference', () => {
  expect(
    ruleDifferences(
      { scheme: { kind: 'a', stages: [{ x: 1, y: 2 }] } },
      { scheme: { stages: [{ y: 2, x: 1 }], kind: 'a' } },
    ),
  ).toEqual([]);
});
