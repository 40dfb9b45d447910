// Text out of a long PDF against pdftotext, pages of office files against soffice, saving on the network drive against plain HTTP.
import { execFile } from 'node:child_process';
import { createHash, randomBytes } from 'node:crypto';
import { createReadStream, createWriteStream, mkdirSync, mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { createServer } from 'node:http';
import type { AddressInfo } from 'node:net';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { Readable } from 'node:stream';
import { pipeline } from 'node:stream/promises';
import { promisify } from 'node:util';
import { PDFDocument, StandardFonts } from '@cantoo/pdf-lib';
import { extractText } from '../packages/server/src/features/content/text.ts';
import { takeUpload } from '../packages/server/src/features/content/uploads.ts';
import { makeProgramPassword } from '../packages/server/src/features/webdav/passwords.ts';
import { rows } from '../packages/server/src/platform/db/connect.ts';
import { convertOffice } from '../packages/server/src/platform/office/convert.ts';
import type { TestOrganisation } from '../packages/server/src/tests/organisation.ts';
import { pair, rate } from './measure.ts';

const run = promisify(execFile);
const seconds = async (work: () => Promise<unknown>): Promise<number> => {
  const began = performance.now();
  await work();
  return (performance.now() - began) / 1000;
};

/** 300 pages of text, taken out by the job and by the bare program. */
const longPdf = async (organisation: TestOrganisation, dir: string) => {
  const pdf = await PDFDocument.create();
  const font = await pdf.embedFont(StandardFonts.Helvetica);
  for (let n = 0; n < 300; n++) {
    const page = pdf.addPage();
    for (let line = 0; line < 45; line++)
      page.drawText(`Page ${n} line ${line}: the slip force of the grip is measured three times`, {
        x: 40,
        y: 780 - line * 16,
        size: 10,
        font,
      });
  }
  const path = join(dir, 'long.pdf');
  writeFileSync(path, await pdf.save());
  const { sha256 } = await takeUpload(
    organisation.app,
    await organisation.as('author'),
    'long.pdf',
    createReadStream(path),
  );
  await pair(
    'text out of a PDF of 300 pages',
    0,
    '≤ 2 ×',
    async () => {
      await rows(organisation.app.db, `update contents set text_state = 'waiting' where sha256 = :sha256`, { sha256 });
      await extractText(organisation.app, sha256);
    },
    () => run('pdftotext', ['-enc', 'UTF-8', path, '-'], { maxBuffer: 1 << 28 }),
    7,
  );
};

/** 50 office files made into pages in batches of eight by two workers, against one plain run of the program. */
const fiftyFiles = async (dir: string) => {
  const files = Array.from({ length: 50 }, (_, i) => {
    const path = join(dir, `file-${i}.rtf`);
    writeFileSync(path, `{\\rtf1 File ${i}\\par ${'The slip force is measured. '.repeat(200)}}`);
    return { path, ending: 'rtf' };
  });
  const batches = Array.from({ length: Math.ceil(files.length / 8) }, (_, i) => files.slice(i * 8, i * 8 + 8));
  const worker = async () => {
    for (let batch = batches.shift(); batch; batch = batches.shift()) await (await convertOffice(batch, 'pdf')).done();
  };
  const ours = await seconds(() => Promise.all([worker(), worker()]));
  const out = join(dir, 'plain');
  mkdirSync(out);
  const bare = await seconds(() =>
    run('soffice', [
      `-env:UserInstallation=file://${join(dir, 'profile')}`,
      '--headless',
      '--convert-to',
      'pdf',
      '--outdir',
      out,
      ...files.map((file) => file.path),
    ]),
  );
  rate('pages of 50 office files', 0, 50 / ours, 50 / bare, '≥ ⅓ of plain', 'per s');
};

/** 200 MB saved on the network drive, hashed and stored, against a plain server that writes what it gets to a file. */
const saving = async (organisation: TestOrganisation, dir: string) => {
  const source = join(dir, 'large.bin');
  const megabytes = 200;
  await pipeline(
    Readable.from(
      (function* () {
        for (let i = 0; i < megabytes; i++) yield randomBytes(1 << 20);
      })(),
    ),
    createWriteStream(source),
  );
  // The organisation of the tests takes small files only.
  organisation.app.config.uploadLimit = 1 << 30;
  const base = await organisation.listen();
  const author = await organisation.as('author');
  const { password } = await makeProgramPassword(organisation.app, author, 'bench');
  const authorization = `Basic ${Buffer.from(`${author.signInName}:${password}`).toString('base64')}`;
  const plain = createServer((request, response) => {
    const hash = createHash('sha256');
    request.on('data', (part) => hash.update(part));
    void pipeline(request, createWriteStream(join(dir, 'plain.bin'))).then(() => response.end());
  }).listen(0, '127.0.0.1');
  await new Promise((resolve) => plain.once('listening', resolve));
  const put = (url: string, headers: Record<string, string>) =>
    fetch(url, {
      method: 'PUT',
      body: Readable.toWeb(createReadStream(source)) as ReadableStream,
      headers,
      duplex: 'half',
    } as RequestInit);
  const bareUrl = `http://127.0.0.1:${(plain.address() as AddressInfo).port}/x`;
  const [ours, bare]: [number[], number[]] = [[], []];
  for (let i = 0; i < 3; i++) {
    ours.push(await seconds(() => put(`${base}/webdav/Area%20one/~large${i}.tmp`, { authorization })));
    bare.push(await seconds(() => put(bareUrl, {})));
  }
  plain.close();
  rate(
    '200 MB saved on the network drive (WebDAV PUT)',
    0,
    megabytes / Math.min(...ours),
    megabytes / Math.min(...bare),
    '≥ ½ of plain HTTP',
    'MB/s',
  );
};

export const desk = async (organisation: TestOrganisation): Promise<void> => {
  const dir = mkdtempSync(join(tmpdir(), 'kanonos-bench-desk-'));
  try {
    await longPdf(organisation, dir);
    await fiftyFiles(dir);
    await saving(organisation, dir);
  } finally {
    rmSync(dir, { recursive: true, force: true });
  }
};
