// Files that try to run something, to reach something outside, or to grow beyond all measure: nothing runs, nothing leaves, nothing hangs.
import { createServer, type Server } from 'node:http';
import type { AddressInfo } from 'node:net';
import { Readable } from 'node:stream';
import { PDFDocument, PDFName, PDFString } from '@cantoo/pdf-lib';
import { zipSync } from 'fflate';
import { afterAll, beforeAll, describe, expect, test } from 'vitest';
import { extractText } from '../features/content/text.ts';
import { takeUpload } from '../features/content/uploads.ts';
import { makeWaiting } from '../features/viewing/making.ts';
import { cleanMarkdown } from '../platform/parsing/readingText.ts';
import { cookieOf, openOrganisation, type TestOrganisation } from './organisation.ts';

let organisation: TestOrganisation;
let base: string;
let cookie: string;
let outside: Server;
let requests: string[] = [];
let elsewhere: string;
beforeAll(async () => {
  organisation = await openOrganisation();
  base = await organisation.listen();
  cookie = await cookieOf(base, 'author');
  outside = createServer((request, response) => {
    requests.push(request.url ?? '');
    response.end('x');
  }).listen(0, '127.0.0.1');
  await new Promise((resolve) => outside.once('listening', resolve));
  elsewhere = `http://127.0.0.1:${(outside.address() as AddressInfo).port}`;
});
afterAll(async () => {
  outside.close();
  await organisation.close();
});

const utf8 = (text: string) => Buffer.from(text);
const W =
  'xmlns:w="http://schemas.openxmlformats.org/wordprocessingml/2006/main" xmlns:r="http://schemas.openxmlformats.org/officeDocument/2006/relationships"';
const docx = (body: string, more: Record<string, string> = {}, relations = '') =>
  Buffer.from(
    zipSync({
      '[Content_Types].xml': utf8(
        '<Types xmlns="http://schemas.openxmlformats.org/package/2006/content-types"><Default Extension="rels" ContentType="application/vnd.openxmlformats-package.relationships+xml"/><Default Extension="xml" ContentType="application/xml"/><Override PartName="/word/document.xml" ContentType="application/vnd.openxmlformats-officedocument.wordprocessingml.document.main+xml"/></Types>',
      ),
      '_rels/.rels': utf8(
        '<Relationships xmlns="http://schemas.openxmlformats.org/package/2006/relationships"><Relationship Id="r1" Type="http://schemas.openxmlformats.org/officeDocument/2006/relationships/officeDocument" Target="word/document.xml"/></Relationships>',
      ),
      'word/_rels/document.xml.rels': utf8(
        `<Relationships xmlns="http://schemas.openxmlformats.org/package/2006/relationships">${relations}</Relationships>`,
      ),
      'word/document.xml': utf8(`<w:document ${W}><w:body>${body}</w:body></w:document>`),
      ...Object.fromEntries(Object.entries(more).map(([name, text]) => [name, utf8(text)])),
    }),
  );
const words = (text: string) => `<w:p><w:r><w:t>${text}</w:t></w:r></w:p>`;
const svg = (inner: string, attributes = '') =>
  utf8(
    `<svg xmlns="http://www.w3.org/2000/svg" xmlns:xlink="http://www.w3.org/1999/xlink" width="10" height="10" ${attributes}>${inner}</svg>`,
  );
const mail = (html: string) =>
  utf8(['From: a@a.example', 'Subject: x', 'MIME-Version: 1.0', 'Content-Type: text/html', '', html].join('\r\n'));
const pdfWith = async (change: (pdf: PDFDocument) => void) => {
  const pdf = await PDFDocument.create();
  pdf.addPage([200, 200]);
  change(pdf);
  return Buffer.from(await pdf.save({ useObjectStreams: false }));
};
const BOMB =
  '<!DOCTYPE x [<!ENTITY a "aaaaaaaaaa"><!ENTITY b "&a;&a;&a;&a;&a;&a;&a;&a;&a;&a;"><!ENTITY c "&b;&b;&b;&b;&b;&b;&b;&b;&b;&b;"><!ENTITY d "&c;&c;&c;&c;&c;&c;&c;&c;&c;&c;"><!ENTITY e "&d;&d;&d;&d;&d;&d;&d;&d;&d;&d;">]>';
const XXE = '<!DOCTYPE x [<!ENTITY f SYSTEM "file:///etc/passwd">]>';

/** Each file with what it is after; `at` is the address of a server that must never be asked. */
const corpus = async (at: string): Promise<[name: string, what: string, bytes: Buffer][]> => [
  ['a.md', 'a script', utf8(`# x\n<script>fetch("${at}")</script>`)],
  ['b.md', 'a command on an element', utf8(`<img src=x onerror="fetch('${at}')">`)],
  ['c.md', 'a picture from outside', utf8(`![x](${at}/picture.png)`)],
  ['d.md', 'a link that runs', utf8('[press](javascript:alert(1))')],
  ['e.md', 'a link of data', utf8('[press](data:text/html;base64,PHNjcmlwdD4=)')],
  ['f.md', 'a frame', utf8(`<iframe src="${at}"></iframe><object data="${at}"></object><embed src="${at}">`)],
  [
    'g.md',
    'a style from outside',
    utf8(`<style>@import url(${at}/a.css)</style><link rel=stylesheet href="${at}/b.css">`),
  ],
  ['h.md', 'a form', utf8(`<form action="${at}"><input name=p><button>go</button></form>`)],
  ['i.md', 'a base', utf8(`<base href="${at}/"><a href="x">x</a>`)],
  ['j.md', 'a refresh', utf8(`<meta http-equiv="refresh" content="0;url=${at}">`)],
  ['k.md', 'a drawing with a script', utf8('<svg><script>alert(1)</script></svg><math><mtext></mtext></math>')],
  ['l.md', 'letters that hide a scheme', utf8('[x](java\u0000script:alert(1)) [y](&#106;avascript:alert(1))')],
  ['m.md', 'nesting without end', utf8(`${'> '.repeat(2000)}x`)],
  ['n.md', 'brackets without end', utf8('['.repeat(20_000))],
  ['a.svg', 'a script', svg('<script>alert(1)</script>')],
  ['b.svg', 'a command', svg('<rect/>', 'onload="alert(1)"')],
  ['c.svg', 'a picture from outside', svg(`<image xlink:href="${at}/x.png" width="1" height="1"/>`)],
  [
    'd.svg',
    'HTML inside',
    svg(`<foreignObject><iframe xmlns="http://www.w3.org/1999/xhtml" src="${at}"/></foreignObject>`),
  ],
  ['e.svg', 'a use of another file', svg(`<use href="${at}/x.svg#a"/>`)],
  ['f.svg', 'growing entities', Buffer.concat([utf8(BOMB), svg('<text>&e;</text>')])],
  ['g.svg', 'a file of the server', Buffer.concat([utf8(XXE), svg('<text>&f;</text>')])],
  ['h.svg', 'a style from outside', svg(`<style>@import url(${at}/x.css);</style>`)],
  ['a.eml', 'a script', mail('<p>x</p><script>alert(1)</script>')],
  ['b.eml', 'a tracking picture', mail(`<img src="${at}/track.png" width=1 height=1>`)],
  ['c.eml', 'a style from outside', mail(`<div style="background:url(${at}/x.png)">x</div>`)],
  ['d.eml', 'a form', mail(`<form action="${at}"><input></form>`)],
  ['e.eml', 'a command', mail('<a href="javascript:alert(1)" onmouseover="alert(1)">x</a>')],
  ['f.eml', 'a frame', mail(`<iframe srcdoc="<script>alert(1)</script>"></iframe>`)],
  [
    'a.docx',
    'a link that runs',
    docx(
      `<w:p><w:hyperlink r:id="r9"><w:r><w:t>press</w:t></w:r></w:hyperlink></w:p>`,
      {},
      '<Relationship Id="r9" Type="http://schemas.openxmlformats.org/officeDocument/2006/relationships/hyperlink" Target="javascript:alert(1)" TargetMode="External"/>',
    ),
  ],
  [
    'b.docx',
    'a template from outside',
    docx(
      words('x'),
      {
        'word/settings.xml': `<w:settings ${W}><w:attachedTemplate r:id="rId1"/></w:settings>`,
        'word/_rels/settings.xml.rels': `<Relationships xmlns="http://schemas.openxmlformats.org/package/2006/relationships"><Relationship Id="rId1" Type="http://schemas.openxmlformats.org/officeDocument/2006/relationships/attachedTemplate" Target="${at}/t.dotm" TargetMode="External"/></Relationships>`,
      },
      '<Relationship Id="rs" Type="http://schemas.openxmlformats.org/officeDocument/2006/relationships/settings" Target="settings.xml"/>',
    ),
  ],
  [
    'c.docx',
    'a field that fetches',
    docx(
      `<w:p><w:fldSimple w:instr=" INCLUDETEXT &quot;${at}/x.docx&quot; "><w:r><w:t>x</w:t></w:r></w:fldSimple></w:p>`,
    ),
  ],
  ['d.docx', 'growing entities', docx(words('&e;')).subarray(0)],
  ['e.docx', 'a part that leads out', docx(words('x'), { '../../outside.xml': 'x' })],
  ['f.docx', 'text that is markup', docx(words('&lt;script&gt;alert(1)&lt;/script&gt;'))],
  [
    'g.docx',
    'an HTML part',
    docx(
      `<w:altChunk r:id="r9"/>`,
      { 'word/a.html': '<script>alert(1)</script>' },
      '<Relationship Id="r9" Type="http://schemas.openxmlformats.org/officeDocument/2006/relationships/aFChunk" Target="a.html"/>',
    ),
  ],
  [
    'a.pdf',
    'a command at opening',
    await pdfWith((pdf) =>
      pdf.catalog.set(PDFName.of('OpenAction'), pdf.context.obj({ S: 'JavaScript', JS: PDFString.of('app.alert(1)') })),
    ),
  ],
  [
    'b.pdf',
    'a form that sends',
    await pdfWith((pdf) =>
      pdf.catalog.set(PDFName.of('OpenAction'), pdf.context.obj({ S: 'SubmitForm', F: PDFString.of(at) })),
    ),
  ],
  [
    'c.pdf',
    'a program to start',
    await pdfWith((pdf) =>
      pdf.catalog.set(PDFName.of('OpenAction'), pdf.context.obj({ S: 'Launch', F: PDFString.of('/bin/sh') })),
    ),
  ],
  [
    'd.pdf',
    'pages without end',
    utf8(
      '%PDF-1.4\n1 0 obj<</Type/Catalog/Pages 2 0 R>>endobj\n2 0 obj<</Type/Pages/Kids[2 0 R]/Count 1>>endobj\ntrailer<</Root 1 0 R>>',
    ),
  ],
  [
    'a.rtf',
    'a picture from outside',
    utf8(`{\\rtf1{\\field{\\*\\fldinst INCLUDEPICTURE "${at}/a.png" \\\\d}{\\fldrslt }}x}`),
  ],
  [
    'b.rtf',
    'an object that updates itself',
    utf8(`{\\rtf1{\\object\\objautlink\\objupdate{\\*\\objclass Package}{\\*\\objdata 00}}x}`),
  ],
  ['c.rtf', 'groups without end', utf8(`{\\rtf1${'{'.repeat(50_000)}x`)],
  [
    'a.zip',
    'names that lead out',
    Buffer.from(zipSync({ '../../../etc/cron.d/x': utf8('x'), '/etc/passwd': utf8('x') })),
  ],
  ['b.zip', 'bytes beyond all measure', Buffer.from(zipSync({ 'a.bin': new Uint8Array(30_000_000) }, { level: 9 }))],
  [
    'a.gltf',
    'parts from outside',
    utf8(`{"asset":{"version":"2.0"},"buffers":[{"uri":"${at}/x.bin","byteLength":4}]}`),
  ],
  ['a.csv', 'a formula', utf8(`=HYPERLINK("${at}"),x\n=cmd|calc!A1,y\n`)],
];

/** Words with which something would run, or by which a browser would fetch without being asked. */
const ROUNDS =
  /<(script|iframe|object|embed|form|input|base|meta|link|style|svg|math|foreignObject)\b|\son\w+\s*=|(href|src)\s*=\s*["']?\s*(javascript|data:text|vbscript)/i;
const get = async (path: string) => {
  const response = await fetch(`${base}${path}`, { headers: { cookie } });
  return { status: response.status, headers: response.headers, text: await response.text() };
};

describe('hostile files', () => {
  test('run nothing, reach nothing and hang nothing, in every way in which they are shown', async () => {
    const files = await corpus(elsewhere);
    expect(files.length).toBeGreaterThanOrEqual(40);
    const found: string[] = [];
    let refused = 0;
    for (const [name, what, bytes] of files) {
      const began = performance.now();
      const upload = await takeUpload(
        organisation.app,
        await organisation.as('author'),
        name,
        Readable.from([bytes]),
      ).catch(() => undefined);
      if (!upload) {
        refused++;
        continue;
      }
      const { number } = await organisation.registerAs('author', {
        typeId: organisation.types.get('MEM') ?? '',
        title: what,
        uploadId: upload.id,
      });
      await extractText(organisation.app, upload.sha256);
      const id = (await organisation.page('author', number)).versions[0]?.files[0]?.id;
      for (const way of ['', '/reading-text', '/mail', '/entries', '/sheets', '/drawing.svg', '/pages']) {
        const { status, headers, text } = await get(`/api/files/${id}${way}`);
        const about = `${name} (${what}) as ${way || 'its bytes'}`;
        if (status >= 500) found.push(`${about}: ${status}`);
        // Unchanged bytes may contain anything: shown alone they are in a sandbox without scripts and without a network.
        if (way === '' || way === '/drawing.svg') {
          if (status === 200 && !headers.get('content-security-policy')?.includes("default-src 'none'"))
            found.push(`${about}: no sandbox`);
        } else if (status === 200) {
          const html = String((JSON.parse(text) as { html?: string }).html ?? '');
          if (ROUNDS.test(html)) found.push(`${about}: ${ROUNDS.exec(html)?.[0]}`);
          if (/<img[^>]+src="(?!data:)/i.test(html)) found.push(`${about}: fetches a picture`);
        }
      }
      if (performance.now() - began > 20_000) found.push(`${name} (${what}) took ${performance.now() - began} ms`);
    }
    await makeWaiting(organisation.app, 'pages');
    expect(found).toEqual([]);
    expect(requests).toEqual([]);
    expect(refused).toBeLessThan(10);
    expect((await get('/api/health')).status).toBe(200);
  }, 900_000);

  test('the server that must not be asked answers those who do', async () => {
    await fetch(elsewhere);
    expect(requests).toEqual(['/']);
    requests = [];
  });

  test('what is written as Markdown is as clean while it is being written', async () => {
    expect(await cleanMarkdown('<script>x</script><b onclick=x>bold</b>')).not.toMatch(ROUNDS);
  });
});
