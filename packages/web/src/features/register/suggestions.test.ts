import type { Facets } from '@kanonos/contract';
import { SEARCH_FIELDS } from '@kanonos/core';
import { expect, test } from 'vitest';
import { suggestionsFor } from './suggestions.ts';

const facets: Facets = {
  total: 3,
  state: [{ value: 'in force', name: 'In force', count: 2 }],
  area: [],
  type: [
    { value: 'PRO', name: 'Procedure', count: 2 },
    { value: 'WIN', name: 'Work instruction', count: 1 },
  ],
  department: [{ value: 'd1', name: 'Rope & drive', count: 1 }],
  review: [],
};
const METADATA = [{ key: 'torque', label: 'Tightening torque' }];
const texts = (text: string) => suggestionsFor(text, facets, METADATA, '2026-11-29').map((one) => one.text);

test('before anything is typed the commonest fields are offered', () => {
  expect(texts('')).toEqual(['type:', 'state:', 'owner:', 'due:', 'changed:', 'keyword:']);
  expect(texts('grip ')).toContain('grip type:');
});

test('a word that is begun offers the fields that begin so, those of the types by their label as well', () => {
  expect(texts('grip ty')).toEqual(['grip type:']);
  expect(texts('tight')).toEqual(['torque:']);
  expect(texts('zzz')).toEqual([]);
  expect(texts('"slip fo')).toEqual(texts('fo').map((text) => text.replace(/^/, '"slip ')));
});

test('behind a field stand its values, quoted where they need it, by code or by name', () => {
  expect(texts('grip type:')).toEqual(['grip type:PRO ', 'grip type:WIN ']);
  expect(texts('type:work')).toEqual(['type:WIN ']);
  expect(texts('state:in')).toEqual(['state:"in force" ']);
  expect(texts('state:"in f')).toEqual(['state:"in force" ']);
  expect(texts('department:ro')).toEqual(['department:"rope & drive" ']);
  expect(texts('not owner:m')).toEqual(['not owner:me ']);
  expect(texts('due<=')).toEqual(['due<=2026-12-31 '.replace('12-31', '11-29')]);
  expect(texts('type:PRO')).toEqual([]);
});

test('every field of the grammar is explained', () => {
  for (const field of Object.keys(SEARCH_FIELDS)) expect(texts(field)).toContain(`${field}:`);
});
