import { citeWaiting } from './features/citations/index.ts';
import { compareWaiting } from './features/comparison/index.ts';
import { tidyContents } from './features/content/index.ts';
import { sendReminders } from './features/desk/index.ts';
import { foldCounts } from './features/find/index.ts';
import { resumeImports, runImport } from './features/imports/index.ts';
import { watchFolder } from './features/intake/index.ts';
import { resumeMails, sendMail, sendSummaries } from './features/mailing/index.ts';
import { endRoundOut } from './features/numbers/index.ts';
import { applyDueGroupRules } from './features/people/index.ts';
import { runDueWork } from './features/release/index.ts';
import { applyDuePlans } from './features/rules/index.ts';
import { checkContents, runStages, tellIncidents } from './features/system/index.ts';
import { endDay, signHead } from './features/trail/index.ts';
import {
  makeRenditions,
  resumeRenditions,
  resumeTexts,
  retryRenditions,
  scanText,
  takeText,
} from './features/viewing/index.ts';
import { applyDriveDue } from './features/webdav/index.ts';
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
  for (let i = 0; i < 2; i++) await app.jobs.workBatch('rendition.make', (items) => makeRenditions(app, items));
  await app.jobs.work('text.scan', ({ sha256 }) => scanText(app, sha256));
  await app.jobs.work('due.work', () =>
    runStages(app, [
      ['clock', hours.keep],
      ['planned changes of types', () => applyDuePlans(app)],
      ['scheduled releases and readings', () => runDueWork(app)],
      ['reservations of numbers', () => endRoundOut(app)],
      ['counts of the register', () => foldCounts(app.db)],
      ['groups by rule', () => applyDueGroupRules(app)],
      ['citations', () => citeWaiting(app)],
      ['comparisons', () => compareWaiting(app)],
      ['files of the network drive', () => applyDriveDue(app)],
      ['mails that could not be sent', () => resumeMails(app)],
      ['altered or missing files', () => tellIncidents(app)],
    ]),
  );
  await app.jobs.work('trail.head', async () => void (await signHead(app)));
  await app.jobs.work('mail.summaries', async () => {
    await runStages(app, [
      ['reminders', () => sendReminders(app)],
      ['summaries', () => sendSummaries(app, SYSTEM_CLOCK)],
    ]);
  });
  await app.jobs.work('day.end', async () => {
    await hours.keep();
    await runStages(app, [
      ['head of the day', () => endDay(app)],
      ['unreferenced content', () => tidyContents(app)],
      ['renditions that failed', () => retryRenditions(app)],
      ['leftover uploads', () => app.content.sweep(STALE_UPLOAD_MS)],
      ['check of stored contents', () => checkContents(app)],
    ]);
  });
  await hours.keep();
  // After a standstill nothing waits for the next minute: what fell due meanwhile holds and comes into force now.
  await runStages(app, [
    ['planned changes of types', () => applyDuePlans(app)],
    ['scheduled releases and readings', () => runDueWork(app)],
    ['imports', () => resumeImports(app)],
    ['texts of files', () => resumeTexts(app)],
    ['renditions', () => resumeRenditions(app)],
    ['unfinished conversions', () => sweepConversions()],
  ]);
  return watchFolder(app);
};
