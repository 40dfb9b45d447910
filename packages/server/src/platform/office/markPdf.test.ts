import { execFileSync } from 'node:child_process';
import { mkdtempSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { degrees, PDFDocument, StandardFonts } from '@cantoo/pdf-lib';
import { describe, expect, test } from 'vitest';
import { markPdf, type PageMarks } from './markPdf.ts';

const MARKS: PageMarks = {
  head: 'Tarnholt Ropeways',
  foot: 'THR-PRO-0118 · rev. B · in force since 2025-03-06',
  across: '',
};
const pdfOf = async (turns: readonly number[] = [0], crop = false): Promise<Uint8Array> => {
  const pdf = await PDFDocument.create();
  const font = await pdf.embedFont(StandardFonts.Helvetica);
  for (const [i, turn] of turns.entries()) {
    const page = pdf.addPage([400, 600]);
    page.drawText(`Text of page ${i + 1}`, { x: 100, y: 300, size: 12, font });
    page.setRotation(degrees(turn));
    if (crop) page.setCropBox(40, 60, 300, 400);
  }
  return pdf.save();
};
/** Words with their boxes as another program sees them: page, left, top, right, bottom, in parts of the shown page. */
const wordsIn = (bytes: Uint8Array, turn = 0) => {
  const path = join(mkdtempSync(join(tmpdir(), 'marked-')), 'a.pdf');
  writeFileSync(path, bytes);
  const xml = execFileSync('pdftotext', ['-bbox', '-cropbox', path, '-'], { encoding: 'utf8' });
  return xml
    .split('<page ')
    .slice(1)
    .map((page) => {
      // Its size is given without its rotation.
      const [, across = '1', up = '1'] = /width="([\d.]+)" height="([\d.]+)"/.exec(page) ?? [];
      const [wide, high] = turn % 180 ? [up, across] : [across, up];
      return Array.from(
        page.matchAll(/xMin="([\d.-]+)" yMin="([\d.-]+)" xMax="([\d.-]+)" yMax="([\d.-]+)">([^<]*)</g),
        ([, x0, y0, x1, y1, word]) => ({
          word: word ?? '',
          left: Number(x0) / Number(wide),
          top: Number(y0) / Number(high),
          right: Number(x1) / Number(wide),
          bottom: Number(y1) / Number(high),
        }),
      );
    });
};
/** The text in the order in which it was written: a slanted word stays one. */
const rawTextOf = (bytes: Uint8Array): string => {
  const path = join(mkdtempSync(join(tmpdir(), 'marked-')), 'a.pdf');
  writeFileSync(path, bytes);
  return execFileSync('pdftotext', ['-raw', path, '-'], { encoding: 'utf8' }).replaceAll(/\s/g, '');
};
const marked = async (bytes: Uint8Array, marks: PageMarks = MARKS): Promise<Uint8Array> => {
  const made = await markPdf(bytes, marks);
  if (!made) throw new Error('it was left as it is');
  return made;
};

describe('a marked PDF', () => {
  test('has its signatures as the last page, as many pages as they need', async () => {
    const signature = {
      who: 'Lin Sato, for Otto Brandvik',
      meaning: 'approved as technical authority',
      when: '12 Nov 2026, 10:06 Europe/Zurich',
      fingerprint: `SHA-256 ${'ab12cd34 '.repeat(8).trim()}`,
    };
    const page = { title: 'Signatures', about: 'THR-PRO-0118 · revision B', note: 'Electronic signatures.' };
    const one = await marked(await pdfOf([0, 90]), { ...MARKS, signatures: { ...page, signatures: [signature] } });
    const pages = wordsIn(one);
    expect(pages).toHaveLength(3);
    const last = pages[2]?.map(({ word }) => word).join(' ') ?? '';
    for (const words of [...Object.values(signature), page.about, page.note]) expect(last).toContain(words);
    // The foot is on this page, too.
    expect(last).toContain('in force since 2025-03-06');
    expect(pages[2]?.every(({ left, right }) => left > 0 && right < 1)).toBe(true);
    const many = await marked(await pdfOf(), {
      ...MARKS,
      signatures: { ...page, signatures: Array.from({ length: 24 }, () => signature) },
    });
    expect(wordsIn(many).length).toBeGreaterThan(3);
    expect(rawTextOf(many).match(/approvedastechnicalauthority/g)).toHaveLength(24);
  });

  test('has its lines on every page and keeps its text', async () => {
    const pages = wordsIn(await marked(await pdfOf([0, 0, 0])));
    expect(pages).toHaveLength(3);
    for (const [i, page] of pages.entries()) {
      const text = page.map((one) => one.word).join(' ');
      for (const words of ['Tarnholt Ropeways', 'THR-PRO-0118', '2025-03-06', `Text of page ${i + 1}`])
        expect(text).toContain(words);
      expect(page.find((one) => one.word === 'Tarnholt')?.bottom).toBeLessThan(0.05);
      expect(page.find((one) => one.word === 'THR-PRO-0118')?.top).toBeGreaterThan(0.95);
    }
  });

  test.each([90, 180, 270])('bears them where they are seen on a page turned by %i degrees', async (turn) => {
    const [page = []] = wordsIn(await marked(await pdfOf([turn])), turn);
    const [head, foot] = ['Tarnholt', 'THR-PRO-0118'].map((word) => page.find((one) => one.word === word));
    expect(head?.bottom).toBeLessThan(0.07);
    expect(foot?.top).toBeGreaterThan(0.93);
    for (const word of [head, foot]) expect(word?.left).toBeLessThan(0.1);
  });

  test('stays within the visible part of a page', async () => {
    const [page = []] = wordsIn(await marked(await pdfOf([0], true)));
    for (const name of ['Tarnholt', 'THR-PRO-0118']) {
      const word = page.find((one) => one.word === name);
      expect(word?.left).toBeGreaterThanOrEqual(0);
      expect(word?.top).toBeGreaterThanOrEqual(0);
      expect(word?.bottom).toBeLessThanOrEqual(1);
    }
  });

  test('is marked across the page when it no longer applies', async () => {
    const bytes = await marked(await pdfOf(), { ...MARKS, across: 'SUPERSEDED' });
    expect(rawTextOf(bytes)).toContain('SUPERSEDED');
    expect(rawTextOf(await marked(await pdfOf()))).not.toContain('SUPERSEDED');
  });

  test('is the same for the same bytes and words, and never what was filed', async () => {
    const bytes = await pdfOf();
    const before = Buffer.from(bytes);
    const [one, two] = [await marked(bytes), await marked(bytes)];
    expect(Buffer.compare(one, two)).toBe(0);
    expect(Buffer.compare(Buffer.from(bytes), before)).toBe(0);
  });

  test('cuts long lines to fit and writes missing letters as question marks', async () => {
    const [page = []] = wordsIn(
      await marked(await pdfOf(), { head: 'Канат 4', foot: 'long '.repeat(200), across: '' }),
    );
    expect(page.map((one) => one.word)).toContain('?????');
    for (const word of page) expect(word.right).toBeLessThanOrEqual(1);
  });
});

test('a digitally signed or unreadable PDF is handed out unchanged', async () => {
  const signed = Buffer.concat([Buffer.from(await pdfOf()), Buffer.from('\n% /ByteRange [0 10 20 30]\n')]);
  expect(await markPdf(signed, MARKS)).toBeUndefined();
  expect(await markPdf(Buffer.from('%PDF-1.7 and nothing else'), MARKS)).toBeUndefined();
});
