import { pino } from 'pino';
import { startBackground } from './background.ts';
import { openKanonos } from './createKanonos.ts';
import { readConfig } from './platform/config.ts';
import { watchProcess } from './platform/watchProcess.ts';

/** A process for jobs only, beside servers started with JOBS=elsewhere. */
const config = readConfig(process.env);
const log = pino({ level: config.logLevel });
const app = openKanonos(config, log);
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
