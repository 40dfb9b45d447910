// Files made to stop whoever reads them: each ends within its limits, in a process of its own, and is not read again by itself.
import { Readable } from 'node:stream';
import { strToU8, zipSync } from 'fflate';
import { beforeAll, describe, expect, test } from 'vitest';
import { extractText, listWaitingTexts } from '../../features/content/index.ts';
import { takeUpload } from '../../features/content/uploads.ts';
import { rows } from '../../platform/db/connect.ts';
import { createParser, ParsingEnded } from '../../platform/parsing/parser.ts';
import { cookieOf } from '../organisation.ts';
import { withOrganisation } from '../withOrganisation.ts';

const organisation = withOrganisation();
let base: string;
let cookie: string;
beforeAll(async () => {
  base = await organisation.listen();
  cookie = await cookieOf(base, 'author');
});

const MEGABYTE = 1_048_576;
/** A server that reads such files itself is blocked for longer than this; one on a busy machine is not. */
const FROZEN_MS = 8_000;
const W = 'xmlns:w="http://schemas.openxmlformats.org/wordprocessingml/2006/main"';
const CONTENT_TYPES =
  '<Types xmlns="http://schemas.openxmlformats.org/package/2006/content-types"><Default Extension="rels" ContentType="application/vnd.openxmlformats-package.relationships+xml"/><Default Extension="xml" ContentType="application/xml"/><Override PartName="/word/document.xml" ContentType="application/vnd.openxmlformats-officedocument.wordprocessingml.document.main+xml"/></Types>';
const RELATIONS =
  '<Relationships xmlns="http://schemas.openxmlformats.org/package/2006/relationships"><Relationship Id="r1" Type="http://schemas.openxmlformats.org/officeDocument/2006/relationships/officeDocument" Target="word/document.xml"/></Relationships>';
const docx = (body: string) =>
  Buffer.from(
    zipSync({
      '[Content_Types].xml': strToU8(CONTENT_TYPES),
      '_rels/.rels': strToU8(RELATIONS),
      'word/document.xml': strToU8(`<w:document ${W}><w:body>${body}</w:body></w:document>`),
    }),
  );
const xlsx = (rows: string) =>
  Buffer.from(
    zipSync({
      '[Content_Types].xml': strToU8('<Types xmlns="http://schemas.openxmlformats.org/package/2006/content-types"/>'),
      'xl/workbook.xml': strToU8('<workbook/>'),
      'xl/worksheets/sheet1.xml': strToU8(`<worksheet><sheetData>${rows}</sheetData></worksheet>`),
    }),
  );
const filled = (piece: string, bytes: number) => piece.repeat(Math.ceil(bytes / piece.length));

const FILES: [name: string, bytes: () => Buffer][] = [
  ['text.svg', () => Buffer.from(`<svg xmlns="http://www.w3.org/2000/svg">${filled('<text ', MEGABYTE)}</svg>`)],
  ['letter.docx', () => docx(filled('<w:p><w:r><w:t>a</w:t></w:r></w:p>', 60 * MEGABYTE))],
  ['deep.docx', () => docx(filled('<w:tbl><w:tr><w:tc>', 2 * MEGABYTE))],
  ['sheet.xlsx', () => xlsx(filled('<row><c t="inlineStr"><is><t>a</t></is></c></row>', 40 * MEGABYTE))],
  [
    'note.eml',
    () =>
      Buffer.from(
        `From: a@a.example\r\nMIME-Version: 1.0\r\nContent-Type: text/html\r\n\r\n${'<div>'.repeat(100_000)}`,
      ),
  ],
  ['drawing.dxf', () => Buffer.from(filled('  0\nTEXT\n  1\n%%%%%%\\P{\\f\n', 1.8 * MEGABYTE))],
  ['links.md', () => Buffer.from(filled('[a](', 78_000))],
  ['stars.md', () => Buffer.from(filled('*a **a ', 78_000))],
];

/** How long the server at most takes for a question of its own while something else is under way. */
const whileAsked = async <T>(work: Promise<T>): Promise<{ answer: T; longest: number }> => {
  let longest = 0;
  let over = false;
  const asking = (async () => {
    while (!over) {
      const began = performance.now();
      await (await fetch(`${base}/api/health/live`)).arrayBuffer();
      longest = Math.max(longest, performance.now() - began);
      await new Promise((resolve) => setTimeout(resolve, 50));
    }
  })();
  const answer = await work.finally(() => {
    over = true;
  });
  await asking;
  return { answer, longest };
};

describe('19 and 22: texts are taken out in a process of their own', () => {
  test.each(FILES)(
    '%s: the server answers meanwhile, keeps its memory, and asks for it once',
    async (name, bytes) => {
      const { sha256 } = await takeUpload(
        organisation.app,
        await organisation.as('author'),
        name,
        Readable.from([bytes()]),
      );
      const before = process.memoryUsage().rss;
      const { longest } = await whileAsked(extractText(organisation.app, sha256));
      expect(longest).toBeLessThan(FROZEN_MS);
      expect((process.memoryUsage().rss - before) / MEGABYTE).toBeLessThan(300);
      const [content] = await rows<{ text_state: string }>(
        organisation.app.db,
        'select text_state from contents where sha256 = :sha256',
        { sha256 },
      );
      expect(['done', 'broken']).toContain(content?.text_state);
      // Marked either way: neither the next job nor the next start takes it up by itself.
      expect((await listWaitingTexts(organisation.app.db)).map((one: { sha256: string }) => one.sha256)).not.toContain(
        sha256,
      );
    },
    120_000,
  );

  test('a task beyond its time or memory ends its process, and the next task gets a new one', async () => {
    const parser = createParser(1);
    const author = await organisation.as('author');
    const { sha256 } = await takeUpload(
      organisation.app,
      author,
      'large.xlsx',
      Readable.from([xlsx(filled('<row><c t="inlineStr"><is><t>ab</t></is></c></row>', 30 * MEGABYTE))]),
    );
    const path = organisation.app.content.pathOf(sha256);
    const kind = 'application/vnd.openxmlformats-officedocument.spreadsheetml.sheet';
    const [overdue, large, next] = await Promise.allSettled([
      parser.run('words', [path, kind], { seconds: 0.3 }),
      parser.run('words', [path, kind], { seconds: 60, megabytes: 60 }),
      parser.run('markdown', ['# Words'], { seconds: 20 }),
    ]);
    expect(overdue).toMatchObject({ reason: expect.any(ParsingEnded) });
    expect(String((overdue as PromiseRejectedResult).reason)).toContain('seconds');
    expect(String((large as PromiseRejectedResult).reason)).toContain('memory');
    expect(next).toMatchObject({ status: 'fulfilled' });
    expect((next as PromiseFulfilledResult<string>).value).toContain('Words');
  }, 300_000);
});

describe('23: Markdown', () => {
  const read = async (text: string) => {
    const began = performance.now();
    const answer = await fetch(`${base}/api/reading-text`, {
      method: 'POST',
      headers: { cookie, 'content-type': 'application/json' },
      body: JSON.stringify({ text }),
    });
    await answer.arrayBuffer();
    return { status: answer.status, ms: performance.now() - began };
  };
  test.each(['[a](', '*a **a ', '![', '`', '<a ', '[[', '> ', '~~a', '- - ', '|a', '&#', '<!--', '[a]: b\n'])(
    'of nothing but «%s» is shown or refused within its time while the server answers',
    async (piece) => {
      for (const bytes of [8_000, 1_400_000]) {
        const { answer, longest } = await whileAsked(read(filled(piece, bytes)));
        expect([200, 422]).toContain(answer.status);
        expect(answer.ms).toBeLessThan(3 * FROZEN_MS);
        expect(longest).toBeLessThan(FROZEN_MS);
      }
    },
    60_000,
  );
});
