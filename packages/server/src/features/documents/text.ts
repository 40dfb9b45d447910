import { execFile } from 'node:child_process';
import { readFile } from 'node:fs/promises';
import { promisify } from 'node:util';
import { ADDRESS_TYPE, PAPER_TYPE } from '@kanonos/core';
import { XMLParser } from 'fast-xml-parser';
import { unzip } from 'fflate';
import { simpleParser } from 'mailparser';
import mammoth from 'mammoth';
import type { App } from '../../platform/app.ts';
import * as store from './storeContents.ts';

const run = promisify(execFile);
const SECONDS = 60;
const MOST_TEXT = 20_000_000;
const MOST_UNZIPPED = 200 * 1024 * 1024;

/** A PDF with fewer words than this is taken for pictures of paper. */
const FEW_WORDS = 5;
const SCANNED = /^(application\/pdf|image\/(png|jpeg|tiff|bmp|webp|gif))$/;

type Extracted = { text: string; pictures: number };

/** The job that takes the text out of a content, once per content however often it is filed. */
export const extractText = async (app: App, sha256: string): Promise<void> => {
  const content = await store.findContent(app.db, sha256);
  if (content?.text_state !== 'waiting') return;
  let result: { text: string; pictures: number; state: 'done' | 'none' | 'broken' };
  try {
    const extracted = await extract(app.content.pathOf(sha256), content.media_type);
    result = extracted
      ? { ...extracted, text: clean(extracted.text), state: 'done' }
      : { text: '', pictures: content.media_type.startsWith('image/') ? 1 : 0, state: 'none' };
  } catch (error) {
    app.log.warn({ sha256, reason: (error as Error).message.slice(0, 200) }, 'no text could be taken out');
    result = { text: '', pictures: 0, state: 'broken' };
  }
  const words = result.text.match(/[\p{L}\p{N}]+/gu)?.length ?? 0;
  await app.db.transaction(async (trx) => {
    await store.setText(trx, { sha256, words, ...result });
    // Pages that are pictures say nothing yet: what stands on them is read by another job.
    if (words < FEW_WORDS && result.pictures > 0 && SCANNED.test(content.media_type))
      await app.jobs.enqueue(trx, 'text.scan', { sha256 });
  });
};

/** Text as the database can hold it. */
export const clean = (text: string) => text.slice(0, MOST_TEXT).replaceAll('\u0000', ' ').toWellFormed();

const extract = async (path: string, mediaType: string): Promise<Extracted | undefined> => {
  switch (mediaType) {
    case 'application/pdf': {
      const [{ stdout }, images] = await Promise.all([
        run('pdftotext', ['-enc', 'UTF-8', path, '-'], { timeout: SECONDS * 1000, maxBuffer: MOST_TEXT * 4 }),
        run('pdfimages', ['-list', path], { timeout: SECONDS * 1000, maxBuffer: MOST_TEXT }).catch(() => ({
          stdout: '',
        })),
      ]);
      return { text: stdout, pictures: Math.max(0, images.stdout.trim().split('\n').length - 2) };
    }
    case 'application/vnd.openxmlformats-officedocument.wordprocessingml.document': {
      const { value } = await mammoth.extractRawText({ path });
      return { text: value, pictures: (await entriesOf(path, (name) => name.startsWith('word/media/'))).size };
    }
    case 'application/vnd.openxmlformats-officedocument.spreadsheetml.sheet':
      return { text: await sheetText(path), pictures: 0 };
    case 'text/plain':
    case 'text/csv':
    case 'text/markdown':
    case ADDRESS_TYPE:
    case PAPER_TYPE:
      return { text: decode(await readFile(path)), pictures: 0 };
    case 'message/rfc822': {
      const mail = await simpleParser(await readFile(path));
      return { text: `${mail.subject ?? ''}\n${mail.text ?? ''}`, pictures: 0 };
    }
    case 'image/svg+xml': {
      const texts = [...decode(await readFile(path)).matchAll(/<(?:text|title|tspan)[^>]*>([^<]+)</g)].map(
        (match) => match[1],
      );
      return { text: texts.join('\n'), pictures: 1 };
    }
    default:
      return undefined;
  }
};

const decode = (bytes: Buffer): string => {
  const utf8 = new TextDecoder('utf-8').decode(bytes);
  return utf8.includes('\uFFFD') ? new TextDecoder('windows-1252').decode(bytes) : utf8;
};

/** Chosen entries of a zip; one that would unfold to more than the limit is refused before it is unfolded. */
const entriesOf = async (path: string, wanted: (name: string) => boolean): Promise<Map<string, Uint8Array>> => {
  const bytes = await readFile(path);
  let unfolded = 0;
  return new Promise((resolve, reject) => {
    unzip(
      new Uint8Array(bytes),
      {
        filter: (file) => {
          if (!wanted(file.name)) return false;
          unfolded += file.originalSize;
          return unfolded <= MOST_UNZIPPED;
        },
      },
      (error, files) =>
        error
          ? reject(error)
          : unfolded > MOST_UNZIPPED
            ? reject(new Error('unfolds to too much'))
            : resolve(new Map(Object.entries(files))),
    );
  });
};

const sheetText = async (path: string): Promise<string> => {
  const files = await entriesOf(
    path,
    (name) => name === 'xl/sharedStrings.xml' || /^xl\/worksheets\/sheet\d+\.xml$/.test(name),
  );
  if (files.size === 0) throw new Error('no sheet inside');
  const parser = new XMLParser({
    ignoreAttributes: true,
    processEntities: true,
    isArray: (name) => ['si', 'r', 'is', 'c', 'row'].includes(name),
  });
  const pieces: string[] = [];
  for (const [, bytes] of [...files].sort(([a], [b]) => (a < b ? -1 : 1)))
    collect(parser.parse(Buffer.from(bytes).toString('utf8')), pieces);
  return pieces.join('\n');
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

/** The text of a content, as far as it could be taken out. */
export const findContent = store.findContent;
export const setText = store.setText;

export const findText = async (app: App, sha256: string): Promise<string | undefined> =>
  (await store.findText(app.db, sha256))?.text;
