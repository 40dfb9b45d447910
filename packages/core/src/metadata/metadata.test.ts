import { expect, test } from 'vitest';
import {
  changedMetadata,
  checkMetadata,
  defaultMetadata,
  type FieldDefinition,
  missingFields,
  showFieldValue,
  splitMetadata,
} from './metadata.ts';

const field = (key: string, kind: FieldDefinition['kind'], more: Partial<FieldDefinition> = {}): FieldDefinition => ({
  key,
  label: key,
  kind,
  mandatory: false,
  level: 'document',
  ...more,
});
const fields = [
  field('carrier', 'number', { mandatory: true, level: 'revision' }),
  field('section', 'choice', { options: [{ code: 'S3', text: 'Section 3' }] }),
  field('tested', 'date'),
  field('spare', 'yes/no'),
  field('remark', 'text', { mandatory: true }),
];

test('metadata of an unknown field or of another kind are refused by name', () => {
  const codes = (metadata: Record<string, string | number | boolean>) =>
    checkMetadata(fields, metadata).map((r) => `${r.code} ${r.params?.field}`);
  expect(codes({ carrier: 31, section: 'S3', tested: '2026-11-25', spare: true, remark: 'x' })).toEqual([]);
  expect(codes({ colour: 'red' })).toEqual(['field_unknown colour']);
  expect(codes({ carrier: '31', section: 'S9', tested: '2026-02-30', spare: 'yes', remark: 'x'.repeat(5000) })).toEqual(
    [
      'field_wrong_kind carrier',
      'field_wrong_kind section',
      'field_wrong_kind tested',
      'field_wrong_kind spare',
      'field_wrong_kind remark',
    ],
  );
});

test('mandatory metadata without a value are named', () => {
  expect(missingFields(fields, { remark: '' })).toEqual(['carrier', 'remark']);
  expect(missingFields(fields, { carrier: 0, remark: 'x' })).toEqual([]);
});

test('revision and document fields are separated, and changes have both values', () => {
  expect(splitMetadata(fields, { carrier: 31, remark: 'x', spare: null })).toEqual({
    revisionFields: { carrier: 31 },
    documentFields: { remark: 'x' },
  });
  expect(changedMetadata({ a: 1, b: 2 }, { a: 1, c: 3 })).toEqual([
    { key: 'b', before: 2, after: null },
    { key: 'c', before: null, after: 3 },
  ]);
});

test('a dependent choice takes the options of the choice above, a retired option only where it was chosen before', () => {
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
  expect(checkMetadata(both, { country: 'CH', site: 'TV' })).toEqual([]);
  expect(checkMetadata(both, { country: 'AT', site: 'TV' })[0]?.params?.wanted).toBe('one of LT');
  expect(checkMetadata(both, { country: 'CH', site: 'OLD' })).toHaveLength(1);
  expect(checkMetadata(both, { country: 'CH', site: 'OLD' }, { country: 'CH', site: 'OLD' })).toEqual([]);
  expect(checkMetadata(both, { country: 'AT', site: 'OLD' }, { country: 'CH', site: 'OLD' })).toHaveLength(1);
});

test('a text that does not fit its pattern is refused with the pattern’s own sentence', () => {
  const tag = field('tag', 'text', { pattern: '[A-Z]{2}-\\d{3}', patternWords: 'a tag such as GR-031' });
  expect(checkMetadata([tag], { tag: 'GR-031' })).toEqual([]);
  expect(checkMetadata([tag], { tag: 'GR-0312' })[0]?.params?.wanted).toBe('a tag such as GR-031');
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
  expect(checkMetadata(more, { sites: ['A', 'B'], team: ['x.y'], page: 'https://rope.example/a' })).toEqual([]);
  expect(checkMetadata(more, { sites: ['C'], team: 'x.y', page: 'rope' }).map((r) => r.params?.field)).toEqual([
    'sites',
    'team',
    'page',
  ]);
  expect(showFieldValue(more[0], ['A', 'B'])).toBe('Alpha, Beta');
  expect(missingFields([{ ...(more[0] as FieldDefinition), mandatory: true }], { sites: [] })).toEqual(['sites']);
});

test('first values come from the source set on the field, by its kind', () => {
  const known = {
    today: '2026-11-25',
    me: 'ines.varga',
    folder: { client: 'TRN', scale: '1:50' },
    parent: { line: 'Tarn' },
  };
  expect(
    defaultMetadata(
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
