import { addDays, dayOf } from '@kanonos/core';
import { citeWaiting } from './features/citations/service.ts';
import { compareWaiting } from './features/comparison/service.ts';
import { settleDesk } from './features/dav/deskFiles.ts';
import { sendReminders } from './features/desk/reminders.ts';
import { tidyContents } from './features/documents/contents.ts';
import { tick } from './features/effect/service.ts';
import { foldCounts } from './features/find/service.ts';
import { resumeImports, runImport } from './features/imports/running.ts';
import { watchFolder } from './features/intake/watch.ts';
import { sendMail, sendSummaries } from './features/mailing/service.ts';
import { endRunOut } from './features/numbers/service.ts';
import { settleGroups } from './features/people/service.ts';
import { settlePlans } from './features/rules/types.ts';
import { endDay } from './features/trail/service.ts';
import { makeRenditions, resumeRenditions, retryRenditions } from './features/viewing/making.ts';
import { scanText } from './features/viewing/scan.ts';
import { resumeTexts, takeText } from './features/viewing/textByPages.ts';
import { type App, SYSTEM_CLOCK } from './platform/app.ts';
import { createHours } from './platform/jobs/hours.ts';
import { createMailSender } from './platform/mail/sender.ts';
import { sweepConversions } from './platform/office/convert.ts';

const STALE_UPLOAD_MS = 24 * 3_600_000;

/** Starts the workers of every kind of job. May run in the server's process or in as many others as wanted. */
export const startBackground = async (app: App): Promise<{ stop: () => Promise<void> }> => {
  const hours = createHours(app);
  const sender = createMailSender(app.config);
  await app.jobs.start();
  await app.jobs.work('text.extract', ({ sha256 }) => takeText(app, sha256));
  await app.jobs.work('mail.send', ({ mailId }) => sendMail(app, sender, mailId));
  await app.jobs.work('import.run', async ({ importId }) => void (await runImport(app, importId)));
  // Two office programs at most run at once in a process.
  for (let i = 0; i < 2; i++)
    await app.jobs.work('rendition.make', async ({ kind }) => void (await makeRenditions(app, kind)));
  await app.jobs.work('text.scan', ({ sha256 }) => scanText(app, sha256));
  await app.jobs.work('clock.tick', async () => {
    await hours.keep();
    await settlePlans(app);
    await tick(app);
    await endRunOut(app);
    await foldCounts(app.db);
    await settleGroups(app);
    await citeWaiting(app);
    await compareWaiting(app);
    await settleDesk(app);
  });
  await app.jobs.work('mail.summaries', async () => {
    await sendReminders(app);
    await sendSummaries(app, SYSTEM_CLOCK);
  });
  await app.jobs.work('day.end', async () => {
    await endDay(app, addDays(dayOf(app.clock(), await hours.keep()), -1));
    await tidyContents(app);
    await retryRenditions(app);
    await app.content.sweep(STALE_UPLOAD_MS);
  });
  await hours.keep();
  // After a standstill nothing waits for the next minute: what fell due meanwhile holds and comes into force now.
  await settlePlans(app);
  await tick(app);
  await resumeImports(app);
  await resumeTexts(app);
  await resumeRenditions(app);
  await sweepConversions();
  return watchFolder(app);
};
