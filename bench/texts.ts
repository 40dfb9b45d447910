// Comparing texts against git's word diff, and looking through a text for numbers against one pass of a bare expression.
import { spawnSync } from 'node:child_process';
import { mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { compareTexts, createRecogniser, findCitations } from '@kanonos/core';
import { pair, rate } from './measure.ts';
import { fortyRules } from './rules.ts';

/** A sequence that looks like chance and is the same every time (mulberry32). */
const chance = (seed: number) => () => {
  seed = (seed + 0x6d2b79f5) | 0;
  let t = Math.imul(seed ^ (seed >>> 15), 1 | seed);
  t = (t + Math.imul(t ^ (t >>> 7), 61 | t)) ^ t;
  return ((t ^ (t >>> 14)) >>> 0) / 4294967296;
};

/** Paragraphs of 40 to 120 words, few of them very common, as in a language. */
const makeText = (words: number, seed: number, stem: string): string[][] => {
  const next = chance(seed);
  const paragraphs: string[][] = [];
  for (let left = words; left > 0; ) {
    const length = Math.min(left, 40 + Math.floor(next() * 80));
    paragraphs.push(Array.from({ length }, () => `${stem}${Math.floor(next() ** 3 * 6000)}`));
    left -= length;
  }
  return paragraphs;
};
const asText = (paragraphs: readonly (readonly string[])[]) => paragraphs.map((words) => words.join(' ')).join('\n\n');
const edited = (paragraphs: readonly (readonly string[])[]) => {
  const next = chance(99);
  return paragraphs.map((words) => words.map((word) => (next() < 0.05 ? `other${Math.floor(next() * 500)}` : word)));
};

export const texts = async (): Promise<void> => {
  const dir = mkdtempSync(join(tmpdir(), 'kanonos-bench-'));
  for (const size of [5_000, 50_000]) {
    const before = makeText(size, size, 'word');
    const [old, now, unlike] = [asText(before), asText(edited(before)), asText(makeText(size, size + 1, 'thing'))];
    const file = (name: string, text: string) => {
      writeFileSync(join(dir, name), text);
      return join(dir, name);
    };
    const [a, b] = [file('a', old), file('b', now)];
    const git = async () =>
      spawnSync('git', ['diff', '--no-index', '--word-diff=porcelain', a, b], { maxBuffer: 1 << 28 });
    const budget = size === 5_000 ? '≤ 200 ms' : '≤ 2 s, ≤ 5 ×';
    await pair(`comparing, 5 % of the words edited`, size, budget, async () => compareTexts(old, now), git, 7);
    await pair(`comparing, nothing in common`, size, '≤ 2 s', async () => compareTexts(old, unlike), git, 7);
  }
  rmSync(dir, { recursive: true, force: true });
  const recognise = createRecogniser(fortyRules());
  const words = makeText(200_000, 5, 'word').flat();
  const text = words
    .map((word, i) => (i % 200 === 7 ? `H04-PRO-${String(1 + (i % 9000)).padStart(4, '0')}` : word))
    .join(' ');
  const megabytes = text.length / 1048576;
  const time = (work: () => unknown) => {
    const began = performance.now();
    work();
    return (performance.now() - began) / 1000;
  };
  const ours = time(() => findCitations(text, recognise));
  const bare = time(() => [...text.matchAll(/H\d\d-[A-Z]{3}-\d{4,}/g)].length);
  rate('looking a text through for numbers, 40 rules', 0, megabytes / ours, megabytes / bare, '–', 'MB/s');
};
