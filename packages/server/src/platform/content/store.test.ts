import { createHash, randomBytes } from 'node:crypto';
import { mkdtempSync, readdirSync, readFileSync, rmSync, utimesSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { Readable } from 'node:stream';
import { afterAll, beforeEach, describe, expect, test } from 'vitest';
import { createDiskStore } from './store.ts';

const made: string[] = [];
let dir = '';
beforeEach(() => {
  dir = mkdtempSync(join(tmpdir(), 'kanonos-content-'));
  made.push(dir);
});
afterAll(() => {
  for (const folder of made) rmSync(folder, { recursive: true, force: true });
});

const sha256 = (bytes: Buffer) => createHash('sha256').update(bytes).digest('hex');
const read = async (stream: AsyncIterable<unknown>) => {
  const pieces: Buffer[] = [];
  for await (const piece of stream) pieces.push(piece as Buffer);
  return Buffer.concat(pieces);
};
const incoming = () => readdirSync(join(dir, 'content', '.incoming'));
/** Gives its bytes in pieces of odd sizes, as a network does. */
const inPieces = (bytes: Buffer) =>
  Readable.from(
    (function* () {
      for (let at = 0; at < bytes.length; at += 7001) yield bytes.subarray(at, at + 7001);
    })(),
  );

describe('content on disk', () => {
  test('is found by its SHA-256 and comes back byte for byte, whole and by range', async () => {
    const store = createDiskStore(dir);
    const bytes = randomBytes(300_000);
    const stored = await store.put(inPieces(bytes), 1 << 20);
    expect([stored.sha256, stored.size]).toEqual([sha256(bytes), bytes.length]);
    expect(stored.head).toEqual(bytes.subarray(0, 8192));
    expect(await read(await store.open(stored.sha256))).toEqual(bytes);
    expect(await read(await store.open(stored.sha256, { start: 10, end: 19 }))).toEqual(bytes.subarray(10, 20));
    expect(incoming()).toEqual([]);
  });

  test('is stored once however often it comes, also by many at once', async () => {
    const store = createDiskStore(dir);
    const bytes = randomBytes(50_000);
    const all = await Promise.all(Array.from({ length: 12 }, () => store.put(inPieces(bytes), 1 << 20)));
    expect(new Set(all.map((one) => one.sha256)).size).toBe(1);
    expect(readFileSync(store.pathOf(sha256(bytes)))).toEqual(bytes);
    expect(readdirSync(join(store.pathOf(sha256(bytes)), '..'))).toEqual([sha256(bytes)]);
    expect(incoming()).toEqual([]);
  });

  test('over the limit is refused with the limit, and nothing of it stays', async () => {
    const store = createDiskStore(dir);
    await expect(store.put(inPieces(randomBytes(3 << 20)), 1 << 20)).rejects.toMatchObject({
      refusals: [{ code: 'file_too_large', params: { limit: '1 MB' } }],
    });
    expect(incoming()).toEqual([]);
    expect(readdirSync(join(dir, 'content'))).toEqual(['.incoming']);
  });

  test('that breaks off on the way leaves nothing', async () => {
    const store = createDiskStore(dir);
    const breaking = Readable.from(
      (function* () {
        yield randomBytes(10_000);
        throw new Error('the connection broke');
      })(),
    );
    await expect(store.put(breaking, 1 << 20)).rejects.toThrow('the connection broke');
    expect(incoming()).toEqual([]);
  });

  test('that is empty has a hash and is not kept', async () => {
    const store = createDiskStore(dir);
    const stored = await store.put(Readable.from([]), 1 << 20);
    expect([stored.size, await store.has(stored.sha256)]).toEqual([0, false]);
  });

  test('that is not there is refused, not answered with an empty file', async () => {
    const store = createDiskStore(dir);
    await expect(store.open(sha256(Buffer.from('nothing')))).rejects.toMatchObject({
      refusals: [{ code: 'content_missing' }],
    });
  });

  test('bytes set aside are absent for readers, return on request, and are deleted a day later', async () => {
    const store = createDiskStore(dir);
    const bytes = randomBytes(2000);
    const hash = sha256(bytes);
    await store.put(inPieces(bytes), 1 << 20);
    // Filed long ago: from when on it is aside counts, not how old it is.
    const long = new Date(Date.now() - 400 * 24 * 3_600_000);
    utimesSync(store.pathOf(hash), long, long);
    await store.leave(hash);
    expect([await store.has(hash), await store.leaving()]).toEqual([false, [hash]]);
    expect(await store.sweep(24 * 3_600_000)).toBe(0);
    await store.back(hash);
    expect([await store.sizeOf(hash), await store.leaving()]).toEqual([2000, []]);
    // Twice, and of what never was there, changes nothing.
    await store.back(hash);
    await store.leave(sha256(Buffer.from('never there')));
    await store.leave(hash);
    await store.leave(hash);
    expect(await store.sweep(-1)).toBe(1);
    await store.back(hash);
    expect(await store.has(hash)).toBe(false);
    await store.put(inPieces(bytes), 1 << 20);
    expect(await store.has(hash)).toBe(true);
  });

  test('leftovers of a kill are swept once they are old, and nothing else', async () => {
    const store = createDiskStore(dir);
    await store.check();
    const [old, young] = [join(dir, 'content', '.incoming', 'old'), join(dir, 'content', '.incoming', 'young')];
    for (const path of [old, young]) writeFileSync(path, 'half a file');
    const yesterday = new Date(Date.now() - 25 * 3_600_000);
    utimesSync(old, yesterday, yesterday);
    const bytes = randomBytes(1000);
    await store.put(inPieces(bytes), 1 << 20);
    expect(await store.sweep(24 * 3_600_000)).toBe(1);
    expect(incoming()).toEqual(['young']);
    expect(await store.has(sha256(bytes))).toBe(true);
  });
});
