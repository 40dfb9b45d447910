import { createReadStream } from 'node:fs';
import { Readable } from 'node:stream';
import { type App, SYSTEM_CLOCK } from '../../platform/app.ts';
import { OFFICE_ENDINGS } from '../../platform/content/kind.ts';
import { isConnectionLost } from '../../platform/db/constraints.ts';
import type { JobKinds, Outcome } from '../../platform/jobs/jobs.ts';
import { convertOffice, type Target } from '../../platform/office/convert.ts';
import { parseBehind } from '../../platform/parsing/index.ts';
import { keepRendition } from '../content/index.ts';
import { drawSmall } from './small.ts';
import * as store from './store.ts';
import { keepTextOfPages } from './textByPages.ts';

type Item = JobKinds['rendition.make'];

const BATCH = 8;
const MOST_BYTES = 80 * 1024 * 1024;
const MOST_TRIES = 3;
const MANY = 500;

type ByOffice = Exclude<store.RenditionKind, 'small'>;
const TARGETS: Record<ByOffice, { target: Target; mediaType: string }> = {
  pages: { target: 'pdf', mediaType: 'application/pdf' },
  sheets: { target: 'xlsx', mediaType: 'application/vnd.openxmlformats-officedocument.spreadsheetml.sheet' },
};

/** After a standstill: what waits is made, whatever became of its job. Asked for twice it is made once. */
export const resumeRenditions = async (app: App): Promise<void> => {
  const waiting = await store.listWaiting(app.db, MANY * 20);
  for (let at = 0; at < waiting.length; at += MANY)
    await app.db.transaction(async (trx) => {
      for (const { kind, sha256 } of waiting.slice(at, at + MANY))
        await app.jobs.enqueue(trx, 'rendition.make', { kind, sha256 });
    });
};

/** What could not be made may have wanted memory or a program that was not there: it is tried again, a few times in all. */
export const retryRenditions = async (app: App): Promise<number> => {
  const again = await app.db.transaction((trx) => store.waitAgain(trx, { tries: MOST_TRIES }));
  if (again > 0) await resumeRenditions(app);
  return again;
};

/**
 * Makes renditions of some contents, each with an outcome of its own. The office program and all other readers run outside of any
 * transaction; each result is stored in a short one, and results of others made meanwhile stay.
 */
export const makeRenditions = async (app: App, items: readonly Item[]): Promise<readonly Outcome[]> => {
  const failed = new Map<string, Error>();
  const keyOf = ({ kind, sha256 }: Item) => `${kind} ${sha256}`;
  for (const kind of new Set(items.map((item) => item.kind))) {
    const waiting = await store.findWaiting(app.db, {
      kind,
      hashes: items.filter((item) => item.kind === kind).map((item) => item.sha256),
    });
    const made = kind === 'small' ? await makeSmall(app, waiting) : await makePages(app, kind, waiting);
    for (const [sha256, error] of made) failed.set(keyOf({ kind, sha256 }), error);
  }
  return items.map((item) => failed.get(keyOf(item)));
};

/** Makes everything that waits, some at a time; answers how many there were. */
export const makeWaiting = async (app: App, kind: store.RenditionKind): Promise<number> => {
  let made = 0;
  for (;;) {
    const some = (await store.listWaiting(app.db, MANY)).filter((one) => one.kind === kind).slice(0, BATCH);
    if (some.length === 0) return made;
    for (const outcome of await makeRenditions(app, some)) if (outcome) throw outcome;
    made += some.length;
  }
};

type Waiting = Awaited<ReturnType<typeof store.findWaiting>>[number];

/** Does one thing after the other; what fails is answered by its hash. A lost database is nobody's fault and ends it all. */
const eachOf = async (
  waiting: readonly Waiting[],
  work: (one: Waiting) => Promise<unknown>,
): Promise<Map<string, Error>> => {
  const failed = new Map<string, Error>();
  for (const one of waiting)
    await work(one).catch((error: Error) => {
      if (isConnectionLost(error)) throw error;
      failed.set(one.sha256, error);
    });
  return failed;
};

const makeSmall = (app: App, waiting: readonly Waiting[]) =>
  eachOf(waiting, async (one) => {
    const picture = await drawSmall(app, one);
    await end(app, 'small', one.sha256, picture && { bytes: Readable.from([picture]), mediaType: 'image/png' }, null);
  });

/** Stores the result, or the reason for none. */
const end = async (
  app: App,
  kind: store.RenditionKind,
  sha256: string,
  made: { bytes: Readable; mediaType: string } | undefined,
  why: string | null,
): Promise<string | null> => {
  const stored = made && (await app.content.put(made.bytes, Number.MAX_SAFE_INTEGER));
  await app.command(SYSTEM_CLOCK, async (work) => {
    if (stored) await keepRendition(work, { sha256: stored.sha256, size: stored.size, mediaType: made.mediaType });
    await store.endRendition(work.trx, {
      sha256,
      kind,
      state: stored ? 'done' : 'failed',
      result: stored?.sha256 ?? null,
      why,
      now: work.now,
    });
  });
  return stored?.sha256 ?? null;
};

/** Pages of office files and scans, or workbooks: a batch of office files by one run of the office program. */
const makePages = async (app: App, kind: ByOffice, waiting: readonly Waiting[]): Promise<Map<string, Error>> => {
  const { target, mediaType } = TARGETS[kind];
  const finish = async (sha256: string, made: Readable | undefined, why: string | null) => {
    const result = await end(app, kind, sha256, made && { bytes: made, mediaType }, why);
    if (kind === 'pages') await keepTextOfPages(app, sha256, result);
  };
  const isOffice = (one: Waiting) => one.media_type in OFFICE_ENDINGS;
  const fit = waiting.filter((one) => one.size <= MOST_BYTES);
  const failed = await eachOf(
    waiting.filter((one) => !fit.includes(one) || !isOffice(one)),
    async (one) => {
      if (one.size > MOST_BYTES) return finish(one.sha256, undefined, `It is larger than ${MOST_BYTES / 1048576} MB.`);
      const path = await app.content.intactPath(one.sha256);
      const pages = await parseBehind('pagesOfScan', path).catch((error: Error) => error);
      return pages instanceof Error
        ? finish(one.sha256, undefined, `It cannot be read as an image: ${pages.message.slice(0, 200)}`)
        : finish(one.sha256, Readable.from([Buffer.from(pages)]), null);
    },
  );
  const sources: { sha256: string; ending: string; path: string }[] = [];
  const unreadable = await eachOf(fit.filter(isOffice), async ({ sha256, media_type }) =>
    sources.push({ sha256, ending: OFFICE_ENDINGS[media_type] ?? '', path: await app.content.intactPath(sha256) }),
  );
  for (const [sha256, error] of unreadable) failed.set(sha256, error);
  if (sources.length === 0) return failed;
  const { results, done } = await convertOffice(sources, target);
  try {
    for (const [i, { sha256 }] of sources.entries()) {
      const result = results[i];
      const made = result && 'made' in result ? createReadStream(result.made) : undefined;
      try {
        await finish(sha256, made, result && 'why' in result ? result.why : null);
      } catch (error) {
        if (isConnectionLost(error)) throw error;
        failed.set(sha256, error as Error);
      }
    }
  } finally {
    await done();
  }
  return failed;
};
