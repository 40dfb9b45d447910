import { execFileSync } from 'node:child_process';
import { mkdtempSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { PDFDocument, StandardFonts } from '@cantoo/pdf-lib';
import { beforeAll, describe, expect, it } from 'vitest';
import { makeCertificate, type SealFiles } from './certificate.ts';
import { readSeal, sealPdf } from './sealPdf.ts';

const AT = new Date('2026-11-30T09:30:00Z');
let files: SealFiles;
beforeAll(async () => {
  files = await makeCertificate('Tarnholt Ropeways', AT);
});

const pdfOf = async (pages = 1): Promise<Uint8Array> => {
  const pdf = await PDFDocument.create();
  const font = await pdf.embedFont(StandardFonts.Helvetica);
  for (let i = 0; i < pages; i++) pdf.addPage([400, 300]).drawText('The limit is 6.8 kN', { x: 40, y: 200, font });
  return pdf.save({ useObjectStreams: false });
};
const sealed = async (pages?: number) =>
  sealPdf(await pdfOf(pages), await readSeal(files), { reason: 'Released', at: AT });
/** What the PDF library of another program says of the signatures. */
const judged = (bytes: Uint8Array): string => {
  const path = join(mkdtempSync(join(tmpdir(), 'seal-')), 'a.pdf');
  writeFileSync(path, bytes);
  return execFileSync('pdfsig', ['-nocert', path], { encoding: 'utf8' });
};

describe('a sealed PDF', () => {
  it('is valid, by whom, when, and as a whole', async () => {
    const said = judged(await sealed(3));
    expect(said).toContain('Signature is Valid.');
    expect(said).toContain('Signer Certificate Common Name: Tarnholt Ropeways');
    expect(said).toContain('Signature Type: ETSI.CAdES.detached');
    expect(said).toContain('Total document signed');
    expect(said).toMatch(/Signing Time: Nov 30 2026/);
  });

  it('of which a letter is altered is named so', async () => {
    const bytes = Buffer.from(await sealed());
    const at = bytes.indexOf('MediaBox');
    bytes[at + 9] = (bytes[at + 9] ?? 0) ^ 1;
    expect(judged(bytes)).toContain('Digest Mismatch');
  });

  it('to which something is added is no longer signed as a whole', async () => {
    const bytes = Buffer.concat([Buffer.from(await sealed()), Buffer.from('\n% added\n')]);
    expect(judged(bytes)).toContain('Not total document signed');
  });

  it('keeps its text', async () => {
    const path = join(mkdtempSync(join(tmpdir(), 'seal-')), 'a.pdf');
    writeFileSync(path, await sealed());
    expect(execFileSync('pdftotext', [path, '-'], { encoding: 'utf8' })).toContain('The limit is 6.8 kN');
  });
});

describe('a key and its certificates', () => {
  it('must belong together, and be there', async () => {
    const other = await makeCertificate('Somebody else', AT);
    await expect(readSeal({ ...files, certificates: other.certificates })).rejects.toThrow(
      'does not belong to the key',
    );
    await expect(readSeal({ ...files, certificates: '' })).rejects.toThrow('no certificate');
  });
});
