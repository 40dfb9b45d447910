// npm start: from a machine with nothing but Node and Debian to the ready line. Node's own modules only, until packages are there.
import { spawn, spawnSync } from 'node:child_process';
import { existsSync, mkdirSync, rmSync } from 'node:fs';
import { join, resolve } from 'node:path';
import { appUrl, openCluster, ownerUrl } from './lib/cluster.mjs';
import { keepAlive } from './lib/keepAlive.mjs';
import { choosePort, ensurePackages, ensureRoom, ensureTools, ROOT } from './lib/machine.mjs';
import { fail, Hint, say } from './lib/say.mjs';

const USAGE = 'npm start -- [--empty] [--port PORT] [--data DIR]';
const READY = 60_000;
const WATCH_MS = 3_000;

const readArguments = (words) => {
  const options = { empty: false, dev: false, port: undefined, data: join(ROOT, '.local', 'data') };
  for (let i = 0; i < words.length; i++) {
    const word = words[i];
    if (word === '--empty') options.empty = true;
    else if (word === '--dev') options.dev = true;
    else if (word === '--port') {
      options.port = Number(words[++i]);
      if (!Number.isInteger(options.port) || options.port < 1 || options.port > 65535)
        throw new Hint(`--port wants a number from 1 to 65535. ${USAGE}`);
    } else if (word === '--data') {
      if (!words[i + 1]) throw new Hint(`--data wants a folder. ${USAGE}`);
      options.data = resolve(words[++i]);
    } else throw new Hint(`${word} is not known. ${USAGE}`);
  }
  return options;
};

const run = (program, args, env) => {
  const done = spawnSync(program, args, {
    cwd: ROOT,
    encoding: 'utf8',
    env: { ...process.env, ...env },
    maxBuffer: 1 << 28,
  });
  if (done.status !== 0) throw new Hint(`${args[0]} failed:\n${(done.stderr || done.stdout).slice(-3000)}`);
  return done.stdout.trim();
};

/** Asks the database itself, through the client that ships with it, without any package. */
const ask = (cluster, database, sql) => {
  const done = spawnSync('psql', [ownerUrl(cluster, database), '-Atqc', sql], { encoding: 'utf8' });
  return done.status === 0 ? done.stdout.trim() : undefined;
};

const main = async () => {
  const options = readArguments(process.argv.slice(2));
  const [major] = process.versions.node.split('.').map(Number);
  if (major < 20) throw new Hint(`Node 20 or later is needed; this is ${process.version}.`);
  mkdirSync(options.data, { recursive: true });
  ensureRoom(options.data);
  ensureTools(['postgres', 'pdftotext', 'soffice', 'tesseract']);
  ensurePackages();
  const { build } = await import('./build.mjs');
  await build();

  let cluster = await openCluster(options.data);
  let child;
  let watching;
  let stopping = false;
  const stop = (code) => {
    if (stopping) return;
    stopping = true;
    clearInterval(watching);
    const end = () => {
      cluster.stop();
      process.exit(code);
    };
    if (!child || child.exitCode !== null) return end();
    child.once('exit', end);
    child.kill('SIGTERM');
  };
  process.on('SIGINT', () => stop(0));
  process.on('SIGTERM', () => stop(0));

  try {
    const begun = ask(cluster, 'kanonos', 'select setup from organisation') ?? '';
    if (begun === 'loading') {
      say('The first start was not finished; it is begun anew.');
      ask(cluster, 'postgres', 'drop database if exists kanonos with (force)');
      rmSync(join(options.data, 'content'), { recursive: true, force: true });
      rmSync(join(options.data, 'mail'), { recursive: true, force: true });
    }
    if (ask(cluster, 'postgres', `select 1 from pg_database where datname = 'kanonos'`) !== '1')
      ask(cluster, 'postgres', 'create database kanonos');
    run('node', ['dist/migrate.js'], {
      KANONOS_OWNER_URL: ownerUrl(cluster, 'kanonos'),
      KANONOS_APP_PASSWORD: cluster.app,
    });
    const port = await choosePort(options.port ?? 4400, options.port !== undefined);
    const env = {
      NODE_ENV: 'production',
      LOG_LEVEL: 'warn',
      ...process.env,
      DATABASE_URL: appUrl(cluster, 'kanonos'),
      DATA_DIR: options.data,
      // Beside the data where it is the usual place, inside it where another one was named.
      INTAKE_DIR:
        process.env.INTAKE_DIR ??
        (options.data === join(ROOT, '.local', 'data') ? join(ROOT, '.local', 'intake') : join(options.data, 'intake')),
      PORT: String(port),
      WEB_DIR: join(ROOT, 'dist', 'web'),
    };
    let firstSteps = '';
    if (ask(cluster, 'kanonos', 'select count(*) from organisation') === '0') {
      say(options.empty ? 'Laying down an empty organisation …' : 'Loading the demo …');
      firstSteps = run('node', ['dist/demo.js', ...(options.empty ? ['--empty'] : [])], env);
      say(firstSteps.split('\n').at(-1));
    }
    const begin = () =>
      options.dev
        ? spawn(join(ROOT, 'node_modules/.bin/tsx'), ['watch', '--clear-screen=false', 'packages/server/src/main.ts'], {
            cwd: ROOT,
            env: { ...env, WEB_DIR: '', LOG_LEVEL: 'info' },
            stdio: ['ignore', 'pipe', 'inherit', 'ipc'],
          })
        : spawn('node', ['--enable-source-maps', 'dist/server.js'], {
            cwd: ROOT,
            env,
            stdio: ['ignore', 'pipe', 'inherit', 'ipc'],
          });
    child = begin();
    await ready(child);
    keepAlive({
      begin,
      isStopping: () => stopping,
      current: () => child,
      replace: (next) => {
        child = next;
      },
    });
    // The database is this command's to keep, too: ended by whatever it was, it is started again where it was.
    watching = setInterval(async () => {
      if (stopping || cluster.isRunning()) return;
      say('The database ended. It is started again.');
      cluster = await openCluster(options.data, { port: cluster.port }).catch((error) => {
        say(`It did not start: ${error.message}`);
        return cluster;
      });
    }, WATCH_MS);
    const address = options.dev ? await startVite(port) : `http://127.0.0.1:${port}`;
    if (ask(cluster, 'kanonos', 'select demo from organisation') === 't') {
      say('\nThis is a demo with made-up data. Password of everyone: ropeway-demo. Sign-in names:');
      const people =
        ask(cluster, 'kanonos', `select rpad(sign_in_name, 18) || part from people where part <> '' order by id`) ?? '';
      for (const line of people.split('\n')) say(`  ${line}`);
    }
    say(`\nKanonos is ready at ${address}`);
  } catch (error) {
    child?.kill('SIGTERM');
    cluster.stop();
    throw error;
  }
};

const ready = (child) =>
  new Promise((resolve, reject) => {
    const overdue = setTimeout(
      () => reject(new Hint(`the server did not become ready within ${READY / 1000} seconds; its output is above.`)),
      READY,
    );
    child.stdout.on('data', (text) => {
      process.stdout.write(String(text).includes('listening on') ? '' : text);
      if (String(text).includes('listening on')) {
        clearTimeout(overdue);
        resolve();
      }
    });
    child.once('exit', () => reject(new Hint('the server ended while it started; its output is above.')));
  });

const startVite = async (apiPort) => {
  const { createServer } = await import('vite');
  const server = await createServer({
    root: join(ROOT, 'packages/web'),
    server: { host: '127.0.0.1', proxy: { '/api': { target: `http://127.0.0.1:${apiPort}`, changeOrigin: false } } },
  });
  await server.listen();
  return server.resolvedUrls.local[0];
};

if (!existsSync(join(ROOT, 'package-lock.json')))
  fail(new Hint('package-lock.json is missing; this is not a whole checkout.'));
main().catch(fail);
