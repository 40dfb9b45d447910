import { expect, test } from 'vitest';
import type { Right } from '../access/rights.ts';
import { field } from '../testing/field.ts';
import { type BulkDocument, bulkDifferences, decideBulk } from './decideBulk.ts';

const fields = [
  field('limit', { level: 'revision' }),
  field('client'),
  field('country', {
    kind: 'choice',
    options: [
      { code: 'CH', text: '' },
      { code: 'AT', text: '' },
    ],
  }),
  field('place', {
    kind: 'choice',
    dependsOn: 'country',
    options: [
      { code: 'TV', text: '', under: 'CH' },
      { code: 'OB', text: '', under: 'AT' },
    ],
  }),
];
const document: BulkDocument = {
  metadata: { client: 'Tarnholt', country: 'CH', place: 'TV' },
  keywords: ['grip', 'Rope'],
  ownerId: 'otto',
  folderId: 'f1',
  reviewOn: null,
  fields,
  rights: new Set<Right>(['manage']),
  isDraft: false,
};
const codes = (change: Parameters<typeof decideBulk>[1], more: Partial<BulkDocument> = {}) => {
  const decided = decideBulk({ ...document, ...more }, change);
  return decided.ok ? 'done' : decided.refusals.map((r) => r.code);
};

test('document fields change with manage, of a draft with author, and signed ones never', () => {
  expect(codes({ metadata: { client: 'Oberlauf' } })).toBe('done');
  expect(codes({ metadata: { client: 'x' } }, { rights: new Set<Right>(['author']) })).toEqual(['right_missing']);
  expect(codes({ metadata: { client: 'x' } }, { rights: new Set<Right>(['author']), isDraft: true })).toBe('done');
  expect(codes({ metadata: { limit: '12' } })).toEqual(['field_is_revision_level']);
  expect(codes({ metadata: { colour: 'red' } })).toEqual(['field_unknown']);
});

test('a dependent choice must still belong to the one above it, whichever of the two changes', () => {
  expect(codes({ metadata: { country: 'AT' } })).toEqual(['field_wrong_kind']);
  expect(codes({ metadata: { country: 'AT', place: 'OB' } })).toBe('done');
  expect(codes({ metadata: { place: 'OB' } })).toEqual(['field_wrong_kind']);
  expect(codes({ metadata: { country: 'AT', place: null } })).toBe('done');
});

test('moving asks for author where it goes', () => {
  expect(codes({ folderId: 'f2' })).toEqual(['right_missing_in_folder']);
  expect(codes({ folderId: 'f2' }, { rightsInFolder: new Set<Right>(['author']) })).toBe('done');
  expect(codes({ folderId: 'f1' })).toBe('done');
});

test('keywords are added once and removed without case; the difference names what changes and nothing else', () => {
  const decided = decideBulk(document, {
    addKeywords: ['GRIP', 'winter'],
    removeKeywords: ['rope'],
    metadata: { client: null },
  });
  if (!decided.ok) throw new Error();
  expect(decided.value.keywords).toEqual(['grip', 'winter']);
  expect(bulkDifferences(document, decided.value)).toEqual([
    { what: 'metadata.client', before: 'Tarnholt', after: null },
    { what: 'keywords', before: ['grip', 'Rope'], after: ['grip', 'winter'] },
  ]);
  const nothing = decideBulk(document, { ownerId: 'otto', addKeywords: ['grip'] });
  expect(nothing.ok && bulkDifferences(document, nothing.value)).toEqual([]);
});
