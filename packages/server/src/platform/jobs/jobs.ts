import PgBoss from 'pg-boss';
import type { Logger } from 'pino';
import type { Trx } from '../db/connect.ts';

/** Every kind of background work with its data. */
export type JobKinds = {
  'text.extract': { sha256: string };
  'mail.send': { mailId: string };
  'clock.tick': Record<string, never>;
  'day.end': Record<string, never>;
  'mail.summaries': Record<string, never>;
  'import.run': { importId: string };
  'rendition.make': { kind: 'pages' | 'sheets' | 'small' };
  'text.scan': { sha256: string };
};
export type JobKind = keyof JobKinds;
export const JOB_KINDS: readonly JobKind[] = [
  'text.extract',
  'mail.send',
  'clock.tick',
  'day.end',
  'mail.summaries',
  'import.run',
  'rendition.make',
  'text.scan',
];

/** Jobs fetched at once; every handler may be run again for what was done already. */
const BATCH = 25;

export type Jobs = {
  /** Enqueues in the transaction that needs the job: rolled back, it never was. */
  enqueue: <K extends JobKind>(trx: Trx, kind: K, data: JobKinds[K]) => Promise<void>;
  work: <K extends JobKind>(kind: K, handler: (data: JobKinds[K]) => Promise<void>) => Promise<void>;
  schedule: (kind: JobKind, cron: string, zone: string) => Promise<void>;
  start: () => Promise<void>;
  stop: () => Promise<void>;
  state: () => string;
};

/** Jobs on the same PostgreSQL. The schema and its queues are made by the migration, for this role has no DDL. */
export const createJobs = (url: string, log: Logger): Jobs => {
  const boss = new PgBoss({
    connectionString: url,
    schema: 'jobs',
    migrate: false,
    max: 4,
    application_name: 'kanonos-jobs',
  });
  let running = false;
  boss.on('error', (error) => log.error({ err: error }, 'jobs'));
  return {
    enqueue: async (trx, kind, data) => {
      const options = { db: { executeSql: (text: string, values: unknown[]) => queryOf(trx, text, values) } };
      await boss.send(kind, data, options as PgBoss.SendOptions);
    },
    work: async (kind, handler) => {
      await boss.work(kind, { batchSize: BATCH, pollingIntervalSeconds: 1 }, async (jobs: PgBoss.Job<object>[]) => {
        for (const job of jobs) await handler(job.data as never);
      });
    },
    schedule: async (kind, cron, zone) => {
      await boss.schedule(kind, cron, {}, { tz: zone });
    },
    start: async () => {
      await boss.start();
      running = true;
    },
    stop: async () => {
      if (running) await boss.stop({ graceful: true, timeout: 5000 });
      running = false;
    },
    state: () => (running ? 'running' : 'elsewhere'),
  };
};

/** pg-boss writes $1 placeholders: the transaction's own connection takes them as they are. */
const queryOf = async (trx: Trx, text: string, values: unknown[]): Promise<{ rows: unknown[] }> => {
  const client = trx.client as {
    acquireConnection: () => Promise<{ query: (text: string, values: unknown[]) => Promise<{ rows: unknown[] }> }>;
  };
  return (await client.acquireConnection()).query(text, values);
};
