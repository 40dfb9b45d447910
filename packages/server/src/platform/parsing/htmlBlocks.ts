import { rowText, type TextBlock } from '@kanonos/core';
import { Parser } from 'htmlparser2';

const BOLD = new Set(['strong', 'b', 'th']);
/** Where one of these begins or ends, a paragraph ends. */
const BREAKS = new Set('p div blockquote pre ul ol hr dl dt dd figure figcaption section table'.split(' '));
const HEADING = /^h([1-6])$/;

type Cell = { text: string; isHead: boolean };

/** Gathers blocks while the tags and words of a text go by in their order. */
class Gathering {
  readonly blocks: TextBlock[] = [];
  private readonly lists: { next: number | null }[] = [];
  private tables = 0;
  private cells: Cell[] | null = null;
  private cell: Cell | null = null;
  private text = '';
  private bold: [number, number][] = [];
  private boldFrom: number | null = null;
  private bolds = 0;
  private level = 0;
  private mark: string | null = null;

  /** White space as HTML shows it: any run of it is one blank. */
  words(words: string): void {
    if (this.cell) this.cell.text += words;
    else if (!this.cells) {
      const clean = words.replace(/\s+/g, ' ');
      this.text += this.text === '' || this.text.endsWith(' ') ? clean.trimStart() : clean;
    }
  }

  open(name: string, attributes: Record<string, string>): void {
    if (this.cell && (BREAKS.has(name) || name === 'br')) this.cell.text += ' ';
    if (BREAKS.has(name) || HEADING.test(name) || name === 'li' || name === 'img') this.end();
    if (name === 'table') this.tables++;
    else if (name === 'tr') this.cells = [];
    else if (name === 'td' || name === 'th') this.cell = { text: '', isHead: name === 'th' };
    else if (name === 'ul' || name === 'ol')
      this.lists.push({ next: name === 'ol' ? Number(attributes.start ?? 1) : null });
    else if (name === 'li') this.mark = this.nextMark();
    else if (name === 'img' && !this.cells)
      this.blocks.push({ kind: 'picture', source: attributes.src ?? '', description: attributes.alt ?? '' });
    else if (name === 'br') this.words(' ');
    const heading = HEADING.exec(name);
    if (heading) this.level = Number(heading[1]);
    if (BOLD.has(name)) {
      this.bolds++;
      this.boldFrom ??= this.text.length;
    }
  }

  close(name: string): void {
    if (BOLD.has(name) && --this.bolds === 0) this.endBold(this.text.length);
    if (name === 'td' || name === 'th') {
      if (this.cell) this.cells?.push(this.cell);
      this.cell = null;
    } else if (name === 'tr') this.endRow();
    else if (BREAKS.has(name) || HEADING.test(name) || name === 'li') this.end();
    if (HEADING.test(name)) this.level = 0;
    if (name === 'ul' || name === 'ol') this.lists.pop();
    if (name === 'li' || name === 'ul' || name === 'ol') this.mark = null;
  }

  /** Ends the paragraph that is open. */
  end(): void {
    if (this.cells) return;
    const text = this.text.trimEnd();
    this.endBold(text.length);
    this.boldFrom = this.bolds > 0 ? 0 : null;
    if (text !== '') this.blocks.push(this.blockOf(text));
    this.text = '';
    this.bold = [];
  }

  private blockOf(text: string): TextBlock {
    if (this.level > 0) return { kind: 'heading', level: this.level, text, bold: [] };
    if (this.lists.length === 0 || this.mark === null) return { kind: 'paragraph', text, bold: this.bold };
    const { mark } = this;
    // A second paragraph of an item has no mark of its own.
    this.mark = '';
    return { kind: 'item', level: this.lists.length, mark, text, bold: this.bold };
  }

  private nextMark(): string {
    const list = this.lists.at(-1);
    return list && list.next !== null ? `${list.next++}.` : '•';
  }

  private endBold(at: number): void {
    if (this.boldFrom !== null && at > this.boldFrom) this.bold.push([this.boldFrom, at]);
    this.boldFrom = null;
  }

  private endRow(): void {
    const cells = this.cells ?? [];
    this.cells = null;
    if (cells.length === 0) return;
    const isHead = cells.every((one) => one.isHead);
    this.blocks.push({
      kind: 'row',
      table: this.tables,
      isHead,
      text: rowText(cells.map((one) => one.text)),
      bold: [],
    });
  }
}

/**
 * The blocks of clean reading text (HTML): headings, paragraphs, items of lists with their marks, rows of tables, pictures. What a cell
 * holds is one text, however many paragraphs it has.
 */
export const blocksOfHtml = (html: string): TextBlock[] => {
  const gathering = new Gathering();
  const parser = new Parser({
    onopentag: (name, attributes) => gathering.open(name, attributes),
    ontext: (words) => gathering.words(words),
    onclosetag: (name) => gathering.close(name),
  });
  parser.end(html);
  gathering.end();
  return gathering.blocks;
};
