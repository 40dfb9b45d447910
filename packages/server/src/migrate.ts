import knex from 'knex';
import PgBoss from 'pg-boss';
import * as m0001 from './migrations/0001_people.ts';
import * as m0002 from './migrations/0002_configuration.ts';
import * as m0003 from './migrations/0003_filing.ts';
import * as m0004 from './migrations/0004_contents.ts';
import * as m0005 from './migrations/0005_documents.ts';
import * as m0006 from './migrations/0006_rounds.ts';
import * as m0007 from './migrations/0007_reading.ts';
import * as m0008 from './migrations/0008_comments.ts';
import * as m0009 from './migrations/0009_incoming.ts';
import * as m0010 from './migrations/0010_many.ts';
import * as m0011 from './migrations/0011_trail.ts';
import * as m0012 from './migrations/0012_setup.ts';
import * as m0013 from './migrations/0013_rights.ts';
import * as m0014 from './migrations/0014_desk.ts';
import * as m0015 from './migrations/0015_blueprint_files.ts';
import * as m0016 from './migrations/0016_mail_server.ts';
import * as m0017 from './migrations/0017_item_kinds.ts';
import * as m0018 from './migrations/0018_route_steps.ts';
import * as m0019 from './migrations/0019_hold.ts';
import * as m0020 from './migrations/0020_change_notes.ts';
import * as m0021 from './migrations/0021_change_requests.ts';
import * as m0022 from './migrations/0022_ad_hoc_rounds.ts';
import * as m0023 from './migrations/0023_orders.ts';
import * as m0024 from './migrations/0024_round_rules.ts';
import * as m0025 from './migrations/0025_own_states.ts';
import * as m0026 from './migrations/0026_forms.ts';
import * as m0027 from './migrations/0027_signed_outside.ts';
import * as m0028 from './migrations/0028_planned_rounds.ts';
import * as m0029 from './migrations/0029_open_steps.ts';
import * as m0030 from './migrations/0030_reviews.ts';
import { JOB_KINDS, policyOf, QUEUES } from './platform/jobs/queues.ts';

const MIGRATIONS = {
  '0001_people': m0001,
  '0002_configuration': m0002,
  '0003_filing': m0003,
  '0004_contents': m0004,
  '0005_documents': m0005,
  '0006_rounds': m0006,
  '0007_reading': m0007,
  '0008_comments': m0008,
  '0009_incoming': m0009,
  '0010_many': m0010,
  '0011_trail': m0011,
  '0012_setup': m0012,
  '0013_rights': m0013,
  '0014_desk': m0014,
  '0015_blueprint_files': m0015,
  '0016_mail_server': m0016,
  '0017_item_kinds': m0017,
  '0018_route_steps': m0018,
  '0019_hold': m0019,
  '0020_change_notes': m0020,
  '0021_change_requests': m0021,
  '0022_ad_hoc_rounds': m0022,
  '0023_orders': m0023,
  '0024_round_rules': m0024,
  '0025_own_states': m0025,
  '0026_forms': m0026,
  '0027_signed_outside': m0027,
  '0028_planned_rounds': m0028,
  '0029_open_steps': m0029,
  '0030_reviews': m0030,
};
const MIGRATION_LOCK = 7_204_100;

/**
 * Brings a database up to date as its owner: role, schema, jobs' schema, grants. Two servers at once wait for each other
 * at an advisory lock; the second finds nothing left to do. Forward only; an unknown newer migration is refused.
 */
export const migrate = async (ownerUrl: string, appPassword: string): Promise<void> => {
  const db = knex({ client: 'pg', connection: ownerUrl, pool: { min: 1, max: 2 } });
  try {
    const lock = await db.client.acquireConnection();
    try {
      await lock.query('select pg_advisory_lock($1)', [MIGRATION_LOCK]);
      await refuseOlderData(db);
      await makeRole(db, appPassword);
      await db.migrate.latest({
        migrationSource: {
          getMigrations: async () => Object.keys(MIGRATIONS),
          getMigrationName: (name: string) => name,
          getMigration: async (name: string) => ({
            ...MIGRATIONS[name as keyof typeof MIGRATIONS],
            down: async () => {},
          }),
        },
      });
      await makeJobs(ownerUrl);
      await grant(db);
    } finally {
      await lock.query('select pg_advisory_unlock($1)', [MIGRATION_LOCK]);
      db.client.releaseConnection(lock);
    }
  } finally {
    await db.destroy();
  }
};

/** The first name of a migration before 0.2, when tables, columns and events had other names. */
const BEFORE_0_2 = '0010_house_rules';

/** Data of a version before 0.2 has other stored names and is not read: reported with what to do, before anything is changed. */
const refuseOlderData = async (db: knex.Knex) => {
  if (!(await db.schema.hasTable('knex_migrations'))) return;
  const older = await db('knex_migrations').where({ name: BEFORE_0_2 }).first();
  if (older)
    throw new Error(
      'This data was made by a version before 0.2, whose stored names have changed since. Start with a new folder (npm start -- --data DIR), or go on reading the old one with the version that made it.',
    );
};

/** Roles belong to the whole cluster, so two databases may make it at once: that collision alone is forgiven. */
const makeRole = async (db: knex.Knex, password: string) => {
  const quoted = `'${password.replace(/'/g, "''")}'`;
  await db
    .raw(`do $$ begin
      if not exists (select 1 from pg_roles where rolname = 'kanonos_app') then create role kanonos_app login password ${quoted}; end if;
      exception when duplicate_object or unique_violation then null; end $$`)
    .then(() => db.raw(`alter role kanonos_app login password ${quoted}`))
    .catch((error: { code?: string }) => {
      if (error.code !== 'XX000') throw error; // "tuple concurrently updated": somebody else just set the same password
    });
};

const CLOCK_QUEUE = '__pgboss__send-it';
const makeJobs = async (url: string) => {
  const boss = new PgBoss({ connectionString: url, schema: 'jobs', max: 1, supervise: false, schedule: false });
  boss.on('error', () => {});
  await boss.start();
  // What the clock sends goes through a queue of the job library's own. It would make it itself, but the application's role has no
  // DDL, and the library fails silently: without this no tick ever came.
  if (!(await boss.getQueue(CLOCK_QUEUE))) await boss.createQueue(CLOCK_QUEUE);
  for (const kind of JOB_KINDS) {
    const { retryLimit, retryDelay, expireInSeconds } = QUEUES[kind];
    const queue = { name: kind, policy: policyOf(kind), retryLimit, retryDelay, retryBackoff: true, expireInSeconds };
    // A queue that is there already takes the rules of this version.
    if (await boss.getQueue(kind)) await boss.updateQueue(kind, queue);
    else await boss.createQueue(kind, queue);
  }
  await boss.stop({ graceful: false, wait: true });
};

/** The application may do its work and nothing else: no DDL, and on the trail nothing but reading and inserting. */
const grant = (db: knex.Knex) =>
  db.raw(`
    grant usage on schema public, jobs to kanonos_app;
    grant select, insert, update, delete on all tables in schema public to kanonos_app;
    grant usage, select on all sequences in schema public to kanonos_app;
    grant select, insert, update, delete on all tables in schema jobs to kanonos_app;
    grant execute on all functions in schema jobs to kanonos_app;
    revoke truncate on contents from kanonos_app;
    revoke update, delete, truncate on events, heads from kanonos_app;
    -- Contents too may be deleted where nothing refers to them: what is filed is held by its versions.
    revoke delete, truncate on documents, revisions, versions, version_files, periods, signatures, signing_records, reviews, numbers, reservations, people, usage, rounds, steps, assignments, types, planned_rules, bulk_changes, bulk_items, choice_lists, lookups from kanonos_app;
    revoke update, delete, truncate on rule_editions from kanonos_app;
    revoke all on knex_migrations, knex_migrations_lock from kanonos_app;
    grant select on knex_migrations to kanonos_app;
  `);

// Run as a program: the owner's address and the application's password come in by environment.
if (process.argv[1]?.endsWith('migrate.js')) {
  const { KANONOS_OWNER_URL: url, KANONOS_APP_PASSWORD: password } = process.env;
  if (!url || !password) throw new Error('KANONOS_OWNER_URL and KANONOS_APP_PASSWORD must be given');
  await migrate(url, password);
}
