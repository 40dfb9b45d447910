import { expect, test } from 'vitest';
import { findTypes } from './findTypes.ts';

const type = (code: string, name: string, help = '') => ({
  code,
  name,
  help,
  family: 'Operation',
  group: '',
  example: '',
});
const types = [
  type('PRO', 'Procedure', 'Who does what'),
  type('PRC', 'Process description'),
  type('WIN', 'Work instruction', 'One task, no procedure of many'),
  type('RPT', 'Report'),
];

test('the code comes before the name, the name before what it is for', () => {
  expect(findTypes(types, 'pro').map((t) => t.code)).toEqual(['PRO', 'PRC', 'WIN']);
  expect(findTypes(types, 'procedure').map((t) => t.code)).toEqual(['PRO', 'WIN']);
});

test('every word must be somewhere, also in family or group', () => {
  expect(findTypes(types, 'work operation').map((t) => t.code)).toEqual(['WIN']);
  expect(findTypes(types, 'work rope')).toEqual([]);
  expect(findTypes(types, 'instr')).toHaveLength(1);
});
