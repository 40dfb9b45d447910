import type { App } from '../../platform/app.ts';
import { MOST_TEXT, type Words } from '../../platform/content/words.ts';
import type { Trx } from '../../platform/db/connect.ts';
import { isConnectionLost } from '../../platform/db/constraints.ts';
import { parseBehind } from '../../platform/parsing/index.ts';
import * as store from './store.ts';

/** A PDF with fewer words than this is taken for pictures of paper. */
const FEW_WORDS = 5;
const SCANNED = /^(application\/pdf|image\/(png|jpeg|tiff|bmp|webp|gif))$/;

/**
 * The job that takes the text out of a content, once per content however often it is filed.
 *
 * @returns true where only the office program can read it: its text waits for the pages that are made of it
 */
export const extractText = async (app: App, sha256: string): Promise<boolean> => {
  const content = await store.findContent(app.db, sha256);
  if (content?.text_state !== 'waiting') return false;
  let words: Words | undefined;
  let isBroken = false;
  try {
    const found = await parseBehind('words', await app.content.intactPath(sha256), content.media_type);
    if (found === 'by its pages') return true;
    words = found;
  } catch (error) {
    if (isConnectionLost(error)) throw error;
    // Marked, it is not tried again by itself: what broke the process that read it would do so each time.
    app.log.warn({ sha256, reason: (error as Error).message.slice(0, 200) }, 'no text could be extracted');
    isBroken = true;
  }
  await app.db.transaction((trx) => keepWords(app, trx, content, isBroken ? 'broken' : words));
  return false;
};

/** Stores the awaited text of a content: its words, none for a kind without text, or that it is broken. */
export const keepWords = async (
  app: App,
  trx: Trx,
  content: { sha256: string; media_type: string },
  found: Words | 'broken' | undefined,
): Promise<void> => {
  const isPicture = content.media_type.startsWith('image/');
  const kept =
    found === 'broken'
      ? { text: '', pictures: 0, state: 'broken' }
      : found
        ? { ...found, text: clean(found.text), state: 'done' }
        : { text: '', pictures: isPicture ? 1 : 0, state: 'none' };
  const words = kept.text.match(/[\p{L}\p{N}]+/gu)?.length ?? 0;
  await store.setText(trx, { sha256: content.sha256, words, ...kept });
  // Scanned pages give no text yet: another job recognises it.
  if (words < FEW_WORDS && kept.pictures > 0 && SCANNED.test(content.media_type))
    await app.jobs.enqueue(trx, 'text.scan', { sha256: content.sha256 });
};

/** Text as the database can hold it. */
export const clean = (text: string) => text.slice(0, MOST_TEXT).replaceAll('\u0000', ' ').toWellFormed();

/** The text of a content, as far as it could be taken out. */

export const findText = async (app: App, sha256: string): Promise<string | undefined> =>
  (await store.findText(app.db, sha256))?.text;
