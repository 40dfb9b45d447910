import { execFile } from 'node:child_process';
import { mkdtempSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { promisify } from 'node:util';
import { beforeAll, describe, expect, test } from 'vitest';
import { convertOffice } from '../platform/office/convert.ts';
import { fillMetadata, placedNames } from '../platform/office/metadata.ts';
import { readParts } from '../platform/office/package.ts';
import { readProperties } from '../platform/office/properties.ts';
import { type OfficeFile, officeFiles } from './officeFiles.ts';

const run = promisify(execFile);
const VALUES = { number: 'THR-PRO-0118', title: 'Grip <overhaul> & “test”', revision: 'C', limit: '12 kN' };
/** Parts with the file's properties; only these may differ, beside those with placeholders. */
const OF_PROPERTIES = new Set(['[Content_Types].xml', '_rels/.rels', 'docProps/custom.xml', 'meta.xml']);
const BATCH = 10;

let files: OfficeFile[] = [];
/** What LibreOffice reads in each file, before and after it was filled: its text, and how many pages. */
const seen = new Map<string, { text: string; pages: number }>();

const look = async (some: { key: string; kind: string; bytes: Uint8Array }[]) => {
  const dir = mkdtempSync(join(tmpdir(), 'kanonos-filled-'));
  const paths = some.map(({ kind, bytes }, i) => {
    const path = join(dir, `${i}.${kind}`);
    writeFileSync(path, bytes);
    return { path, ending: kind };
  });
  const { results, done } = await convertOffice(paths, 'pdf');
  for (const [i, result] of results.entries()) {
    const key = some[i]?.key ?? '';
    if ('why' in result) continue;
    const text = (await run('pdftotext', ['-layout', result.made, '-'])).stdout;
    seen.set(key, { text, pages: text.split('\f').length - 1 });
  }
  await done();
};

beforeAll(async () => {
  files = await officeFiles();
  const all = files.flatMap(({ name, kind, bytes }) => [
    { key: `${name} before`, kind, bytes },
    { key: `${name} after`, kind, bytes: fillMetadata(bytes, kind, VALUES) },
  ]);
  for (let at = 0; at < all.length; at += BATCH) await look(all.slice(at, at + BATCH));
}, 300_000);

const one = (i: number) => files[i] as OfficeFile;
const parts = (bytes: Uint8Array) => readParts(bytes);

test('there are thirty, of three programs and three formats', () => {
  expect(files.length).toBe(30);
  expect(new Set(files.map((file) => file.kind)).size).toBe(3);
  expect(new Set(files.map((file) => file.name)).size).toBe(30);
});

describe.each(Array.from({ length: 30 }, (_, i) => i))('file %i', (i) => {
  test('opens again in LibreOffice with its words, its pages, and the metadata in their places', () => {
    const { name, words, kind, bytes } = one(i);
    const [before, after] = [seen.get(`${name} before`), seen.get(`${name} after`)];
    expect(before, `${name} as it was made`).toBeDefined();
    expect(after, `${name} filled`).toBeDefined();
    expect(after?.pages, name).toBe(before?.pages);
    for (const word of words) expect(after?.text, name).toContain(word);
    for (const place of placedNames(bytes, kind))
      if (place in VALUES) expect(after?.text, `${name}: ${place}`).toContain(VALUES[place as keyof typeof VALUES]);
    expect(after?.text, name).not.toContain('to be filled');
  });

  test('keeps every part that places nothing byte for byte, and no part is lost', () => {
    const { name, kind, bytes } = one(i);
    const [before, after] = [parts(bytes), parts(fillMetadata(bytes, kind, VALUES))];
    expect(
      [...after.keys()].filter((part) => !OF_PROPERTIES.has(part)),
      name,
    ).toEqual([...before.keys()].filter((part) => !OF_PROPERTIES.has(part)));
    const changed = [...before.keys()].filter(
      (part) =>
        !OF_PROPERTIES.has(part) &&
        Buffer.compare(before.get(part) ?? Buffer.of(), after.get(part) ?? Buffer.of()) !== 0,
    );
    const places = placedNames(bytes, kind).some((place) => place in VALUES);
    if (!places) expect(changed, name).toEqual([]);
    for (const part of changed) expect(part, name).toMatch(/^(word\/|xl\/|content\.xml|styles\.xml)/);
  });

  test('gives its metadata when read back, and filling twice equals filling once', () => {
    const { name, kind, bytes } = one(i);
    const filled = fillMetadata(bytes, kind, VALUES);
    expect(readProperties(filled, kind).named, name).toMatchObject(VALUES);
    expect(parts(fillMetadata(filled, kind, VALUES)), name).toEqual(parts(filled));
  });
});
