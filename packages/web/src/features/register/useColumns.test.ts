import { expect, test } from 'vitest';
import { columnsThatFit, columnsWith, withWidths } from './columns.tsx';
import { columnsShown } from './useColumns.ts';

const METADATA = [
  { key: 'equipment', label: 'Equipment', types: ['RPT', 'CHK'] },
  { key: 'testDay', label: 'Test day', types: ['RPT'] },
];

test('the register shows metadata while it is narrowed to types that all show them', () => {
  expect(columnsShown(['area'], [], METADATA, [])).toEqual(['area']);
  expect(columnsShown(['area'], [], METADATA, ['RPT'])).toEqual(['area', 'field:equipment', 'field:testDay']);
  expect(columnsShown(['area'], [], METADATA, ['RPT', 'CHK'])).toEqual(['area', 'field:equipment']);
  expect(columnsShown(['area'], [], METADATA, ['RPT', 'MIN'])).toEqual(['area']);
});

test('a removed column stays away, a chosen one is always shown, at its place, unless no type shows it any more', () => {
  expect(columnsShown(['area'], ['field:testDay'], METADATA, ['RPT'])).toEqual(['area', 'field:equipment']);
  expect(columnsShown(['field:testDay', 'area'], [], METADATA, [])).toEqual(['field:testDay', 'area']);
  expect(columnsShown(['field:gone', 'area'], [], METADATA, [])).toEqual(['area']);
});

test('a narrow window keeps the state and the metadata, a wide one all, always in the chosen order', () => {
  const all = columnsWith(METADATA);
  const chosen = ['area', 'where', 'field:equipment', 'review'];
  expect(columnsThatFit(all, chosen, 1200)).toEqual(chosen);
  expect(columnsThatFit(all, chosen, 540)).toEqual(['where', 'field:equipment']);
  expect(columnsThatFit(all, chosen, 440)).toEqual(['where']);
  expect(columnsThatFit(all, chosen, 200)).toEqual([]);
});

test('a width that a person gave a column counts for what fits, another one has its usual width', () => {
  const all = withWidths(columnsWith(METADATA), { where: 300 });
  expect([all.where?.width, all.owner?.width]).toEqual(['300px', '110px']);
  expect(columnsThatFit(all, ['where', 'owner'], 600)).toEqual(['where']);
  expect(columnsThatFit(columnsWith(METADATA), ['where', 'owner'], 600)).toEqual(['where', 'owner']);
});
