import { hash } from 'node:crypto';
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
 * A statement that runs often and whose text is one of few: the server keeps its plan per connection, under a name made of
 * the text. Not for `select *`, whose shape a migration changes under a running server.
 */
export const HOT = { hot: true } as const;
type How = { hot?: boolean };

/**
 * Rows of a statement written by hand. Bindings are named (`:name`), so that the statement reads clearly; a cast
 * (`::uuid`) is left alone, and a name without a value is a mistake that throws.
 */
export const rows = async <T>(db: Db | Trx, sql: string, bindings: Bindings = {}, how: How = {}): Promise<T[]> =>
  (await run<T>(db, sql, bindings, how)).rows;

export const firstRow = async <T>(
  db: Db | Trx,
  sql: string,
  bindings: Bindings = {},
  how: How = {},
): Promise<T | undefined> => (await rows<T>(db, sql, bindings, how))[0];

/** How many rows a statement changed. */
export const changed = async (db: Db | Trx, sql: string, bindings: Bindings = {}): Promise<number> =>
  (await run(db, sql, bindings, {})).rowCount;

type Written = { text: string; names: string[]; name: string };
const written = new Map<string, Written>();
const MOST_WRITTEN = 5000;

/** A statement with numbered parameters, each name once however often it is used: a list of folders is long. */
const write = (sql: string): Written => {
  const known = written.get(sql);
  if (known) return known;
  const names: string[] = [];
  const text = sql.replace(/(?<![:\w]):([a-zA-Z]\w*)/g, (_, name: string) => {
    if (!names.includes(name)) names.push(name);
    return `$${names.indexOf(name) + 1}`;
  });
  const made = { text, names, name: hash('sha1', text) };
  if (written.size >= MOST_WRITTEN) written.clear();
  written.set(sql, made);
  return made;
};

const run = async <T>(db: Db | Trx, sql: string, bindings: Bindings, { hot }: How) => {
  const { text, names, name } = write(sql);
  const values = names.map((key) => {
    if (!(key in bindings)) throw new Error(`the statement names :${key}, which has no value`);
    return bindings[key] === undefined ? null : bindings[key];
  });
  return (await db.raw(text).options({ values, ...(hot ? { name } : {}) })) as unknown as {
    rows: T[];
    rowCount: number;
  };
};
