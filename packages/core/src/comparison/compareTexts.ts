import { alikePairs, inOrder, type Measured, measured } from './align.ts';
import { leastEdits } from './leastEdits.ts';
import { comparable, isWord, paragraphsOf, wordsOf } from './tokens.ts';

/**
 * A part of a comparison. `old` and `new` hold the exact text of each side: joined over all parts they give the two
 * texts exactly. A moved paragraph occurs twice, under one `move`: where it was (`new` empty) and where it is (`old` empty), the
 * second with its inner edits.
 */
export type ComparedPart = {
  kind: 'equal' | 'insert' | 'delete' | 'moved';
  old: string;
  new: string;
  move?: number;
  inner?: ComparedPart[];
};

/** What a comparison comes to, in words inserted and deleted, paragraphs moved, and places that differ. */
export type ComparedCounts = { inserted: number; deleted: number; moved: number; places: number };
export type Compared = {
  parts: ComparedPart[];
  counts: ComparedCounts /** Paragraphs only: the texts are too unlike for more. */;
  coarse: boolean;
};

const ALIKE = 0.5;
const MOVED_ALIKE = 0.9;
const MOVED_WORDS = 8;
/** Edits beyond which one paragraph, or the whole, is not compared word by word: the cost is their square. */
const MOST_IN_PAIR = 1200;
const MOST_TOGETHER = 1500;
const MOST_PARAGRAPH_EDITS = 4000;
/** Squares of edits that all pairs together may cost before the rest is compared by paragraphs alone. */
const MOST_WORK = 30_000_000;

/**
 * Compares two texts (DOMAIN: comparison): equal paragraphs first, then pairs that are half alike or more word by word, then
 * paragraphs of eight words or more that reappear nearly as they were. What differs in white space or hyphenation alone is equal.
 * The result depends on the texts alone: no clock, so the same two texts give the same comparison everywhere.
 */
export const compareTexts = (oldText: string, newText: string): Compared => {
  const budget = { left: MOST_WORK };
  const [olds, news] = [paragraphsOf(oldText).map(measured), paragraphsOf(newText).map(measured)];
  const blocks = blocksOf(olds, news, budget);
  let parts = joinParts(withMoves(blocks, budget));
  let counts = countsOf(parts);
  const together = joinedWords(oldText, newText, Math.ceil(editsOf(parts) / 2));
  if (together) {
    parts = joinParts(together);
    counts = countsOf(parts);
  }
  return { parts, counts, coarse: budget.left <= 0 };
};

/**
 * Word by word over the whole, where that needs less than half as many edits as paragraph by paragraph: paragraphs that were parted
 * or joined, or lines that are broken elsewhere.
 */
const joinedWords = (oldText: string, newText: string, least: number): ComparedPart[] | null => {
  const most = Math.min(MOST_TOGETHER, least - 1);
  if (most < 0) return null;
  return byWords(oldText, newText, most);
};

/** One line of the alignment: a paragraph of either side, or a pair. */
type Block = { old?: Measured; new?: Measured };

const blocksOf = (olds: readonly Measured[], news: readonly Measured[], budget: { left: number }): Block[] => {
  const keys = (list: readonly Measured[]) => list.map(({ key }) => key);
  const common = leastEdits(keys(olds), keys(news), MOST_PARAGRAPH_EDITS);
  if (!common) budget.left = 0;
  const blocks: Block[] = [];
  let [i, j] = [0, 0];
  for (const { a, b, length } of [...(common ?? []), { a: olds.length, b: news.length, length: 0 }]) {
    blocks.push(...aligned(olds.slice(i, a), news.slice(j, b)));
    for (let n = 0; n < length; n++) blocks.push({ old: olds[a + n] as Measured, new: news[b + n] as Measured });
    [i, j] = [a + length, b + length];
  }
  return blocks;
};

/** Between two equal stretches: pairs that are alike, in order, and the rest in place. */
const aligned = (olds: readonly Measured[], news: readonly Measured[]): Block[] => {
  const blocks: Block[] = [];
  let [i, j] = [0, 0];
  const until = (a: number, b: number) => {
    for (; i < a; i++) blocks.push({ old: olds[i] as Measured });
    for (; j < b; j++) blocks.push({ new: news[j] as Measured });
  };
  for (const { a, b } of inOrder(alikePairs(olds, news, ALIKE))) {
    until(a, b);
    blocks.push({ old: olds[a] as Measured, new: news[b] as Measured });
    [i, j] = [a + 1, b + 1];
  }
  until(olds.length, news.length);
  return blocks;
};

/** Blocks as parts; a paragraph that went here and came there nearly as it was is moved. */
const withMoves = (blocks: readonly Block[], budget: { left: number }): ComparedPart[] => {
  const long = (one: Measured | undefined) => one !== undefined && one.words.length >= MOVED_WORDS;
  const removed = blocks.filter((block) => !block.new && long(block.old));
  const come = blocks.filter((block) => !block.old && long(block.new));
  const moves = new Map<Block, { move: number; twin: Measured }>();
  const pairs = alikePairs(
    removed.map((block) => block.old as Measured),
    come.map((block) => block.new as Measured),
    MOVED_ALIKE,
  ).sort((x, y) => y.alike - x.alike);
  for (const { a, b } of pairs) {
    const [from, to] = [removed[a] as Block, come[b] as Block];
    if (moves.has(from) || moves.has(to)) continue;
    const move = moves.size / 2 + 1;
    moves.set(from, { move, twin: to.new as Measured });
    moves.set(to, { move, twin: from.old as Measured });
  }
  return blocks.flatMap((block): ComparedPart[] => {
    const { old: was, new: is } = block;
    const moved = moves.get(block);
    if (was && is) return pairParts(was, is, budget);
    if (was) return [{ kind: moved ? 'moved' : 'delete', old: was.text, new: '', ...(moved && { move: moved.move }) }];
    const text = is?.text ?? '';
    if (!moved) return [{ kind: 'insert', old: '', new: text }];
    const inner = joinParts(pairParts(moved.twin, is as Measured, budget));
    return [{ kind: 'moved', old: '', new: text, move: moved.move, inner }];
  });
};

const pairParts = (was: Measured, is: Measured, budget: { left: number }): ComparedPart[] => {
  if (was.key === is.key) return [{ kind: 'equal', old: was.text, new: is.text }];
  const parts = budget.left > 0 ? byWords(was.text, is.text, MOST_IN_PAIR) : null;
  const whole: ComparedPart[] = [
    { kind: 'delete', old: was.text, new: '' },
    { kind: 'insert', old: '', new: is.text },
  ];
  budget.left -= (parts ? countsOf(parts).inserted + countsOf(parts).deleted : MOST_IN_PAIR) ** 2;
  return parts ?? whole;
};

/** Two texts word by word; null where that needs more edits than allowed. */
const byWords = (oldText: string, newText: string, most: number): ComparedPart[] | null => {
  const [a, b] = [wordsOf(oldText), wordsOf(newText)];
  const keyed = (words: readonly string[]) => words.map((word) => comparable(word));
  const common = leastEdits(keyed(a), keyed(b), most);
  if (!common) return null;
  const parts: ComparedPart[] = [];
  let [i, j] = [0, 0];
  const put = (kind: ComparedPart['kind'], from: number, to: number, start: number, end: number) => {
    if (from < to || start < end)
      parts.push({ kind, old: a.slice(from, to).join(''), new: b.slice(start, end).join('') });
  };
  for (const one of [...common, { a: a.length, b: b.length, length: 0 }]) {
    put('delete', i, one.a, 0, 0);
    put('insert', 0, 0, j, one.b);
    put('equal', one.a, one.a + one.length, one.b, one.b + one.length);
    [i, j] = [one.a + one.length, one.b + one.length];
  }
  return parts;
};

/** Neighbours of one kind as one part, so that a reader meets a change once. */
const joinParts = (parts: readonly ComparedPart[]): ComparedPart[] => {
  const all: ComparedPart[] = [];
  for (const part of parts) {
    const last = all.at(-1);
    if (part.old === '' && part.new === '') continue;
    if (last && last.kind === part.kind && part.kind !== 'moved') {
      last.old += part.old;
      last.new += part.new;
    } else all.push({ ...part });
  }
  return all;
};

const countWords = (text: string): number => wordsOf(text).filter(isWord).length;

/** All words and marks of what is not equal. */
const editsOf = (parts: readonly ComparedPart[]): number =>
  parts.reduce(
    (sum, part) => sum + (part.kind === 'equal' ? 0 : wordsOf(part.old).length + wordsOf(part.new).length),
    0,
  );

const countsOf = (parts: readonly ComparedPart[]): ComparedCounts => {
  const counts: ComparedCounts = { inserted: 0, deleted: 0, moved: 0, places: 0 };
  let changed = false;
  for (const part of parts) {
    if (part.kind !== 'equal' && (!changed || part.kind === 'moved')) counts.places++;
    changed = part.kind !== 'equal';
    if (part.kind === 'insert') counts.inserted += countWords(part.new);
    if (part.kind === 'delete') counts.deleted += countWords(part.old);
    if (part.kind !== 'moved') continue;
    if (part.new) counts.moved++;
    const inner = countsOf(part.inner ?? []);
    counts.inserted += inner.inserted;
    counts.deleted += inner.deleted;
  }
  return counts;
};

/** A comparison in one line, as lists show it. */
export const comparedInWords = ({ inserted, deleted, moved, places }: ComparedCounts, metadata: number): string =>
  [
    inserted && `${inserted} ${inserted === 1 ? 'word' : 'words'} added`,
    deleted && `${deleted} ${deleted === 1 ? 'word' : 'words'} removed`,
    moved && `${moved} ${moved === 1 ? 'paragraph' : 'paragraphs'} moved`,
    inserted + deleted + moved === 0 && places > 0 && 'formatting only',
    metadata && `${metadata} ${metadata === 1 ? 'field' : 'fields'} changed`,
  ]
    .filter(Boolean)
    .join(', ');
