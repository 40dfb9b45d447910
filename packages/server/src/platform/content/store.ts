import { createHash } from 'node:crypto';
import { createReadStream, createWriteStream, type ReadStream } from 'node:fs';
import { access, chmod, mkdir, open, readdir, rename, rm, stat, utimes } from 'node:fs/promises';
import { join } from 'node:path';
import { type Readable, Transform } from 'node:stream';
import { pipeline } from 'node:stream/promises';
import { newId } from '../db/ids.ts';
import { refused } from '../refused.ts';

/** `fresh`: its bytes were not in the store before, or not intact. */
export type StoredContent = { sha256: string; size: number; head: Buffer; fresh: boolean };

/** Where the bytes of files live: content is addressed by its SHA-256 and never changes. */
export type DiskStore = {
  /** Stores bytes. Bytes stored already are left unchanged, unless the given check finds them damaged. */
  put: (source: Readable, limit: number, isIntact?: (sha256: string) => Promise<boolean>) => Promise<StoredContent>;
  open: (sha256: string, range?: { start: number; end: number }) => Promise<ReadStream>;
  has: (sha256: string) => Promise<boolean>;
  pathOf: (sha256: string) => string;
  sizeOf: (sha256: string) => Promise<number>;
  /** Sets bytes aside that nothing holds any more; the sweep takes them away a day later. */
  leave: (sha256: string) => Promise<void>;
  /** Restores bytes that were set aside when they are needed again; does nothing otherwise. */
  back: (sha256: string) => Promise<void>;
  /** The hashes of bytes set aside. */
  leaving: () => Promise<string[]>;
  /** Whether bytes have lain in the store for so long. */
  isOlder: (sha256: string, ms: number) => Promise<boolean>;
  /** Everything that lies in the store, by hash, in pieces: names that are no hash are left out. */
  list: () => AsyncGenerator<string[]>;
  sweep: (olderThanMs: number) => Promise<number>;
  check: () => Promise<void>;
};

const HEAD_BYTES = 8192;
/** Only the server may read stored files. */
const PRIVATE_FILE = 0o600;
const PRIVATE_FOLDER = 0o700;
const HASH = /^[0-9a-f]{64}$/;
const isPair = (name: string) => /^[0-9a-f]{2}$/.test(name);
const makeFolder = (path: string) => mkdir(path, { recursive: true, mode: PRIVATE_FOLDER });

/** Counts and hashes what passes, and keeps its first bytes; breaks off beyond the limit. */
const createMeter = (limit: number) => {
  const hash = createHash('sha256');
  let size = 0;
  const head: Buffer[] = [];
  let headSize = 0;
  const stream = new Transform({
    transform: (chunk: Buffer, _encoding, done) => {
      size += chunk.length;
      if (size > limit) return done(refused('file_too_large', { limit: `${Math.floor(limit / 1048576)} MB` }));
      hash.update(chunk);
      if (headSize < HEAD_BYTES) {
        head.push(chunk.subarray(0, HEAD_BYTES - headSize));
        headSize += chunk.length;
      }
      done(null, chunk);
    },
  });
  return { stream, read: () => ({ sha256: hash.digest('hex'), size, head: Buffer.concat(head) }) };
};

/** Everything that lies in a folder of contents, by hash, a folder at a time. */
async function* listHashes(root: string): AsyncGenerator<string[]> {
  for (const first of (await readdir(root).catch(() => [])).filter(isPair).sort())
    for (const second of (await readdir(join(root, first)).catch(() => [])).filter(isPair).sort()) {
      const names = await readdir(join(root, first, second)).catch(() => []);
      yield names.filter((name) => HASH.test(name)).sort();
    }
}

/**
 * Writes a stream into a temporary file while it is hashed, and lets `place` move it where it belongs; it answers whether it did.
 *
 * @throws RefusalError file_too_large, disk_full
 */
const receive = async (
  source: Readable,
  path: string,
  limit: number,
  place: (path: string, read: Omit<StoredContent, 'fresh'>) => Promise<boolean>,
): Promise<StoredContent> => {
  // A stream that fails before it is read would otherwise end the process.
  source.on('error', () => {});
  const meter = createMeter(limit);
  try {
    const file = createWriteStream(path, { flags: 'wx', mode: PRIVATE_FILE, highWaterMark: 1 << 20 });
    await pipeline(source, meter.stream, file);
    const read = meter.read();
    return { ...read, fresh: await place(path, read) };
  } catch (error) {
    if ((error as { code?: string }).code === 'ENOSPC') throw refused('disk_full');
    throw error;
  } finally {
    await rm(path, { force: true });
  }
};

/** Deletes the files in some folders that are older than so many milliseconds. Answers how many. */
const sweepFolders = async (folders: readonly string[], olderThanMs: number): Promise<number> => {
  let removed = 0;
  for (const folder of folders)
    for (const name of await readdir(folder).catch(() => [])) {
      const path = join(folder, name);
      const info = await stat(path).catch(() => undefined);
      if (info && Date.now() - info.mtimeMs > olderThanMs) {
        await rm(path, { force: true });
        removed++;
      }
    }
  return removed;
};

/**
 * The store on the local disk: `content/ab/cd/<sha256>`, streamed into a temporary file while it is hashed, synced, then
 * renamed. A kill at any instant leaves at most a temporary file, which the sweep removes. What nothing holds is set aside for a
 * day in `content/.leaving` before it goes.
 */
export const createDiskStore = (dir: string): DiskStore => {
  const temporary = join(dir, 'content', '.incoming');
  let madePrivate: Promise<void> | undefined;
  const leaving = join(dir, 'content', '.leaving');
  const folderOf = (sha256: string) => join(dir, 'content', sha256.slice(0, 2), sha256.slice(2, 4));
  const pathOf = (sha256: string) => join(folderOf(sha256), sha256);
  const has = (sha256: string) =>
    access(pathOf(sha256)).then(
      () => true,
      () => false,
    );

  const put: DiskStore['put'] = async (source, limit, isIntact = async () => true) => {
    await makeFolder(temporary);
    return receive(source, join(temporary, newId()), limit, async (path, { sha256, size }) => {
      if (size === 0 || ((await has(sha256)) && (await isIntact(sha256)))) return false;
      await syncFile(path);
      await makeFolder(folderOf(sha256));
      await rename(path, pathOf(sha256));
      await syncFile(folderOf(sha256));
      return true;
    });
  };

  return {
    put,
    has,
    pathOf,
    sizeOf: async (sha256) => (await stat(pathOf(sha256))).size,
    open: async (sha256, range) => {
      if (!(await has(sha256))) throw refused('content_missing');
      return createReadStream(pathOf(sha256), { highWaterMark: 1 << 20, ...range });
    },
    leave: async (sha256) => {
      await makeFolder(leaving);
      // From when on it is aside, the sweep reads from the time of the file.
      await utimes(pathOf(sha256), new Date(), new Date()).catch(unlessMissing);
      await rename(pathOf(sha256), join(leaving, sha256)).catch(unlessMissing);
    },
    back: async (sha256) => {
      if (await has(sha256)) return;
      await makeFolder(folderOf(sha256));
      await rename(join(leaving, sha256), pathOf(sha256)).catch(unlessMissing);
    },
    leaving: () => readdir(leaving).catch(() => []),
    isOlder: async (sha256, ms) => {
      const info = await stat(pathOf(sha256)).catch(() => undefined);
      return info !== undefined && Date.now() - info.mtimeMs > ms;
    },
    list: () => listHashes(join(dir, 'content')),
    sweep: (olderThanMs) => sweepFolders([temporary, leaving], olderThanMs),
    check: async () => {
      await makeFolder(temporary);
      await access(temporary);
      // A store from before it was private becomes so at its next start: nobody gets past its own folder.
      madePrivate ??= chmod(join(dir, 'content'), PRIVATE_FOLDER);
      await madePrivate;
    },
  };
};

const unlessMissing = (error: { code?: string }) => {
  if (error.code !== 'ENOENT') throw error;
};

const syncFile = async (path: string) => {
  const handle = await open(path, 'r');
  try {
    await handle.sync();
  } finally {
    await handle.close();
  }
};
