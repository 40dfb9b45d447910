// npm run backup -- --data DIR --to FOLDER, and npm run restore -- --from FOLDER --data DIR: an installation into a folder and back.
import { spawnSync } from 'node:child_process';
import { chmodSync, cpSync, existsSync, mkdirSync, readFileSync, renameSync, writeFileSync } from 'node:fs';
import { join, resolve } from 'node:path';
import { openCluster, ownerUrl } from './lib/cluster.mjs';
import { ensurePackages, ensureTools, ROOT } from './lib/machine.mjs';
import { fail, Hint, say } from './lib/say.mjs';

const USAGE = `npm run backup -- [--data DIR] --to FOLDER
npm run restore -- --from FOLDER [--data DIR]`;
const DUMP = 'kanonos.dump';
const ABOUT = 'backup.json';
/** What belongs to an installation beside its database: stored files, what waits to be filed, signed heads, and its keys. */
const BESIDE = ['content', 'intake', 'heads.jsonl', 'secrets.json'];

const readArguments = ([command, ...words]) => {
  const options = { command, data: join(ROOT, '.local', 'data'), folder: undefined };
  const folder = command === 'backup' ? '--to' : '--from';
  if (!['backup', 'restore'].includes(command)) throw new Hint(USAGE);
  for (let i = 0; i < words.length; i += 2) {
    const [word, value] = [words[i], words[i + 1]];
    if (!value || !['--data', folder].includes(word)) throw new Hint(`${word} is not known.\n${USAGE}`);
    if (word === '--data') options.data = resolve(value);
    else options.folder = resolve(value);
  }
  if (!options.folder) throw new Hint(`${folder} is missing.\n${USAGE}`);
  return options;
};

const run = (program, args, env = {}) => {
  const done = spawnSync(program, args, { cwd: ROOT, encoding: 'utf8', env: { ...process.env, ...env } });
  if (done.status !== 0) throw new Hint(`${program} failed:\n${(done.stderr || done.stdout || '').slice(-2000)}`);
  return done.stdout.trim();
};
const ask = (cluster, sql) => run('psql', [ownerUrl(cluster, 'kanonos'), '-Atqc', sql]);

/** Stored bytes are only ever added: what is in the backup already is not copied again. */
const copyBeside = (from, to) => {
  for (const name of BESIDE)
    if (existsSync(join(from, name)))
      cpSync(join(from, name), join(to, name), {
        recursive: true,
        force: name !== 'content',
        preserveTimestamps: true,
      });
};

/** The database first, then the files: every file that the database names is then there. Kanonos may run meanwhile. */
const backup = async ({ data, folder }) => {
  if (!existsSync(join(data, 'database.json'))) throw new Hint(`${data} holds no installation of Kanonos.`);
  mkdirSync(folder, { recursive: true });
  chmodSync(folder, 0o700);
  const cluster = await openCluster(data);
  try {
    const partial = join(folder, `${DUMP}.partial`);
    run('pg_dump', ['--format=custom', `--file=${partial}`, ownerUrl(cluster, 'kanonos')]);
    chmodSync(partial, 0o600);
    copyBeside(data, folder);
    renameSync(partial, join(folder, DUMP));
    const events = Number(ask(cluster, 'select coalesce(max(seq), 0) from events'));
    writeFileSync(join(folder, ABOUT), `${JSON.stringify({ at: new Date().toISOString(), events })}\n`, {
      mode: 0o600,
    });
    say(`Backed up to ${folder}: ${events} events and the stored files.`);
  } finally {
    cluster.stop();
  }
};

/** Into a folder that holds no installation yet: nothing that is there is written over. */
const restore = async ({ data, folder }) => {
  if (!existsSync(join(folder, ABOUT))) throw new Hint(`${folder} holds no finished backup.`);
  if (existsSync(join(data, 'database.json')))
    throw new Hint(`${data} holds an installation already. Restore into another folder, or move this one away.`);
  mkdirSync(data, { recursive: true });
  const { build } = await import('./build.mjs');
  await build();
  const cluster = await openCluster(data);
  try {
    run('psql', [ownerUrl(cluster, 'postgres'), '-Atqc', 'create database kanonos']);
    // Makes the roles of the application, which a dump of one database does not hold. What it laid down goes again: over the
    // partitions of the job queue a dump cannot be put.
    run('node', ['dist/migrate.js'], {
      KANONOS_OWNER_URL: ownerUrl(cluster, 'kanonos'),
      KANONOS_APP_PASSWORD: cluster.app,
    });
    for (const sql of ['drop database kanonos with (force)', 'create database kanonos'])
      run('psql', [ownerUrl(cluster, 'postgres'), '-Atqc', sql]);
    run('pg_restore', ['--exit-on-error', `--dbname=${ownerUrl(cluster, 'kanonos')}`, join(folder, DUMP)]);
    copyBeside(folder, data);
    const { events } = JSON.parse(readFileSync(join(folder, ABOUT), 'utf8'));
    const found = Number(ask(cluster, 'select coalesce(max(seq), 0) from events'));
    if (found < events) throw new Hint(`The backup names ${events} events, and ${found} came back.`);
    say(`Restored into ${data}. Start it with: npm start -- --data ${data}`);
  } finally {
    cluster.stop();
  }
};

try {
  const options = readArguments(process.argv.slice(2));
  ensureTools(['postgres']);
  ensurePackages();
  await (options.command === 'backup' ? backup(options) : restore(options));
} catch (error) {
  fail(error);
}
