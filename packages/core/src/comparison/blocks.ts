/** Parts the cells of a table row in its text. A cell that holds the sign itself gets a broken bar instead. */
const CELL = ' | ';

/** A text with the stretches of it that are written in bold, from and to, in characters. */
type Marked = { text: string; bold: [number, number][] };

/** A block of a document: what a paragraph of its text is, so that a comparison can show it as it looks in the document. */
export type TextBlock =
  | ({ kind: 'paragraph' } & Marked)
  | ({ kind: 'heading'; level: number } & Marked)
  | ({ kind: 'item'; level: number; mark: string } & Marked)
  /** A row of a table, with its cells as one text. Rows of one table have its number. */
  | ({ kind: 'row'; table: number; isHead: boolean } & Marked)
  | { kind: 'picture'; source: string; description: string };

/** The cells of a row as its text. */
export const rowText = (cells: readonly string[]): string =>
  cells.map((cell) => cell.replaceAll('|', '¦').replace(/\s+/g, ' ').trim()).join(CELL);

/** Whether a block has words of its own; a picture has none. */
export const hasText = (block: TextBlock): block is Exclude<TextBlock, { kind: 'picture' }> =>
  block.kind !== 'picture' && block.text.trim() !== '';

/** The text of blocks: a paragraph for each that has words, parted by blank lines. */
export const textOfBlocks = (blocks: readonly TextBlock[]): string =>
  blocks
    .filter(hasText)
    .map((block) => block.text)
    .join('\n\n');
