import { pino } from 'pino';
import { startBackground } from './background.ts';
import { createKanonos } from './createKanonos.ts';
import { checkPassword } from './platform/auth/passwords.ts';
import { loadSecrets } from './platform/auth/secrets.ts';
import { readConfig } from './platform/config.ts';
import { createDiskStore } from './platform/content/store.ts';
import { connect } from './platform/db/connect.ts';
import { createJobs } from './platform/jobs/jobs.ts';
import { watchProcess } from './platform/watchProcess.ts';

/** A process for jobs only, beside servers started with JOBS=elsewhere. */
const config = readConfig(process.env);
const log = pino({ level: config.logLevel });
const app = createKanonos({
  db: connect(config.databaseUrl),
  config,
  log,
  clock: () => new Date(),
  secrets: loadSecrets(config.dataDir),
  content: createDiskStore(config.dataDir),
  jobs: createJobs(config.databaseUrl, log),
  checkPassword,
});
watchProcess(log);
const background = await startBackground(app);
for (const signal of ['SIGTERM', 'SIGINT'] as const) {
  process.on(signal, async () => {
    await background.stop();
    await app.jobs.stop();
    await app.content.settled();
    await app.db.destroy();
    process.exit(0);
  });
}
