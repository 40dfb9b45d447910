import type { Field } from '@kanonos/contract';
import { describe, expect, test } from 'vitest';
import { partsOf, toMetadata, toValues } from './metadataValues.ts';

const field = (key: string, kind: Field['kind']): Field => ({
  key,
  label: key,
  kind,
  mandatory: false,
  level: 'document',
});
const FIELDS = [
  field('limit', 'number'),
  field('used', 'choices'),
  field('who', 'people'),
  field('sealed', 'yes/no'),
  field('place', 'text'),
];

describe('values of a form as metadata', () => {
  test('each kind as what it is, several one a line, empty ones as none', () => {
    expect(
      toMetadata(FIELDS, { limit: ' 4.5 ', used: 'TV\n\nMH\n', who: 'p1', sealed: 'true', place: '  Skarn Peak ' }),
    ).toEqual({ limit: 4.5, used: ['TV', 'MH'], who: ['p1'], sealed: true, place: 'Skarn Peak' });
    expect(toMetadata(FIELDS, { limit: '', used: ' ', sealed: 'false' })).toEqual({
      limit: null,
      used: null,
      who: null,
      sealed: false,
      place: null,
    });
  });

  test('a comma parts decimals as well as a point', () => {
    expect(toMetadata(FIELDS, { limit: '4,5' }).limit).toBe(4.5);
  });

  test('what is no number is handed on as it was typed, to be refused with its field and not to be lost', () => {
    for (const typed of ['about 4', '4,5,6', '1e999']) expect(toMetadata(FIELDS, { limit: typed }).limit).toBe(typed);
  });

  test('only what the type asks for is sent', () => {
    expect(toMetadata([field('place', 'text')], { place: 'A', other: 'B' })).toEqual({ place: 'A' });
  });
});

test('metadata become values and come back as they were', () => {
  const metadata = { limit: 0, used: ['TV', 'MH'], who: ['p1'], sealed: false, place: 'Skarn Peak' };
  expect(toMetadata(FIELDS, toValues(metadata))).toEqual(metadata);
  expect(toValues({ limit: null, used: [], place: '' })).toEqual({ limit: '', used: '', place: '' });
  expect(partsOf(undefined)).toEqual([]);
});
