import type { DocumentPage } from '@kanonos/contract';
import { expect, test } from 'vitest';
import { aboutOf, NOTHING_SAID, toAbout } from './about.ts';
import { keptRow, saidOf, toFacts } from './originals.ts';

const page = {
  parent: { number: 'THR-PRO-0112' },
  titles: { de: 'Prüfung', fr: 'Contrôle' },
  location: 'Cabinet 4',
  sites: [{ code: 'TV', name: 'Tarn Valley' }],
  confidentiality: 'confidential',
  reviewEvery: { own: 24, type: 12 },
  followsNamingRule: { own: false, type: true },
  sharing: { code: 'S2' },
  origin: { source: 'EN 1709', edition: '2019', watcher: { id: 'p1', name: 'Ines Varga' } },
} as unknown as DocumentPage;

test('the properties of a document enter the form and are sent back unchanged', () => {
  expect(toAbout(aboutOf(page))).toEqual({
    parent: 'THR-PRO-0112',
    titles: { de: 'Prüfung', fr: 'Contrôle' },
    location: 'Cabinet 4',
    sites: ['TV'],
    confidentiality: 'confidential',
    reviewEvery: 24,
    followsNamingRule: false,
    sharing: 'S2',
    origin: { source: 'EN 1709', edition: '2019', watcherId: 'p1' },
  });
});

test('left empty, the type decides', () => {
  expect(toAbout(NOTHING_SAID)).toMatchObject({
    parent: null,
    reviewEvery: null,
    followsNamingRule: null,
    titles: {},
    origin: { source: '', edition: '', watcherId: null },
  });
  const bare = { ...page, parent: null, reviewEvery: { own: null }, followsNamingRule: { own: null }, origin: null };
  expect(aboutOf(bare as unknown as DocumentPage)).toMatchObject({
    reviewEvery: '',
    followsNamingRule: '',
    watcher: [],
  });
});

test('a title without words is left out, a language without its blanks', () => {
  const titles = [
    { language: ' de ', title: 'Prüfung' },
    { language: 'fr', title: '   ' },
  ];
  expect(toAbout({ ...NOTHING_SAID, titles }).titles).toEqual({ de: 'Prüfung' });
});

test('an original shows its sheet of how many, its language and its content', () => {
  const file = (sheet: number | null, language = '', description = '') =>
    ({ id: String(sheet), sheet, language, description }) as Parameters<typeof saidOf>[0];
  const files = [file(1), file(2, 'de', 'the left side'), file(null, '', 'the list')];
  expect(files.map((one) => saidOf(one, files))).toEqual([
    'sheet 1 of 2',
    'sheet 2 of 2, de, the left side',
    'the list',
  ]);
  expect(toFacts(keptRow(files[1] as never))).toEqual({ description: 'the left side', language: 'de', sheet: 2 });
  expect(toFacts({ description: '', language: ' ', sheet: ' ' })).toEqual({
    description: '',
    language: '',
    sheet: null,
  });
});
