import type { Reading } from '../numbering/recognise.ts';

/** A number of the organisation in a text, its position, and the revision label cited with it, if any. */
export type Citation = { number: string; label: string | null; start: number; end: number };

const LONGEST = 80;
const LABEL_WITHIN = 20;
const KEYWORD = /(?<![\p{L}\p{N}])(?:rev\.?|revision|issue|version)[\s:]+(\S+)/iu;
/** Letters count in capitals alone: a small one is the next word of the sentence. */
const LABEL = /^(?:[A-Z]{1,3}|[A-Z]{0,3}\d{1,3}(?:\.\d{1,3})*)(?![\p{L}\p{N}])/u;

/** A text as numbers are looked for in it, with the position of each character in the original text. */
type Folded = { text: string; at: number[] };

/** Soft hyphens go, a hyphen at the end of a line is joined with what follows, other hyphens and dashes are one. */
const foldForNumbers = (text: string): Folded => {
  const at: number[] = [];
  const folded: string[] = [];
  for (let i = 0; i < text.length; i++) {
    const letter = text[i] as string;
    if (letter === '\u00ad') continue;
    const code = letter.charCodeAt(0);
    const isHyphen = letter === '-' || (code >= 0x2010 && code <= 0x2015);
    folded.push(isHyphen ? '-' : letter);
    at.push(i);
    if (!isHyphen) continue;
    const broken = /^[^\S\n]*\n\s*/.exec(text.slice(i + 1, i + 20));
    if (broken) i += broken[0].length;
  }
  at.push(text.length);
  return { text: folded.join(''), at };
};

const isPart = (letter: string | undefined): boolean => letter !== undefined && /[\p{L}\p{N}]/u.test(letter);

/**
 * The numbers that a text cites: the longest that a rule of the organisation reads, none beginning or ending inside a word or number. A
 * label counts where a keyword such as *rev* and a label follow within 20 characters and before the next number (DOMAIN:
 * citations). Whether that is a label of the cited document is judged later, when the document is known.
 */
export const findCitations = (text: string, recognise: (text: string) => Reading): Citation[] => {
  const folded = foldForNumbers(text);
  const found: { number: string; from: number; to: number }[] = [];
  for (let at = 0; at < folded.text.length; at++) {
    if (!isPart(folded.text[at]) || isPart(folded.text[at - 1])) continue;
    const end = numberEnd(folded.text, at, recognise);
    if (end === undefined) continue;
    found.push({ number: folded.text.slice(at, end), from: at, to: end });
    at = end - 1;
  }
  return found.map(({ number, from, to }, i) => ({
    number,
    label: labelBehind(folded.text.slice(to, Math.min(found[i + 1]?.from ?? folded.text.length, to + LABEL_WITHIN))),
    start: folded.at[from] ?? from,
    end: (folded.at[to - 1] ?? to - 1) + 1,
  }));
};

/** The end of the longest number that begins at a place; undefined where none begins. */
const numberEnd = (text: string, start: number, recognise: (text: string) => Reading): number | undefined => {
  const [line = ''] = text.slice(start, start + LONGEST).split('\n', 1);
  // Most words begin no number at all: that is seen at their first letters.
  if (recognise(line).kind === 'outside') return undefined;
  for (let length = line.length; length > 0; length--) {
    if (isPart(line[length - 1]) && !isPart(text[start + length]) && recognise(line.slice(0, length)).kind === 'read')
      return start + length;
  }
  return undefined;
};

const labelBehind = (text: string): string | null => {
  const [, word = ''] = KEYWORD.exec(text) ?? [];
  return LABEL.exec(word)?.[0] ?? null;
};
