/** Hyphens and dashes, the soft hyphen among them. */
const BETWEEN_LETTERS = /(?<=\p{L})[-\u00AD\u2010-\u2015]\s*(?=\p{L})/gu;
const BLANK_LINE = /[^\n]*(?:\n(?![^\S\n]*\n)[^\n]*)*(?:\n\s*|$)/g;
const LONG = 2400;

/**
 * What a text is compared by: without regard to white space, and to hyphens between letters, for those come and go with the
 * breaking of lines. A minus before a figure and a blank between two figures are kept: they carry meaning.
 */
export const comparable = (text: string): string =>
  text
    .normalize('NFC')
    .replace(BETWEEN_LETTERS, '')
    .replace(/[\u00AD\u200B\uFEFF]/gu, '')
    .replace(/[\u2010-\u2015]/gu, '-')
    .replace(/(?<!\d)\s+|\s+(?!\d)/gu, '')
    .replace(/\s+/gu, ' ');

/**
 * The paragraphs of a text with their trailing white space: parted by blank lines, a very long one by its lines. Joined they give
 * the text exactly.
 */
export const paragraphsOf = (text: string): string[] =>
  (text.match(BLANK_LINE) ?? [])
    .filter((paragraph) => paragraph !== '')
    .flatMap((paragraph) => (paragraph.length > LONG ? (paragraph.match(/[^\n]*\n\s*|[^\n]+$/g) ?? []) : [paragraph]));

const WORD =
  /^\s+|(?:\p{L}[\p{L}\p{M}\p{N}'’]*(?:[-\u00AD\u2010-\u2015]\s*\p{L}[\p{L}\p{M}\p{N}'’]*)*|\p{N}+(?:[.,]\p{N}+)*|[^\s])\s*/gu;

/** The words, figures and marks of a text with their trailing white space. Joined they give the text exactly. */
export const wordsOf = (text: string): string[] => text.match(WORD) ?? [];

/** Whether a piece is a word or a figure, and no mark. */
export const isWord = (token: string): boolean => /[\p{L}\p{N}]/u.test(token);
