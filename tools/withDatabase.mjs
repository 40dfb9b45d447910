// Runs a command with a throw-away PostgreSQL: KANONOS_TEST_DATABASE carries its address as owner.
import { spawnSync } from 'node:child_process';
import { mkdirSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { openCluster, ownerUrl } from './lib/cluster.mjs';
import { ensurePackages, ensureTools, ROOT } from './lib/machine.mjs';
import { fail } from './lib/say.mjs';

try {
  ensureTools(['postgres', 'pdftotext', 'soffice', 'tesseract', 'litmus']);
  ensurePackages();
  const dir = join(tmpdir(), `kanonos-test-${process.pid}`);
  mkdirSync(dir, { recursive: true });
  const cluster = await openCluster(dir, { fast: process.env.KANONOS_TEST_DURABLE !== '1', port: 54700 });
  const [program, ...args] = process.argv.slice(2);
  const run = spawnSync(join(ROOT, 'node_modules', '.bin', program), args, {
    cwd: ROOT,
    stdio: 'inherit',
    env: {
      ...process.env,
      KANONOS_TEST_DATABASE: ownerUrl(cluster, 'postgres'),
      KANONOS_TEST_APP_PASSWORD: cluster.app,
    },
  });
  cluster.stop();
  rmSync(dir, { recursive: true, force: true });
  rmSync(cluster.place, { recursive: true, force: true });
  process.exit(run.status ?? 1);
} catch (error) {
  fail(error);
}
