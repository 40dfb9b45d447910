import { execFile } from 'node:child_process';
import { createReadStream } from 'node:fs';
import { readFile, stat } from 'node:fs/promises';
import { promisify } from 'node:util';
import { ADDRESS_TYPE, createDxfReader, PAPER_TYPE, textOfBlocks } from '@kanonos/core';
import { XMLParser } from 'fast-xml-parser';
import { unzip } from 'fflate';
import { blocksOf } from '../parsing/blocks.ts';
import { wordsOfMail } from '../parsing/mail.ts';
import { decodeText } from './decode.ts';
import { OFFICE_ENDINGS } from './kind.ts';

const run = promisify(execFile);
const SECONDS = 60;
const MOST_ZIPPED = 200 * 1024 * 1024;
/** More text parts of an office file than this are not unfolded, in bytes. */
const MOST_UNZIPPED = 48 * 1024 * 1024;
const MOST_DEEP = 200;
const PIECE = 1024 * 1024;
/** More text than this of one file is not kept. */
export const MOST_TEXT = 20_000_000;

/** The text of a file and the number of its pictures. */
export type Words = { text: string; pictures: number };

/**
 * The text of a file by its kind.
 *
 * @returns nothing where its kind has no text; `by its pages` where only the office program can read it, so that its text is that of the
 *   pages that are made of it
 * @throws where the file is not of its claimed kind
 */
export const wordsOf = async (path: string, mediaType: string): Promise<Words | 'by its pages' | undefined> =>
  isReadByPages(mediaType) ? 'by its pages' : READERS[mediaType]?.(path);

/** Whether only the office program can read a kind: the older formats. */
export const isReadByPages = (mediaType: string): boolean =>
  OFFICE_ENDINGS[mediaType] !== undefined && READERS[mediaType] === undefined;

/** The text of a PDF and how many pictures are on its pages; both programs run side by side. */
export const wordsOfPdf = async (path: string): Promise<Words> => {
  const [{ stdout }, images] = await Promise.all([
    run('pdftotext', ['-enc', 'UTF-8', path, '-'], { timeout: SECONDS * 1000, maxBuffer: MOST_TEXT * 4 }),
    run('pdfimages', ['-list', path], { timeout: SECONDS * 1000, maxBuffer: MOST_TEXT }).catch(() => ({ stdout: '' })),
  ]);
  return { text: stdout, pictures: Math.max(0, images.stdout.trim().split('\n').length - 2) };
};

const plain = async (path: string): Promise<Words> => {
  if ((await stat(path)).size > MOST_TEXT * 4) throw new Error('too large to be read');
  return { text: decodeText(await readFile(path)), pictures: 0 };
};

/**
 * Chosen entries of a zip, and how many of others there are that are only counted. One that would unfold to more than the limit is
 * refused before it is unpacked; one with false sizes meets the memory limit of the process that reads it.
 */
const entriesOf = async (
  path: string,
  wanted: (name: string) => boolean,
  counted: (name: string) => boolean = () => false,
): Promise<{ files: Map<string, Uint8Array>; count: number }> => {
  if ((await stat(path)).size > MOST_ZIPPED) throw new Error('too large to be read');
  const bytes = await readFile(path);
  let unfolded = 0;
  let count = 0;
  return new Promise((resolve, reject) => {
    unzip(
      new Uint8Array(bytes),
      {
        filter: (file) => {
          if (counted(file.name)) count++;
          if (!wanted(file.name)) return false;
          unfolded += file.originalSize;
          return unfolded <= MOST_UNZIPPED;
        },
      },
      (error, files) =>
        error
          ? reject(error)
          : unfolded > MOST_UNZIPPED
            ? reject(new Error('is too large when unpacked'))
            : resolve({ files: new Map(Object.entries(files)), count }),
    );
  });
};

const sheetWords = async (path: string): Promise<Words> => {
  const { files } = await entriesOf(
    path,
    (name) => name === 'xl/sharedStrings.xml' || /^xl\/worksheets\/sheet\d+\.xml$/.test(name),
  );
  if (files.size === 0) throw new Error('contains no sheet');
  const laidOut = await blocksOf(path, XLSX, false);
  if (laidOut) return { text: textOfBlocks(laidOut), pictures: 0 };
  const parser = new XMLParser({
    ignoreAttributes: true,
    htmlEntities: true,
    isArray: (name) => ['si', 'r', 'is', 'c', 'row'].includes(name),
  });
  const pieces: string[] = [];
  for (const [, bytes] of [...files].sort(([a], [b]) => (a < b ? -1 : 1)))
    collect(parser.parse(Buffer.from(bytes).toString('utf8')), pieces);
  return { text: pieces.join('\n'), pictures: 0 };
};

/** All texts (`t`) of a parsed sheet, in order. */
const collect = (node: unknown, into: string[], depth = 0): void => {
  if (depth > 40 || node === null || typeof node !== 'object') return;
  for (const [key, value] of Object.entries(node)) {
    if (key === 't')
      into.push(...(Array.isArray(value) ? value : [value]).filter((t) => typeof t !== 'object').map(String));
    else if (Array.isArray(value)) for (const item of value) collect(item, into, depth + 1);
    else collect(value, into, depth + 1);
  }
};

/** The meaning of an office element for the text: a line of its own, one character, or no text. */
type Reading = {
  lines: ReadonlySet<string>;
  signs: Readonly<Record<string, string>>;
  skip: ReadonlySet<string>;
  /** The only elements whose text counts, if not all. */
  texts?: ReadonlySet<string>;
};

/** OpenDocument 1.3, part 3: paragraphs and headings; tracked deletions and remarks are no text of the document. */
const OPEN_DOCUMENT: Reading = {
  lines: new Set(['text:p', 'text:h']),
  signs: { 'text:tab': '\t', 'text:line-break': '\n', 'text:s': ' ' },
  skip: new Set(['text:tracked-changes', 'office:annotation', 'office:forms', 'office:scripts', 'text:sequence-decls']),
};
/** ECMA-376, part 1, 21.1.2: paragraphs of runs. */
const SLIDE: Reading = {
  lines: new Set(['a:p']),
  signs: { 'a:br': '\n', 'a:tab': '\t' },
  skip: new Set(),
  texts: new Set(['a:t']),
};

const ordered = new XMLParser({
  preserveOrder: true,
  ignoreAttributes: true,
  trimValues: false,
  // Signs that are written by their number, too.
  htmlEntities: true,
});

/** The text of an office part in reading order. */
const readPart = (bytes: Uint8Array, reading: Reading): string => {
  const xml = decodeText(bytes);
  // No office program writes one, and its entities could grow without end.
  if (xml.includes('<!DOCTYPE')) throw new Error('declares its own document type');
  const pieces: string[] = [];
  const walk = (nodes: readonly Record<string, unknown>[], counts: boolean, depth: number): void => {
    if (depth > MOST_DEEP) return;
    for (const node of nodes)
      for (const [name, inside] of Object.entries(node)) {
        if (name === '#text') {
          if (counts) pieces.push(reading.texts ? String(inside) : String(inside).replace(/\s+/g, ' '));
        } else if (reading.signs[name] !== undefined) pieces.push(reading.signs[name]);
        else if (Array.isArray(inside) && !reading.skip.has(name)) {
          walk(inside, counts || (reading.texts ?? reading.lines).has(name), depth + 1);
          if (reading.lines.has(name)) pieces.push('\n');
        }
      }
  };
  walk(ordered.parse(xml) as Record<string, unknown>[], false, 0);
  return pieces
    .join('')
    .split('\n')
    .map((line) => line.trim())
    .join('\n')
    .trim();
};

const openDocumentWords = async (path: string): Promise<Words> => {
  const { files, count } = await entriesOf(
    path,
    (name) => name === 'content.xml',
    (name) => /^Pictures\/./.test(name),
  );
  const content = files.get('content.xml');
  if (!content) throw new Error('contains no content');
  return { text: readPart(content, OPEN_DOCUMENT), pictures: count };
};

const slideWords = async (path: string): Promise<Words> => {
  const { files, count } = await entriesOf(
    path,
    (name) => /^ppt\/slides\/slide\d+\.xml$/.test(name),
    (name) => /^ppt\/media\/./.test(name),
  );
  const slides = [...files];
  if (slides.length === 0) throw new Error('contains no slide');
  const numberOf = (name: string) => Number(/(\d+)\.xml$/.exec(name)?.[1]);
  slides.sort(([a], [b]) => numberOf(a) - numberOf(b));
  // A slide is a page.
  return { text: slides.map(([, bytes]) => readPart(bytes, SLIDE)).join('\f'), pictures: count };
};

/** Piece by piece: drawings are large. Older ones are written in the code page of their time, byte by byte. */
const drawingWords = async (path: string): Promise<Words> => {
  const reader = createDxfReader();
  let rest = '';
  for await (const piece of createReadStream(path, {
    encoding: 'latin1',
    highWaterMark: PIECE,
  }) as AsyncIterable<string>) {
    const lines = (rest + piece).split('\n');
    rest = lines.pop() ?? '';
    if (rest.length > 8 * PIECE) throw new Error('contains an endless line');
    for (const line of lines) reader.take(line.endsWith('\r') ? line.slice(0, -1) : line);
  }
  reader.take(rest);
  return { text: decodeText(Buffer.from(reader.words.join('\n'), 'latin1')), pictures: 1 };
};

const OFFICE = 'application/vnd.openxmlformats-officedocument';
const OPEN = 'application/vnd.oasis.opendocument';
const DOCX = `${OFFICE}.wordprocessingml.document`;
const XLSX = `${OFFICE}.spreadsheetml.sheet`;

/** The text as a comparison lays it out, so that what is counted of a change and what is shown of it are the same. */
const textByBlocks = async (path: string, mediaType: string): Promise<string> =>
  textOfBlocks((await blocksOf(path, mediaType, false)) ?? []);

const READERS: Readonly<Record<string, (path: string) => Promise<Words>>> = {
  'application/pdf': wordsOfPdf,
  [DOCX]: async (path) => {
    // Looked at first: what unfolds to too much is refused before anything is built of it.
    const { count } = await entriesOf(
      path,
      (name) => /^word\/[^/]+\.xml$/.test(name),
      (name) => /^word\/media\/./.test(name),
    );
    return { text: await textByBlocks(path, DOCX), pictures: count };
  },
  [XLSX]: sheetWords,
  [`${OFFICE}.presentationml.presentation`]: slideWords,
  [`${OPEN}.text`]: openDocumentWords,
  [`${OPEN}.spreadsheet`]: openDocumentWords,
  [`${OPEN}.presentation`]: openDocumentWords,
  'text/plain': plain,
  'text/csv': plain,
  'text/markdown': async (path) => {
    if ((await stat(path)).size > MOST_TEXT) return plain(path);
    return { text: await textByBlocks(path, 'text/markdown'), pictures: 0 };
  },
  [ADDRESS_TYPE]: plain,
  [PAPER_TYPE]: plain,
  'message/rfc822': async (path) => ({ text: await wordsOfMail(path), pictures: 0 }),
  'image/svg+xml': async (path) => {
    // A tag ends at the next angle bracket of either kind, so that no text is scanned twice.
    const texts = [...decodeText(await readFile(path)).matchAll(/<(?:text|title|tspan)\b[^<>]*>([^<]+)/g)].map(
      (match) => match[1],
    );
    return { text: texts.join('\n'), pictures: 1 };
  },
  'image/vnd.dxf': drawingWords,
};
