import type { Field } from '@kanonos/contract';
import { expect, test } from 'vitest';
import { beginMetadata, fillMetadata, NO_METADATA, takeMetadata } from './firstMetadata.ts';

const field = (key: string, from?: 'fixed' | 'today' | 'me' | 'folder' | 'parent', value = ''): Field => ({
  key,
  label: key,
  kind: 'text',
  mandatory: false,
  level: 'document',
  ...(from ? { default: from === 'fixed' ? { from, value } : { from } } : {}),
});
const KNOWN = { today: '2026-11-26', me: 'p1', folder: { client: 'Oberlauf' }, parent: { line: 'North' } };
const TYPE = {
  fields: [
    field('client', 'folder'),
    field('line', 'parent'),
    field('day', 'today'),
    field('who', 'me'),
    field('grade', 'fixed', 'B'),
    field('note'),
  ],
};

test('what is known first is filled in, each value with where it came from', () => {
  const held = beginMetadata(NO_METADATA, TYPE, KNOWN);
  expect(held.values).toMatchObject({ client: 'Oberlauf', line: 'North', day: '2026-11-26', who: 'p1', grade: 'B' });
  expect(held.origins).toEqual({
    client: 'from the folder',
    line: 'from the parent',
    day: 'the day of registering',
    who: 'you, who register',
    grade: 'from the type',
  });
});

test('what somebody typed is never overwritten, neither by a file nor by another type', () => {
  let held = beginMetadata(NO_METADATA, TYPE, KNOWN);
  held = takeMetadata(held, { ...held.values, client: 'Talstation AG' });
  expect(held.origins.client).toBeUndefined();
  expect(held.origins.line).toBe('from the parent');
  held = fillMetadata(held, { client: 'From a file', note: 'From a file' }, 'from the file');
  expect(held.values).toMatchObject({ client: 'Talstation AG', note: 'From a file' });
  expect(held.origins.note).toBe('from the file');
  held = beginMetadata(held, TYPE, { ...KNOWN, folder: { client: 'Another' } });
  expect(held.values.client).toBe('Talstation AG');
});

test('a filled-in value yields to a better source, and shows it', () => {
  let held = fillMetadata(NO_METADATA, { client: 'From a name' }, 'from the name');
  held = fillMetadata(held, { client: 'From a file', line: '' }, 'from the file');
  expect(held).toEqual({ values: { client: 'From a file' }, origins: { client: 'from the file' } });
});

test('another folder: values of the old one go, values read from a file stay', () => {
  let held = beginMetadata(NO_METADATA, TYPE, KNOWN);
  held = fillMetadata(held, { note: 'Read' }, 'from the file');
  held = beginMetadata(held, TYPE, { ...KNOWN, folder: {} });
  expect(held.values.client ?? '').toBe('');
  expect(held.origins.client).toBeUndefined();
  expect(held.values.note).toBe('Read');
  expect(held.origins.note).toBe('from the file');
});

test('a value that was emptied by hand is free again', () => {
  let held = takeMetadata(beginMetadata(NO_METADATA, TYPE, KNOWN), { note: '' });
  held = fillMetadata(held, { note: 'Read' }, 'from the file');
  expect(held.values.note).toBe('Read');
});
