import { expect, test } from 'vitest';
import { documentPage, version } from '../../testing/fixtures.ts';
import { lastingAddresses } from './addresses.ts';

const page = documentPage({ versions: [version()] });
const addresses = (changes: Partial<typeof page>) =>
  lastingAddresses({ ...page, number: 'BRH 26/0388', ...changes }, 'https://k.example').map(({ address }) => address);

test('a document in force has addresses of what is in force, of its revision and of its version', () => {
  const revision = { ...page.revision, label: 'C' };
  expect(addresses({ revision, inForce: { label: 'C' } as typeof page.inForce })).toEqual([
    'https://k.example/d/BRH%2026%2F0388',
    'https://k.example/f/BRH%2026%2F0388',
    'https://k.example/d/BRH%2026%2F0388?rev=C',
    'https://k.example/f/BRH%2026%2F0388?rev=C',
    `https://k.example/f/BRH%2026%2F0388?rev=C&v=${page.versions[0]?.n}`,
  ]);
});

test('nothing in force has no file in force, and a revision without a label no address of its own', () => {
  expect(addresses({ inForce: null, revision: { ...page.revision, label: '' } })).toEqual([
    'https://k.example/d/BRH%2026%2F0388',
  ]);
});
