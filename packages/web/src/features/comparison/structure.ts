import type { SideContent } from '@kanonos/contract';
import type { Piece, Row } from './layOut.ts';

type TextBlock = NonNullable<SideContent['blocks']>[number];
export type Picture = Extract<TextBlock, { kind: 'picture' }>;
export type WordBlock = Exclude<TextBlock, { kind: 'picture' }>;

/** The blocks of a side with the places at which they begin in its text, and the pictures that follow each. */
export type Structure = {
  blocks: readonly WordBlock[];
  starts: readonly number[];
  /** Pictures behind the block of a number; those before the first have −1. */
  pictures: ReadonlyMap<number, readonly Picture[]>;
};

/** Paragraphs of a text are parted by a blank line. */
const PARTED = 2;

export const structureOf = (all: readonly TextBlock[]): Structure => {
  const blocks: WordBlock[] = [];
  const starts: number[] = [];
  const pictures = new Map<number, Picture[]>();
  let at = 0;
  for (const block of all) {
    if (block.kind === 'picture') {
      const n = blocks.length - 1;
      pictures.set(n, [...(pictures.get(n) ?? []), block]);
    } else if (block.text.trim() !== '') {
      blocks.push(block);
      starts.push(at);
      at += block.text.length + PARTED;
    }
  }
  return { blocks, starts, pictures };
};

/** The number of the block in which a character is. */
const blockAt = ({ starts }: Structure, at: number): number => {
  let [low, high] = [0, starts.length - 1];
  while (low < high) {
    const middle = Math.ceil((low + high) / 2);
    if ((starts[middle] ?? 0) <= at) low = middle;
    else high = middle - 1;
  }
  return low;
};

/** A block of one side as it is shown: its number, itself, and where it begins. */
export type Placed = { n: number; block: WordBlock; start: number };
/**
 * The blocks in which pieces of a side are.
 *
 * @returns null where they lie in no block, `several` where they lie in more than one, so that no one block has their shape
 */
export const placedIn = (
  structure: Structure,
  pieces: readonly Piece[],
  side: 'old' | 'new',
): Placed | 'several' | null => {
  const [first] = pieces;
  const last = pieces.at(-1);
  if (!first || !last || structure.blocks.length === 0) return null;
  const at = (piece: Piece) => (side === 'old' ? piece.oldAt : piece.newAt);
  const n = blockAt(structure, at(first));
  if (blockAt(structure, at(last) + Math.max(0, last[side].trimEnd().length - 1)) !== n) return 'several';
  const [block, start] = [structure.blocks[n], structure.starts[n]];
  return block === undefined || start === undefined ? null : { n, block, start };
};

/** What is shown in one shape: pieces of one block, of the old side, the new one, or both; of none where they lie in several. */
export type Shape = {
  pieces: Piece[];
  old: Placed | null;
  new: Placed | null;
};

/** A row of a comparison as shapes of one text: what came and went without a word in common is shown as two. */
export const shapesOf = (row: Row, before: Structure, now: Structure): Shape[] => {
  const old = placedIn(before, row.old, 'old');
  const next = placedIn(now, row.new, 'new');
  if (old === 'several' || next === 'several') return [{ pieces: row.all, old: null, new: null }];
  if (old && next && row.all.every((piece) => piece.kind !== 'equal'))
    return [
      { pieces: row.old, old, new: null },
      { pieces: row.new, old: null, new: next },
    ];
  return [{ pieces: row.all, old, new: next }];
};

const CELL = '|';

/** The pieces of a row of a table by its cells. What went is in the cell in which it was. */
export const cellsOf = (pieces: readonly Piece[]): Piece[][] => {
  const cells: Piece[][] = [];
  let [oldCell, newCell] = [0, 0];
  const put = (n: number, piece: Piece) => {
    while (cells.length <= n) cells.push([]);
    cells[n]?.push(piece);
  };
  for (const piece of pieces) {
    const has = { old: piece.old !== '', new: piece.new !== '' };
    const words = has.new ? piece.new : piece.old;
    let at = 0;
    for (const [i, part] of words.split(CELL).entries()) {
      if (i > 0) {
        if (has.old) oldCell++;
        if (has.new) newCell++;
      }
      put(has.new ? newCell : oldCell, {
        ...piece,
        old: has.old ? part : '',
        new: has.new ? part : '',
        oldAt: piece.oldAt + at,
        newAt: piece.newAt + at,
      });
      at += part.length + CELL.length;
    }
  }
  return cells;
};

/** A text in stretches of bold and plain, from the bold stretches of its block and its own place in it. */
export const boldParts = (
  text: string,
  at: number,
  bold: readonly (readonly [number, number])[],
): { text: string; bold: boolean }[] => {
  const cuts = new Set([0, text.length]);
  for (const [from, to] of bold)
    for (const cut of [from - at, to - at]) if (cut > 0 && cut < text.length) cuts.add(cut);
  const sorted = [...cuts].sort((a, b) => a - b);
  return sorted.slice(0, -1).map((from, i) => {
    const to = sorted[i + 1] ?? text.length;
    return { text: text.slice(from, to), bold: bold.some(([a, b]) => a <= from + at && to + at <= b) };
  });
};

/** Pictures of one side that the other lacks. */
export const picturesApart = (one: readonly TextBlock[], other: readonly TextBlock[]): Picture[] => {
  const known = new Set(other.flatMap((block) => (block.kind === 'picture' ? [block.source] : [])));
  return one.filter((block): block is Picture => block.kind === 'picture' && !known.has(block.source));
};
