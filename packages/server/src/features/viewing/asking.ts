import { type App, SYSTEM_CLOCK } from '../../platform/app.ts';
import * as store from './store.ts';

/** Asks for a rendition where nobody has yet; a job makes it. */
export const askFor = (app: App, sha256: string, kind: store.RenditionKind): Promise<void> =>
  app.command(SYSTEM_CLOCK, async (work) => {
    if (await store.askRendition(work.trx, { sha256, kind, now: work.now }))
      await app.jobs.enqueue(work.trx, 'rendition.make', { kind, sha256 });
  });
