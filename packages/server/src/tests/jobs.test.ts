import { pino } from 'pino';
import { afterAll, beforeAll, expect, test } from 'vitest';
import { connect, rows } from '../platform/db/connect.ts';
import { createJobs } from '../platform/jobs/jobs.ts';
import { openHouse, type TestHouse } from './house.ts';

let house: TestHouse;
beforeAll(async () => {
  house = await openHouse();
});
afterAll(() => house.close());

test('what is scheduled comes, with the rights that the application has', async () => {
  const log = pino({ level: 'silent' });
  const first = createJobs(house.appUrl, log);
  await first.start();
  await first.schedule('clock.tick', '* * * * *', 'Europe/Zurich');
  await first.stop();
  // As after a standstill: the clock looks at once.
  const owner = connect(house.ownerUrl, 1);
  await rows(owner, 'update jobs.version set cron_on = null');
  await owner.destroy();
  const jobs = createJobs(house.appUrl, log);
  await jobs.start();
  const ticked = new Promise<string>((resolve) => {
    void jobs.work('clock.tick', async () => resolve('ticked'));
  });
  const waited = new Promise<string>((resolve) => setTimeout(() => resolve('nothing came'), 30_000));
  expect(await Promise.race([ticked, waited])).toBe('ticked');
  await jobs.stop();
}, 60_000);
