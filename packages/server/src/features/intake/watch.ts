import { createReadStream } from 'node:fs';
import { lstat, mkdir, readdir, rename, rm } from 'node:fs/promises';
import { basename, dirname, join, relative } from 'node:path';
import type { Actor, App } from '../../platform/app.ts';
import { newId } from '../../platform/db/ids.ts';
import { keepIncoming, REFUSED, storeIncoming } from './keep.ts';

const SYSTEM_INTAKE: Actor = { id: null, signInName: 'system.intake', name: 'Intake folder' };
/** A file still being written is left until it has been quiet for so long. */
const QUIET_MS = 1500;
const DEEPEST = 6;
const AT_ONCE = 200;

/** Files below the intake folder, hidden ones and links left out. */
const filesBelow = async (dir: string, depth = 0): Promise<string[]> => {
  const found: string[] = [];
  for (const entry of await readdir(dir, { withFileTypes: true }).catch(() => [])) {
    if (entry.name.startsWith('.') || found.length >= AT_ONCE) continue;
    const path = join(dir, entry.name);
    if (entry.isFile()) found.push(path);
    else if (entry.isDirectory() && depth < DEEPEST) found.push(...(await filesBelow(path, depth + 1)));
  }
  return found;
};

/**
 * Takes what lies in the intake folder, each file in this order: its bytes into the store, a row in one transaction, then the
 * file away. Interrupted between any two of these nothing is lost, and a file with a row is not taken again.
 */
export const takeIncomingFiles = async (app: App): Promise<number> => {
  const root = app.config.intakeDir;
  await mkdir(root, { recursive: true });
  let taken = 0;
  for (const path of await filesBelow(root)) {
    try {
      if (await takeOne(app, root, path)) taken++;
    } catch (error) {
      // One file that cannot be taken now does not keep the others waiting; it is tried again.
      app.log.warn(
        { path: relative(root, path), reason: (error as Error).message },
        'an incoming file could not be read',
      );
    }
  }
  return taken;
};

const takeOne = async (app: App, root: string, path: string): Promise<boolean> => {
  const before = await lstat(path);
  if (Date.now() - before.mtimeMs < QUIET_MS || !before.isFile()) return false;
  const name = relative(root, path).split('\\').join('/');
  const about = { id: newId(), path: name, writtenAt: new Date(Math.floor(before.mtimeMs)), size: before.size };
  const stored = await storeIncoming(app, basename(path), createReadStream(path));
  // Written on while it was read: the next look takes it whole.
  const after = await lstat(path);
  if (after.mtimeMs !== before.mtimeMs || after.size !== before.size) return false;
  const fresh = await app.command(SYSTEM_INTAKE, (work) => keepIncoming(app, work, { ...about, stored }));
  if ('sha256' in stored) await rm(path, { force: true });
  else await keepSupportingFile(root, path, about.id);
  return fresh;
};

/** Files that cannot be filed are kept unchanged in a folder of their own. */
const keepSupportingFile = async (root: string, path: string, id: string) => {
  const aside = join(root, REFUSED, id.slice(-8), relative(root, dirname(path)));
  await mkdir(aside, { recursive: true });
  await rename(path, join(aside, basename(path)));
};

/** Looks into the intake folder again and again until it is stopped; one look ends before the next begins. */
export const watchFolder = (app: App, everyMs = 2000): { stop: () => Promise<void> } => {
  let stopped = false;
  let timer: NodeJS.Timeout | undefined;
  let looking: Promise<unknown> = Promise.resolve();
  const look = () => {
    looking = takeIncomingFiles(app)
      .catch((error) => app.log.error({ err: error }, 'intake folder'))
      .finally(() => {
        if (!stopped) timer = setTimeout(look, everyMs);
      });
  };
  look();
  return {
    stop: async () => {
      stopped = true;
      clearTimeout(timer);
      await looking;
    },
  };
};
