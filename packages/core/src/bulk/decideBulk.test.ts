import { expect, test } from 'vitest';
import type { Right } from '../access/rights.ts';
import type { FieldDefinition } from '../facts/facts.ts';
import { type BulkDocument, bulkDifferences, decideBulk } from './decideBulk.ts';

const field = (key: string, more: Partial<FieldDefinition> = {}): FieldDefinition => ({
  key,
  label: key,
  kind: 'text',
  mandatory: false,
  signed: false,
  ...more,
});
const fields = [
  field('limit', { signed: true }),
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
  facts: { client: 'Tarnholt', country: 'CH', place: 'TV' },
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

test('living facts change with manage, of a draft with author, and signed ones never', () => {
  expect(codes({ facts: { client: 'Oberlauf' } })).toBe('done');
  expect(codes({ facts: { client: 'x' } }, { rights: new Set<Right>(['author']) })).toEqual(['right_missing']);
  expect(codes({ facts: { client: 'x' } }, { rights: new Set<Right>(['author']), isDraft: true })).toBe('done');
  expect(codes({ facts: { limit: '12' } })).toEqual(['fact_is_signed']);
  expect(codes({ facts: { colour: 'red' } })).toEqual(['fact_unknown']);
});

test('a dependent choice must still stand under the one above it, whichever of the two changes', () => {
  expect(codes({ facts: { country: 'AT' } })).toEqual(['fact_wrong_kind']);
  expect(codes({ facts: { country: 'AT', place: 'OB' } })).toBe('done');
  expect(codes({ facts: { place: 'OB' } })).toEqual(['fact_wrong_kind']);
  expect(codes({ facts: { country: 'AT', place: null } })).toBe('done');
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
    facts: { client: null },
  });
  if (!decided.ok) throw new Error();
  expect(decided.value.keywords).toEqual(['grip', 'winter']);
  expect(bulkDifferences(document, decided.value)).toEqual([
    { what: 'facts.client', before: 'Tarnholt', after: null },
    { what: 'keywords', before: ['grip', 'Rope'], after: ['grip', 'winter'] },
  ]);
  const nothing = decideBulk(document, { ownerId: 'otto', addKeywords: ['grip'] });
  expect(nothing.ok && bulkDifferences(document, nothing.value)).toEqual([]);
});
