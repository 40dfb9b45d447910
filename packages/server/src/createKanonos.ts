import type { Logger } from 'pino';
import { joinLifecycle } from './features/documents/index.ts';
import { applyDue, findDue } from './features/release/index.ts';
import { routeSituationOf } from './features/rounds/index.ts';
import { type App, createApp } from './platform/app.ts';
import { checkPassword } from './platform/auth/passwords.ts';
import { loadSecrets } from './platform/auth/secrets.ts';
import type { Config } from './platform/config.ts';
import { createDiskStore } from './platform/content/store.ts';
import { connect } from './platform/db/connect.ts';
import { createJobs } from './platform/jobs/jobs.ts';

/** Puts the application together: the platform, and what documents need of the features that build on them. */
export const createKanonos = (parts: Parameters<typeof createApp>[0]): App => {
  joinLifecycle({
    isDue: async (db, documentId, day) => (await findDue(db, documentId, day)) !== undefined,
    applyDue,
    routeSituation: routeSituationOf,
  });
  return createApp(parts);
};

/** The application on the clock of the machine, with the database, files and secrets that the settings name. */
export const openKanonos = (config: Config, log: Logger): App =>
  createKanonos({
    db: connect(config.databaseUrl),
    config,
    log,
    clock: () => new Date(),
    secrets: loadSecrets(config.dataDir),
    content: createDiskStore(config.dataDir),
    jobs: createJobs(config.databaseUrl, log),
    checkPassword,
  });
