import { foldText } from '../text.ts';

/** How many single letters must change to make one word of another (Levenshtein), up to a bound. */
const distance = (a: string, b: string, most: number): number => {
  if (Math.abs(a.length - b.length) > most) return most + 1;
  let row = Array.from({ length: b.length + 1 }, (_, j) => j);
  for (let i = 1; i <= a.length; i++) {
    const next = [i];
    for (let j = 1; j <= b.length; j++)
      next.push(
        Math.min((row[j] ?? 0) + 1, (next[j - 1] ?? 0) + 1, (row[j - 1] ?? 0) + (a[i - 1] === b[j - 1] ? 0 : 1)),
      );
    if (Math.min(...next) > most) return most + 1;
    row = next;
  }
  return row[b.length] ?? 0;
};

const MOST_OPTIONS = 20_000;

/**
 * Finds the most likely intended word for an unknown one: without regard to case and marks, one that contains it or is
 * contained, else what differs in at most a third of its letters. Nothing when two are equally near.
 */
export const createSuggester = (options: readonly string[]): ((word: string) => string | undefined) => {
  const folded = options.slice(0, MOST_OPTIONS).map((option) => ({ option, key: bare(option) }));
  const kept = new Map<string, string | undefined>();
  return (word) => {
    const key = bare(word);
    if (key.length < 2) return undefined;
    if (!kept.has(key)) kept.set(key, nearest(key, folded));
    return kept.get(key);
  };
};

const bare = (text: string) => foldText(text).replace(/[^\p{L}\p{N}]+/gu, '');

const nearest = (key: string, options: readonly { option: string; key: string }[]): string | undefined => {
  const same = options.filter((one) => one.key === key);
  if (same.length === 1) return same[0]?.option;
  const most = Math.max(1, Math.floor(key.length / 3));
  let best: { option: string; by: number } | undefined;
  let tie = false;
  for (const one of options) {
    const inside = key.length > 3 && one.key.length > 3 && (one.key.includes(key) || key.includes(one.key));
    const by = inside ? Math.min(1, most) : distance(key, one.key, best ? Math.min(best.by, most) : most);
    if (by > most) continue;
    if (best && by === best.by && one.option !== best.option) tie = true;
    if (!best || by < best.by) {
      best = { option: one.option, by };
      tie = false;
    }
  }
  return tie ? undefined : best?.option;
};
