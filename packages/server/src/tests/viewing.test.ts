import { execFile } from 'node:child_process';
import { chmodSync, existsSync, mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { createServer } from 'node:http';
import type { AddressInfo } from 'node:net';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { Readable } from 'node:stream';
import { promisify } from 'node:util';
import { PDFDocument, StandardFonts } from '@cantoo/pdf-lib';
import ExcelJS from 'exceljs';
import { zipSync } from 'fflate';
import sharp from 'sharp';
import { describe, expect, test, vi } from 'vitest';
import { extractText, findText } from '../features/content/text.ts';
import { takeUpload } from '../features/content/uploads.ts';
import { drawingReferences } from '../features/documents/references.ts';
import { registerDocument } from '../features/registration/service.ts';
import { attachmentOf, drawingOf, entriesOf, mailOf, scanOf, sheetsOf } from '../features/viewing/insides.ts';
import { makeWaiting, retryRenditions } from '../features/viewing/making.ts';
import { pagesFile, pagesOf } from '../features/viewing/pages.ts';
import { scanText } from '../features/viewing/scan.ts';
import { smallOfRevision, smallPicture } from '../features/viewing/small.ts';
import { resumeTexts, takeText } from '../features/viewing/textByPages.ts';
import { rows } from '../platform/db/connect.ts';
import { convertOffice } from '../platform/office/convert.ts';
import { codeOf } from './organisation.ts';
import { withOrganisation } from './withOrganisation.ts';

const run = promisify(execFile);
const organisation = withOrganisation();

const viewer = () => organisation.as('author');
/** A document of one file. */
const filed = async (name: string, bytes: Uint8Array) => {
  const upload = await takeUpload(organisation.app, await viewer(), name, Readable.from([Buffer.from(bytes)]));
  const { number } = await registerDocument(
    organisation.app,
    await viewer(),
    {
      typeId: organisation.types.get('MEM') ?? '',
      folderId: organisation.folders.get('1') ?? '',
      title: name,
      metadata: {},
      uploadId: upload.id,
    },
    null,
  );
  const file = (await organisation.page('author', number)).versions[0]?.files[0];
  return { number, id: file?.id ?? '', sha256: upload.sha256, show: file?.show };
};
const rtf = (text: string) => Buffer.from(`{\\rtf1\\ansi ${text}\\par}`);
const textOfPdf = async (sha256: string) =>
  (await run('pdftotext', [organisation.app.content.pathOf(sha256), '-'])).stdout;

/** Some words as a picture of 200 points to the inch, as a scanner would give it. */
const picture = async (text: string): Promise<Buffer> => {
  const pdf = await PDFDocument.create();
  pdf
    .addPage([500, 160])
    .drawText(text, { x: 30, y: 80, size: 24, font: await pdf.embedFont(StandardFonts.Helvetica) });
  const dir = mkdtempSync(join(tmpdir(), 'picture-'));
  writeFileSync(join(dir, 'a.pdf'), await pdf.save());
  await run('pdftoppm', ['-r', '200', '-png', '-singlefile', join(dir, 'a.pdf'), join(dir, 'a')]);
  return readFileSync(join(dir, 'a.png'));
};

describe('pages of office files', () => {
  test('are made once for a content by a job, and shown from then on', async () => {
    const { id, show } = await filed('letter.rtf', rtf('Slip force of the grip'));
    expect(show).toBe('pages');
    expect(await pagesOf(organisation.app, await viewer(), id)).toEqual({ state: 'waiting', why: null });
    expect(await codeOf(pagesFile(organisation.app, await viewer(), id))).toBe('not_found');
    expect(await makeWaiting(organisation.app, 'pages')).toBe(1);
    expect(await pagesOf(organisation.app, await viewer(), id)).toEqual({ state: 'done', why: null });
    expect(await textOfPdf((await pagesFile(organisation.app, await viewer(), id)).sha256)).toContain(
      'Slip force of the grip',
    );
    // The same bytes filed again have their pages at once.
    const again = await filed('copy.rtf', rtf('Slip force of the grip'));
    expect((await pagesOf(organisation.app, await viewer(), again.id)).state).toBe('done');
    expect(await codeOf(pagesOf(organisation.app, await organisation.as('reader'), id))).toBe('not_found');
  }, 300_000);

  test('several are made in one run, and a bad file among them spoils no other', async () => {
    const ids = [];
    for (const text of ['one', 'two']) ids.push((await filed(`${text}.rtf`, rtf(text))).id);
    const bad = await filed(
      'bad.odt',
      zipSync({
        mimetype: [Buffer.from('application/vnd.oasis.opendocument.text'), { level: 0 }],
        'content.xml': Buffer.from('<broken'),
      }),
    );
    for (const id of [...ids, bad.id]) await pagesOf(organisation.app, await viewer(), id);
    expect(await makeWaiting(organisation.app, 'pages')).toBe(3);
    for (const id of ids) expect((await pagesOf(organisation.app, await viewer(), id)).state).toBe('done');
    const failed = await pagesOf(organisation.app, await viewer(), bad.id);
    expect(failed.state === 'failed' ? failed.why : 'done').toBeTruthy();
  }, 300_000);

  test('give older formats their text, which is found, and files that cannot be read none', async () => {
    const { sha256, id } = await filed('old.rtf', rtf('Splice of the haul rope, see THR-PRO-0112'));
    await takeText(organisation.app, sha256);
    expect(await findText(organisation.app, sha256)).toBeUndefined();
    // Requested for the text, the pages are ready for a viewer.
    expect(await makeWaiting(organisation.app, 'pages')).toBe(1);
    expect(await findText(organisation.app, sha256)).toContain('Splice of the haul rope, see THR-PRO-0112');
    expect((await pagesOf(organisation.app, await viewer(), id)).state).toBe('done');
    const states = async (of: string) =>
      (
        await rows<{ text_state: string }>(organisation.app.db, 'select text_state from contents where sha256 = :of', {
          of,
        })
      )[0]?.text_state;
    expect(await states(sha256)).toBe('done');
    const broken = await filed(
      'old.doc',
      Buffer.from([0xd0, 0xcf, 0x11, 0xe0, 0xa1, 0xb1, 0x1a, 0xe1, ...Array(600).fill(7)]),
    );
    await takeText(organisation.app, broken.sha256);
    await makeWaiting(organisation.app, 'pages');
    expect(await states(broken.sha256)).not.toBe('waiting');
  }, 300_000);

  test('what could not be made is tried again, three times in all, and gives its text when it can be', async () => {
    const { sha256, id } = await filed('later made.rtf', rtf('Torque of the socket bolts'));
    await takeText(organisation.app, sha256);
    const state = async () => (await pagesOf(organisation.app, await viewer(), id)).state;
    const fail = (tries: number) =>
      rows(
        organisation.app.db,
        `update renditions set state = 'failed', why = 'no memory', tries = :tries where sha256 = :sha256 and kind = 'pages'`,
        { sha256, tries },
      );
    await rows(organisation.app.db, `update contents set text_state = 'none' where sha256 = :sha256`, { sha256 });
    await fail(3);
    await retryRenditions(organisation.app);
    expect(await state()).toBe('failed');
    await fail(1);
    expect(await retryRenditions(organisation.app)).toBeGreaterThan(0);
    expect(await state()).toBe('waiting');
    await makeWaiting(organisation.app, 'pages');
    expect(await state()).toBe('done');
    expect(await findText(organisation.app, sha256)).toContain('Torque of the socket bolts');
  }, 300_000);

  test('missing texts are requested again after a standstill, once each', async () => {
    const { sha256 } = await filed('later.rtf', rtf('Later'));
    const requests: unknown[] = [];
    const jobs = { ...organisation.app.jobs, enqueue: async (...of: unknown[]) => void requests.push(of.slice(1)) };
    // A text with a waiting job is not requested twice.
    await rows(
      organisation.app.db,
      `insert into jobs.job (name, data) values ('text.extract', jsonb_build_object('sha256', :sha256::text))`,
      { sha256 },
    );
    await resumeTexts({ ...organisation.app, jobs } as typeof organisation.app);
    expect(JSON.stringify(requests)).not.toContain(sha256);
    await rows(organisation.app.db, `delete from jobs.job where name = 'text.extract'`);
    await resumeTexts({ ...organisation.app, jobs } as typeof organisation.app);
    expect(requests.filter((one) => JSON.stringify(one).includes(sha256))).toEqual([['text.extract', { sha256 }]]);
    await takeText(organisation.app, sha256);
    await makeWaiting(organisation.app, 'pages');
    requests.length = 0;
    await resumeTexts({ ...organisation.app, jobs } as typeof organisation.app);
    expect(JSON.stringify(requests)).not.toContain(sha256);
  }, 300_000);

  test('that were opened before their text was requested give it at once', async () => {
    const { sha256, id } = await filed('looked.rtf', rtf('Clamping force'));
    await pagesOf(organisation.app, await viewer(), id);
    await rows(organisation.app.db, `update contents set text_state = 'unread' where sha256 = :sha256`, { sha256 });
    await makeWaiting(organisation.app, 'pages');
    expect(await findText(organisation.app, sha256)).toBeUndefined();
    await rows(organisation.app.db, `update contents set text_state = 'waiting' where sha256 = :sha256`, { sha256 });
    await takeText(organisation.app, sha256);
    expect(await findText(organisation.app, sha256)).toContain('Clamping force');
  }, 300_000);

  test('an OpenDocument text that LibreOffice wrote is read without its pages', async () => {
    const dir = mkdtempSync(join(tmpdir(), 'odt-'));
    writeFileSync(join(dir, 'a.rtf'), rtf('Slip test of the grip'));
    await run('soffice', [
      `-env:UserInstallation=file://${join(dir, 'profile')}`,
      '--headless',
      '--convert-to',
      'odt',
      '--outdir',
      join(dir, 'made'),
      join(dir, 'a.rtf'),
    ]);
    const { sha256 } = await filed('a.odt', readFileSync(join(dir, 'made', 'a.odt')));
    await takeText(organisation.app, sha256);
    expect(await findText(organisation.app, sha256)).toBe('Slip test of the grip');
    rmSync(dir, { recursive: true, force: true });
  }, 180_000);

  test('a scan of several pages in a format that browsers do not know is shown as pages in its true size', async () => {
    const tiff = await sharp([await picture('First sheet'), await picture('Second sheet')], {
      join: { animated: true },
    })
      .withMetadata({ density: 200 })
      .tiff({ compression: 'lzw' })
      .toBuffer();
    expect((await sharp(tiff).metadata()).pages).toBe(2);
    const { id, number, sha256, show } = await filed('scan.tif', tiff);
    expect(show).toBe('pages');
    expect((await pagesOf(organisation.app, await viewer(), id)).state).toBe('waiting');
    await makeWaiting(organisation.app, 'pages');
    const made = await PDFDocument.load(
      readFileSync(organisation.app.content.pathOf((await pagesFile(organisation.app, await viewer(), id)).sha256)),
    );
    expect(made.getPageCount()).toBe(2);
    expect(Math.round(made.getPage(1).getWidth())).toBe(500);
    await smallPicture(organisation.app, await viewer(), id);
    await makeWaiting(organisation.app, 'small');
    expect(await smallOfRevision(organisation.app, await viewer(), number, undefined)).toBeDefined();
    await scanText(organisation.app, sha256);
    expect(await findText(organisation.app, sha256)).toMatch(/First sheet[\s\S]*Second sheet/);
    const broken = await filed('broken.tif', Buffer.concat([tiff.subarray(0, 64), Buffer.alloc(200)]));
    await pagesOf(organisation.app, await viewer(), broken.id);
    await makeWaiting(organisation.app, 'pages');
    const failed = await pagesOf(organisation.app, await viewer(), broken.id);
    expect(failed.state === 'failed' && failed.why).toContain('cannot be read as an image');
  }, 300_000);

  test('a hanging converter is ended with its child processes, and reported', async () => {
    const dir = mkdtempSync(join(tmpdir(), 'hang-'));
    const program = join(dir, 'hang.sh');
    writeFileSync(program, `#!/bin/sh\nsleep 300 &\necho $! > ${dir}/child\nsleep 300\n`);
    chmodSync(program, 0o755);
    const file = join(dir, 'a.rtf');
    writeFileSync(file, rtf('x'));
    const began = performance.now();
    const { results, done } = await convertOffice([{ path: file, ending: 'rtf' }], 'pdf', { seconds: 1, program });
    await done();
    expect(performance.now() - began).toBeLessThan(15_000);
    expect(results).toEqual([{ why: expect.stringContaining('within the limit of 1 seconds') }]);
    // Gone, or waiting for its parent to notice that it has ended.
    const stat = `/proc/${readFileSync(join(dir, 'child'), 'utf8').trim()}/stat`;
    expect(existsSync(stat) ? readFileSync(stat, 'utf8') : ' Z ').toContain(' Z ');
  }, 180_000);

  test('a converter killed while it works is restarted, and its file is converted', async () => {
    const dir = mkdtempSync(join(tmpdir(), 'killed-'));
    const program = join(dir, 'office.sh');
    // The first one dies with all that it started after it has begun; the next is the real one.
    writeFileSync(
      program,
      // It leaves the beginning of a file where the pages are to be: --outdir is followed by the place.
      `#!/bin/sh
if [ ! -e ${dir}/died ]; then
  touch ${dir}/died
  for word; do [ "$last" = --outdir ] && printf '%%PDF-1.7' > "$word/0.pdf"; last="$word"; done
  soffice "$@" & sleep 0.3; kill -9 0
fi
exec soffice "$@"
`,
    );
    chmodSync(program, 0o755);
    for (const count of [1, 3]) {
      const files = Array.from({ length: count }, (_, i) => {
        const path = join(dir, `${i}.rtf`);
        writeFileSync(path, rtf(`Words of file ${i}`));
        return { path, ending: 'rtf' };
      });
      rmSync(join(dir, 'died'), { force: true });
      const { results, done } = await convertOffice(files, 'pdf', { program });
      expect(existsSync(join(dir, 'died'))).toBe(true);
      for (const [i, result] of results.entries()) {
        if ('why' in result) throw new Error(`file ${i} of ${count}: ${result.why}`);
        expect((await run('pdftotext', [result.made, '-'])).stdout).toContain(`Words of file ${i}`);
      }
      await done();
    }
    // Where it is killed each time there are no pages, with the reason.
    writeFileSync(program, `#!/bin/sh\necho >> ${dir}/tries\nkill -9 0\n`);
    const path = join(dir, '0.rtf');
    const { results, done } = await convertOffice([{ path, ending: 'rtf' }], 'pdf', { program });
    await done();
    expect(results).toEqual([{ why: expect.stringContaining('failed on it') }]);
    expect(readFileSync(join(dir, 'tries'), 'utf8')).toBe('\n\n\n');
  }, 300_000);

  test('fetch nothing from elsewhere', async () => {
    let requests = 0;
    const server = createServer((_q, response) => {
      requests++;
      response.end();
    }).listen(0, '127.0.0.1');
    await new Promise((resolve) => server.once('listening', resolve));
    const address = `http://127.0.0.1:${(server.address() as AddressInfo).port}/x.png`;
    const html = Buffer.from(
      `{\\rtf1{\\field{\\*\\fldinst INCLUDEPICTURE "${address}" \\\\d}{\\fldrslt }}Plain words}`,
    );
    const odt = zipSync({
      mimetype: [Buffer.from('application/vnd.oasis.opendocument.text'), { level: 0 }],
      'META-INF/manifest.xml': Buffer.from(
        '<manifest:manifest xmlns:manifest="urn:oasis:names:tc:opendocument:xmlns:manifest:1.0"><manifest:file-entry manifest:full-path="/" manifest:media-type="application/vnd.oasis.opendocument.text"/><manifest:file-entry manifest:full-path="content.xml" manifest:media-type="text/xml"/></manifest:manifest>',
      ),
      'content.xml': Buffer.from(
        `<office:document-content xmlns:office="urn:oasis:names:tc:opendocument:xmlns:office:1.0" xmlns:text="urn:oasis:names:tc:opendocument:xmlns:text:1.0" xmlns:draw="urn:oasis:names:tc:opendocument:xmlns:drawing:1.0" xmlns:xlink="http://www.w3.org/1999/xlink" xmlns:svg="urn:oasis:names:tc:opendocument:xmlns:svg-compatible:1.0" office:version="1.3"><office:body><office:text><text:p>Words<draw:frame svg:width="3cm" svg:height="3cm"><draw:image xlink:href="${address}" xlink:type="simple" xlink:actuate="onLoad"/></draw:frame></text:p></office:text></office:body></office:document-content>`,
      ),
    });
    for (const [name, bytes] of [
      ['a.rtf', html],
      ['a.odt', odt],
    ] as const) {
      const { id } = await filed(name, bytes);
      await pagesOf(organisation.app, await viewer(), id);
    }
    await makeWaiting(organisation.app, 'pages');
    server.close();
    expect(requests).toBe(0);
  }, 300_000);

  test('have a small picture of the first one', async () => {
    const pdf = await PDFDocument.create();
    pdf.addPage([400, 600]).drawRectangle({ x: 50, y: 50, width: 100, height: 100 });
    const { id } = await filed('a.pdf', await pdf.save());
    expect(await smallPicture(organisation.app, await viewer(), id)).toBeUndefined();
    await makeWaiting(organisation.app, 'small');
    const small = await smallPicture(organisation.app, await viewer(), id);
    expect(
      readFileSync(organisation.app.content.pathOf(small?.sha256 ?? ''))
        .subarray(1, 4)
        .toString(),
    ).toBe('PNG');
  });

  test('pictures and drawings have one too, made small and drawn on white', async () => {
    const png = await sharp({
      create: { width: 900, height: 300, channels: 4, background: { r: 0, g: 0, b: 0, alpha: 0 } },
    })
      .png()
      .toBuffer();
    const svg = '<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 40 80"><path d="M0 0h40v80z"/></svg>';
    for (const [name, bytes, width, height] of [
      ['wide.png', png, 260, 87],
      ['high.svg', Buffer.from(svg), 130, 260],
    ] as const) {
      const { id, number } = await filed(name, bytes);
      expect(await smallPicture(organisation.app, await viewer(), id)).toBeUndefined();
      await makeWaiting(organisation.app, 'small');
      const small = await smallOfRevision(organisation.app, await viewer(), number, undefined);
      const made = sharp(organisation.app.content.pathOf(small?.sha256 ?? ''));
      expect(await made.metadata(), name).toMatchObject({ format: 'png', width, height });
      expect((await made.raw().toBuffer()).at(0), name).toBeGreaterThan(200 * Number(name === 'wide.png'));
    }
  });

  test('none is made of broken files, and nothing named elsewhere is fetched', async () => {
    let requests = 0;
    const server = createServer((_request, response) => {
      requests++;
      response.end();
    }).listen(0);
    const { port } = server.address() as AddressInfo;
    const outside = `<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 9 9"><image href="http://127.0.0.1:${port}/a.png" width="9" height="9"/><image href="file:///etc/hostname" width="9" height="9"/></svg>`;
    const named = await filed('outside.svg', Buffer.from(outside));
    await smallPicture(organisation.app, await viewer(), named.id);
    const half = await filed(
      'half.png',
      (
        await sharp({ create: { width: 99, height: 99, channels: 3, background: 'red' } })
          .png()
          .toBuffer()
      ).subarray(0, 90),
    );
    await smallPicture(organisation.app, await viewer(), half.id);
    await makeWaiting(organisation.app, 'small');
    server.close();
    expect(requests).toBe(0);
    expect(await codeOf(smallPicture(organisation.app, await viewer(), half.id))).toBe('cannot_be_shown');
    const text = await filed('a.md', Buffer.from('# Words'));
    expect(await codeOf(smallPicture(organisation.app, await viewer(), text.id))).toBe('cannot_be_shown');
    expect(
      await codeOf(smallOfRevision(organisation.app, await organisation.as('stranger'), text.number, undefined)),
    ).toBe('not_found');
  });
});

describe('large files', () => {
  test('a PDF of 300 pages is read to its last page and has a small picture of its first', async () => {
    const pdf = await PDFDocument.create();
    const font = await pdf.embedFont(StandardFonts.Helvetica);
    for (let n = 1; n <= 300; n++)
      pdf
        .addPage([595, 842])
        .drawText(`Rope section ${n} was measured at forty places`, { x: 60, y: 700, size: 11, font });
    const { id, sha256 } = await filed('long.pdf', await pdf.save());
    await extractText(organisation.app, sha256);
    const text = (await findText(organisation.app, sha256)) ?? '';
    expect(text.split('\f').length).toBeGreaterThanOrEqual(300);
    expect(text.split('\f')[299]).toContain('Rope section 300');
    await smallPicture(organisation.app, await viewer(), id);
    await makeWaiting(organisation.app, 'small');
    expect(await smallPicture(organisation.app, await viewer(), id)).toMatchObject({ size: expect.any(Number) });
  }, 300_000);

  test('a drawing of 200 MB is filed and handed out in parts, is not drawn, and is never held whole in memory', async () => {
    const line = Buffer.from(`${'0\nLINE\n8\n0\n10\n0.0\n20\n0.0\n11\n4480.0\n21\n2240.0\n'.repeat(2000)}`);
    const lines = Math.ceil(200_000_000 / line.length);
    const pieces = function* () {
      yield Buffer.from('0\nSECTION\n2\nENTITIES\n');
      for (let i = 0; i < lines; i++) yield line;
      yield Buffer.from('0\nENDSEC\n0\nEOF\n');
    };
    organisation.app.config.uploadLimit = 512 * 1024 * 1024;
    organisation.app.forgetOrganisation();
    const before = process.memoryUsage().rss;
    let most = 0;
    const watch = setInterval(() => {
      most = Math.max(most, process.memoryUsage().rss - before);
    }, 20);
    const upload = await takeUpload(organisation.app, await viewer(), 'line.dxf', Readable.from(pieces()));
    expect(upload.size).toBeGreaterThan(200_000_000);
    const { number } = await registerDocument(
      organisation.app,
      await viewer(),
      {
        typeId: organisation.types.get('MEM') ?? '',
        folderId: organisation.folders.get('1') ?? '',
        title: 'The whole line',
        metadata: {},
        uploadId: upload.id,
      },
      null,
    );
    await extractText(organisation.app, upload.sha256);
    const file = (await organisation.page('author', number)).versions[0]?.files[0];
    expect(await codeOf(drawingOf(organisation.app, await viewer(), file?.id ?? ''))).toBe('cannot_be_shown');
    expect((await drawingReferences(organisation.app, await viewer(), upload.id)).references).toEqual([]);
    expect(await codeOf(smallPicture(organisation.app, await viewer(), file?.id ?? ''))).toBe('cannot_be_shown');
    const last: Buffer[] = [];
    for await (const piece of await organisation.app.content.open(upload.sha256, {
      start: upload.size - 6,
      end: upload.size - 1,
    }))
      last.push(piece as Buffer);
    clearInterval(watch);
    expect(Buffer.concat(last).toString()).toBe('0\nEOF\n');
    expect(most, `${Math.round(most / 1048576)} MB more`).toBeLessThan(150 * 1024 * 1024);
  }, 300_000);
});

describe('text of scans', () => {
  test('is read from pictures and from PDFs that are pictures, with how sure the reader is', async () => {
    const png = await picture('Inspection of rope THR-PRO-0118');
    const scanned = await PDFDocument.create();
    scanned.addPage([500, 160]).drawImage(await scanned.embedPng(png), { x: 0, y: 0, width: 500, height: 160 });
    for (const [name, bytes] of [
      ['photo.png', png],
      ['scan.pdf', await scanned.save()],
    ] as const) {
      const { id, sha256 } = await filed(name, bytes);
      const enqueue = vi.spyOn(organisation.app.jobs, 'enqueue');
      await extractText(organisation.app, sha256);
      expect(
        enqueue.mock.calls.map(([, kind]) => kind),
        name,
      ).toContain('text.scan');
      enqueue.mockRestore();
      await scanText(organisation.app, sha256);
      const [text] = await rows<{ text: string }>(
        organisation.app.db,
        'select text from texts where sha256 = :sha256',
        {
          sha256,
        },
      );
      expect(text?.text, name).toContain('Inspection of rope THR-PRO-0118');
      const { scan } = await scanOf(organisation.app, await viewer(), id);
      expect(scan?.confidence).toBeGreaterThan(60);
      expect(scan?.language).toContain('eng');
    }
  }, 300_000);
});

describe('what is inside', () => {
  test('workbooks of other formats are sheets too, by one that the office program makes of them', async () => {
    const dir = mkdtempSync(join(tmpdir(), 'sheets-'));
    writeFileSync(join(dir, 'gusts.csv'), 'Day,Gust km/h\n2026-11-02,71\n');
    for (const ending of ['ods', 'xls'])
      await run('soffice', [
        `-env:UserInstallation=file://${join(dir, 'profile')}`,
        '--headless',
        '--convert-to',
        ending,
        '--outdir',
        dir,
        join(dir, 'gusts.csv'),
      ]);
    const files = [];
    for (const name of ['gusts.ods', 'gusts.xls']) {
      const { id, show } = await filed(name, readFileSync(join(dir, name)));
      expect(show).toBe('sheets');
      const opened = async () =>
        (
          await rows<{ n: number }>(organisation.app.db, 'select count(*)::int as n from usage where file_id = :id', {
            id,
          })
        )[0]?.n;
      expect(await sheetsOf(organisation.app, await viewer(), id)).toMatchObject({ state: 'waiting', sheets: [] });
      expect(await opened()).toBe(0);
      files.push(id);
    }
    expect(await makeWaiting(organisation.app, 'sheets')).toBe(2);
    for (const id of files) {
      const { state, sheets } = await sheetsOf(organisation.app, await viewer(), id);
      expect([state, sheets[0]?.rows[0], sheets[0]?.rows[1]?.[1]]).toEqual(['done', ['Day', 'Gust km/h'], '71']);
    }
    rmSync(dir, { recursive: true, force: true });
  }, 300_000);

  test('sheets show their values, and the stored results of formulas', async () => {
    const book = new ExcelJS.Workbook();
    const sheet = book.addWorksheet('Forces');
    sheet.addRow(['Grip', 'kN']);
    sheet.addRow(['GR-44', { formula: '2*2.1', result: 4.2 }]);
    book.addWorksheet('Empty');
    const { id, show } = await filed('forces.xlsx', new Uint8Array(await book.xlsx.writeBuffer()));
    expect(show).toBe('sheets');
    const { sheets } = await sheetsOf(organisation.app, await viewer(), id);
    expect(sheets).toEqual([
      {
        name: 'Forces',
        rows: [
          ['Grip', 'kN'],
          ['GR-44', '4.2'],
        ],
        more: false,
      },
      { name: 'Empty', rows: [], more: false },
    ]);
    expect(await codeOf(mailOf(organisation.app, await viewer(), id))).toBe('cannot_be_shown');
  });

  test('a zip is listed and not unpacked, also where its names lead out of it', async () => {
    const { id } = await filed(
      'a.zip',
      zipSync({ 'a/b.txt': Buffer.from('x'), '../../etc/passwd': Buffer.from('yy') }),
    );
    expect((await entriesOf(organisation.app, await viewer(), id)).entries).toEqual([
      { name: 'a/b.txt', size: 1 },
      { name: '../../etc/passwd', size: 2 },
    ]);
  });

  test('a mail is read clean, with its attachments to take away', async () => {
    const mail = [
      'From: Authority <a@authority.example>',
      'To: Organisation <h@organisation.example>',
      'Subject: Tower 9',
      'Date: Mon, 2 Nov 2026 10:00:00 +0100',
      'MIME-Version: 1.0',
      'Content-Type: multipart/mixed; boundary="x"',
      '',
      '--x',
      'Content-Type: text/html',
      '',
      '<p onclick="run()">Seen<script>run()</script><img src="http://elsewhere.invalid/track.png"></p>',
      '--x',
      'Content-Type: text/html; name="../evil.html"',
      'Content-Disposition: attachment; filename="../evil.html"',
      '',
      '<script>run()</script>',
      '--x--',
    ].join('\r\n');
    const { id } = await filed('tower.eml', Buffer.from(mail));
    const read = await mailOf(organisation.app, await viewer(), id);
    expect(read).toMatchObject({ subject: 'Tower 9', html: '<p>Seen</p>', attachments: [{ n: 0 }] });
    expect((await attachmentOf(organisation.app, await viewer(), id, 0)).bytes.toString()).toContain('<script>');
    expect(await codeOf(attachmentOf(organisation.app, await viewer(), id, 1))).toBe('not_found');
  });

  test('a DXF drawing is drawn with its texts: its own, those of blocks, and the values of a title block', async () => {
    const pairs = (text: string) => text.replaceAll(' | ', '\n').replaceAll('; ', '\n');
    // A block whose base is not its origin, put in twice as large and turned; a title block with one attribute.
    const dxf = pairs(
      [
        '0 | SECTION | 2 | BLOCKS | 0 | BLOCK | 8 | 0 | 2 | TAG | 70 | 0 | 10 | 5 | 20 | 5',
        '0 | LINE | 8 | 0 | 10 | 5 | 20 | 5 | 11 | 15 | 21 | 5',
        '0 | TEXT | 8 | 0 | 10 | 5 | 20 | 5 | 40 | 2 | 1 | Bolt M30',
        '0 | ENDBLK | 0 | ENDSEC',
        '0 | SECTION | 2 | ENTITIES',
        '0 | LINE | 8 | 0 | 10 | 0 | 20 | 0 | 11 | 100 | 21 | 50',
        '0 | TEXT | 8 | 0 | 10 | 10 | 20 | 40 | 40 | 3 | 1 | Pr\u00fcfung <1> %%c40',
        '0 | MTEXT | 8 | 0 | 10 | 50 | 20 | 40 | 40 | 3 | 71 | 1 | 1 | {\\fArial;Torque}\\P225 N',
        '0 | INSERT | 8 | 0 | 66 | 1 | 2 | TAG | 10 | 60 | 20 | 10 | 41 | 2 | 42 | 2 | 50 | 90',
        '0 | ATTRIB | 8 | 0 | 100 | AcDbText | 10 | 80 | 20 | 2 | 40 | 2 | 1 | P02 | 100 | AcDbAttribute | 2 | REV | 70 | 0',
        '0 | SEQEND | 8 | 0 | 0 | ENDSEC | 0 | EOF | ',
      ].join(' | '),
    );
    const { id, number } = await filed('texts.dxf', Buffer.from(dxf));
    const svg = (await drawingOf(organisation.app, await viewer(), id)).toString();
    expect(svg).toContain('>Prüfung &#60;1&#62; Ø40<');
    expect(svg).toMatch(/>Torque<.*>225 N</);
    expect(svg).toContain('>P02<');
    // At the insert's point, twice as high, upwards: the block's base is taken off.
    expect(svg).toMatch(/matrix\([-0-9.e]+ 0.04 0.04 [-0-9.e]+ 60 10\)"[^>]*><tspan[^>]*>Bolt M30</);
    await smallPicture(organisation.app, await viewer(), id);
    await makeWaiting(organisation.app, 'small');
    const small = await smallOfRevision(organisation.app, await viewer(), number, undefined);
    const { width, height } = await sharp(organisation.app.content.pathOf(small?.sha256 ?? '')).metadata();
    expect(Math.max(width ?? 0, height ?? 0)).toBe(260);
  });

  test('a DXF drawing is drawn as lines alone', async () => {
    const dxf = [
      '0',
      'SECTION',
      '2',
      'ENTITIES',
      '0',
      'LINE',
      '8',
      '0',
      '10',
      '0',
      '20',
      '0',
      '11',
      '10',
      '21',
      '5',
      '0',
      'ENDSEC',
      '0',
      'EOF',
      '',
    ].join('\n');
    const { id, show } = await filed('line.dxf', Buffer.from(dxf));
    expect(show).toBe('drawing');
    expect((await drawingOf(organisation.app, await viewer(), id)).toString()).toMatch(/<path|<line/);
    const broken = await filed('broken.dxf', Buffer.from('0\nSECTION\nnothing'));
    expect(
      await codeOf(
        drawingOf(organisation.app, await viewer(), broken.id).then((svg) =>
          expect(svg.toString()).not.toContain('<script'),
        ),
      ),
    ).toMatch(/done|cannot_be_shown/);
  });
});
