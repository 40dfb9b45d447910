import { expect, test } from 'vitest';
import type { FieldDefinition } from '../metadata/metadata.ts';
import { fieldUses } from './fieldUses.ts';
import { NEW_TYPE, type TypeRule } from './typeRule.ts';

const field = (key: string, more: Partial<FieldDefinition> = {}): FieldDefinition => ({
  key,
  label: key.toUpperCase(),
  kind: 'text',
  mandatory: false,
  level: 'revision',
  ...more,
});
const rule: TypeRule = {
  ...NEW_TYPE,
  code: 'ACC',
  name: 'Acceptance',
  family: '',
  numbering: 'THR-{field:line}-{counter:3}',
  naming: '{number}_{field:line}_{title}.{ext}',
  filing: 'Projects / {field:client}',
  fields: [
    field('region', { kind: 'choice' }),
    field('line', { kind: 'choice', dependsOn: 'region' }),
    field('project', { kind: 'entry', fills: { client: 'client', lead: 'lead' } }),
    field('client'),
    field('lead', { kind: 'person' }),
    field('until', { kind: 'date', remind: { days: 30, to: 'lead' } }),
    field('note'),
  ],
  route: {
    name: 'usual',
    steps: [
      {
        name: 'Approval',
        kind: 'approval',
        assignees: [{ by: 'field', key: 'lead' }],
        rule: { kind: 'all' },
        workingDays: 3,
        onReject: 'draft',
      },
    ],
  },
  head: '{field:client} {number}',
};
const uses = (key: string) => fieldUses(rule, key).map((use) => Object.values(use).join(' ').trim());

test('each field lists its effects', () => {
  expect(uses('line')).toEqual(['number', 'file name']);
  expect(uses('client')).toEqual(['folder', 'header or footer']);
  expect(uses('region')).toEqual(['options LINE']);
  expect(uses('project')).toEqual(['filling CLIENT', 'filling LEAD']);
  expect(uses('lead')).toEqual(['step Approval', 'reminder 30 UNTIL']);
  expect(uses('until')).toEqual(['reminder 30 UNTIL']);
  expect(uses('note')).toEqual([]);
});

test('a key that is a part of another one drives nothing of it, and a rule that cannot be read drives nothing', () => {
  expect(fieldUses({ ...rule, naming: '{field:lines}' }, 'line').map(({ what }) => what)).toEqual(['number']);
  expect(fieldUses({ ...rule, numbering: '{field:line', naming: '{' }, 'line')).toEqual([]);
});
