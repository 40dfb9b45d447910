import { readFileSync } from 'node:fs';
import { PDFDocument } from '@cantoo/pdf-lib';
import type { SideContent } from '@kanonos/contract';
import { compareTexts } from '@kanonos/core';
import { getDocument } from 'pdfjs-dist/legacy/build/pdf.mjs';
import { expect, test } from 'vitest';
import { placesOf } from '../layOut.ts';
import { comparisonPdf, type Report } from './comparisonPdf.ts';
import { createPages } from './pages.ts';

const file = (part: string, weight: number) =>
  new Uint8Array(
    readFileSync(
      new URL(
        `../../../../../../node_modules/@fontsource/noto-sans/files/noto-sans-${part}-${weight}-normal.woff`,
        import.meta.url,
      ),
    ),
  );
const fonts = ['latin', 'latin-ext', 'greek', 'cyrillic'].map((part) => ({
  plain: file(part, 400),
  bold: file(part, 700),
}));

const side = (label: string, n: number): SideContent => ({
  versionId: '',
  n,
  label,
  state: 'in force',
  note: 'Limit raised',
  by: { id: '', name: 'Joren Adeyemi' },
  at: '2026-11-12T09:12:00Z',
  document: { id: '', number: 'THR-PRO-0118' },
  files: [],
  fileId: null,
  textState: 'done',
  text: '',
  blocks: null,
  metadata: [],
});
const report = (old: string, now: string, more: Partial<Report> = {}): Report => ({
  title: 'Grip overhaul',
  old: side('B', 1),
  new: side('C', 2),
  oldName: 'B, version 1',
  newName: 'C, version 2',
  summary: 'Two words in, one out.',
  metadata: [{ label: 'Limit value', old: '6.2 kN', new: '6.8 kN' }],
  words: placesOf(compareTexts(old, now).parts),
  overlaid: [],
  made: 'Made by Ines Varga',
  ...more,
});
/** The words of each page, as a reader of PDFs finds them. */
const pagesOf = async (bytes: Uint8Array): Promise<string[]> => {
  const pdf = await getDocument({ data: bytes.slice(), useSystemFonts: false, verbosity: 0 }).promise;
  const pages: string[] = [];
  for (let n = 1; n <= pdf.numPages; n++) {
    const { items } = await (await pdf.getPage(n)).getTextContent();
    pages.push(items.map((item) => ('str' in item ? item.str + (item.hasEOL ? ' ' : '') : '')).join(''));
  }
  await pdf.destroy();
  return pages;
};

test('it names both versions, what differs in metadata and words, and holds the whole text', async () => {
  const [page = ''] = await pagesOf(
    await comparisonPdf(report('The slip force is 6.2 kN.', 'The slip force is now 6.8 kN.'), fonts),
  );
  for (const words of ['THR-PRO-0118', 'Grip overhaul', 'B, version 1', 'C, version 2', 'Two words in', 'Limit value'])
    expect(page).toContain(words);
  for (const words of ['The slip force is', 'now', '6.2 kN', '6.8 kN', '1 of 1']) expect(page).toContain(words);
});

test('no letter of a long text is lost over many pages, each of which has its number', async () => {
  const words = Array.from({ length: 6000 }, (_, i) => `word${i}`);
  const text = words.join(' ');
  const pages = await pagesOf(await comparisonPdf(report(text, `${text} added`), fonts));
  expect(pages.length).toBeGreaterThan(8);
  const all = pages.join(' ');
  for (const word of words) expect(all, word).toContain(word);
  for (const [i, page] of pages.entries()) expect(page).toContain(`${i + 1} of ${pages.length}`);
});

test('words longer than a line are broken, and letters of other alphabets are written', async () => {
  const long = 'x'.repeat(400);
  const others = 'Příliš žluťoučký kůň, Ωμέγα, Канатная дорога, ≤ 4 °C →';
  const [page = ''] = await pagesOf(await comparisonPdf(report('', `${long}\n\n${others}`), fonts));
  expect(page.replaceAll(/[^x]/g, '').length).toBeGreaterThanOrEqual(400);
  for (const word of ['žluťoučký', 'Ωμέγα', 'Канатная', '<= 4 °C ->']) expect(page).toContain(word);
});

test('a moved paragraph is marked at both ends', async () => {
  const [a, b, c] = [
    'First the line is locked and tagged by two people.',
    'Then the brake is opened by hand.',
    'Last the log is signed by both.',
  ];
  const page = (await pagesOf(await comparisonPdf(report([a, b, c].join('\n\n'), [b, c, a].join('\n\n')), fonts))).join(
    '',
  );
  expect(page).toContain('moved here, 1');
  expect(page).toContain('moved from here, 1');
});

test('overlaid pages get pages of their own, in landscape where they are wide', async () => {
  const png =
    'data:image/png;base64,iVBORw0KGgoAAAANSUhEUgAAAAEAAAABCAYAAAAfFcSJAAAADUlEQVR42mNk+M9QDwADhgGAWjR9awAAAABJRU5ErkJggg==';
  const overlaid = [
    { png, width: 800, height: 400, regions: [{ x: 10, y: 10, width: 50, height: 20 }] },
    { png, width: 400, height: 800, regions: [] },
  ] as unknown as Report['overlaid'];
  const bytes = await comparisonPdf(report('', '', { words: null, overlaid }), fonts);
  const sizes = (await PDFDocument.load(bytes)).getPages().map((page) => Math.round(page.getWidth()));
  expect(sizes).toEqual([595, 842, 595]);
  const pages = await pagesOf(bytes);
  expect(pages[1]).toContain('1 difference');
  expect(pages[2]).toContain('no visible differences');
});

test('a line never runs past its margin, whatever blanks it contains', async () => {
  const pages = await createPages(fonts, 'foot', 'title');
  pages.write([{ text: `${' '.repeat(300)}a\n\n\n${'ab '.repeat(200)}`, bold: true }]);
  const bytes = await pages.finish();
  const pdf = await getDocument({ data: bytes.slice(), verbosity: 0 }).promise;
  const { items } = await (await pdf.getPage(1)).getTextContent();
  for (const item of items)
    if ('str' in item && item.str.trim()) expect((item.transform[4] as number) + item.width).toBeLessThan(560);
  await pdf.destroy();
});
