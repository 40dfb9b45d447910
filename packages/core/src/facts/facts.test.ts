import { expect, test } from 'vitest';
import { changedFacts, checkFacts, type FieldDefinition, missingFacts, splitFacts } from './facts.ts';

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
