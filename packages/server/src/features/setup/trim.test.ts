import { expect, test } from 'vitest';
import { engineering } from './configurations/engineering.ts';
import { quality } from './configurations/quality.ts';
import { trimmedPackage } from './trim.ts';

test('only the chosen types remain, with numbers under the code of the organisation', () => {
  const { types, units } = trimmedPackage(quality, ['POL', 'REC', 'EXT'], 'ACME');
  expect(types.map(({ rule }) => [rule.code, rule.numbering])).toEqual([
    ['POL', 'ACME-{type}-{counter:4}'],
    ['REC', 'ACME-{type}-{year}-{counter:3:per=year}'],
    ['EXT', null],
  ]);
  expect(units).toEqual(quality.package.units);
});

test('lists that no chosen type uses are left out', () => {
  expect(trimmedPackage(engineering, ['RPT'], 'X').choices).toEqual([]);
  expect(trimmedPackage(engineering, ['RPT'], 'X').lookups.map(({ key }) => key)).toEqual(['project']);
  expect(trimmedPackage(engineering, ['DWG'], 'X').choices.map(({ key }) => key)).toEqual(['discipline']);
});

test('the shipped configuration itself is not changed', () => {
  const before = JSON.stringify(quality);
  trimmedPackage(quality, ['POL'], 'ACME');
  expect(JSON.stringify(quality)).toBe(before);
});
