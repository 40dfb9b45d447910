import { execFile } from 'node:child_process';
import { createReadStream } from 'node:fs';
import { mkdtemp, rm } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { promisify } from 'node:util';
import type { AnswerOf, api } from '@kanonos/contract';
import { type App, SYSTEM_CLOCK } from '../../platform/app.ts';
import { OFFICE_ENDINGS } from '../../platform/content/kind.ts';
import { toPages } from '../../platform/office/convert.ts';
import { refused } from '../../platform/refused.ts';
import type { Viewer } from '../access/service.ts';
import { keepRendition } from '../documents/contents.ts';
import { handOut, openFile } from '../documents/files.ts';
import * as store from './store.ts';

const run = promisify(execFile);
const BATCH = 8;
const MOST_BYTES = 80 * 1024 * 1024;

/** How far the pages of an office file are; asked for the first time, they are made by a job. */
export const pagesOf = async (
  app: App,
  viewer: Viewer,
  fileId: string,
): Promise<AnswerOf<typeof api.viewing.pages>> => {
  const { file } = await openFile(app, viewer, fileId);
  if (!OFFICE_ENDINGS[file.media_type]) throw refused('cannot_be_shown');
  const known = await store.findRendition(app.db, { sha256: file.sha256, kind: 'pages' });
  if (!known) await ask(app, file.sha256, 'pages');
  return { state: known?.state ?? 'waiting', why: known?.why ?? null };
};

const ask = (app: App, sha256: string, kind: store.RenditionKind): Promise<void> =>
  app.act(SYSTEM_CLOCK, async (work) => {
    if (await store.askRendition(work.trx, { sha256, kind, now: work.now }))
      await app.jobs.enqueue(work.trx, 'rendition.make', { kind });
  });

/** The pages themselves, recorded as opened; while they are not made there is nothing. */
export const pagesFile = async (app: App, viewer: Viewer, fileId: string) => {
  const { file, name } = await handOut(app, viewer, fileId, 'open');
  const made = await store.findRendition(app.db, { sha256: file.sha256, kind: 'pages' });
  if (!made?.result_sha256 || !(await app.content.has(made.result_sha256))) throw refused('not_found');
  return {
    sha256: made.result_sha256,
    size: await app.content.sizeOf(made.result_sha256),
    mediaType: 'application/pdf',
    name: `${name.replace(/\.[^.]+$/, '')}.pdf`,
    as: 'open' as const,
  };
};

/** A small picture of a file's first page; nothing while it is not made, and then it is asked for. */
export const smallPicture = async (
  app: App,
  viewer: Viewer,
  fileId: string,
): Promise<{ sha256: string; size: number } | undefined> => {
  const { file } = await openFile(app, viewer, fileId);
  const pages = OFFICE_ENDINGS[file.media_type]
    ? await store.findRendition(app.db, { sha256: file.sha256, kind: 'pages' })
    : { state: 'done', result_sha256: file.sha256 };
  if (file.media_type !== 'application/pdf' && !OFFICE_ENDINGS[file.media_type]) throw refused('cannot_be_shown');
  if (!pages) {
    await ask(app, file.sha256, 'pages');
    return undefined;
  }
  if (pages.state === 'failed') throw refused('cannot_be_shown');
  const known = await store.findRendition(app.db, { sha256: file.sha256, kind: 'small' });
  if (known?.state === 'failed') throw refused('cannot_be_shown');
  if (known?.result_sha256) return { sha256: known.result_sha256, size: await app.content.sizeOf(known.result_sha256) };
  if (!known && pages.state === 'done') await ask(app, file.sha256, 'small');
  return undefined;
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
    const end = (sha256: string, result: string | null, why: string | null) =>
      store.endRendition(work.trx, {
        sha256,
        kind: 'pages',
        state: result ? 'done' : 'failed',
        result,
        why,
        now: work.now,
      });
    const fit = waiting.filter((one) => one.size <= MOST_BYTES);
    for (const one of waiting.filter((large) => !fit.includes(large)))
      await end(one.sha256, null, `It is larger than ${MOST_BYTES / 1048576} MB.`);
    const { results, done } = await toPages(
      fit.map((one) => ({ path: app.content.pathOf(one.sha256), ending: OFFICE_ENDINGS[one.media_type] ?? 'bin' })),
    );
    try {
      for (const [i, one] of fit.entries()) {
        const result = results[i];
        if (!result || 'why' in result) await end(one.sha256, null, result?.why ?? '');
        else {
          const { sha256, size } = await app.content.put(createReadStream(result.pdf), Number.MAX_SAFE_INTEGER);
          await keepRendition(work, { sha256, size, mediaType: 'application/pdf' });
          await end(one.sha256, sha256, null);
        }
      }
    } finally {
      await done();
    }
    return waiting.length;
  });

const makeSmall = (app: App): Promise<number> =>
  app.act(SYSTEM_CLOCK, async (work) => {
    const waiting = await store.takeWaiting(work.trx, { kind: 'small', limit: BATCH });
    for (const one of waiting) {
      const pages = await store.findRendition(work.trx, { sha256: one.sha256, kind: 'pages' });
      const source = one.media_type === 'application/pdf' ? one.sha256 : pages?.result_sha256;
      const dir = await mkdtemp(join(tmpdir(), 'kanonos-small-'));
      let result: string | null = null;
      try {
        if (source) {
          const args = [
            '-png',
            '-singlefile',
            '-f',
            '1',
            '-l',
            '1',
            '-scale-to',
            '260',
            app.content.pathOf(source),
            join(dir, 'page'),
          ];
          await run('pdftoppm', args, { timeout: 30_000 });
          const { sha256, size } = await app.content.put(createReadStream(join(dir, 'page.png')), 10_000_000);
          await keepRendition(work, { sha256, size, mediaType: 'image/png' });
          result = sha256;
        }
      } catch (error) {
        app.log.warn({ sha256: one.sha256, reason: String(error).slice(0, 200) }, 'no small picture could be made');
      } finally {
        await rm(dir, { recursive: true, force: true });
      }
      await store.endRendition(work.trx, {
        sha256: one.sha256,
        kind: 'small',
        state: result ? 'done' : 'failed',
        result,
        why: null,
        now: work.now,
      });
    }
    return waiting.length;
  });
