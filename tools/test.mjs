// npm test: installs what it needs and runs everything; last line: the sum in the form `N passed, N failed`.
import { spawn, spawnSync } from 'node:child_process';
import { mkdirSync, openSync, readFileSync, rmSync } from 'node:fs';
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

/** The built application with the demo on a throw-away database, as a person meets it. */
const startApplication = async (cluster) => {
  const psql = (sql) => spawnSync('psql', [ownerUrl(cluster, 'postgres'), '-qc', sql], { encoding: 'utf8' });
  psql('create database kanonos_e2e');
  run(['dist/migrate.js'], { KANONOS_OWNER_URL: ownerUrl(cluster, 'kanonos_e2e'), KANONOS_APP_PASSWORD: cluster.app });
  const port = await choosePort(4600, false);
  const env = {
    ...process.env,
    NODE_ENV: 'production',
    LOG_LEVEL: 'warn',
    DATABASE_URL: appUrl(cluster, 'kanonos_e2e'),
    DATA_DIR: join(dir, 'data'),
    INTAKE_DIR: join(dir, 'data', 'intake'),
    PORT: String(port),
    WEB_DIR: join(ROOT, 'dist', 'web'),
    SIGN_INS_PER_MINUTE: '10000',
    CHECK_ANSWERS: 'yes',
  };
  run(['dist/demo.js'], env);
  // Into a file and not a pipe: while the browser's tests run nobody reads a pipe, and a full one stops the server.
  const log = join(dir, 'server.log');
  const server = spawn('node', ['--enable-source-maps', 'dist/server.js'], {
    cwd: ROOT,
    env,
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
    base: `http://127.0.0.1:${port}`,
    // It ends before its database does: a job under way would otherwise fail into the next lines of the report.
    stop: async () => {
      server.kill('SIGTERM');
      await Promise.race([exit, sleep(15_000)]);
      if (!ended) server.kill('SIGKILL');
    },
  };
};

const playwright = (base, suite) => {
  const report = join(dir, 'e2e.json');
  const done = spawnSync(bin('playwright'), ['test', '--config', 'e2e/playwright.config.ts', '--project', suite], {
    cwd: ROOT,
    stdio: ['ignore', 'inherit', 'inherit'],
    env: { ...process.env, BASE: base, PLAYWRIGHT_JSON_OUTPUT_NAME: report, PLAYWRIGHT_SKIP_BROWSER_DOWNLOAD: '1' },
  });
  try {
    const { stats } = JSON.parse(readFileSync(report, 'utf8'));
    sum.passed += stats.expected + stats.flaky;
    sum.failed += stats.unexpected;
    if (done.status !== 0 && stats.unexpected === 0) sum.failed++;
  } catch {
    sum.failed++;
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
    const application = await startApplication(cluster);
    try {
      if (wants('e2e')) playwright(application.base, 'e2e');
      if (only === 'screenshots') playwright(application.base, 'screenshots');
    } finally {
      await application.stop();
    }
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
