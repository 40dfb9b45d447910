import { createReadStream } from 'node:fs';
import { Readable } from 'node:stream';
import type { AnswerOf, api } from '@kanonos/contract';
import { type App, SYSTEM_CLOCK } from '../../platform/app.ts';
import { isShownByPages, OFFICE_ENDINGS } from '../../platform/content/kind.ts';
import { pagesOfScan } from '../../platform/content/scans.ts';
import { toPages } from '../../platform/office/convert.ts';
import { refused } from '../../platform/refused.ts';
import type { Viewer } from '../access/service.ts';
import { keepRendition } from '../documents/contents.ts';
import { handOut, openFile } from '../documents/files.ts';
import { askFor } from './asking.ts';
import { makeSmall } from './small.ts';
import * as store from './store.ts';
import { keepTextOfPages } from './textByPages.ts';

const BATCH = 8;
const MOST_BYTES = 80 * 1024 * 1024;

/** How far the pages of a file are; asked for the first time, they are made by a job. */
export const pagesOf = async (
  app: App,
  viewer: Viewer,
  fileId: string,
): Promise<AnswerOf<typeof api.viewing.pages>> => {
  const { file } = await openFile(app, viewer, fileId);
  if (!isShownByPages(file.media_type)) throw refused('cannot_be_shown');
  const known = await store.findRendition(app.db, { sha256: file.sha256, kind: 'pages' });
  if (!known) await askFor(app, file.sha256, 'pages');
  return { state: known?.state ?? 'waiting', why: known?.why ?? null };
};

/** The content that holds the pages made of another one, once they are. */
export const madePages = async (app: App, sha256: string): Promise<string | undefined> => {
  const made = await store.findRendition(app.db, { sha256, kind: 'pages' });
  return made?.result_sha256 && (await app.content.has(made.result_sha256)) ? made.result_sha256 : undefined;
};

/** The pages themselves, recorded as opened; while they are not made there is nothing. */
export const pagesFile = async (app: App, viewer: Viewer, fileId: string) => {
  const { file, name } = await handOut(app, viewer, fileId, 'open');
  const pages = await madePages(app, file.sha256);
  if (!pages) throw refused('not_found');
  return {
    sha256: pages,
    size: await app.content.sizeOf(pages),
    mediaType: 'application/pdf',
    name: `${name.replace(/\.[^.]+$/, '')}.pdf`,
    as: 'open' as const,
  };
};

/** After a standstill: what waits is made, whatever became of its job. */
export const resumeRenditions = async (app: App): Promise<void> => {
  for (const { kind } of await store.waitingKinds(app.db))
    await app.db.transaction((trx) => app.jobs.enqueue(trx, 'rendition.make', { kind }));
};

/** Makes what waits, some at a time, until nothing does. Two run at once at most: each takes a worker of its own. */
export const makeRenditions = async (app: App, kind: store.RenditionKind): Promise<number> => {
  let made = 0;
  for (;;) {
    const some = kind === 'pages' ? await makePages(app) : await makeSmall(app);
    if (some === 0) return made;
    made += some;
  }
};

const makePages = (app: App): Promise<number> =>
  app.act(SYSTEM_CLOCK, async (work) => {
    const waiting = await store.takeWaiting(work.trx, { kind: 'pages', limit: BATCH });
    if (waiting.length === 0) return 0;
    const end = async (sha256: string, result: string | null, why: string | null) => {
      await store.endRendition(work.trx, {
        sha256,
        kind: 'pages',
        state: result ? 'done' : 'failed',
        result,
        why,
        now: work.now,
      });
      await keepTextOfPages(app, work, sha256, result);
    };
    const fit = waiting.filter((one) => one.size <= MOST_BYTES);
    for (const one of waiting.filter((large) => !fit.includes(large)))
      await end(one.sha256, null, `It is larger than ${MOST_BYTES / 1048576} MB.`);
    const keep = async (one: { sha256: string }, pages: Readable) => {
      const { sha256, size } = await app.content.put(pages, Number.MAX_SAFE_INTEGER);
      await keepRendition(work, { sha256, size, mediaType: 'application/pdf' });
      await end(one.sha256, sha256, null);
    };
    const office = fit.filter((one) => one.media_type in OFFICE_ENDINGS);
    for (const scan of fit.filter((one) => !office.includes(one)))
      await pagesOfScan(app.content.pathOf(scan.sha256)).then(
        (pages) => keep(scan, Readable.from([Buffer.from(pages)])),
        (error: Error) => end(scan.sha256, null, `It cannot be read as a picture: ${error.message.slice(0, 200)}`),
      );
    if (office.length === 0) return waiting.length;
    const { results, done } = await toPages(
      office.map((one) => ({ path: app.content.pathOf(one.sha256), ending: OFFICE_ENDINGS[one.media_type] ?? 'bin' })),
    );
    try {
      for (const [i, one] of office.entries()) {
        const result = results[i];
        if (!result || 'why' in result) await end(one.sha256, null, result?.why ?? '');
        else await keep(one, createReadStream(result.pdf));
      }
    } finally {
      await done();
    }
    return waiting.length;
  });
