/** The place of a comment in a text: its words, and some of the text before and after them. */
export type Quote = { quote: string; before: string; after: string };
/** Where those words are in a text, in places of that text. */
export type Found = { start: number; end: number };

/** How much of the text around a quote is kept with it. */
export const AROUND = 60;
/** At least this much of the words must be there, in their order, for the place to count as the same. */
const ENOUGH = 0.7;
/** Longer texts are looked through for the exact words alone. */
const MOST_FOR_LIKENESS = 400_000;

type Word = { text: string; start: number; end: number };

const wordsOf = (text: string): Word[] =>
  Array.from(text.matchAll(/[\p{L}\p{N}]+/gu), (match) => ({
    text: match[0].toLowerCase(),
    start: match.index,
    end: match.index + match[0].length,
  }));

/** How many words two lists have in common from one end on. */
const sharedFrom = (a: readonly string[], b: readonly string[]): number => {
  let n = 0;
  while (n < a.length && n < b.length && a[n] === b[n]) n++;
  return n;
};

/** The length of the longest list of words that both have in the same order. */
const sharedInOrder = (a: readonly string[], b: readonly string[]): number => {
  let row = new Array<number>(b.length + 1).fill(0);
  for (const word of a) {
    const next = [0];
    for (let j = 1; j <= b.length; j++)
      next.push(b[j - 1] === word ? (row[j - 1] ?? 0) + 1 : Math.max(row[j] ?? 0, next[j - 1] ?? 0));
    row = next;
  }
  return row.at(-1) ?? 0;
};

/** What is kept of a place in a text, from where to where it goes. */
export const quoteAt = (text: string, start: number, end: number): Quote => ({
  quote: text.slice(start, end),
  before: text.slice(Math.max(0, start - AROUND), start),
  after: text.slice(end, end + AROUND),
});

/**
 * Finds the place of a comment in another text: the same words where most of their surroundings are the same;
 * else the stretch that has at least seven tenths of the words in their order. Nothing when the place is lost. Blanks, line ends and
 * case make no difference, so that the text of a rendition serves as well.
 */
export const findPlace = (text: string, { quote, before, after }: Quote): Found | undefined => {
  const wanted = wordsOf(quote).map((word) => word.text);
  if (wanted.length === 0) return undefined;
  const words = wordsOf(text);
  const beforeWords = wordsOf(before)
    .map((word) => word.text)
    .reverse();
  const afterWords = wordsOf(after).map((word) => word.text);
  const aroundOf = (from: number, to: number) =>
    sharedFrom(
      beforeWords,
      words
        .slice(Math.max(0, from - beforeWords.length), from)
        .map((word) => word.text)
        .reverse(),
    ) +
    sharedFrom(
      afterWords,
      words.slice(to, to + afterWords.length).map((word) => word.text),
    );
  const at = (from: number, to: number): Found => ({ start: words[from]?.start ?? 0, end: words[to - 1]?.end ?? 0 });

  let best: { from: number; around: number } | undefined;
  for (let i = 0; i + wanted.length <= words.length; i++) {
    if (words[i]?.text !== wanted[0] || !wanted.every((word, k) => words[i + k]?.text === word)) continue;
    const around = aroundOf(i, i + wanted.length);
    if (!best || around > best.around) best = { from: i, around };
  }
  if (best) return at(best.from, best.from + wanted.length);
  if (text.length > MOST_FOR_LIKENESS || wanted.length < 3) return undefined;

  // Changed words: the stretch of the same length that keeps most of them.
  const known = new Set(wanted);
  let likest: { from: number; to: number; score: number } | undefined;
  for (let i = 0; i < words.length; i++) {
    if (!known.has(words[i]?.text ?? '')) continue;
    const to = Math.min(words.length, i + wanted.length);
    const window = words.slice(i, to).map((word) => word.text);
    if (window.filter((word) => known.has(word)).length < wanted.length * ENOUGH) continue;
    const shared = sharedInOrder(wanted, window);
    const score = shared + aroundOf(i, to) / 1000;
    if (shared >= wanted.length * ENOUGH && (!likest || score > likest.score)) likest = { from: i, to, score };
  }
  return likest && at(likest.from, likest.to);
};

/** On which page of a text a place is, counted from 1: pages are parted by form feeds. */
export const pageOfPlace = (text: string, place: number): number => text.slice(0, place).split('\f').length;
