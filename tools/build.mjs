import { createHash } from 'node:crypto';
import { existsSync, mkdirSync, readdirSync, readFileSync, rmSync, statSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { pathToFileURL } from 'node:url';
import { brotliCompressSync, constants, gzipSync } from 'node:zlib';
import { ROOT } from './lib/machine.mjs';
import { say } from './lib/say.mjs';

const STAMP = join(ROOT, 'dist', '.stamp');

const sources = (dir) =>
  readdirSync(dir, { withFileTypes: true }).flatMap((entry) => {
    const path = join(dir, entry.name);
    if (entry.isDirectory()) return entry.name === 'node_modules' || entry.name === 'dist' ? [] : sources(path);
    return [path];
  });

const fingerprint = () => {
  const hash = createHash('sha256').update(readFileSync(join(ROOT, 'package-lock.json')));
  for (const path of sources(join(ROOT, 'packages')).sort())
    hash.update(path.slice(ROOT.length)).update(readFileSync(path));
  return hash.digest('hex');
};

/** The programs that are bundled: everything of the organisation in one file each, packages stay outside. */
const ENTRIES = {
  server: 'packages/server/src/main.ts',
  migrate: 'packages/server/src/migrate.ts',
  demo: 'packages/demo/src/main.ts',
  // What reads people's files, in processes of their own.
  parser: 'packages/server/src/platform/parsing/program.ts',
  // What draws forecasts, in a thread of its own.
  forecaster: 'packages/server/src/features/rounds/forecaster/program.ts',
};

const COMPRESSED = /\.(js|mjs|css|svg|json|wasm)$/;
const LEAST = 1024;

/** Puts a Brotli and a gzip form beside each asset, made once as small as they get, so that nothing is compressed while it is served. */
const compressAssets = (dir) => {
  for (const name of readdirSync(dir).filter((one) => COMPRESSED.test(one))) {
    const path = join(dir, name);
    const bytes = readFileSync(path);
    if (bytes.length < LEAST) continue;
    writeFileSync(
      `${path}.br`,
      brotliCompressSync(bytes, { params: { [constants.BROTLI_PARAM_SIZE_HINT]: bytes.length } }),
    );
    writeFileSync(`${path}.gz`, gzipSync(bytes, { level: 9 }));
  }
};

/** Builds server, demo loader and web into `dist`, unless nothing has changed since the last build. */
export const build = async () => {
  const now = fingerprint();
  if (existsSync(STAMP) && readFileSync(STAMP, 'utf8') === now) return;
  say('Building …');
  const esbuild = await import('esbuild');
  const vite = await import('vite');
  rmSync(join(ROOT, 'dist', 'parts'), { recursive: true, force: true });
  await esbuild.build({
    entryPoints: Object.fromEntries(Object.entries(ENTRIES).map(([name, path]) => [name, join(ROOT, path)])),
    outdir: join(ROOT, 'dist'),
    bundle: true,
    platform: 'node',
    target: 'node20',
    format: 'esm',
    // What a program needs only for one task is loaded for that task.
    splitting: true,
    chunkNames: 'parts/[name]-[hash]',
    sourcemap: true,
    logLevel: 'warning',
    plugins: [
      {
        name: 'packages-stay-outside',
        setup: (it) => {
          it.onResolve({ filter: /^[^./]/ }, ({ path, kind }) =>
            kind === 'entry-point' || path.startsWith('@kanonos/') ? undefined : { path, external: true },
          );
        },
      },
    ],
  });
  await vite.build({ root: join(ROOT, 'packages/web'), logLevel: 'warn' });
  compressAssets(join(ROOT, 'dist/web/assets'));
  mkdirSync(join(ROOT, 'dist'), { recursive: true });
  writeFileSync(STAMP, now);
};

if (process.argv[1] && import.meta.url === pathToFileURL(process.argv[1]).href) {
  await build();
  const assets = join(ROOT, 'dist/web/assets');
  for (const name of readdirSync(assets))
    say(`${String(Math.round(statSync(join(assets, name)).size / 1024)).padStart(6)} kB  ${name}`);
}
