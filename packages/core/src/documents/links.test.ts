import { expect, test } from 'vitest';
import { checkLink } from './links.ts';

test('a link leads to a document by every kind, and elsewhere as a reference alone', () => {
  const codes = (...given: Parameters<typeof checkLink>) => checkLink(...given).map((one) => one.code);
  expect(codes('translation of', { to: 'document', number: 'THR-PRO-0118', pinned: true })).toEqual([]);
  expect(codes('refers to', { to: 'web', address: 'https://standards.example/en-12929' })).toEqual([]);
  expect(codes('refers to', { to: 'item', kind: 'asset', code: 'GR-44', name: 'Grip' })).toEqual([]);
  expect(codes('form of', { to: 'web', address: 'https://standards.example' })).toEqual(['link_kind_wrong']);
  expect(codes('refers to', { to: 'item', kind: 'risk', code: ' ', name: 'x' })).toEqual(['link_item_wrong']);
});

test('an address that a browser would run, or that carries a name, is none', () => {
  for (const address of [
    'javascript:alert(1)',
    'data:text/html,x',
    'file:///etc/passwd',
    'https://user@host.example',
    '//host',
    'standards.example',
  ])
    expect(
      checkLink('refers to', { to: 'web', address }).map((one) => one.code),
      address,
    ).toEqual(['link_address_wrong']);
});
