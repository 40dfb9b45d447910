import { PDFDocument } from '@cantoo/pdf-lib';
import { beforeAll, expect, it } from 'vitest';
import { makeCertificate, type SealFiles } from './certificate.ts';
import { readSeal, sealPdf } from './sealPdf.ts';
import { readCertificates, signaturesInPdf } from './signaturesInPdf.ts';

const AT = new Date('2026-11-30T09:30:00Z');
const LATER = new Date('2026-12-02T10:00:00Z');
let acme: SealFiles;
let other: SealFiles;
let plain: Uint8Array;
beforeAll(async () => {
  acme = await makeCertificate('Acme Inspection', AT);
  other = await makeCertificate('Somebody else', AT);
  const pdf = await PDFDocument.create();
  pdf.addPage([400, 300]);
  plain = await pdf.save({ useObjectStreams: false });
});
const signed = async (bytes: Uint8Array, files: SealFiles, at: Date) =>
  sealPdf(bytes, await readSeal(files), { reason: 'Agreed', at });

it('tells by whom and when a PDF was signed, that it is whole, and whether the signer is trusted', async () => {
  const bytes = await signed(plain, acme, AT);
  const expected = { by: 'Acme Inspection', at: AT.toISOString(), intact: true, coversAll: true };
  expect(await signaturesInPdf(bytes, readCertificates(acme.certificates), LATER)).toMatchObject([
    { ...expected, trusted: true },
  ]);
  expect(await signaturesInPdf(bytes, readCertificates(other.certificates), LATER)).toMatchObject([
    { ...expected, trusted: false },
  ]);
  expect(await signaturesInPdf(plain, [], LATER)).toEqual([]);
});

it('tells each of several, of which only the last covers everything', async () => {
  const bytes = await signed(await signed(plain, acme, AT), other, LATER);
  const found = await signaturesInPdf(bytes, readCertificates(acme.certificates), LATER);
  expect(found.map(({ by, intact, coversAll, trusted }) => [by, intact, coversAll, trusted])).toEqual([
    ['Acme Inspection', true, false, true],
    ['Somebody else', true, true, false],
  ]);
});

it('names what was altered, and what cannot be read', async () => {
  const bytes = Buffer.from(await signed(plain, acme, AT));
  const altered = Buffer.from(bytes);
  const at = altered.indexOf('MediaBox');
  altered[at + 9] = (altered[at + 9] ?? 0) ^ 1;
  expect(await signaturesInPdf(altered, readCertificates(acme.certificates), LATER)).toMatchObject([
    { by: 'Acme Inspection', intact: false, trusted: false },
  ]);
  const broken = Buffer.from(bytes);
  broken.fill('0', broken.indexOf('/Contents') + 12, broken.indexOf('/Contents') + 400);
  expect(await signaturesInPdf(broken, [], LATER)).toMatchObject([{ intact: false, trusted: false }]);
});

it('trusts no certificate before or after its time', async () => {
  const bytes = await signed(plain, acme, new Date('2019-01-01T00:00:00Z'));
  expect((await signaturesInPdf(bytes, readCertificates(acme.certificates), LATER))[0]?.trusted).toBe(false);
});
