import { execFile } from 'node:child_process';
import { mkdtempSync, readFileSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { Readable } from 'node:stream';
import { promisify } from 'node:util';
import { PDFDict, PDFDocument, PDFName, PDFString, StandardFonts } from '@cantoo/pdf-lib';
import type { Mark } from '@kanonos/core';
import sharp from 'sharp';
import { describe, expect, test } from 'vitest';
import { annotatedFile, importComments } from '../features/comments/annotated.ts';
import { addComment, assign, listComments, reopen, reply, withdraw } from '../features/comments/service.ts';
import { listStamps, saveStamp } from '../features/comments/stamps.ts';
import { extractText } from '../features/content/text.ts';
import { takeUpload } from '../features/content/uploads.ts';
import { resolveComment } from '../features/rounds/service.ts';
import { makeWaiting } from '../features/viewing/making.ts';
import { pagesOf } from '../features/viewing/pages.ts';
import { rows } from '../platform/db/connect.ts';
import { codeOf } from './organisation.ts';
import { withOrganisation } from './withOrganisation.ts';

const run = promisify(execFile);
const organisation = withOrganisation();

const TEXT = 'The slip force is measured three times on a cold grip, and the lowest value counts.';
const pdfOf = async (...pages: string[]): Promise<Uint8Array> => {
  const pdf = await PDFDocument.create();
  const font = await pdf.embedFont(StandardFonts.Helvetica);
  for (const text of pages) pdf.addPage([595, 842]).drawText(text, { x: 60, y: 700, size: 12, font });
  return pdf.save();
};
const send = async (person: string, name: string, bytes: Uint8Array) =>
  takeUpload(organisation.app, await organisation.as(person), name, Readable.from([Buffer.from(bytes)]));
/** A document with this file as its second version. */
const withFile = async (name: string, bytes: Uint8Array) => {
  const { number } = await organisation.register('author', { text: `begun ${Math.random()}` });
  await next(number, name, bytes);
  return number;
};
const next = async (number: string, name: string, bytes: Uint8Array) => {
  const upload = await send('author', name, bytes);
  await organisation.checkOut('author', number);
  await organisation.checkIn('author', number, { uploadId: upload.id, note: 'next' });
  await extractText(organisation.app, upload.sha256);
};
const view = async (number: string) => {
  const page = await organisation.page('author', number);
  return {
    revisionId: page.revision.id,
    version: page.versions[0]?.id ?? '',
    file: page.versions[0]?.files[0]?.id ?? '',
  };
};
const add = async (person: string, number: string, more: Partial<Parameters<typeof addComment>[3]>) =>
  (
    await addComment(organisation.app, await organisation.as(person), number, {
      text: 'Why three?',
      revisionId: (await view(number)).revisionId,
      ...more,
    })
  ).id;
const listed = async (number: string, person = 'author') =>
  (await listComments(organisation.app, await organisation.as(person), number, (await view(number)).version)).comments;
const box: Mark = {
  tool: 'box',
  page: 1,
  points: [
    [0.1, 0.1],
    [0.4, 0.3],
  ],
  colour: '#a52c15',
};
const mailsTo = async (person: string) =>
  (
    await rows<{ subject: string }>(
      organisation.app.db,
      'select subject from mails where person_id = :id order by id desc limit 5',
      { id: organisation.ids[person] },
    )
  ).map((mail) => mail.subject);

describe('a thread', () => {
  test('is replied to, assigned, resolved and reopened, and the people concerned are notified', async () => {
    const number = await withFile('a.md', Buffer.from(TEXT));
    const id = await add('author2', number, { text: 'Why three? @owner knows.' });
    expect((await mailsTo('owner'))[0]).toContain('mentioned by');
    await reply(organisation.app, await organisation.as('author'), number, id, 'Because two were not enough');
    expect((await mailsTo('author2'))[0]).toContain('answer by');
    await assign(organisation.app, await organisation.as('author'), number, id, organisation.ids.owner ?? '');
    expect((await mailsTo('owner'))[0]).toContain('comment assigned to you by');
    const one = (await listed(number)).find((c) => c.id === id);
    expect(one).toMatchObject({ assignee: { id: organisation.ids.owner }, mayResolve: true, mayWithdraw: false });
    await resolveComment(organisation.app, await organisation.as('author'), number, id, 'Said in the text');
    expect(await codeOf(reply(organisation.app, await organisation.as('author'), number, id, 'overdue'))).toBe(
      'comment_closed',
    );
    await reopen(organisation.app, await organisation.as('author2'), number, id, 'It is not said yet');
    expect(await codeOf(reopen(organisation.app, await organisation.as('author2'), number, id, 'again'))).toBe(
      'comment_open',
    );
    const thread = (await listed(number)).filter((c) => c.parentId === id).map((c) => c.text);
    expect(thread.reverse()).toEqual(['Because two were not enough', 'It is not said yet']);
    expect((await organisation.page('author', number)).counts).toMatchObject({ comments: 1, openComments: 1 });
  });

  test('names nobody to whom the document is not open', async () => {
    const number = await withFile('a.md', Buffer.from(TEXT));
    const before = await mailsTo('stranger');
    await add('author2', number, { text: '@stranger @reader @nobody.at.all look' });
    expect(await mailsTo('stranger')).toEqual(before);
    expect(await codeOf(add('author2', number, { assigneeId: organisation.ids.stranger ?? '' }))).toBe('not_found');
  });

  test('is deleted by its author as long as nobody has replied', async () => {
    const number = await withFile('a.md', Buffer.from(TEXT));
    const [one, two] = [await add('author2', number, {}), await add('author2', number, {})];
    await reply(organisation.app, await organisation.as('author'), number, two, 'Yes');
    const reviewer = await organisation.as('author2');
    expect(await codeOf(withdraw(organisation.app, await organisation.as('author'), number, one))).toBe(
      'right_missing',
    );
    await withdraw(organisation.app, reviewer, number, one);
    expect(await codeOf(withdraw(organisation.app, reviewer, number, two))).toBe('comment_answered');
    expect((await listed(number)).map((c) => c.id)).not.toContain(one);
    expect((await organisation.page('author', number)).counts.comments).toBe(1);
  });

  test('has words, or marks a place on a page', async () => {
    const number = await withFile('a.md', Buffer.from(TEXT));
    expect(await codeOf(add('author2', number, { text: ' ' }))).toBe('comment_empty');
    expect(
      await codeOf(
        add('author2', number, {
          mark: {
            ...box,
            points: [
              [0, 0],
              [2, 2],
            ],
          } as never,
        }),
      ),
    ).toBe('mark_wrong');
  });
});

describe('places', () => {
  const quote = { quote: 'measured three times', before: 'The slip force is ', after: ' on a cold grip' };

  test('in a text follow to the next version where the words are found, and are reported as lost where not', async () => {
    const number = await withFile('a.md', Buffer.from(TEXT));
    const id = await add('author2', number, { quote });
    const state = async () => (await listed(number)).find((c) => c.id === id)?.place?.state;
    expect(await state()).toBe('here');
    await next(number, 'a.md', Buffer.from(`A preface.\n\n${TEXT}\n\nAnd more.`));
    expect(await state()).toBe('here');
    await next(number, 'a.md', Buffer.from('Something else entirely.'));
    expect(await state()).toBe('lost');
  });

  test('on a page follow the words under them to another page, and an unchanged page keeps its marks', async () => {
    const number = await withFile('a.pdf', await pdfOf('Axle of the grip', 'Bolt of the jaw'));
    const onWords = await add('author2', number, {
      mark: { ...box, points: [...box.points] } as never,
      quote: { quote: 'Axle of the grip', before: '', after: '' },
    });
    const bare = await add('author2', number, { mark: { ...box, page: 2, points: [...box.points] } as never });
    await next(number, 'a.pdf', await pdfOf('New first page', 'Bolt of the jaw', 'Axle of the grip'));
    const placeOf = async (id: string) => (await listed(number)).find((c) => c.id === id)?.place;
    expect(await placeOf(onWords)).toEqual({ state: 'here', page: 3 });
    expect(await placeOf(bare)).toEqual({ state: 'here', page: 2 });
    await next(number, 'a.pdf', await pdfOf('New first page', 'Another bolt'));
    expect([await placeOf(onWords), await placeOf(bare)].map((place) => place?.state)).toEqual(['lost', 'lost']);
  });
});

describe('marks on what has no words', () => {
  const svg = (...parts: string[]) =>
    Buffer.from(`<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 400 200">${parts.join('')}</svg>`);
  const sheave = '<circle cx="100" cy="100" r="30"/>';
  const beam = '<path d="M250 20h100v20h-100z"/>';
  const on = (from: [number, number], to: [number, number]) => ({ mark: { ...box, points: [from, to] } as never });
  const states = async (number: string, ids: string[]) => {
    const all = await listed(number);
    return ids.map((id) => all.find((one) => one.id === id)?.place?.state);
  };

  test('on a drawing stay where it looks as it did under them, and are lost where that changed', async () => {
    const number = await withFile('a.svg', svg(sheave, beam));
    const ids = [
      await add('author2', number, on([0.15, 0.3], [0.35, 0.7])),
      await add('author2', number, on([0.6, 0.05], [0.9, 0.25])),
    ];
    expect(await states(number, ids)).toEqual(['here', 'here']);
    await next(number, 'a.svg', svg(sheave, '<path d="M250 60h100v20h-100z"/>'));
    expect(await states(number, ids)).toEqual(['here', 'lost']);
    await next(number, 'a.svg', svg(sheave, beam, '<path d="M10 180h380v4h-380z"/>'));
    expect(await states(number, ids)).toEqual(['here', 'here']);
  });

  test('follow from a picture to the same one in another format, and not to another shape', async () => {
    const png = (width: number, height: number) => sharp(svg(sheave, beam)).resize(width, height, { fit: 'fill' });
    const number = await withFile('a.png', await png(800, 400).png().toBuffer());
    const ids = [await add('author2', number, on([0.15, 0.3], [0.35, 0.7]))];
    await next(number, 'a.jpg', await png(800, 400).flatten({ background: '#fff' }).jpeg({ quality: 92 }).toBuffer());
    expect(await states(number, ids)).toEqual(['here']);
    await next(number, 'a.png', await png(400, 800).png().toBuffer());
    expect(await states(number, ids)).toEqual(['lost']);
  });

  test('on a page of a PDF whose words are the same and whose figure changed are lost', async () => {
    const page = async (at: number) => {
      const pdf = await PDFDocument.create();
      const one = pdf.addPage([595, 842]);
      one.drawText('Figure 3', { x: 60, y: 60, size: 12, font: await pdf.embedFont(StandardFonts.Helvetica) });
      one.drawRectangle({ x: at, y: 500, width: 90, height: 90 });
      return pdf.save();
    };
    const number = await withFile('a.pdf', await page(100));
    const ids = [await add('author2', number, on([0.1, 0.25], [0.4, 0.45]))];
    await next(number, 'a.pdf', await page(300));
    expect(await states(number, ids)).toEqual(['lost']);
  });
});

describe('marks in a PDF', () => {
  const marks = (['box', 'cloud', 'arrow', 'line', 'free', 'highlight', 'text', 'stamp'] as const).map(
    (tool, i): Mark => ({
      ...box,
      tool,
      points:
        tool === 'text' || tool === 'stamp'
          ? [[0.1, 0.1 * i]]
          : [
              [0.1, 0.1 * i],
              [0.4, 0.1 * i + 0.05],
            ],
      ...(tool === 'text' || tool === 'stamp' ? { text: `${tool} (one)` } : {}),
    }),
  );

  test('are written as annotations that other programs draw, and are not read back as somebody else’s', async () => {
    const number = await withFile('a.pdf', await pdfOf('Axle'));
    for (const mark of marks) await add('author2', number, { text: `of ${mark.tool}`, mark: mark as never });
    const { file } = await view(number);
    const { bytes } = await annotatedFile(organisation.app, await organisation.as('author'), file);
    const pdf = await PDFDocument.load(bytes);
    const annots = pdf.getPage(0).node.Annots();
    const subtypes = Array.from({ length: annots?.size() ?? 0 }, (_, i) =>
      String(annots?.lookup(i, PDFDict).get(PDFName.of('Subtype'))),
    );
    expect(subtypes).toEqual(['/Square', '/Square', '/Line', '/Line', '/Ink', '/Highlight', '/FreeText', '/Stamp']);
    const dir = mkdtempSync(join(tmpdir(), 'pdf-'));
    writeFileSync(join(dir, 'a.pdf'), bytes);
    // Another program draws the page without a word of complaint.
    const { stderr } = await run('pdftoppm', ['-r', '40', '-png', 'a.pdf', 'page'], { cwd: dir });
    expect(stderr).toBe('');
    const upload = await send('author2', 'a.pdf', bytes);
    expect(await importComments(organisation.app, await organisation.as('author2'), number, upload.id)).toEqual({
      read: 0,
      left: 0,
    });
    // What is filed stays as it was.
    const { sha256 } = (await organisation.page('author', number)).versions[0]?.files[0] ?? {};
    const filed = await PDFDocument.load(readFileSync(organisation.app.content.pathOf(sha256 ?? '')));
    expect(filed.getPage(0).node.Annots()?.size() ?? 0).toBe(0);
  });

  test('made on the pages of an office file are exported on those pages', async () => {
    const number = await withFile('a.rtf', Buffer.from('{\\rtf1\\ansi Axle of the grip\\par}'));
    const { file } = await view(number);
    const author = await organisation.as('author');
    await add('author2', number, { text: 'of the pages', mark: marks[0] as never });
    expect(await codeOf(annotatedFile(organisation.app, author, file))).toBe('cannot_be_shown');
    await pagesOf(organisation.app, author, file);
    await makeWaiting(organisation.app, 'pages');
    const { bytes, name } = await annotatedFile(organisation.app, author, file);
    expect(name).toMatch(/\.pdf$/);
    expect((await PDFDocument.load(bytes)).getPage(0).node.Annots()?.size()).toBe(1);
  }, 180_000);

  test('of another program are read in once, with who made them', async () => {
    const number = await withFile('a.pdf', await pdfOf('Axle'));
    const pdf = await PDFDocument.load(await pdfOf('Axle'));
    const page = pdf.getPage(0);
    for (const annotation of [
      {
        Subtype: 'Square',
        Rect: [60, 690, 160, 720],
        C: [1, 0, 0],
        NM: 'x-1',
        T: 'Outside checker',
        Contents: 'Too short',
      },
      { Subtype: 'Link', Rect: [0, 0, 10, 10] },
      { Subtype: 'Line', Rect: [0, 0, 100, 100], L: [10, 10, 90, 90], NM: 'x-2', Contents: 'From here' },
    ]) {
      const { NM, T, Contents, ...plain } = annotation as Record<string, unknown>;
      const dict = pdf.context.obj({ Type: 'Annot', ...(plain as Record<string, never>) });
      for (const [key, value] of Object.entries({ NM, T, Contents }))
        if (value) dict.set(PDFName.of(key), PDFString.of(String(value)));
      page.node.addAnnot(pdf.context.register(dict));
    }
    const upload = await send('author2', 'marked.pdf', await pdf.save());
    const reviewer = await organisation.as('author2');
    expect(await importComments(organisation.app, reviewer, number, upload.id)).toEqual({ read: 2, left: 1 });
    expect(await importComments(organisation.app, reviewer, number, upload.id)).toEqual({ read: 0, left: 3 });
    const found = await listed(number);
    expect(found.map((c) => [c.mark?.tool, c.text]).sort()).toEqual([
      ['box', 'Outside checker: Too short'],
      ['line', 'From here'],
    ]);
    const [x, y] = found.find((c) => c.mark?.tool === 'box')?.mark?.points[0] ?? [];
    expect([x, y]).toEqual([expect.closeTo(60 / 595, 3), expect.closeTo(1 - 720 / 842, 3)]);
    expect(
      await codeOf(
        importComments(organisation.app, reviewer, number, (await send('author2', 'a.md', Buffer.from('x'))).id),
      ),
    ).toBe('pdf_unreadable');
  });
});

test('stamps of the organisation are made, changed and retired, and not overwritten unseen', async () => {
  const admin = await organisation.as('admin');
  const id = '01900000-0000-7000-8000-00000000aaaa';
  await saveStamp(organisation.app, admin, id, {
    text: 'Checked on site',
    colour: '#0b5563',
    retired: false,
    rowVersion: 0,
  });
  await saveStamp(organisation.app, admin, id, {
    text: 'Seen on site',
    colour: '#0b5563',
    retired: true,
    rowVersion: 1,
  });
  expect(
    await codeOf(
      saveStamp(organisation.app, admin, id, { text: 'x', colour: '#000000', retired: false, rowVersion: 1 }),
    ),
  ).toBe('changed_meanwhile');
  expect((await listStamps(organisation.app)).stamps).toMatchObject([
    { id, text: 'Seen on site', retired: true, rowVersion: 2 },
  ]);
});
