import { type ChildProcess, spawn } from 'node:child_process';
import { join } from 'node:path';
import { build } from 'esbuild';
import type { TestOrganisation } from './organisation.ts';

export const ROOT = join(import.meta.dirname, '../../../..');

/** The server as a program of its own, with the one that parses beside it, as `npm run build` makes them. */
export const buildServer = async (name: string): Promise<string> => {
  const dir = join(ROOT, 'node_modules', '.cache', `${name}-${process.pid}`);
  await build({
    entryPoints: {
      server: join(ROOT, 'packages/server/src/main.ts'),
      parser: join(ROOT, 'packages/server/src/platform/parsing/program.ts'),
    },
    outdir: dir,
    bundle: true,
    splitting: true,
    chunkNames: 'parts/[name]-[hash]',
    platform: 'node',
    target: 'node20',
    format: 'esm',
    logLevel: 'error',
    plugins: [
      {
        name: 'outside',
        setup: (it) =>
          it.onResolve({ filter: /^[^./]/ }, ({ path, kind }) =>
            kind === 'entry-point' || path.startsWith('@kanonos/') ? undefined : { path, external: true },
          ),
      },
    ],
  });
  return join(dir, 'server.js');
};

export type Running = { base: string; process: ChildProcess; kill: () => void };

/** Starts the built server on the data of an organisation. @throws where it ended before it listened, with its output */
export const runServer = async (
  program: string,
  organisation: TestOrganisation,
  port: number,
  more: Record<string, string> = {},
): Promise<Running> => {
  const child = spawn('node', [program], {
    cwd: ROOT,
    env: {
      ...process.env,
      DATABASE_URL: organisation.appUrl,
      DATA_DIR: organisation.dataDir,
      PORT: String(port),
      LOG_LEVEL: 'silent',
      JOBS: 'elsewhere',
      SIGN_INS_PER_MINUTE: '100000',
      ...more,
    },
    stdio: ['ignore', 'pipe', 'pipe'],
  });
  await new Promise<void>((resolve, reject) => {
    child.stdout?.on('data', (text) => String(text).includes('listening') && resolve());
    let output = '';
    child.stderr?.on('data', (text) => {
      output += String(text);
    });
    child.once('exit', (code, signal) => reject(new Error(`the server ended (${code ?? signal}): ${output}`)));
  });
  child.removeAllListeners('exit');
  return { base: `http://127.0.0.1:${port}`, process: child, kill: () => void child.kill('SIGKILL') };
};
