import { type App, SYSTEM_CLOCK } from '../../platform/app.ts';
import { isReadByPages } from '../../platform/content/words.ts';
import { parseBehind } from '../../platform/parsing/index.ts';
import { extractText, findContent, keepWords, listWaitingTexts } from '../content/index.ts';
import { askFor } from './asking.ts';
import * as store from './store.ts';

/**
 * Takes the text out of a content, by the pages that the office program makes of it where nothing else can read it (older formats):
 * requested here, its text is stored when they are made.
 */
export const takeText = async (app: App, sha256: string): Promise<void> => {
  if (!(await extractText(app, sha256))) return;
  const known = await store.findRendition(app.db, { sha256, kind: 'pages' });
  if (!known || known.state === 'waiting') await askFor(app, sha256, 'pages');
  else await keepTextOfPages(app, sha256, known.result_sha256);
};

/** Keeps the text of pages that were made, where their content has none yet; none where none could be made. */
export const keepTextOfPages = async (app: App, sha256: string, pages: string | null): Promise<void> => {
  const content = await findContent(app.db, sha256);
  // Files readable without pages have their own job.
  if (!content || !/^(waiting|none)$/.test(content.text_state) || !isReadByPages(content.media_type)) return;
  const words = pages ? await parseBehind('wordsOfPdf', await app.content.intactPath(pages)) : undefined;
  await app.command(SYSTEM_CLOCK, (work) => keepWords(app, work.trx, content, words));
};

/** After a standstill, or an update that reads more kinds: missing texts are requested again. A text requested twice is read once. */
export const resumeTexts = async (app: App): Promise<void> => {
  const waiting = await listWaitingTexts(app.db);
  if (waiting.length)
    await app.db.transaction(async (trx) => {
      for (const { sha256 } of waiting) await app.jobs.enqueue(trx, 'text.extract', { sha256 });
    });
};
