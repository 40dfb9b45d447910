import { execFile } from 'node:child_process';
import { mkdtemp, readdir, rm } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { promisify } from 'node:util';
import { readScanned, type Scanned } from '@kanonos/core';
import { type App, SYSTEM_CLOCK } from '../../platform/app.ts';
import { isConnectionLost } from '../../platform/db/constraints.ts';
import { clean, findContent, setText } from '../content/index.ts';
import * as store from './store.ts';

const run = promisify(execFile);
const MOST_PAGES = 40;
const SECONDS = 120;
/** Looked for in this order of preference where several languages are installed. */
const WANTED = ['eng', 'deu', 'fra', 'ita'];

let installed: Promise<string> | undefined;
const languages = (): Promise<string> => {
  installed ??= run('tesseract', ['--list-langs']).then(({ stdout }) => {
    const there = new Set(stdout.split(/\s+/));
    return WANTED.filter((language) => there.has(language)).join('+') || 'eng';
  });
  return installed;
};

/** Reads the text of one picture with how sure the reader is of each word. */
const readPicture = async (path: string, language: string): Promise<Scanned> => {
  const { stdout } = await run('tesseract', [path, 'stdout', '-l', language, 'tsv'], {
    timeout: SECONDS * 1000,
    maxBuffer: 64 * 1024 * 1024,
    env: { ...process.env, OMP_THREAD_LIMIT: '1' },
  });
  return readScanned(stdout);
};

/** The job that reads text from a picture, or from a PDF whose pages are pictures, so that it is found and cited; once per content. */
export const scanText = async (app: App, sha256: string): Promise<void> => {
  const content = await findContent(app.db, sha256);
  if (!content || (await store.findScan(app.db, sha256))) return;
  const dir = await mkdtemp(join(tmpdir(), 'kanonos-scan-'));
  try {
    const path = await app.content.intactPath(sha256);
    let pictures = [path];
    if (content.media_type === 'application/pdf') {
      await run('pdftoppm', ['-r', '200', '-gray', '-png', '-l', String(MOST_PAGES), path, join(dir, 'page')], {
        timeout: SECONDS * 1000,
      });
      pictures = (await readdir(dir)).sort().map((name) => join(dir, name));
    }
    const language = await languages();
    const pages: Scanned[] = [];
    for (const picture of pictures) pages.push(await readPicture(picture, language));
    const sure = pages.filter((page) => page.words > 0);
    const words = sure.reduce((sum, page) => sum + page.words, 0);
    const confidence = words ? sure.reduce((sum, page) => sum + page.confidence * page.words, 0) / words : 0;
    const text = clean(pages.map((page) => page.text).join('\f'));
    await app.command(SYSTEM_CLOCK, async ({ trx }) => {
      await store.saveScan(trx, { sha256, language, confidence, pages: pages.length });
      await setText(trx, { sha256, text, words, pictures: pages.length, state: words ? 'done' : 'none' });
    });
  } catch (error) {
    // A missing program may return; a picture that crashed it would do so each time, and is marked.
    if (isConnectionLost(error) || (error as { code?: string }).code === 'ENOENT') throw error;
    app.log.warn({ sha256, reason: String(error).slice(0, 200) }, 'no text could be read from the image');
    await app.command(SYSTEM_CLOCK, ({ trx }) =>
      store.saveScan(trx, { sha256, language: '', confidence: 0, pages: 0 }),
    );
  } finally {
    await rm(dir, { recursive: true, force: true });
  }
};
