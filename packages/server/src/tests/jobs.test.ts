import { pino } from 'pino';
import { expect, test } from 'vitest';
import { connect, rows } from '../platform/db/connect.ts';
import { createHours } from '../platform/jobs/hours.ts';
import { createJobs } from '../platform/jobs/jobs.ts';
import { JOB_KINDS, QUEUES } from '../platform/jobs/queues.ts';
import { withOrganisation } from './withOrganisation.ts';

const organisation = withOrganisation();

test('scheduled jobs run, with the rights that the application has', async () => {
  const log = pino({ level: 'silent' });
  const first = createJobs(organisation.appUrl, log);
  await first.start();
  await first.schedule('documents.apply-due', '* * * * *', 'Europe/Zurich');
  await first.stop();
  // As after a standstill: the clock looks at once.
  const owner = connect(organisation.ownerUrl, 1);
  await rows(owner, 'update jobs.version set cron_on = null');
  await owner.destroy();
  const jobs = createJobs(organisation.appUrl, log);
  await jobs.start();
  const ticked = new Promise<string>((resolve) => {
    void jobs.work('documents.apply-due', async () => resolve('ticked'));
  });
  const waited = new Promise<string>((resolve) => setTimeout(() => resolve('nothing came'), 90_000));
  expect(await Promise.race([ticked, waited])).toBe('ticked');
  await jobs.stop();
}, 300_000);

test('the clock follows its zone while the workers run', async () => {
  const jobs = createJobs(organisation.appUrl, pino({ level: 'silent' }));
  await jobs.start();
  const owner = connect(organisation.ownerUrl, 1);
  const zones = async () =>
    (await rows<{ timezone: string }>(owner, 'select distinct timezone from jobs.schedule order by 1')).map(
      ({ timezone }) => timezone,
    );
  let zone = 'Europe/Oslo';
  const hours = createHours({ jobs, organisation: async () => ({ ...(await organisation.app.organisation()), zone }) });
  expect(await hours.keep()).toBe('Europe/Oslo');
  expect(await zones()).toEqual(['Europe/Oslo']);
  // Nothing is scheduled anew where nothing changed: another server's hours stay.
  await rows(owner, "update jobs.schedule set timezone = 'Asia/Tokyo'");
  await hours.keep();
  expect(await zones()).toEqual(['Asia/Tokyo']);
  zone = 'America/Lima';
  expect(await hours.keep()).toBe('America/Lima');
  expect(await zones()).toEqual(['America/Lima']);
  await owner.destroy();
  await jobs.stop();
}, 300_000);

test('an item is queued once under its key, again while it is worked on, and hides no other', async () => {
  const jobs = createJobs(organisation.appUrl, pino({ level: 'silent' }));
  await jobs.start();
  const { db } = organisation.app;
  const queued = async (kind: string) =>
    rows<{ key: string | null }>(
      db,
      `select singleton_key as key from jobs.job where name = :kind and state = 'created' order by created_on`,
      { kind },
    );
  await db.transaction(async (trx) => {
    await jobs.enqueue(trx, 'text.scan', { sha256: 'one' });
    await jobs.enqueue(trx, 'text.scan', { sha256: 'two' });
    await jobs.enqueue(trx, 'text.scan', { sha256: 'one' });
    await jobs.enqueueMany(trx, 'text.scan', [{ sha256: 'two' }, { sha256: 'three' }]);
    // The same bytes as small picture and as pages are two things to make.
    await jobs.enqueue(trx, 'rendition.make', { kind: 'pages', sha256: 'one' });
    await jobs.enqueue(trx, 'rendition.make', { kind: 'small', sha256: 'one' });
    // What is sent by hand goes beside its planned retry.
    await jobs.enqueue(trx, 'mail.send', { mailId: 'm' }, new Date(Date.now() + 3_600_000));
    await jobs.enqueue(trx, 'mail.send', { mailId: 'm' });
  });
  expect((await queued('text.scan')).map(({ key }) => key).sort()).toEqual(['one', 'three', 'two']);
  expect(await queued('rendition.make')).toHaveLength(2);
  expect(await queued('mail.send')).toHaveLength(2);

  let began: () => void = () => {};
  const working = new Promise<void>((resolve) => (began = resolve));
  let finish: () => void = () => {};
  const finished = new Promise<void>((resolve) => (finish = resolve));
  await jobs.work('text.scan', async ({ sha256 }) => {
    if (sha256 !== 'one') return;
    began();
    await finished;
  });
  await working;
  // It changed while it was worked on: the next job takes what the first did not see.
  await db.transaction((trx) => jobs.enqueue(trx, 'text.scan', { sha256: 'one' }));
  expect((await queued('text.scan')).map(({ key }) => key)).toContain('one');
  finish();
  await jobs.stop();
}, 300_000);

test('every kind of work by the clock is scheduled from its declaration', async () => {
  const jobs = createJobs(organisation.appUrl, pino({ level: 'silent' }));
  await jobs.start();
  await createHours({ jobs, organisation: organisation.app.organisation }).keep();
  const scheduled = await rows<{ name: string; cron: string }>(
    organisation.app.db,
    'select name, cron from jobs.schedule order by name',
  );
  const declared = JOB_KINDS.flatMap((name) => (QUEUES[name].cron ? [{ name, cron: QUEUES[name].cron }] : []));
  expect(scheduled).toEqual(declared.sort((a, b) => (a.name < b.name ? -1 : 1)));
  await jobs.stop();
}, 300_000);
