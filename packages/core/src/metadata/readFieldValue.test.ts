import { expect, test } from 'vitest';
import type { FieldDefinition, FieldKind } from './metadata.ts';
import { metadataFromNamed, readFieldValue } from './readFieldValue.ts';

const field = (kind: FieldKind, key = 'key', more: Partial<FieldDefinition> = {}): FieldDefinition => ({
  key,
  label: 'Its label',
  kind,
  mandatory: false,
  level: 'revision',
  ...more,
});
const options = [
  { code: 'N', text: 'North line' },
  { code: 'S', text: 'South line' },
  { code: 'O', text: 'Old line', retired: true },
];

test.each<[FieldKind, string, unknown]>([
  ['text', '  as it stands ', 'as it stands'],
  ['number', '12,5 mm', 12.5],
  ['number', '-3', -3],
  ['number', 'about 12', undefined],
  ['date', '2026-11-25', '2026-11-25'],
  ['date', 'on 5.3.2026', '2026-03-05'],
  ['date', '2026-02-30', undefined],
  ['date', '05/03/2026', undefined],
  ['yes/no', 'Yes', true],
  ['yes/no', 'FALSE', false],
  ['yes/no', 'perhaps', undefined],
  ['choice', 'south LINE', 'S'],
  ['choice', 'n', 'N'],
  ['choice', 'Old line', undefined],
  ['choices', 'N; South line', ['N', 'S']],
  ['choices', 'N, West line', undefined],
  ['person', 'Ines Varga', undefined],
  ['text', '   ', undefined],
])('a %s written as "%s" is %j', (kind, text, value) => {
  expect(readFieldValue(field(kind, 'key', { options }), text)).toEqual(value);
});

test('a value under the key takes precedence over one under the label, and other names are ignored', () => {
  const fields = [field('text', 'one', { label: 'First' }), field('number', 'two', { label: 'Second value' })];
  expect(metadataFromNamed(fields, { ONE: 'by key', First: 'by label', 'second value': '7 kN', third: 'x' })).toEqual({
    one: 'by key',
    two: 7,
  });
  expect(metadataFromNamed(fields, { two: 'no figure' })).toEqual({});
});
