import { createWriteStream, mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { finished } from 'node:stream/promises';
import { strToU8, zipSync } from 'fflate';
import { afterAll, beforeAll, describe, expect, test } from 'vitest';
import { isReadByPages, wordsOf } from './words.ts';

const OPEN = 'application/vnd.oasis.opendocument';
const PPTX = 'application/vnd.openxmlformats-officedocument.presentationml.presentation';
const NAMES =
  'xmlns:office="urn:oasis:names:tc:opendocument:xmlns:office:1.0" xmlns:text="urn:oasis:names:tc:opendocument:xmlns:text:1.0" xmlns:table="urn:oasis:names:tc:opendocument:xmlns:table:1.0" xmlns:dc="http://purl.org/dc/elements/1.1/"';

let dir: string;
beforeAll(() => {
  dir = mkdtempSync(join(tmpdir(), 'words-'));
});
afterAll(() => rmSync(dir, { recursive: true, force: true }));

const at = (name: string, bytes: Uint8Array | string): string => {
  const path = join(dir, name);
  writeFileSync(path, bytes);
  return path;
};
const zipped = (name: string, files: Record<string, string>) =>
  at(name, zipSync(Object.fromEntries(Object.entries(files).map(([path, text]) => [path, strToU8(text)]))));
const openText = (body: string, name = 'a.odt') =>
  zipped(name, {
    'content.xml': `<office:document-content ${NAMES}><office:body><office:text>${body}</office:text></office:body></office:document-content>`,
  });
const read = async (path: string, kind: string) => {
  const found = await wordsOf(path, kind);
  if (!found || found === 'by its pages') throw new Error(String(found));
  return found;
};

describe('an OpenDocument text', () => {
  test('is read in its order, a paragraph a line, whatever its words are dressed in', async () => {
    const body = `<text:h>1 Purpose</text:h><text:p>The <text:span>grip</text:span> is
       opened<text:s/><text:s/>by<text:tab/>hand.<text:line-break/>Always.</text:p>
       <table:table><table:table-row><table:table-cell><text:p>Limit</text:p></table:table-cell><table:table-cell><text:p>4.2 kN</text:p></table:table-cell></table:table-row></table:table>`;
    expect((await read(openText(body), `${OPEN}.text`)).text).toBe(
      '1 Purpose\nThe grip is opened  by\thand.\nAlways.\nLimit\n4.2 kN',
    );
  });

  test('leaves out deleted text, remarks and forms', async () => {
    const body = `<text:tracked-changes><text:p>deleted words</text:p></text:tracked-changes><text:p>Kept<office:annotation><dc:creator>GM</dc:creator><text:p>a remark</text:p></office:annotation> words</text:p><office:forms><text:p>form</text:p></office:forms>`;
    expect((await read(openText(body), `${OPEN}.text`)).text).toBe('Kept words');
  });

  test('reads signs that are written as entities, and counts its pictures', async () => {
    const path = zipped('b.odt', {
      'content.xml': `<office:document-content ${NAMES}><text:p>R&amp;D &lt;5 mm &#252;ber</text:p></office:document-content>`,
      'Pictures/1.png': 'x',
      'Pictures/2.png': 'x',
    });
    expect(await read(path, `${OPEN}.text`)).toEqual({ text: 'R&D <5 mm über', pictures: 2 });
  });

  test('with a document type of its own, without content, or no zip at all is broken', async () => {
    const bomb = zipped('c.odt', {
      'content.xml': `<!DOCTYPE a [<!ENTITY b "cc">]><office:document-content ${NAMES}><text:p>&b;</text:p></office:document-content>`,
    });
    await expect(wordsOf(bomb, `${OPEN}.text`)).rejects.toThrow('document type');
    await expect(wordsOf(zipped('d.odt', { 'styles.xml': '<a/>' }), `${OPEN}.text`)).rejects.toThrow('no content');
    await expect(wordsOf(at('e.odt', 'not a zip'), `${OPEN}.text`)).rejects.toThrow();
  });

  test('that is nested without end is read to a sensible depth', async () => {
    const deep = `${'<text:span>'.repeat(20_000)}x${'</text:span>'.repeat(20_000)}`;
    const found = await wordsOf(
      openText(`<text:p>before</text:p><text:p>${deep}</text:p><text:p>after</text:p>`),
      `${OPEN}.text`,
    ).catch((error: Error) => error);
    // Refused by the reader, or read without its depth: never a crash.
    expect(found instanceof Error || (found as { text: string }).text.startsWith('before')).toBe(true);
  });
});

test('slides are read by their number, a slide a page', async () => {
  const slide = (...paragraphs: string[]) =>
    `<p:sld xmlns:p="p" xmlns:a="a"><p:cSld>${paragraphs.map((one) => `<a:p><a:r><a:rPr lang="en"/><a:t>${one}</a:t></a:r><a:br/><a:r><a:t>.</a:t></a:r></a:p>`).join('\n ')}</p:cSld></p:sld>`;
  const path = zipped('a.pptx', {
    'ppt/slides/slide10.xml': slide('Ten'),
    'ppt/slides/slide2.xml': slide('Two', 'more'),
    'ppt/media/image1.png': 'x',
    'ppt/notesSlides/notesSlide1.xml': slide('a note'),
  });
  expect(await read(path, PPTX)).toEqual({ text: 'Two\n.\nmore\n.\fTen\n.', pictures: 1 });
});

describe('a drawing', () => {
  const dxf = (value: string) => `  0\nSECTION\n  0\nTEXT\n  1\n${value}\n  0\nEOF\n`;

  test('is read in the code page of its time as well as in today’s', async () => {
    expect((await read(at('a.dxf', dxf('Prüfung')), 'image/vnd.dxf')).text).toBe('Prüfung');
    expect((await read(at('b.dxf', Buffer.from(dxf('Prüfung'), 'latin1')), 'image/vnd.dxf')).text).toBe('Prüfung');
    expect((await read(at('c.dxf', dxf('Brake').replaceAll('\n', '\r\n')), 'image/vnd.dxf')).text).toBe('Brake');
  });

  test('of any size is read without being held', async () => {
    const path = join(dir, 'large.dxf');
    const out = createWriteStream(path);
    const piece = Buffer.from('  0\nLINE\n 10\n123.456\n 20\n654.321\n'.repeat(20_000));
    for (let i = 0; i < 60; i++)
      if (!out.write(piece)) await new Promise<void>((resolve) => out.once('drain', () => resolve()));
    out.end('  0\nTEXT\n  1\nTHE END\n  0\nEOF\n');
    await finished(out);
    global.gc?.();
    const before = process.memoryUsage().rss;
    expect((await read(path, 'image/vnd.dxf')).text).toBe('THE END');
    expect(process.memoryUsage().rss - before).toBeLessThan(150 * 1024 * 1024);
  }, 60_000);
});

test('older office files are read by their pages, other kinds have no text', async () => {
  for (const kind of [
    'application/msword',
    'application/vnd.ms-excel',
    'application/vnd.ms-powerpoint',
    'application/rtf',
  ]) {
    expect(isReadByPages(kind)).toBe(true);
    expect(await wordsOf(at('old', 'x'), kind)).toBe('by its pages');
  }
  expect(isReadByPages('application/pdf')).toBe(false);
  expect(await wordsOf(at('f.stl', 'solid'), 'model/stl')).toBeUndefined();
});
