import knex, { type Knex } from 'knex';
import pg from 'pg';

// Days stay text (a Date would bring a zone in), and bigints are counts that fit a number.
pg.types.setTypeParser(1082, (text) => text);
pg.types.setTypeParser(20, (text) => Number(text));

export type Db = Knex;
export type Trx = Knex.Transaction;

/**
 * A pool of connections to the database. JIT costs more than it gives for short queries. Joins are made in the order in
 * which they are written: looking for a better one took five of the eight milliseconds of a register page.
 */
export const connect = (url: string, max = 16): Db =>
  knex({
    client: 'pg',
    connection: {
      connectionString: url,
      application_name: 'kanonos',
      options: '-c jit=off -c timezone=UTC -c join_collapse_limit=1',
    },
    pool: { min: 0, max, idleTimeoutMillis: 30_000 },
    acquireConnectionTimeout: 15_000,
  });

export type Bindings = Record<string, unknown>;

/**
 * Rows of a statement written by hand. Bindings stand in it by name (`:name`), so that it reads like what it says; a cast
 * (`::uuid`) is left alone, and a name without a value is a mistake that throws.
 */
export const rows = async <T>(db: Db | Trx, sql: string, bindings: Bindings = {}): Promise<T[]> =>
  (await run<T>(db, sql, bindings)).rows;

export const firstRow = async <T>(db: Db | Trx, sql: string, bindings: Bindings = {}): Promise<T | undefined> =>
  (await rows<T>(db, sql, bindings))[0];

/** How many rows a statement changed. */
export const changed = async (db: Db | Trx, sql: string, bindings: Bindings = {}): Promise<number> =>
  (await run(db, sql, bindings)).rowCount;

const run = async <T>(db: Db | Trx, sql: string, bindings: Bindings): Promise<{ rows: T[]; rowCount: number }> => {
  const values: unknown[] = [];
  const text = sql.replace(/(?<![:\w]):([a-zA-Z]\w*)/g, (_, name: string) => {
    if (!(name in bindings)) throw new Error(`the statement names :${name}, which has no value`);
    values.push(bindings[name] === undefined ? null : bindings[name]);
    return '?';
  });
  return (await db.raw(text, values as Knex.Value[])) as unknown as { rows: T[]; rowCount: number };
};
