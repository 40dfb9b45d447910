import { rowText, type TextBlock } from '@kanonos/core';
import { Parser } from 'htmlparser2';

const BOLD = new Set(['strong', 'b', 'th']);
/** Where one of these begins or ends, a paragraph ends. */
const BREAKS = new Set([
  'p',
  'div',
  'blockquote',
  'pre',
  'ul',
  'ol',
  'hr',
  'dl',
  'dt',
  'dd',
  'figure',
  'figcaption',
  'section',
]);
const HEADING = /^h([1-6])$/;

type Cell = { text: string; isHead: boolean };
type Row = { cells: Cell[] };

/**
 * The blocks of clean reading text (HTML): headings, paragraphs, items of lists with their marks, rows of tables, pictures. What a cell
 * holds is one text, however many paragraphs it has.
 */
export const blocksOfHtml = (html: string): TextBlock[] => {
  const blocks: TextBlock[] = [];
  const lists: { next: number | null }[] = [];
  let tables = 0;
  let row: Row | null = null;
  let cell: Cell | null = null;
  let text = '';
  let bold: [number, number][] = [];
  let boldFrom: number | null = null;
  let bolds = 0;
  let level = 0;
  let mark: string | null = null;

  /** White space as HTML shows it: any run of it is one blank. */
  const write = (words: string) => {
    const clean = words.replace(/\s+/g, ' ');
    text += text === '' || text.endsWith(' ') ? clean.trimStart() : clean;
  };
  const endBold = () => {
    if (boldFrom !== null && text.trimEnd().length > boldFrom) bold.push([boldFrom, text.trimEnd().length]);
    boldFrom = bolds > 0 ? 0 : null;
  };
  const end = () => {
    if (row) return;
    endBold();
    const marked = { text: text.trimEnd(), bold };
    if (marked.text !== '') {
      if (level > 0) blocks.push({ kind: 'heading', level, text: marked.text, bold: [] });
      else if (lists.length > 0 && mark !== null) blocks.push({ kind: 'item', level: lists.length, mark, ...marked });
      else blocks.push({ kind: 'paragraph', ...marked });
      // A second paragraph of an item has no mark of its own.
      if (mark !== null) mark = '';
    }
    text = '';
    bold = [];
  };
  const endRow = () => {
    if (!row) return;
    const cells = row.cells;
    const isHead = cells.length > 0 && cells.every((one) => one.isHead);
    row = null;
    if (cells.length > 0)
      blocks.push({ kind: 'row', table: tables, isHead, text: rowText(cells.map((one) => one.text)), bold: [] });
  };

  const parser = new Parser({
    onopentag: (name, attributes) => {
      const heading = HEADING.exec(name);
      if (name === 'table') {
        end();
        tables++;
      } else if (name === 'tr') row = { cells: [] };
      else if (name === 'td' || name === 'th') cell = { text: '', isHead: name === 'th' };
      else if (heading) {
        end();
        level = Number(heading[1]);
      } else if (name === 'ul' || name === 'ol') {
        end();
        lists.push({ next: name === 'ol' ? Number(attributes.start ?? 1) : null });
      } else if (name === 'li') {
        end();
        const list = lists.at(-1);
        mark = list?.next === null || !list ? '•' : `${list.next}.`;
        if (list?.next) list.next++;
      } else if (name === 'img' && !row) {
        end();
        blocks.push({ kind: 'picture', source: attributes.src ?? '', description: attributes.alt ?? '' });
      } else if (name === 'br') write(' ');
      else if (BREAKS.has(name)) end();
      if (cell && name !== 'td' && name !== 'th' && (BREAKS.has(name) || name === 'br')) cell.text += ' ';
      if (BOLD.has(name)) {
        bolds++;
        boldFrom ??= text.length;
      }
    },
    ontext: (words) => {
      if (cell) cell.text += words;
      else if (!row) write(words);
    },
    onclosetag: (name) => {
      if (BOLD.has(name)) {
        bolds--;
        if (bolds === 0 && boldFrom !== null) {
          if (text.length > boldFrom) bold.push([boldFrom, text.length]);
          boldFrom = null;
        }
      }
      if (name === 'td' || name === 'th') {
        if (cell) row?.cells.push(cell);
        cell = null;
      } else if (name === 'tr') endRow();
      else if (HEADING.test(name)) {
        end();
        level = 0;
      } else if (name === 'li') {
        end();
        mark = null;
      } else if (name === 'ul' || name === 'ol') {
        end();
        lists.pop();
        mark = null;
      } else if (BREAKS.has(name)) end();
    },
  });
  parser.end(html);
  end();
  return blocks;
};
