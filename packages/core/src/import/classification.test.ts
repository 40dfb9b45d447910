import { expect, test } from 'vitest';
import { readClassification } from './classification.ts';

const HEADINGS = [
  'Code',
  'Name',
  'Class',
  'Group',
  'Definition',
  'Like',
  'Fields',
  'List',
  'Depends on',
  'Option',
  'Text',
  'Under',
];
const type = (code: string, name: string, more: string[] = []) => [
  code,
  name,
  'Operation',
  'Running',
  'What runs',
  ...more,
];
const option = (list: string, above: string, code: string, under = '') => [
  '',
  '',
  '',
  '',
  '',
  '',
  '',
  list,
  above,
  code,
  `${code} text`,
  under,
];

test('types come with place, help and fields; lists with what they depend on', () => {
  const read = readClassification(HEADINGS, [
    type('nit', 'Night order', ['pro', 'Line, Line section']),
    ['', ''],
    option('Line', '', 'N'),
    option('Line section', 'Line', 'N1', 'N'),
  ]);
  expect(read.wrong).toEqual([]);
  expect(read.types).toEqual([
    {
      line: 2,
      code: 'NIT',
      name: 'Night order',
      family: 'Operation',
      group: 'Running',
      help: 'What runs',
      example: '',
      numbering: null,
      like: 'PRO',
      lists: ['Line', 'Line section'],
    },
  ]);
  expect(read.lists.map(({ key, dependsOn, options }) => [key, dependsOn, options.map((one) => one.under)])).toEqual([
    ['line', null, [undefined]],
    ['lineSection', 'line', ['N']],
  ]);
});

test('wrong lines are left out and reported; the rest is imported', () => {
  const read = readClassification(HEADINGS, [
    type('A', 'One'),
    type('a', 'Twice'),
    type('B', ''),
    ['', 'no code'],
    option('Line', '', 'N'),
    option('Line', '', 'N'),
    option('Section', 'Line', 'X', 'none'),
  ]);
  expect(read.types.map((one) => one.code)).toEqual(['A']);
  expect(read.wrong.map(({ line, reason }) => `${line} ${reason}`)).toEqual([
    '3 type a occurs twice',
    '4 type B has no name',
    '5 a type needs a code, an option a list',
    '7 list Line: option N occurs twice',
    '0 list Section: X refers to none, which is not in Line',
  ]);
  expect(readClassification(['x'], [['y']]).wrong[0]?.reason).toBe('no column has the heading code or list');
});
