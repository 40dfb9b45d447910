import { type ComparedPart, paragraphsOf } from '@kanonos/core';
import { wording } from './wording.ts';

/** A stretch of text as it is shown: its kind, the sides that have it, and the place it belongs to. */
export type Piece = {
  kind: ComparedPart['kind'];
  old: string;
  new: string;
  /** The number of the place that differs, from 1; nothing for what is equal. */
  place: number | null;
  move?: number | undefined;
  inner?: ComparedPart[] | undefined;
  /** Where it begins in the text of each side, in characters. */
  oldAt: number;
  newAt: number;
};

/** A place that differs: neighbours that came and went are one place, each moved paragraph is one at both ends. */
export type Place = {
  n: number;
  kind: 'in' | 'out' | 'replaced' | 'moved';
  old: string;
  new: string;
  /** Pages on which it begins, where the file has pages. */
  oldPage: number | null;
  newPage: number | null;
};
/** What belongs together: the pieces of each side, and all of them in their order. */
export type Row = { old: Piece[]; new: Piece[]; all: Piece[] };

const PAGE = /\f/g;
const EXCERPT = 90;
const excerpt = (text: string): string => {
  // What parts the cells of a row is no word of anybody.
  const words = text
    .replace(/\s*\|\s*/g, ' · ')
    .replace(/\s+/g, ' ')
    .trim();
  return words.length > EXCERPT ? `${words.slice(0, EXCERPT - 1).trimEnd()}…` : words;
};

/** Parts of a comparison as pieces with the places that they make. */
export const placesOf = (parts: readonly ComparedPart[]): { pieces: Piece[]; places: Place[] } => {
  const all = (side: 'old' | 'new') => parts.map((part) => part[side]).join('');
  const paged = { old: all('old').includes('\f'), new: all('new').includes('\f') };
  const page = { old: 1, new: 1 };
  const at = { old: 0, new: 0 };
  const pieces: Piece[] = [];
  const places: Place[] = [];
  let isOpen = false;
  for (const part of parts) {
    const differs = part.kind !== 'equal';
    if (differs && (!isOpen || part.kind === 'moved')) {
      places.push({
        n: places.length + 1,
        kind: part.kind === 'insert' ? 'in' : part.kind === 'delete' ? 'out' : 'moved',
        old: '',
        new: '',
        oldPage: paged.old ? page.old : null,
        newPage: paged.new ? page.new : null,
      });
    }
    const place = differs ? places.at(-1) : undefined;
    if (place) {
      place.old += part.old;
      place.new += part.new;
      if (place.kind !== 'moved' && place.old && place.new) place.kind = 'replaced';
    }
    isOpen = differs && part.kind !== 'moved';
    pieces.push({ ...part, place: place?.n ?? null, oldAt: at.old, newAt: at.new });
    at.old += part.old.length;
    at.new += part.new.length;
    page.old += part.old.match(PAGE)?.length ?? 0;
    page.new += part.new.match(PAGE)?.length ?? 0;
  }
  return { pieces, places: places.map((one) => ({ ...one, old: excerpt(one.old), new: excerpt(one.new) })) };
};

const ENDS = /\n[^\S\n]*\n\s*$|\f\s*$/;
const endsParagraph = (pieces: readonly Piece[], side: 'old' | 'new'): boolean =>
  pieces.length === 0 || ENDS.test(pieces.map((piece) => piece[side]).join(''));

/** A piece by its paragraphs: what is on one side alone, and equal text where both sides part it alike. */
const byParagraphs = (piece: Piece): Piece[] => {
  const [olds, news] = [paragraphsOf(piece.old), paragraphsOf(piece.new)];
  if (piece.inner || (piece.old !== '' && piece.new !== '' && olds.length !== news.length)) return [piece];
  let [oldAt, newAt] = [piece.oldAt, piece.newAt];
  return Array.from({ length: Math.max(olds.length, news.length) }, (_, i) => {
    const part = { ...piece, old: olds[i] ?? '', new: news[i] ?? '', oldAt, newAt };
    oldAt += part.old.length;
    newAt += part.new.length;
    return part;
  });
};

/** Pieces in rows of two sides: a row ends where both sides end a paragraph, so that what belongs together is at one height. */
export const rowsOf = (pieces: readonly Piece[]): Row[] => {
  const rows: Row[] = [];
  for (const piece of pieces.flatMap(byParagraphs)) {
    const last = rows.at(-1);
    const fills = (side: 'old' | 'new') => piece.kind !== 'equal' && piece[side] !== '' && last?.[side].length === 0;
    const goesOn =
      last && (fills('old') || fills('new') || !(endsParagraph(last.old, 'old') && endsParagraph(last.new, 'new')));
    const row = goesOn ? last : { old: [], new: [], all: [] };
    if (!goesOn) rows.push(row);
    if (piece.old !== '') row.old.push(piece);
    if (piece.new !== '') row.new.push(piece);
    row.all.push(piece);
  }
  return rows;
};

/** A side of a row without the blank lines at its end: the row parts it from the next one. */
export const withoutTail = (pieces: readonly Piece[]): Piece[] =>
  pieces.map((piece, i) =>
    i === pieces.length - 1 ? { ...piece, old: piece.old.trimEnd(), new: piece.new.trimEnd() } : piece,
  );

/** Whether both sides of a row are equal. */
export const isEqualRow = (row: Row): boolean => [...row.old, ...row.new].every((piece) => piece.kind === 'equal');

/** Rows with those that are equal and far from any change folded: what is left out is counted. */
export const folded = (rows: readonly Row[], near = 1): (Row | { left: number })[] => {
  const shown = rows.map((_, i) => rows.slice(Math.max(0, i - near), i + near + 1).some((row) => !isEqualRow(row)));
  const all: (Row | { left: number })[] = [];
  rows.forEach((row, i) => {
    const last = all.at(-1);
    if (shown[i]) all.push(row);
    else if (last && 'left' in last) last.left++;
    else all.push({ left: 1 });
  });
  return all;
};

/** The page of a place, where the files have pages. */
export const pagesInWords = ({ oldPage, newPage }: Place): string =>
  oldPage && newPage && oldPage !== newPage
    ? wording.pageOldPageNewPage(oldPage, newPage)
    : (newPage ?? oldPage)
      ? wording.pageNewPage(newPage ?? oldPage)
      : '';
