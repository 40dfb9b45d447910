import { createHash } from 'node:crypto';
import { createReadStream, createWriteStream, type ReadStream } from 'node:fs';
import { access, mkdir, open, readdir, rename, rm, stat, utimes } from 'node:fs/promises';
import { join } from 'node:path';
import { type Readable, Transform } from 'node:stream';
import { pipeline } from 'node:stream/promises';
import { newId } from '../db/ids.ts';
import { refused } from '../refused.ts';

export type StoredContent = { sha256: string; size: number; head: Buffer };

/** Where the bytes of files live: content is addressed by its SHA-256 and never changes. */
export type ContentStore = {
  put: (source: Readable, limit: number) => Promise<StoredContent>;
  open: (sha256: string, range?: { start: number; end: number }) => Promise<ReadStream>;
  has: (sha256: string) => Promise<boolean>;
  pathOf: (sha256: string) => string;
  sizeOf: (sha256: string) => Promise<number>;
  /** Sets bytes aside that nothing holds any more; the sweep takes them away a day later. */
  leave: (sha256: string) => Promise<void>;
  /** Brings bytes back that were set aside, where they are needed again; nothing where they were not. */
  back: (sha256: string) => Promise<void>;
  /** What is set aside. */
  leaving: () => Promise<string[]>;
  sweep: (olderThanMs: number) => Promise<number>;
  check: () => Promise<void>;
};

const HEAD_BYTES = 8192;

/**
 * The store on the local disk: `content/ab/cd/<sha256>`, streamed into a temporary file while it is hashed, synced, then
 * renamed. A kill at any instant leaves at most a temporary file, which the sweep removes. What nothing holds is set aside for a
 * day in `content/.leaving` before it goes.
 */
export const createDiskStore = (dir: string): ContentStore => {
  const temporary = join(dir, 'content', '.incoming');
  const leaving = join(dir, 'content', '.leaving');
  const folderOf = (sha256: string) => join(dir, 'content', sha256.slice(0, 2), sha256.slice(2, 4));
  const pathOf = (sha256: string) => join(folderOf(sha256), sha256);
  const has = (sha256: string) =>
    access(pathOf(sha256)).then(
      () => true,
      () => false,
    );

  const put = async (source: Readable, limit: number): Promise<StoredContent> => {
    await mkdir(temporary, { recursive: true });
    const path = join(temporary, newId());
    const hash = createHash('sha256');
    let size = 0;
    const head: Buffer[] = [];
    let headSize = 0;
    const meter = new Transform({
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
    try {
      await pipeline(source, meter, createWriteStream(path, { flags: 'wx', highWaterMark: 1 << 20 }));
      const sha256 = hash.digest('hex');
      if (size > 0 && !(await has(sha256))) {
        await syncFile(path);
        await mkdir(folderOf(sha256), { recursive: true });
        await rename(path, pathOf(sha256));
        await syncFile(folderOf(sha256));
      }
      return { sha256, size, head: Buffer.concat(head) };
    } catch (error) {
      if ((error as { code?: string }).code === 'ENOSPC') throw refused('disk_full');
      throw error;
    } finally {
      await rm(path, { force: true });
    }
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
      await mkdir(leaving, { recursive: true });
      // From when on it is aside, the sweep reads from the time of the file.
      await utimes(pathOf(sha256), new Date(), new Date()).catch(unlessMissing);
      await rename(pathOf(sha256), join(leaving, sha256)).catch(unlessMissing);
    },
    back: async (sha256) => {
      if (await has(sha256)) return;
      await mkdir(folderOf(sha256), { recursive: true });
      await rename(join(leaving, sha256), pathOf(sha256)).catch(unlessMissing);
    },
    leaving: () => readdir(leaving).catch(() => []),
    sweep: async (olderThanMs) => {
      let removed = 0;
      for (const dir of [temporary, leaving])
        for (const name of await readdir(dir).catch(() => [])) {
          const path = join(dir, name);
          const info = await stat(path).catch(() => undefined);
          if (info && Date.now() - info.mtimeMs > olderThanMs) {
            await rm(path, { force: true });
            removed++;
          }
        }
      return removed;
    },
    check: async () => {
      await mkdir(temporary, { recursive: true });
      await access(temporary);
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
