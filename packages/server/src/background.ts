import { citeWaiting } from './features/citations/index.ts';
import { compareWaiting } from './features/comparison/index.ts';
import { tidyContents } from './features/content/index.ts';
import { sendReminders } from './features/desk/index.ts';
import { foldCounts } from './features/find/index.ts';
import { resumeImports, runImport } from './features/imports/index.ts';
import { startMailIntake, watchFolder } from './features/intake/index.ts';
import { currentSender, resumeMails, sendMail, sendSummaries } from './features/mailing/index.ts';
import { endRoundOut } from './features/numbers/index.ts';
import { applyDueGroupRules } from './features/people/index.ts';
import { runDueWork } from './features/release/index.ts';
import { startByRules } from './features/roundRules/index.ts';
import { escalateWaiting, startPlannedRounds } from './features/rounds/index.ts';
import { applyDuePlans } from './features/rules/index.ts';
import { askSigningService } from './features/signedOutside/index.ts';
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
import type { ClockKind } from './platform/jobs/queues.ts';
import { sweepConversions } from './platform/office/convert.ts';

const STALE_UPLOAD_MS = 24 * 3_600_000;

/** The work that comes by the clock, each with the name under which a failure of it is shown. */
const clockWork = (
  app: App,
  hours: { keep: () => Promise<string> },
): { readonly [K in ClockKind]: readonly [name: string, run: () => Promise<unknown>] } => ({
  'clock.zone': ['clock', hours.keep],
  'types.apply-plans': ['planned changes of types', () => applyDuePlans(app)],
  'documents.apply-due': ['scheduled releases and readings', () => runDueWork(app)],
  'numbers.end-reservations': ['reservations of numbers', () => endRoundOut(app)],
  'register.fold-counts': ['counts of the register', () => foldCounts(app.db)],
  'groups.apply-rules': ['groups by rule', () => applyDueGroupRules(app)],
  'citations.read': ['citations', () => citeWaiting(app)],
  'comparisons.make': ['comparisons', () => compareWaiting(app)],
  'drive.apply-due': ['files of the network drive', () => applyDriveDue(app)],
  'mail.retry': ['mails that could not be sent', () => resumeMails(app)],
  'contents.tell-incidents': ['altered or missing files', () => tellIncidents(app)],
  'mail.reminders': ['reminders', () => sendReminders(app)],
  'signing.ask-service': ['signatures from outside', () => askSigningService(app)],
  'rounds.start-planned': ['rounds that are planned', () => startPlannedRounds(app)],
  'rounds.start-by-rule': ['rounds that rules start', () => startByRules(app)],
  'rounds.escalate': ['answers that take too long', () => escalateWaiting(app)],
  'mail.summaries': ['summaries', () => sendSummaries(app, SYSTEM_CLOCK)],
  'trail.head': ['head of the trail', () => signHead(app)],
  'trail.end-day': ['head of the day', () => endDay(app)],
  'contents.tidy': ['unreferenced content', () => tidyContents(app)],
  'renditions.retry': ['renditions that failed', () => retryRenditions(app)],
  'uploads.sweep': ['leftover uploads', () => app.content.sweep(STALE_UPLOAD_MS)],
  'contents.check': ['check of stored contents', () => checkContents(app)],
});

/** Starts the workers of every kind of job. May run in the server's process or in as many others as wanted. */
export const startBackground = async (app: App): Promise<{ stop: () => Promise<void> }> => {
  const hours = createHours(app);
  const sender = currentSender(app);
  const byClock = clockWork(app, hours);
  await app.jobs.start();
  await app.jobs.work('text.extract', ({ sha256 }) => takeText(app, sha256));
  await app.jobs.work('mail.send', ({ mailId }) => sendMail(app, sender, mailId));
  await app.jobs.work('import.run', async ({ importId }) => void (await runImport(app, importId)));
  // Two office programs at most run at once in a process.
  for (let i = 0; i < 2; i++) await app.jobs.workBatch('rendition.make', (items) => makeRenditions(app, items));
  await app.jobs.work('text.scan', ({ sha256 }) => scanText(app, sha256));
  for (const kind of Object.keys(byClock) as ClockKind[])
    await app.jobs.work(kind, () => runStages(app, [byClock[kind]]));
  await hours.keep();
  // After a standstill nothing waits for the next minute: what fell due meanwhile holds and comes into force now.
  await runStages(app, [
    byClock['types.apply-plans'],
    byClock['documents.apply-due'],
    ['imports', () => resumeImports(app)],
    ['texts of files', () => resumeTexts(app)],
    ['renditions', () => resumeRenditions(app)],
    ['unfinished conversions', () => sweepConversions()],
  ]);
  const folder = watchFolder(app);
  const { intakeMailAddress: address, intakeMailPort: port } = app.config;
  const mails = address
    ? await startMailIntake(app, address, port).catch((error: Error) => {
        // Somebody else at the port, another process of this installation as a rule: it takes them.
        app.log.warn({ port, reason: error.message }, 'intake by mail is not taken by this process');
        return undefined;
      })
    : undefined;
  return {
    stop: async () => {
      await mails?.stop();
      await folder.stop();
    },
  };
};
