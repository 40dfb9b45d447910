import { execFile } from 'node:child_process';
import { mkdtempSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { Readable } from 'node:stream';
import { promisify } from 'node:util';
import { PDFDocument } from '@cantoo/pdf-lib';
import { strFromU8, strToU8, zipSync } from 'fflate';
import { expect, test } from 'vitest';
import { checkIn } from '../features/authoring/service.ts';
import { takeUpload } from '../features/content/uploads.ts';
import { handOut } from '../features/documents/files.ts';
import { liftHold, putOnHold } from '../features/release/hold.ts';
import { withdraw } from '../features/release/withdraw.ts';
import { changeType, typeDetail } from '../features/rules/types.ts';
import { readParts } from '../platform/office/package.ts';
import { readProperties } from '../platform/office/properties.ts';
import { makeCertificate } from '../platform/seal/certificate.ts';
import { codeOf } from './organisation.ts';
import { withOrganisation } from './withOrganisation.ts';

const run = promisify(execFile);
const organisation = withOrganisation();

const W = 'xmlns:w="http://schemas.openxmlformats.org/wordprocessingml/2006/main"';
const docx = (text: string, more: Record<string, string> = {}) =>
  zipSync(
    Object.fromEntries(
      Object.entries({
        '[Content_Types].xml':
          '<Types xmlns="http://schemas.openxmlformats.org/package/2006/content-types"><Override PartName="/word/document.xml" ContentType="application/vnd.openxmlformats-officedocument.wordprocessingml.document.main+xml"/></Types>',
        '_rels/.rels': '<Relationships xmlns="http://schemas.openxmlformats.org/package/2006/relationships"/>',
        'word/document.xml': `<w:document ${W}><w:body><w:p><w:r><w:t>${text}</w:t></w:r></w:p><w:sdt><w:sdtPr><w:tag w:val="limit"/></w:sdtPr><w:sdtContent><w:p><w:r><w:t>?</w:t></w:r></w:p></w:sdtContent></w:sdt></w:body></w:document>`,
        'word/styles.xml': '<w:styles/>',
        'word/media/picture.bin': 'bytes that nobody touches',
        ...more,
      }).map(([name, part]) => [name, strToU8(part)]),
    ),
  );
const send = async (bytes: Uint8Array | string, name = 'text.docx') =>
  (
    await takeUpload(
      organisation.app,
      await organisation.as('author'),
      name,
      Readable.from([Buffer.from(bytes as Uint8Array)]),
    )
  ).id;
const register = async (bytes: Uint8Array | string, name?: string) =>
  organisation.registerAs('author', {
    title: 'Slip force',
    metadata: { limit: '12 kN' },
    ownerId: organisation.ids.owner ?? null,
    uploadId: await send(bytes, name),
  });
const copyOf = async (number: string, as: 'download' | 'exact' = 'download') => {
  const file = (await organisation.page('author', number)).versions[0]?.files[0]?.id ?? '';
  return handOut(organisation.app, await organisation.as('author'), file, as);
};
const out = async (number: string) => organisation.checkOut('author', number);
const back = async (number: string, bytes: Uint8Array, more: object = {}, name?: string) =>
  checkIn(organisation.app, await organisation.as('author'), number, {
    seen: '*',
    uploadId: await send(bytes, name),
    note: 'back',
    ...more,
  });
const part = (bytes: Uint8Array, name: string) => strFromU8(readParts(bytes).get(name) ?? new Uint8Array());

test('a copy carries its metadata; its other parts are byte for byte those that were checked in, which stay unchanged', async () => {
  const original = docx('The grip holds.');
  const { number } = await register(original);
  const { filled } = await copyOf(number);
  if (!filled) throw new Error('nothing was filled in');
  expect(part(filled, 'word/document.xml')).toContain('12 kN');
  expect(readProperties(filled, 'docx').named).toMatchObject({
    number,
    title: 'Slip force',
    revision: 'A',
    limit: '12 kN',
  });
  for (const name of ['word/styles.xml', 'word/media/picture.bin'])
    expect(part(filled, name)).toBe(part(original, name));
  const exact = await copyOf(number, 'exact');
  expect(exact.filled).toBeUndefined();
  expect(exact.file.sha256).toBe((await organisation.page('author', number)).versions[0]?.files[0]?.sha256);
});

test('the copy checked in as it left is noticed as the same content; with another fieldValue it corrects that fieldValue and no bytes', async () => {
  const { number } = await register(docx('Nothing changes here.'));
  const { filled } = await copyOf(number);
  await out(number);
  expect(await codeOf(back(number, filled ?? new Uint8Array()))).toBe('same_content');
  const before = (await organisation.page('author', number)).versions[0]?.files[0];
  await back(number, filled ?? new Uint8Array(), { metadata: { limit: '13 kN' }, sameContentMeant: true });
  const page = await organisation.page('author', number);
  expect(page).toMatchObject({ metadata: { limit: '13 kN' }, revision: { versions: 2 } });
  expect(page.versions[0]?.files[0]).toMatchObject({ sha256: before?.sha256, name: before?.name });
});

test('a copy of an older version carries the metadata of that version', async () => {
  const { number } = await register(docx('First words.'));
  await out(number);
  await back(number, docx('Second words.'), { metadata: { limit: '14 kN' }, title: 'Slip force, again' });
  const { versions } = await organisation.page('author', number);
  const saidBy = async (at: number) => {
    const copy = await handOut(
      organisation.app,
      await organisation.as('author'),
      versions[at]?.files[0]?.id ?? '',
      'download',
    );
    return readProperties(copy.filled ?? new Uint8Array(), 'docx').named;
  };
  expect(await saidBy(0)).toMatchObject({ version: '2', limit: '14 kN', title: 'Slip force, again' });
  expect(await saidBy(1)).toMatchObject({ version: '1', limit: '12 kN', title: 'Slip force' });
});

test('words that changed are another content, with the metadata of the copy inside', async () => {
  const { number } = await register(docx('The limit holds.'));
  await out(number);
  await back(number, docx('The limit is lower.'));
  const page = await organisation.page('author', number);
  expect(page.revision.versions).toBe(2);
  expect(page.versions[0]?.files[0]?.sha256).not.toBe(page.versions[1]?.files[0]?.sha256);
});

test('a text with places is filled in, and known again when it comes back unchanged', async () => {
  const { number } = await register('# {{title}}\n\n{{number}}: {{limit}}\n', 'text.md');
  const { filled } = await copyOf(number);
  expect(strFromU8(filled ?? new Uint8Array())).toBe(`# Slip force\n\n${number}: 12 kN\n`);
  await out(number);
  expect(await codeOf(back(number, filled ?? new Uint8Array(), {}, 'text.md'))).toBe('same_content');
});

test('a PDF is marked once it is in force, and again when it no longer is; the filed bytes stay unchanged', async () => {
  const pdf = await PDFDocument.create();
  pdf.addPage([400, 300]);
  const bytes = await pdf.save();
  const { number } = await register(bytes, 'text.pdf');
  const wordsOf = async (copy: Uint8Array | undefined) => {
    const path = join(mkdtempSync(join(tmpdir(), 'copy-')), 'a.pdf');
    writeFileSync(path, copy ?? new Uint8Array());
    return (await run('pdftotext', ['-raw', path, '-'])).stdout.replaceAll(/\s+/g, ' ');
  };
  // Who works on it takes it as it is.
  expect((await copyOf(number)).filled).toBeUndefined();
  await organisation.toInForce(number);
  const first = (await organisation.page('author', number)).versions[0]?.files[0]?.id ?? '';
  const author = await organisation.as('author');
  expect(await wordsOf((await handOut(organisation.app, author, first, 'download')).filled)).toMatch(
    new RegExp(`${number} · rev. A · in force since \\d{4}-\\d\\d-\\d\\d`),
  );
  const signed = await wordsOf((await handOut(organisation.app, author, first, 'download')).filled);
  expect(signed).toContain(`Signatures ${number} · revision A`);
  expect(signed).toMatch(/Owner approved as owner \d{1,2} \w{3} \d{4}, \d\d:\d\d Europe\/Zurich SHA-256 [0-9a-f]{8} /);
  expect(signed).toContain('Authority approved as authority');
  const controller = await organisation.as('controller');
  const held = async () =>
    (await wordsOf((await handOut(organisation.app, author, first, 'download')).filled)).replaceAll(' ', '');
  await putOnHold(organisation.app, controller, number, { seen: '*', reason: 'Wrong limit', wayOut: '' });
  expect(await held()).toContain('ONHOLD:DONOTUSE');
  await liftHold(organisation.app, controller, number, { seen: '*', reason: 'Checked' });
  expect(await held()).not.toContain('ONHOLD');
  expect((await handOut(organisation.app, author, first, 'exact')).filled).toBeUndefined();
  expect((await handOut(organisation.app, author, first, 'open')).filled).toBeUndefined();
  await withdraw(organisation.app, await organisation.as('controller'), number, {
    seen: '*',
    on: null,
    reason: 'No longer used',
  });
  const gone = await wordsOf(
    (await handOut(organisation.app, await organisation.as('controller'), first, 'download')).filled,
  );
  expect(gone).toContain('withdrawn on');
  expect(gone.replaceAll(' ', '')).toContain('WITHDRAWN');
});

test('a released PDF is sealed where the organisation has a certificate, and a change of it shows', async () => {
  const pdf = await PDFDocument.create();
  pdf.addPage([400, 300]);
  const { number } = await register(await pdf.save(), 'text.pdf');
  await organisation.toInForce(number);
  const file = (await organisation.page('author', number)).versions[0]?.files[0]?.id ?? '';
  const download = async () =>
    (await handOut(organisation.app, await organisation.as('author'), file, 'download')).filled ?? new Uint8Array();
  const judged = async (bytes: Uint8Array) => {
    const path = join(mkdtempSync(join(tmpdir(), 'copy-')), 'a.pdf');
    writeFileSync(path, bytes);
    return (await run('pdfsig', ['-nocert', path])).stdout;
  };
  const dir = mkdtempSync(join(tmpdir(), 'seal-'));
  const { key, certificates } = await makeCertificate('Test organisation', organisation.clock.now);
  const [sealKeyFile, sealCertificateFile] = [join(dir, 'key.pem'), join(dir, 'certificate.pem')];
  const { config } = organisation.app;
  Object.assign(config, { sealKeyFile, sealCertificateFile });
  try {
    await expect(download()).rejects.toThrow(/^SEAL_KEY_FILE, SEAL_CERTIFICATE_FILE: /);
    writeFileSync(sealKeyFile, key);
    writeFileSync(sealCertificateFile, certificates);
    const sealed = Buffer.from(await download());
    const said = await judged(sealed);
    expect(said).toContain('Signature is Valid.');
    expect(said).toContain('Signer Certificate Common Name: Test organisation');
    const at = sealed.indexOf('MediaBox');
    sealed[at + 9] = (sealed[at + 9] ?? 0) ^ 1;
    expect(await judged(sealed)).toContain('Digest Mismatch');
  } finally {
    Object.assign(config, { sealKeyFile: undefined, sealCertificateFile: undefined });
  }
});

test('copies carry the header and footer lines of their type, with their tokens filled in', async () => {
  const type = organisation.types.get('PRO') ?? '';
  const { rule, rowVersion } = await typeDetail(organisation.app, type);
  await changeType(organisation.app, await organisation.as('admin'), type, {
    rule: { ...rule, head: '{organisation}: {title}', foot: 'Limit {field:limit}, {nothing}kept by {owner}' },
    reason: 'As on paper',
    rowVersion,
    from: null,
    fill: [],
  });
  const pdf = await PDFDocument.create();
  pdf.addPage([500, 300]);
  const { number } = await register(await pdf.save(), 'lines.pdf');
  await organisation.toInForce(number);
  const { filled } = await copyOf(number);
  const path = join(mkdtempSync(join(tmpdir(), 'copy-')), 'a.pdf');
  writeFileSync(path, filled ?? new Uint8Array());
  const words = (await run('pdftotext', [path, '-'])).stdout.replaceAll(/\s+/g, ' ');
  expect(words).toContain('Slip force');
  expect(words).toContain('Limit 12 kN, kept by');
});

test('digitally signed and unreadable files are handed out unchanged', async () => {
  const sealed = await register(docx('Signed elsewhere.', { '_xmlsignatures/sig1.xml': '<Signature/>' }));
  expect((await copyOf(sealed.number)).filled).toBeUndefined();
  const odd = await register('# no places\n', 'plain.txt');
  expect((await copyOf(odd.number)).filled).toBeUndefined();
});
