import {
  beginEmpty,
  checkPassword,
  connect,
  createDiskStore,
  createJobs,
  createKanonos,
  finishOrganisation,
  loadSecrets,
  readConfig,
} from '@kanonos/server';
import { pino } from 'pino';
import { loadDemo } from './load.ts';

/** Loads the demo, or with `--empty` an organisation without documents and one administrator, into a database that has none. */
const config = readConfig(process.env);
const log = pino({ level: 'warn' });
const clock = { now: new Date() };
const empty = process.argv.includes('--empty');
const jobs = createJobs(config.databaseUrl, log);
const app = createKanonos({
  db: connect(config.databaseUrl),
  config,
  log,
  clock: () => clock.now,
  secrets: loadSecrets(config.dataDir),
  content: createDiskStore(config.dataDir),
  jobs,
  // The people of the demo sign at the given dates; their password is checked from the first real sign-in on.
  checkPassword: empty ? checkPassword : async () => true,
});
const began = performance.now();
if (empty) {
  const { signInName, link } = await beginEmpty(app, Intl.DateTimeFormat().resolvedOptions().timeZone || 'UTC');
  process.stdout.write(`Sign-in name ${signInName}; set the password and begin at ${link}\n`);
} else {
  const result = await loadDemo(app, clock, new Date());
  process.stdout.write(
    `${result.documents} documents, ${result.people} people in ${((performance.now() - began) / 1000).toFixed(1)} s\n`,
  );
}
if (!empty) await finishOrganisation(app);
await app.db.destroy();
process.exit(0);
