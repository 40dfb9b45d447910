import type { Reading } from '../numbering/recognise.ts';
import { extensionOf } from './fileName.ts';

/** The reading of an incoming file's name: a number of the organisation, a revision label after it, and words for a title. */
export type NameReading = { number: string | null; label: string | null; title: string; extension: string };

const LABEL = /^(?:[A-Z]{1,3}|[A-Z]{0,3}\d{1,3})(?:\.\d{1,3})?$/;
const LABEL_WORD = /^(?:rev|rev\.|revision|issue|version|v)$/i;
const BOUNDARY = /[\s_,;()[\]]+/u;

/**
 * Reads the name of a file by the organisation's rules: the longest text in it that is a number, standing at word ends; a label right
 * behind it; the rest as a title. `recognise` is the recogniser of the organisation.
 */
export const readFileName = (name: string, recognise: (text: string) => Reading): NameReading => {
  const extension = extensionOf(name);
  const stem = (extension ? name.slice(0, -extension.length - 1) : name).normalize('NFC').trim();
  const found = findNumber(stem, recognise);
  if (!found) return { number: null, label: null, title: toTitle(stem), extension };
  const before = stem.slice(0, found.start);
  const behind = stem.slice(found.end);
  const { label, rest } = readLabel(behind);
  return { number: found.number, label, title: toTitle(`${before} ${rest}`), extension };
};

/** Tries every stretch between two places where a number may begin and end, the longest first. */
const findNumber = (
  stem: string,
  recognise: (text: string) => Reading,
): { number: string; start: number; end: number } | undefined => {
  const isWord = (at: number) => /[\p{L}\p{N}]/u.test(stem[at] ?? '');
  const edges: number[] = [];
  for (let at = 0; at <= stem.length; at++) if (!(isWord(at - 1) && isWord(at))) edges.push(at);
  const stretches = edges.flatMap((start) =>
    edges.filter((end) => end > start && end - start <= 80).map((end) => ({ start, end })),
  );
  stretches.sort((a, b) => b.end - b.start - (a.end - a.start) || a.start - b.start);
  for (const { start, end } of stretches) {
    const number = stem.slice(start, end);
    if (/\d/.test(number) && recognise(number).kind === 'read') return { number, start, end };
  }
  return undefined;
};

const readLabel = (behind: string): { label: string | null; rest: string } => {
  const parts = behind
    .split(BOUNDARY)
    .flatMap((part) => part.split(/^-+|(?<=^[A-Z0-9.]{1,6})-+/u))
    .filter(Boolean);
  const [first = '', second = '', ...others] = parts;
  if (LABEL_WORD.test(first) && LABEL.test(second)) return { label: second, rest: others.join(' ') };
  const glued = /^(?:rev|v)\.?([A-Z0-9]{1,4})$/i.exec(first)?.[1];
  if (glued) return { label: glued, rest: [second, ...others].join(' ') };
  if (LABEL.test(first)) return { label: first, rest: [second, ...others].join(' ') };
  return { label: null, rest: behind };
};

const toTitle = (text: string): string =>
  text
    .replace(/[_\s]+/gu, ' ')
    .replace(/(?<=\p{L})-(?=\p{L})/gu, ' ')
    .replace(/^[\s\-.,;()]+|[\s\-.,;()]+$/gu, '')
    .replace(/\s+/gu, ' ')
    .replace(/^\p{Ll}/u, (letter) => letter.toUpperCase());
