import { spawnSync } from 'node:child_process';
import { createHash } from 'node:crypto';
import { existsSync, mkdirSync, readdirSync, readFileSync, statfsSync, writeFileSync } from 'node:fs';
import { createServer } from 'node:net';
import { join } from 'node:path';
import { Hint, say } from './say.mjs';

export const ROOT = join(import.meta.dirname, '..', '..');
export const isRoot = () => process.getuid?.() === 0;

/** What the application needs from Debian: a program to look for and the package that has it. */
const NEEDS = {
  postgres: { found: () => postgresBin() !== undefined, packages: ['postgresql'] },
  pdftotext: { found: () => onPath('pdftotext'), packages: ['poppler-utils'] },
  soffice: {
    found: () => onPath('soffice'),
    packages: ['libreoffice-writer-nogui', 'libreoffice-calc-nogui', 'libreoffice-impress-nogui', 'fonts-liberation'],
  },
  tesseract: { found: () => onPath('tesseract'), packages: ['tesseract-ocr', 'tesseract-ocr-deu'] },
  litmus: { found: () => onPath('litmus') && onPath('cadaver'), packages: ['litmus', 'cadaver'] },
  chromium: { found: () => existsSync('/usr/bin/chromium'), packages: ['chromium'] },
};

const onPath = (program) => spawnSync('sh', ['-c', `command -v ${program}`]).status === 0;

/** The newest PostgreSQL server installed from Debian's packages (its folder of programs). */
export const postgresBin = () => {
  const base = '/usr/lib/postgresql';
  if (!existsSync(base)) return undefined;
  const versions = readdirSync(base).filter((v) => existsSync(join(base, v, 'bin', 'postgres')));
  const newest = versions.sort((a, b) => Number(b) - Number(a))[0];
  return newest ? join(base, newest, 'bin') : undefined;
};

/** Installs what is missing when it may, else says the exact line to run. */
export const ensureTools = (names) => {
  const missing = names.filter((name) => !NEEDS[name].found());
  if (missing.length === 0) return;
  const packages = missing.flatMap((name) => NEEDS[name].packages);
  const line = `apt-get update && apt-get install -y --no-install-recommends -o Dpkg::Options::=--force-confold ${packages.join(' ')}`;
  if (!isRoot())
    throw new Hint(`${missing.join(' and ')} missing. Run this once, then start again:\n  sudo sh -c '${line}'`);
  say(`Installing ${packages.join(', ')} from Debian's packages …`);
  // The package's own cluster is not wanted: Kanonos makes one of its own inside the project.
  mkdirSync('/etc/postgresql-common', { recursive: true });
  if (!existsSync('/etc/postgresql-common/createcluster.conf')) {
    writeFileSync('/etc/postgresql-common/createcluster.conf', 'create_main_cluster = false\n');
  }
  const run = spawnSync('sh', ['-c', line], {
    encoding: 'utf8',
    env: { ...process.env, DEBIAN_FRONTEND: 'noninteractive' },
    maxBuffer: 1 << 28,
  });
  if (run.status !== 0) {
    throw new Hint(
      `the packages could not be installed. Run this and look at what it says:\n  ${line}\n${run.stderr.split('\n').slice(-6).join('\n')}`,
    );
  }
  const still = names.filter((name) => !NEEDS[name].found());
  if (still.length) throw new Hint(`${still.join(', ')} is still missing after installing ${packages.join(', ')}.`);
};

/** Installs the packages of the lock file when they are not those that are installed. */
export const ensurePackages = () => {
  const lock = createHash('sha256')
    .update(readFileSync(join(ROOT, 'package-lock.json')))
    .digest('hex');
  const stamp = join(ROOT, 'node_modules', '.kanonos-lock');
  if (existsSync(stamp) && readFileSync(stamp, 'utf8') === lock) return;
  say('Installing packages …');
  const run = spawnSync('npm', ['ci', '--no-audit', '--no-fund'], { cwd: ROOT, encoding: 'utf8', maxBuffer: 1 << 28 });
  if (run.status !== 0)
    throw new Hint(
      `the packages could not be installed (npm ci):\n${(run.stderr || run.stdout || String(run.error)).slice(-2000)}`,
    );
  writeFileSync(stamp, lock);
};

/** Refuses to go on where there is too little room for the database and the files. */
export const ensureRoom = (dir, needed = 600 * 1024 * 1024) => {
  const { bavail, bsize } = statfsSync(dir);
  const free = bavail * bsize;
  if (free < needed) {
    throw new Hint(
      `the disk that holds ${dir} has ${Math.round(free / 1048576)} MB free and ${Math.round(needed / 1048576)} MB are needed. Free some room, or name another place with --data DIR.`,
    );
  }
};

const isFree = (port) =>
  new Promise((resolve) => {
    const server = createServer();
    server.once('error', () => resolve(false));
    server.listen({ port, host: '127.0.0.1', exclusive: true }, () => server.close(() => resolve(true)));
  });

/** The wanted port, or the next free one; a port that a person named is not changed behind their back. */
export const choosePort = async (wanted, named) => {
  if (await isFree(wanted)) return wanted;
  if (named)
    throw new Hint(`port ${wanted} is in use by another program. Name another one with --port, or leave --port out.`);
  for (let port = wanted + 1; port < wanted + 200; port++) if (await isFree(port)) return port;
  throw new Hint(`no free port between ${wanted} and ${wanted + 200} on 127.0.0.1.`);
};
