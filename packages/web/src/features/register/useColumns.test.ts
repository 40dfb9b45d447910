import { expect, test } from 'vitest';
import { columnsThatFit, columnsWith } from './columns.tsx';
import { columnsShown } from './useColumns.ts';

const FACTS = [
  { key: 'equipment', label: 'Equipment', types: ['RPT', 'CHK'] },
  { key: 'testDay', label: 'Test day', types: ['RPT'] },
];

test('facts stand in the register while it is narrowed to types that all show them', () => {
  expect(columnsShown(['area'], [], FACTS, [])).toEqual(['area']);
  expect(columnsShown(['area'], [], FACTS, ['RPT'])).toEqual(['area', 'fact:equipment', 'fact:testDay']);
  expect(columnsShown(['area'], [], FACTS, ['RPT', 'CHK'])).toEqual(['area', 'fact:equipment']);
  expect(columnsShown(['area'], [], FACTS, ['RPT', 'MIN'])).toEqual(['area']);
});

test('what was taken away stays away, what was chosen stands always, at its place, unless no type shows it any more', () => {
  expect(columnsShown(['area'], ['fact:testDay'], FACTS, ['RPT'])).toEqual(['area', 'fact:equipment']);
  expect(columnsShown(['fact:testDay', 'area'], [], FACTS, [])).toEqual(['fact:testDay', 'area']);
  expect(columnsShown(['fact:gone', 'area'], [], FACTS, [])).toEqual(['area']);
});

test('a narrow window keeps where it stands and the facts, a wide one all, always in the chosen order', () => {
  const all = columnsWith(FACTS);
  const chosen = ['area', 'where', 'fact:equipment', 'review'];
  expect(columnsThatFit(all, chosen, 1200)).toEqual(chosen);
  expect(columnsThatFit(all, chosen, 540)).toEqual(['where', 'fact:equipment']);
  expect(columnsThatFit(all, chosen, 440)).toEqual(['where']);
  expect(columnsThatFit(all, chosen, 200)).toEqual([]);
});
