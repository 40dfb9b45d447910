// npm test: installs what it needs and runs everything; last line: the sum in the form `N passed, N failed`.
import { spawn, spawnSync } from 'node:child_process';
import { cpSync, mkdirSync, openSync, readdirSync, readFileSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { setTimeout as sleep } from 'node:timers/promises';
import { appUrl, openCluster, ownerUrl } from './lib/cluster.mjs';
import { choosePort, ensurePackages, ensureTools, ROOT } from './lib/machine.mjs';
import { fail, Hint, say } from './lib/say.mjs';

const at = process.argv.indexOf('--only');
const only = at > 0 ? process.argv[at + 1] : undefined;
const wants = (part) => only === undefined || only === part;
const bin = (name) => join(ROOT, 'node_modules', '.bin', name);
const sum = { passed: 0, failed: 0 };
const dir = join(tmpdir(), `kanonos-test-${process.pid}`);

/** Runs a part that is right or wrong as a whole, counted as one. */
const check = (name, program, args) => {
  const began = performance.now();
  const done = spawnSync(bin(program), args, { cwd: ROOT, encoding: 'utf8', maxBuffer: 1 << 28 });
  const good = done.status === 0;
  sum[good ? 'passed' : 'failed']++;
  say(`${good ? 'ok    ' : 'FAILED'} ${name} (${((performance.now() - began) / 1000).toFixed(1)} s)`);
  if (!good) say(`${done.stdout}\n${done.stderr}`.slice(-6000));
};

const vitest = (project, env) => {
  const report = join(dir, `${project}.json`);
  const done = spawnSync(
    bin('vitest'),
    ['run', '--project', project, '--reporter=default', '--reporter=json', `--outputFile.json=${report}`],
    { cwd: ROOT, stdio: ['ignore', 'inherit', 'inherit'], env: { ...process.env, ...env } },
  );
  try {
    const { numPassedTests, numFailedTests, numFailedTestSuites } = JSON.parse(readFileSync(report, 'utf8'));
    sum.passed += numPassedTests;
    sum.failed += numFailedTests;
    if (done.status !== 0 && numFailedTests === 0) sum.failed += Math.max(1, numFailedTestSuites);
  } catch {
    sum.failed++;
  }
};

const run = (args, env) => {
  const done = spawnSync('node', args, {
    cwd: ROOT,
    encoding: 'utf8',
    env: { ...process.env, ...env },
    maxBuffer: 1 << 28,
  });
  if (done.status !== 0) throw new Hint(`${args[0]} failed:\n${(done.stderr || done.stdout).slice(-3000)}`);
};

/** Walks that build on one another, in their order; the halves have nothing to do with each other and run side by side. */
const HALVES = [
  ['1-document', '2-around', '3-tour', '4-numbers', '5-configuration', '9-forms-and-rules', '9-reviews', '9-rounds'],
  [
    '6-legacy-import',
    '7-coming-in',
    '8-working',
    '9-at-hand',
    '9-authoring',
    '9-changes',
    '9-first-hour',
    '9-outside-routes',
    '9-signing',
    '9-small-screens',
    '9-two-at-once',
  ],
];

const DEMO = 'kanonos_e2e';
const envOf = (cluster, name, port) => ({
  ...process.env,
  NODE_ENV: 'production',
  LOG_LEVEL: 'warn',
  DATABASE_URL: appUrl(cluster, name),
  DATA_DIR: join(dir, name),
  INTAKE_DIR: join(dir, name, 'intake'),
  PORT: String(port),
  WEB_DIR: join(ROOT, 'dist', 'web'),
  SIGN_INS_PER_MINUTE: '10000',
  CHECK_ANSWERS: 'yes',
});

/** The demo on a throw-away database, loaded once; further applications begin with a copy of database and files. */
const loadDemo = (cluster) => {
  const psql = (sql) => spawnSync('psql', [ownerUrl(cluster, 'postgres'), '-qc', sql], { encoding: 'utf8' });
  psql(`create database ${DEMO}`);
  run(['dist/migrate.js'], { KANONOS_OWNER_URL: ownerUrl(cluster, DEMO), KANONOS_APP_PASSWORD: cluster.app });
  run(['dist/demo.js'], envOf(cluster, DEMO, 4600));
  return (name) => {
    psql(`create database ${name} template ${DEMO}`);
    cpSync(join(dir, DEMO), join(dir, name), { recursive: true });
  };
};

/** The built application on a database that is ready, as a person meets it. */
const startApplication = async (cluster, name, from) => {
  const port = await choosePort(from, false);
  // Into a file and not a pipe: while the browser's tests run nobody reads a pipe, and a full one stops the server.
  const log = join(dir, `${name}.log`);
  const server = spawn('node', ['--enable-source-maps', 'dist/server.js'], {
    cwd: ROOT,
    env: envOf(cluster, name, port),
    stdio: ['ignore', openSync(log, 'w'), 'inherit'],
  });
  let ended = false;
  const exit = new Promise((resolve) => server.once('exit', resolve)).then(() => {
    ended = true;
  });
  for (let tries = 0; !readFileSync(log, 'utf8').includes('listening'); tries++) {
    if (ended || tries > 240) throw new Hint(`the server did not start:\n${readFileSync(log, 'utf8').slice(-3000)}`);
    await sleep(250);
  }
  return {
    name,
    base: `http://127.0.0.1:${port}`,
    // It ends before its database does: a job under way would otherwise fail into the next lines of the report.
    stop: async () => {
      server.kill('SIGTERM');
      await Promise.race([exit, sleep(15_000)]);
      if (!ended) server.kill('SIGKILL');
    },
  };
};

/** Waits until what the demo left to do in the background is done: walks meet the application as people do, not while it is loaded. */
const untilCalm = async (cluster, name) => {
  const sql = "select count(*) from jobs.job where state in ('created', 'active', 'retry') and start_after < now()";
  for (let tries = 0; tries < 100; tries++) {
    const asked = spawnSync('psql', [ownerUrl(cluster, name), '-Atqc', sql], { encoding: 'utf8' });
    if (asked.stdout.trim() === '0') return;
    await sleep(3_000);
  }
};

/** Walks through an application; resolves when the walks are counted. */
const playwright = async ({ base, name }, suite, files = []) => {
  const report = join(dir, `${name}.json`);
  const child = spawn(
    bin('playwright'),
    [
      'test',
      ...files,
      '--config',
      'e2e/playwright.config.ts',
      '--project',
      suite,
      '--output',
      join(dir, `${name}-results`),
    ],
    {
      cwd: ROOT,
      stdio: ['ignore', 'inherit', 'inherit'],
      env: { ...process.env, BASE: base, PLAYWRIGHT_JSON_OUTPUT_NAME: report, PLAYWRIGHT_SKIP_BROWSER_DOWNLOAD: '1' },
    },
  );
  const status = await new Promise((resolve) => child.once('exit', resolve));
  try {
    const { stats } = JSON.parse(readFileSync(report, 'utf8'));
    sum.passed += stats.expected + stats.flaky;
    sum.failed += stats.unexpected;
    if (status !== 0 && stats.unexpected === 0) sum.failed++;
  } catch {
    sum.failed++;
  }
};

/** A file of walks that is in no half would not be walked. */
const assertAllWalked = () => {
  const files = readdirSync(join(ROOT, 'e2e')).filter(
    (file) => file.endsWith('.spec.ts') && !file.startsWith('screenshots'),
  );
  const left = files.filter((file) => HALVES.flat().filter((part) => file.startsWith(part)).length !== 1);
  if (left.length > 0) throw new Hint(`put each of these walks into one half in tools/test.mjs: ${left.join(', ')}`);
};

/** Every walk, in two halves side by side, each on an application of its own. */
const walkAll = async (cluster) => {
  assertAllWalked();
  const copy = loadDemo(cluster);
  const names = HALVES.map((_, index) => (index === 0 ? DEMO : `${DEMO}_${index + 1}`));
  for (const name of names.slice(1)) copy(name);
  const applications = [];
  try {
    for (const [index, name] of names.entries())
      applications.push(await startApplication(cluster, name, 4600 + index * 20));
    for (const { name } of applications) await untilCalm(cluster, name);
    await Promise.all(applications.map((application, index) => playwright(application, 'e2e', HALVES[index])));
  } finally {
    for (const application of applications) await application.stop();
  }
};

const takePictures = async (cluster) => {
  loadDemo(cluster);
  const application = await startApplication(cluster, DEMO, 4600);
  try {
    await playwright(application, 'screenshots');
  } finally {
    await application.stop();
  }
};

try {
  ensureTools(['postgres', 'pdftotext', 'soffice', 'tesseract', 'litmus', 'chromium']);
  ensurePackages();
  mkdirSync(dir, { recursive: true });
  if (only === undefined) {
    check('types', 'tsc', ['-p', 'tsconfig.json']);
    check('types of the core', 'tsc', ['-p', 'packages/core/tsconfig.json']);
    check('types of the web', 'tsc', ['-p', 'packages/web/tsconfig.json']);
    check('lint and format', 'biome', ['check', '--error-on-warnings']);
    check('dependency rules', 'depcruise', [
      'packages',
      'tools',
      'e2e',
      'bench',
      '--config',
      '.dependency-cruiser.cjs',
    ]);
    vitest('unit', {});
    vitest('components', {});
  }
  const { build } = await import('./build.mjs');
  const cluster = await openCluster(dir, { fast: true, port: 54700 });
  try {
    if (only === undefined)
      vitest('integration', {
        KANONOS_TEST_DATABASE: ownerUrl(cluster, 'postgres'),
        KANONOS_TEST_APP_PASSWORD: cluster.app,
      });
    await build();
    if (wants('e2e')) await walkAll(cluster);
    if (only === 'screenshots') await takePictures(cluster);
  } finally {
    cluster.stop();
    rmSync(dir, { recursive: true, force: true });
    rmSync(cluster.place, { recursive: true, force: true });
  }
  say(`\n${sum.passed} passed, ${sum.failed} failed`);
  process.exit(sum.failed === 0 ? 0 : 1);
} catch (error) {
  fail(error);
}
