import { createReadStream } from 'node:fs';
import { Readable } from 'node:stream';
import { type App, SYSTEM_CLOCK, type Work } from '../../platform/app.ts';
import { OFFICE_ENDINGS } from '../../platform/content/kind.ts';
import { pagesOfScan } from '../../platform/content/scans.ts';
import { convertOffice, type Target } from '../../platform/office/convert.ts';
import { keepRendition } from '../documents/contents.ts';
import { makeSmall } from './small.ts';
import * as store from './store.ts';
import { keepTextOfPages } from './textByPages.ts';

const BATCH = 8;
const MOST_BYTES = 80 * 1024 * 1024;
const MOST_TRIES = 3;

type ByOffice = Exclude<store.RenditionKind, 'small'>;
const TARGETS: Record<ByOffice, { target: Target; mediaType: string }> = {
  pages: { target: 'pdf', mediaType: 'application/pdf' },
  sheets: { target: 'xlsx', mediaType: 'application/vnd.openxmlformats-officedocument.spreadsheetml.sheet' },
};

/** After a standstill: what waits is made, whatever became of its job. */
export const resumeRenditions = async (app: App): Promise<void> => {
  for (const { kind } of await store.waitingKinds(app.db))
    await app.db.transaction((trx) => app.jobs.enqueue(trx, 'rendition.make', { kind }));
};

/** What could not be made may have wanted memory or a program that was not there: it is tried again, a few times in all. */
export const retryRenditions = async (app: App): Promise<number> => {
  const again = await app.db.transaction((trx) => store.waitAgain(trx, { tries: MOST_TRIES }));
  if (again > 0) await resumeRenditions(app);
  return again;
};

/** Makes what waits, some at a time, until nothing does. Two run at once at most: each takes a worker of its own. */
export const makeRenditions = async (app: App, kind: store.RenditionKind): Promise<number> => {
  let made = 0;
  for (;;) {
    const some =
      kind === 'small' ? await makeSmall(app) : await app.act(SYSTEM_CLOCK, (work) => makeSome(app, work, kind));
    if (some === 0) return made;
    made += some;
  }
};

/** Makes pages or workbooks of a batch of what waits; answers how many there were. */
const makeSome = async (app: App, work: Work, kind: ByOffice): Promise<number> => {
  const waiting = await store.takeWaiting(work.trx, { kind, limit: BATCH });
  const end = async (sha256: string, result: string | null, why: string | null) => {
    await store.endRendition(work.trx, { sha256, kind, state: result ? 'done' : 'failed', result, why, now: work.now });
    if (kind === 'pages') await keepTextOfPages(app, work, sha256, result);
  };
  const keep = async (of: string, made: Readable) => {
    const { sha256, size } = await app.content.put(made, Number.MAX_SAFE_INTEGER);
    await keepRendition(work, { sha256, size, mediaType: TARGETS[kind].mediaType });
    await end(of, sha256, null);
  };
  const fit = waiting.filter((one) => one.size <= MOST_BYTES);
  for (const one of waiting.filter((large) => !fit.includes(large)))
    await end(one.sha256, null, `It is larger than ${MOST_BYTES / 1048576} MB.`);
  for (const { sha256 } of fit.filter((one) => !(one.media_type in OFFICE_ENDINGS)))
    await pagesOfScan(app.content.pathOf(sha256)).then(
      (pages) => keep(sha256, Readable.from([Buffer.from(pages)])),
      (error: Error) => end(sha256, null, `It cannot be read as a picture: ${error.message.slice(0, 200)}`),
    );
  const office = fit.flatMap(({ sha256, media_type }) => {
    const ending = OFFICE_ENDINGS[media_type];
    return ending ? [{ sha256, ending, path: app.content.pathOf(sha256) }] : [];
  });
  if (office.length === 0) return waiting.length;
  const { results, done } = await convertOffice(office, TARGETS[kind].target);
  try {
    for (const [i, { sha256 }] of office.entries()) {
      const result = results[i];
      if (!result || 'why' in result) await end(sha256, null, result?.why ?? '');
      else await keep(sha256, createReadStream(result.made));
    }
  } finally {
    await done();
  }
  return waiting.length;
};
