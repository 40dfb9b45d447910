import { addDays, dayOf } from '@kanonos/core';
import { type App, SYSTEM_CLOCK } from '../../platform/app.ts';
import { notify } from '../mailing/index.ts';
import * as store from './store.ts';

/** Every content is read again within so many days. */
const EVERY_DAYS = 30;
const AT_ONCE = 50;
/** The nightly check ends after this time and continues the next night. */
const WORK_MS = 3 * 3_600_000;
/** Just stored bytes may not have their row yet. */
const FRESH_MS = 24 * 3_600_000;

/**
 * Compares store and database both ways: contents that were not read for a month are hashed again, those longest ago first; and bytes
 * that no row knows, such as those of a refused upload, are set aside, to go a day later.
 */
export const checkContents = async (app: App): Promise<{ checked: number; orphans: number }> => {
  const until = performance.now() + WORK_MS;
  const before = addDays(dayOf(app.clock(), (await app.organisation()).zone), -EVERY_DAYS);
  let checked = 0;
  while (performance.now() < until) {
    const some = await store.listToCheck(app.db, { before, limit: AT_ONCE });
    for (const { sha256 } of some) {
      await app.content.verify(sha256, 'nightly check');
      checked++;
    }
    if (some.length < AT_ONCE) break;
  }
  return { checked, orphans: await setOrphansAside(app, FRESH_MS) };
};

/** Sets bytes aside that no row knows and that have lain there for a while. */
export const setOrphansAside = async (app: App, olderThanMs: number): Promise<number> => {
  let orphans = 0;
  for await (const hashes of app.content.list()) {
    const known = await store.listKnown(app.db, hashes);
    for (const sha256 of hashes.filter((hash) => !known.has(hash)))
      if (await app.content.isOlder(sha256, olderThanMs)) {
        await app.content.leave(sha256);
        orphans++;
      }
  }
  return orphans;
};

/** Tells of incidents once: who keeps the system, and who releases the documents concerned. */
export const tellIncidents = async (app: App): Promise<number> => {
  const unnotified = await store.listUnnotified(app.db);
  for (const incident of unnotified)
    await app.command(SYSTEM_CLOCK, async (work) => {
      if ((await store.noteNotified(work.trx, { id: incident.id, now: work.now })) === 0) return;
      const places = (await store.listIncidents(work.trx)).filter(
        (row) => row.sha256 === incident.sha256 && row.number,
      );
      const names = places.map((place) => `${place.number} ${place.label}, ${place.name}`);
      work.record({
        kind: 'content.check-failed',
        subject: {},
        payload: { sha256: incident.sha256, what: incident.what, by: incident.found_by, places: names },
      });
      await notify(
        app,
        work,
        await store.listToTell(work.trx, { sha256: incident.sha256, day: work.day }),
        {
          kind: 'security',
          subject: `A stored file ${incident.what === 'missing' ? 'is missing' : 'was altered'}`,
          lead: `The ${incident.found_by} found that stored content ${incident.what === 'missing' ? 'is missing' : 'has changed since it was filed'} (SHA-256 ${incident.sha256.slice(0, 16)}…). It can no longer be downloaded. Restore it from a backup, then check it again.`,
          lines: names,
          link: { path: '/system', label: 'Open the system page' },
        },
        true,
      );
    });
  return unnotified.length;
};
