import { execFileSync } from 'node:child_process';
import { mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { Readable } from 'node:stream';
import { PDFDocument } from '@cantoo/pdf-lib';
import { afterAll, beforeAll, describe, expect, test } from 'vitest';
import { takeUpload } from '../features/content/index.ts';
import {
  askSigningService,
  bring,
  cancel,
  send,
  signedFile,
  signedOutside,
} from '../features/signedOutside/service.ts';
import { makeCertificate, type SealFiles } from '../platform/seal/certificate.ts';
import { readSeal, sealPdf } from '../platform/seal/sealPdf.ts';
import { startSigningStandIn } from '../platform/signing/standIn.ts';
import { codeOf } from './organisation.ts';
import { withOrganisation } from './withOrganisation.ts';

const organisation = withOrganisation();
const dir = mkdtempSync(join(tmpdir(), 'outside-'));
let service: Awaited<ReturnType<typeof startSigningStandIn>>;
let acme: SealFiles;
let plain: Uint8Array;
beforeAll(async () => {
  service = await startSigningStandIn(dir, 0);
  acme = await makeCertificate('Acme Inspection', organisation.clock.now);
  writeFileSync(join(dir, 'trusted.pem'), acme.certificates);
  const pdf = await PDFDocument.create();
  pdf.addPage([400, 300]);
  plain = await pdf.save({ useObjectStreams: false });
});
afterAll(async () => {
  await service.stop();
  rmSync(dir, { recursive: true, force: true });
});

const as = (name: string) => organisation.as(name);
const sent = async (name: string, bytes: Uint8Array, file = 'back.pdf') =>
  (await takeUpload(organisation.app, await as(name), file, Readable.from([Buffer.from(bytes)]))).id;
const signed = async (bytes: Uint8Array) =>
  sealPdf(bytes, await readSeal(acme), { reason: 'Agreed', at: organisation.clock.now });
const approved = async (isPdf = false): Promise<string> => {
  const { number } = isPdf
    ? await organisation.registerAs('author', {
        uploadId: await sent('author', plain, 'drawing.pdf'),
        ownerId: organisation.ids.owner ?? '',
      })
    : await organisation.register('author');
  await organisation.toInForce(number);
  return number;
};
const listed = async (name: string, number: string) =>
  (await signedOutside(organisation.app, await as(name), number)).items;
const judged = (bytes: Uint8Array): string => {
  writeFileSync(join(dir, 'judged.pdf'), bytes);
  return execFileSync('pdfsig', ['-nocert', join(dir, 'judged.pdf')], { encoding: 'utf8' });
};
const bytesOf = async (sha256: string): Promise<Buffer> => {
  const pieces: Buffer[] = [];
  for await (const piece of await organisation.app.content.open(sha256)) pieces.push(piece as Buffer);
  return Buffer.concat(pieces);
};

describe('a PDF that is brought back', () => {
  const bringBack = async (name: string, number: string, bytes: Uint8Array) =>
    bring(organisation.app, await as(name), number, { uploadId: await sent(name, bytes), note: 'by courier' });

  test('is kept with who signed it, whether it is intact and whether they are trusted', async () => {
    const number = await approved();
    organisation.app.config.trustedCertificatesFile = join(dir, 'trusted.pem');
    const { signatures } = await bringBack('author', number, await signed(plain));
    expect(signatures).toMatchObject([{ by: 'Acme Inspection', intact: true, coversAll: true, trusted: true }]);
    organisation.app.config.trustedCertificatesFile = undefined;
    const again = await bringBack('author', number, await signed(plain));
    expect(again.signatures[0]?.trusted).toBe(false);
    const [item] = await listed('reader', number);
    expect(item).toMatchObject({
      how: 'brought',
      state: 'signed',
      file: 'back.pdf',
      note: 'by courier',
      mayCancel: false,
    });
    expect(await signedFile(organisation.app, await as('reader'), item?.id ?? '')).toMatchObject({ name: 'back.pdf' });
    expect((await organisation.verdict()).kind).toBe('intact');
  });

  test('names what was altered on its way, as another program does', async () => {
    const number = await approved();
    const altered = Buffer.from(await signed(plain));
    const at = altered.indexOf('MediaBox');
    altered[at + 9] = (altered[at + 9] ?? 0) ^ 1;
    expect(judged(altered)).toContain('Digest Mismatch');
    expect((await bringBack('controller', number, altered)).signatures).toMatchObject([
      { intact: false, trusted: false },
    ]);
  });

  test('has a signature, is about what is decided, and is brought by whoever works on the document', async () => {
    const number = await approved();
    expect(await codeOf(bringBack('author', number, plain))).toBe('pdf_not_signed');
    expect(await codeOf(bringBack('author', number, Buffer.from('no PDF')))).toBe('pdf_not_signed');
    expect(await codeOf(bringBack('reader', number, await signed(plain)))).toBe('right_missing');
    const draft = await organisation.register('author');
    expect(await codeOf(bringBack('author', draft.number, await signed(plain)))).toBe('signs_what_can_change');
  });
});

describe('a PDF that goes to the signing service', () => {
  const SIGNERS = [
    { name: 'Ida Brenn', mail: 'ida@brennhof.example' },
    { name: 'Olaf Kern', mail: 'olaf@brennhof.example' },
  ];
  const ask = async (number: string) =>
    send(organisation.app, await as('author'), number, { signers: SIGNERS, message: 'Please sign' });
  const press = async (address: string | null | undefined, does: 'sign' | 'decline', why = '') =>
    fetch(address ?? '', { method: 'POST', body: new URLSearchParams({ does, why }), redirect: 'manual' });

  test('is refused where there is none', async () => {
    const number = await approved();
    expect(await codeOf(ask(number))).toBe('no_signing_service');
  });

  test('is signed by each, comes back whole and trusted, and is valid for another program', async () => {
    organisation.app.config.signingServiceUrl = service.url;
    const number = await approved(true);
    await ask(number);
    expect((await listed('author', number))[0]).toMatchObject({ state: 'waiting', isSent: false });
    await askSigningService(organisation.app);
    const [waiting] = await listed('author', number);
    expect(waiting?.signers.map(({ name, signedAt }) => [name, signedAt])).toEqual([
      ['Ida Brenn', null],
      ['Olaf Kern', null],
    ]);
    // A reader learns who is asked, not where to sign.
    expect((await listed('reader', number))[0]?.signers.every(({ address }) => address === null)).toBe(true);
    await press(waiting?.signers[0]?.address, 'sign');
    await askSigningService(organisation.app);
    expect((await listed('author', number))[0]?.signers.map(({ signedAt }) => signedAt !== null)).toEqual([
      true,
      false,
    ]);
    await press(waiting?.signers[1]?.address, 'sign');
    await askSigningService(organisation.app);
    await askSigningService(organisation.app);
    const [done] = await listed('controller', number);
    expect(done).toMatchObject({ state: 'signed', file: `${number} A signed.pdf` });
    expect(done?.signatures.map(({ by, intact, trusted }) => [by, intact, trusted])).toEqual([
      ['Ida Brenn', true, true],
      ['Olaf Kern', true, true],
    ]);
    const { sha256 } = await signedFile(organisation.app, await as('controller'), done?.id ?? '');
    expect(judged(await bytesOf(sha256)).match(/Signature is Valid\./g)).toHaveLength(2);
    expect((await organisation.verdict()).kind).toBe('intact');
  });

  test('is a PDF, or pages can be made of it', async () => {
    organisation.app.config.signingServiceUrl = service.url;
    expect(await codeOf(ask(await approved()))).toBe('no_pdf_to_sign');
  });

  test('is declined with a reason, and nothing is kept', async () => {
    organisation.app.config.signingServiceUrl = service.url;
    const number = await approved(true);
    await ask(number);
    await askSigningService(organisation.app);
    await press((await listed('author', number))[0]?.signers[0]?.address, 'decline', 'wrong drawing');
    await askSigningService(organisation.app);
    expect((await listed('author', number))[0]).toMatchObject({
      state: 'declined',
      file: null,
      why: 'Ida Brenn rejected it: wrong drawing',
    });
  });

  test('is taken back, and waits while the service is down', async () => {
    organisation.app.config.signingServiceUrl = 'http://127.0.0.1:9';
    const number = await approved(true);
    const { id } = await ask(number);
    await askSigningService(organisation.app);
    expect((await listed('author', number))[0]).toMatchObject({ state: 'waiting', isSent: false });
    expect(await codeOf(cancel(organisation.app, await as('reader'), id, { reason: 'no' }))).toBe('not_found');
    await cancel(organisation.app, await as('author'), id, { reason: 'Signed on paper' });
    expect(await codeOf(cancel(organisation.app, await as('author'), id, { reason: 'again' }))).toBe(
      'outside_signing_ended',
    );
    expect((await listed('author', number))[0]).toMatchObject({ state: 'cancelled', why: 'Signed on paper' });
  });
});
