import { expect, test } from 'vitest';
import type { FieldDefinition } from '../metadata/metadata.ts';
import { checkTypeRule, NEW_TYPE, type TypeRule } from './typeRule.ts';

const line: FieldDefinition = {
  key: 'line',
  label: 'Line',
  kind: 'choice',
  mandatory: true,
  level: 'document',
  options: [{ code: 'N', text: 'North line' }],
};
const good: TypeRule = {
  ...NEW_TYPE,
  code: 'PRO',
  name: 'Procedure',
  family: 'Operation',
  numbering: 'THR-{type}-{counter:4}',
  naming: '{number}_{revision}_{title}.{ext}',
  fields: [line],
};
const codes = (change: Partial<TypeRule>) => checkTypeRule({ ...good, ...change }).map((r) => r.code);

test('a correct rule has no findings', () => {
  expect(codes({})).toEqual([]);
  expect(codes({ numbering: null, externalPattern: '[A-Z]{3} .+', scheme: { kind: 'own' } })).toEqual([]);
  expect(codes({ scheme: { kind: 'staged', stages: [{ prefix: 'P', width: 2 }, { letters: true }] } })).toEqual([]);
});

test('a numbering rule may use a choice that is always given, and no free text', () => {
  expect(codes({ numbering: 'THR-{field:line}-{counter:3}' })).toEqual([]);
  expect(codes({ numbering: 'THR-{field:line}-{counter:3}', fields: [{ ...line, mandatory: false }] })).toEqual([
    'rule_field_not_mandatory',
  ]);
  expect(codes({ numbering: 'THR-{field:line}-{counter:3}', fields: [{ ...line, kind: 'text' }] })).toEqual([
    'rule_field_free',
  ]);
  expect(codes({ numbering: 'THR-{field:gone}-{counter:3}' })).toEqual(['rule_field_unknown']);
  expect(codes({ numbering: 'THR-{kind}' })).toEqual(['rule_token_unknown']);
  expect(codes({ externalPattern: '[A-Z' })).toEqual(['type_number_source', 'external_pattern_unreadable']);
});

test('a naming rule names known parts and ends in the extension', () => {
  expect(codes({ naming: '{number}_{field:line}.{ext}' })).toEqual([]);
  expect(codes({ naming: '{number}_{colour}.{ext}' })).toEqual(['naming_token_unknown']);
  expect(codes({ naming: '{number}' })).toEqual(['naming_without_ext']);
  expect(codes({ naming: '{date}.{ext}' })).toEqual(['naming_says_nothing']);
  expect(codes({ naming: '{number.{ext}' })).toEqual(['naming_brace_unmatched']);
});

test('stages are there, apart, and end in digits of a usable width', () => {
  expect(codes({ scheme: { kind: 'staged', stages: [] } })).toEqual(['scheme_without_stages']);
  expect(
    codes({
      scheme: {
        kind: 'staged',
        stages: [
          { prefix: 'P', width: 2 },
          { prefix: 'P', width: 1 },
        ],
      },
    }),
  ).toEqual(['scheme_stage_twice']);
  expect(codes({ scheme: { kind: 'staged', stages: [{ prefix: 'P1', width: 2 }] } })).toEqual(['scheme_stage_invalid']);
});

test('unusable code, name and review months are reported', () => {
  expect(codes({ code: 'A B', name: ' ', reviewEvery: 500 })).toEqual([
    'type_code_invalid',
    'type_without_name',
    'review_every_invalid',
  ]);
});
