import { comparable, isWord, wordsOf } from './tokens.ts';

/** A paragraph ready for comparing: its words in their compared form, and how often each occurs. */
export type Measured = { text: string; key: string; words: readonly string[]; counts: ReadonlyMap<string, number> };

export const measured = (text: string): Measured => {
  const words = wordsOf(text)
    .filter(isWord)
    .map((word) => comparable(word).toLocaleLowerCase('en'));
  const counts = new Map<string, number>();
  for (const word of words) counts.set(word, (counts.get(word) ?? 0) + 1);
  return { text, key: comparable(text), words, counts };
};

/** How alike two paragraphs are, from 0 to 1: the share of words that both have (Dice). */
export const likeness = (a: Measured, b: Measured): number => {
  const total = a.words.length + b.words.length;
  if (total === 0) return a.key === b.key ? 1 : 0;
  let shared = 0;
  const [few, many] = a.counts.size < b.counts.size ? [a, b] : [b, a];
  for (const [word, count] of few.counts) shared += Math.min(count, many.counts.get(word) ?? 0);
  return (2 * shared) / total;
};

const MOST_PLACES = 24;
const MOST_CANDIDATES = 6;

/** A pair of paragraphs by their places, and how alike they are. */
export type Pair = { a: number; b: number; alike: number };

/**
 * Pairs of paragraphs that are alike enough: candidates are those that share rare words, so that the cost grows with the number of
 * paragraphs and not with its square.
 */
export const alikePairs = (olds: readonly Measured[], news: readonly Measured[], least: number): Pair[] => {
  const places = new Map<string, number[]>();
  for (const [j, { counts }] of news.entries())
    for (const word of counts.keys()) {
      const known = places.get(word);
      if (known) known.push(j);
      else places.set(word, [j]);
    }
  return olds.flatMap((old, i) => {
    const shared = new Map<number, number>();
    const few = news.length <= MOST_PLACES;
    for (const word of old.counts.keys()) {
      const found = places.get(word) ?? [];
      if (found.length <= MOST_PLACES || few) for (const j of found) shared.set(j, (shared.get(j) ?? 0) + 1);
    }
    return [...shared]
      .sort(([, x], [, y]) => y - x)
      .slice(0, few ? news.length : MOST_CANDIDATES)
      .map(([j]) => ({ a: i, b: j, alike: likeness(old, news[j] as Measured) }))
      .filter((pair) => pair.alike >= least);
  });
};

/** The pairs in the same order on both sides with the greatest total likeness. */
export const inOrder = (pairs: readonly Pair[]): Pair[] => {
  // Best chain that ends at each pair; a tree over the new places finds the best one before it.
  const sorted = [...pairs].sort((x, y) => x.a - y.a || y.b - x.b);
  const size = Math.max(0, ...pairs.map((pair) => pair.b)) + 2;
  const best: (Chain | undefined)[] = new Array(size + 1).fill(undefined);
  type Chain = { score: number; pair: Pair; before: Chain | undefined };
  const bestBefore = (b: number): Chain | undefined => {
    let found: Chain | undefined;
    for (let at = b; at > 0; at -= at & -at) if ((best[at]?.score ?? 0) > (found?.score ?? 0)) found = best[at];
    return found;
  };
  for (const pair of sorted) {
    const before = bestBefore(pair.b);
    const chain: Chain = { score: (before?.score ?? 0) + pair.alike, pair, before };
    for (let at = pair.b + 1; at <= size; at += at & -at) if ((best[at]?.score ?? 0) < chain.score) best[at] = chain;
  }
  const chosen: Pair[] = [];
  for (let chain = bestBefore(size); chain; chain = chain.before) chosen.push(chain.pair);
  return chosen.reverse();
};
