import { expect, test } from 'vitest';
import {
  changedFacts,
  checkFacts,
  defaultFacts,
  type FieldDefinition,
  missingFacts,
  showFact,
  splitFacts,
} from './facts.ts';

const field = (key: string, kind: FieldDefinition['kind'], more: Partial<FieldDefinition> = {}): FieldDefinition => ({
  key,
  label: key,
  kind,
  mandatory: false,
  signed: false,
  ...more,
});
const fields = [
  field('carrier', 'number', { mandatory: true, signed: true }),
  field('section', 'choice', { options: [{ code: 'S3', text: 'Section 3' }] }),
  field('tested', 'date'),
  field('spare', 'yes/no'),
  field('remark', 'text', { mandatory: true }),
];

test('facts of an unknown field or of another kind are refused by name', () => {
  const codes = (facts: Record<string, string | number | boolean>) =>
    checkFacts(fields, facts).map((r) => `${r.code} ${r.params?.field}`);
  expect(codes({ carrier: 31, section: 'S3', tested: '2026-11-25', spare: true, remark: 'x' })).toEqual([]);
  expect(codes({ colour: 'red' })).toEqual(['fact_unknown colour']);
  expect(codes({ carrier: '31', section: 'S9', tested: '2026-02-30', spare: 'yes', remark: 'x'.repeat(5000) })).toEqual(
    [
      'fact_wrong_kind carrier',
      'fact_wrong_kind section',
      'fact_wrong_kind tested',
      'fact_wrong_kind spare',
      'fact_wrong_kind remark',
    ],
  );
});

test('mandatory facts without a value are named', () => {
  expect(missingFacts(fields, { remark: '' })).toEqual(['carrier', 'remark']);
  expect(missingFacts(fields, { carrier: 0, remark: 'x' })).toEqual([]);
});

test('signed and living facts come apart, and changes are told with both values', () => {
  expect(splitFacts(fields, { carrier: 31, remark: 'x', spare: null })).toEqual({
    signed: { carrier: 31 },
    living: { remark: 'x' },
  });
  expect(changedFacts({ a: 1, b: 2 }, { a: 1, c: 3 })).toEqual([
    { key: 'b', before: 2, after: null },
    { key: 'c', before: null, after: 3 },
  ]);
});

test('a dependent choice takes what stands under the choice above, a retired option only where it stood before', () => {
  const site = field('site', 'choice', {
    dependsOn: 'country',
    options: [
      { code: 'TV', text: 'Tarn Valley', under: 'CH' },
      { code: 'LT', text: 'Lower Tarn', under: 'AT' },
      { code: 'OLD', text: 'Old hall', under: 'CH', retired: true },
    ],
  });
  const both = [
    field('country', 'choice', {
      options: [
        { code: 'CH', text: '' },
        { code: 'AT', text: '' },
      ],
    }),
    site,
  ];
  expect(checkFacts(both, { country: 'CH', site: 'TV' })).toEqual([]);
  expect(checkFacts(both, { country: 'AT', site: 'TV' })[0]?.params?.wanted).toBe('one of LT');
  expect(checkFacts(both, { country: 'CH', site: 'OLD' })).toHaveLength(1);
  expect(checkFacts(both, { country: 'CH', site: 'OLD' }, { country: 'CH', site: 'OLD' })).toEqual([]);
  expect(checkFacts(both, { country: 'AT', site: 'OLD' }, { country: 'CH', site: 'OLD' })).toHaveLength(1);
});

test('a text that does not fit its pattern is refused with the pattern’s own sentence', () => {
  const tag = field('tag', 'text', { pattern: '[A-Z]{2}-\\d{3}', patternWords: 'a tag such as GR-031' });
  expect(checkFacts([tag], { tag: 'GR-031' })).toEqual([]);
  expect(checkFacts([tag], { tag: 'GR-0312' })[0]?.params?.wanted).toBe('a tag such as GR-031');
});

test('several choices, people and web addresses are checked by their kind', () => {
  const more = [
    field('sites', 'choices', {
      options: [
        { code: 'A', text: 'Alpha' },
        { code: 'B', text: 'Beta' },
      ],
    }),
    field('team', 'people'),
    field('page', 'web address'),
  ];
  expect(checkFacts(more, { sites: ['A', 'B'], team: ['x.y'], page: 'https://rope.example/a' })).toEqual([]);
  expect(checkFacts(more, { sites: ['C'], team: 'x.y', page: 'rope' }).map((r) => r.params?.field)).toEqual([
    'sites',
    'team',
    'page',
  ]);
  expect(showFact(more[0], ['A', 'B'])).toBe('Alpha, Beta');
  expect(missingFacts([{ ...(more[0] as FieldDefinition), mandatory: true }], { sites: [] })).toEqual(['sites']);
});

test('first values come from where the field says, by its kind', () => {
  const known = {
    today: '2026-11-25',
    me: 'ines.varga',
    folder: { client: 'TRN', scale: '1:50' },
    parent: { line: 'Tarn' },
  };
  expect(
    defaultFacts(
      [
        field('years', 'number', { default: { from: 'fixed', value: '10' } }),
        field('on', 'date', { default: { from: 'today' } }),
        field('lead', 'people', { default: { from: 'me' } }),
        field('client', 'text', { default: { from: 'folder' } }),
        field('line', 'text', { default: { from: 'parent' } }),
        field('none', 'text'),
      ],
      known,
    ),
  ).toEqual({ years: 10, on: '2026-11-25', lead: ['ines.varga'], client: 'TRN', line: 'Tarn' });
});
