import { pino } from 'pino';
import { afterAll, beforeAll, expect, test } from 'vitest';
import { connect, rows } from '../platform/db/connect.ts';
import { createHours } from '../platform/jobs/hours.ts';
import { createJobs } from '../platform/jobs/jobs.ts';
import { openOrganisation, type TestOrganisation } from './organisation.ts';

let organisation: TestOrganisation;
beforeAll(async () => {
  organisation = await openOrganisation();
});
afterAll(() => organisation.close());

test('what is scheduled comes, with the rights that the application has', async () => {
  const log = pino({ level: 'silent' });
  const first = createJobs(organisation.appUrl, log);
  await first.start();
  await first.schedule('due.work', '* * * * *', 'Europe/Zurich');
  await first.stop();
  // As after a standstill: the clock looks at once.
  const owner = connect(organisation.ownerUrl, 1);
  await rows(owner, 'update jobs.version set cron_on = null');
  await owner.destroy();
  const jobs = createJobs(organisation.appUrl, log);
  await jobs.start();
  const ticked = new Promise<string>((resolve) => {
    void jobs.work('due.work', async () => resolve('ticked'));
  });
  const waited = new Promise<string>((resolve) => setTimeout(() => resolve('nothing came'), 30_000));
  expect(await Promise.race([ticked, waited])).toBe('ticked');
  await jobs.stop();
}, 60_000);

test('the clock follow its zone while the workers run', async () => {
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
}, 60_000);
