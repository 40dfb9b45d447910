import { setTimeout as sleep } from 'node:timers/promises';
import pg from 'pg';
import PgBoss from 'pg-boss';
import type { Logger } from 'pino';
import type { Trx } from '../db/connect.ts';
import { isConnectionLost } from '../db/constraints.ts';
import { type JobKind, type JobKinds, keyOf, QUEUES } from './queues.ts';

export type { JobKind, JobKinds } from './queues.ts';

/** The outcome of each item of a batch, in order: undefined, or the error that causes a retry. */
export type Outcome = undefined | Error;

export type Jobs = {
  /**
   * Enqueues in the transaction that needs the job: rolled back, it never was; queued already under its key, it is not queued again.
   * Not before `after`, where that is given.
   */
  enqueue: <K extends JobKind>(trx: Trx, kind: K, data: JobKinds[K], after?: Date) => Promise<void>;
  /** The same for many items in one statement. */
  enqueueMany: <K extends JobKind>(trx: Trx, kind: K, items: readonly JobKinds[K][]) => Promise<void>;
  /** Works on one item after the other; one that fails is tried again alone. */
  work: <K extends JobKind>(kind: K, handler: (data: JobKinds[K]) => Promise<void>) => Promise<void>;
  /** Handles several items at once, where that is cheaper; each has its own outcome. */
  workBatch: <K extends JobKind>(
    kind: K,
    handler: (items: readonly JobKinds[K][]) => Promise<readonly Outcome[]>,
  ) => Promise<void>;
  schedule: (kind: JobKind, cron: string, zone: string) => Promise<void>;
  start: () => Promise<void>;
  stop: () => Promise<void>;
  state: () => string;
};

/** Scheduled jobs start by the minute, so polling each second is not needed. */
const CLOCK_POLL_SECONDS = 5;
const STOP_MS = 8_000;
const FIRST_PAUSE_MS = 200;
const LONGEST_PAUSE_MS = 5_000;

/**
 * The job library's connections. While the database restarts its statements wait and are sent again: the library does not await all
 * of them, so a rejection would end the process, and the work done would be lost.
 */
const createConnections = (url: string, log: Logger) => {
  const pool = new pg.Pool({ connectionString: url, max: 4, application_name: 'kanonos-jobs' });
  pool.on('error', (error) => log.warn({ reason: error.message }, 'a connection of the jobs was lost'));
  let ended = false;
  return {
    executeSql: async (text: string, values?: unknown[]): Promise<{ rows: unknown[] }> => {
      for (let pause = FIRST_PAUSE_MS; ; pause = Math.min(LONGEST_PAUSE_MS, pause * 2)) {
        try {
          return await pool.query(text, values);
        } catch (error) {
          if (ended) return { rows: [] };
          if (!isConnectionLost(error)) throw error;
          await sleep(pause);
        }
      }
    },
    end: async () => {
      ended = true;
      await pool.end();
    },
  };
};

/** Jobs on the same PostgreSQL. The schema and its queues are made by the migration, because this role has no DDL. */
export const createJobs = (url: string, log: Logger): Jobs => {
  const connections = createConnections(url, log);
  const boss = new PgBoss({ db: connections as PgBoss.Db, schema: 'jobs', migrate: false });
  let running = false;
  boss.on('error', (error) => log.error({ err: error }, 'jobs'));

  const workBatch: Jobs['workBatch'] = async (kind, handler) => {
    const { batch, cron } = QUEUES[kind];
    const pollingIntervalSeconds = cron ? CLOCK_POLL_SECONDS : 1;
    await boss.work(kind, { batchSize: batch, pollingIntervalSeconds }, async (jobs: PgBoss.Job<object>[]) => {
      const outcomes = await handler(jobs.map((job) => job.data as never)).catch((error: Error) =>
        jobs.map(() => error),
      );
      for (const [i, job] of jobs.entries()) {
        const error = outcomes[i];
        if (!error) continue;
        log.warn({ kind, data: job.data, reason: error.message?.slice(0, 300) }, 'a job failed');
        // Failed alone: the library completes the others of the batch.
        await boss.fail(kind, job.id, { reason: error.message?.slice(0, 300) });
      }
    });
  };

  return {
    enqueue: async (trx, kind, data, after) => {
      const options = {
        db: { executeSql: (text: string, values: unknown[]) => queryOf(trx, text, values) },
        ...(after ? { startAfter: after } : {}),
        ...keyed(kind, data),
      };
      await boss.send(kind, data, options as PgBoss.SendOptions);
    },
    enqueueMany: async (trx, kind, items) => {
      if (items.length === 0) return;
      const { retryLimit, retryDelay, expireInSeconds } = QUEUES[kind];
      const options = { db: { executeSql: (text: string, values: unknown[]) => queryOf(trx, text, values) } };
      await boss.insert(
        items.map((data) => ({
          name: kind,
          data,
          retryLimit,
          retryDelay,
          retryBackoff: true,
          expireInSeconds,
          ...keyed(kind, data),
        })),
        options as PgBoss.InsertOptions,
      );
    },
    workBatch,
    work: (kind, handler) =>
      workBatch(kind, async (items) => {
        const outcomes: Outcome[] = [];
        for (const item of items)
          outcomes.push(
            await handler(item).then(
              () => undefined,
              (error: Error) => error,
            ),
          );
        return outcomes;
      }),
    schedule: async (kind, cron, zone) => {
      await boss.schedule(kind, cron, {}, { tz: zone });
    },
    start: async () => {
      await boss.start();
      running = true;
    },
    stop: async () => {
      // Without a database there is nothing to wait for.
      if (running)
        await Promise.race([boss.stop({ graceful: true, timeout: 5000 }), sleep(STOP_MS, undefined, { ref: false })]);
      running = false;
      await connections.end();
    },
    state: () => (running ? 'running' : 'elsewhere'),
  };
};

const keyed = <K extends JobKind>(kind: K, data: JobKinds[K]): { singletonKey?: string } => {
  const singletonKey = keyOf(kind, data);
  return singletonKey === undefined ? {} : { singletonKey };
};

/** pg-boss writes $1 placeholders: the transaction's own connection takes them as they are. */
const queryOf = async (trx: Trx, text: string, values: unknown[]): Promise<{ rows: unknown[] }> => {
  const client = trx.client as {
    acquireConnection: () => Promise<{ query: (text: string, values: unknown[]) => Promise<{ rows: unknown[] }> }>;
  };
  return (await client.acquireConnection()).query(text, values);
};
