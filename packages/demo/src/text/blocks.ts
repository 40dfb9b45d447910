import markdownIt from 'markdown-it';

export type Run = { text: string; bold: boolean; italic: boolean };
export type Block =
  | { kind: 'title'; text: string }
  | { kind: 'heading'; level: 1 | 2; text: string }
  | { kind: 'paragraph'; runs: Run[] }
  | { kind: 'warning'; runs: Run[] }
  | { kind: 'item'; runs: Run[]; mark: string }
  /** A new page begins. */
  | { kind: 'page' }
  | { kind: 'table'; rows: Run[][][] }
  /** A drawn figure by its name, or a photograph (`photo:…`), with its caption. */
  | { kind: 'figure'; name: string; caption: string };

type Token = ReturnType<ReturnType<typeof markdownIt>['parse']>[number];
const markdown = markdownIt();

const runsOf = (inline: Token): Run[] => {
  const runs: Run[] = [];
  let [bold, italic] = [false, false];
  for (const child of inline.children ?? []) {
    if (child.type === 'strong_open' || child.type === 'strong_close') bold = child.type === 'strong_open';
    else if (child.type === 'em_open' || child.type === 'em_close') italic = child.type === 'em_open';
    else if (child.type === 'softbreak') runs.push({ text: ' ', bold, italic });
    else if (child.content) runs.push({ text: child.content, bold, italic });
  }
  return runs;
};
export const plain = (runs: readonly Run[]): string => runs.map(({ text }) => text).join('');

/** The blocks of a Markdown text in their order: what a Word file or a PDF is made of. A quotation is a warning. */
export const blocksOf = (text: string): Block[] => {
  const blocks: Block[] = [];
  const lists: { next: number | null }[] = [];
  let heading = 0;
  let item = '';
  let warning = false;
  let rows: Run[][][] | null = null;
  for (const token of markdown.parse(text, {})) {
    if (token.type === 'heading_open') heading = Number(token.tag.slice(1));
    else if (token.type === 'heading_close') heading = 0;
    else if (token.type === 'hr') blocks.push({ kind: 'page' });
    else if (token.type === 'blockquote_open' || token.type === 'blockquote_close') warning = token.nesting === 1;
    else if (token.type === 'bullet_list_open') lists.push({ next: null });
    else if (token.type === 'ordered_list_open') lists.push({ next: Number(token.attrGet('start') ?? 1) });
    else if (token.type === 'bullet_list_close' || token.type === 'ordered_list_close') lists.pop();
    else if (token.type === 'list_item_open') {
      const list = lists.at(-1);
      item = list?.next ? `${list.next++}.` : '•';
    } else if (token.type === 'list_item_close') item = '';
    else if (token.type === 'table_open') rows = [];
    else if (token.type === 'table_close') {
      if (rows) blocks.push({ kind: 'table', rows });
      rows = null;
    } else if (token.type === 'tr_open') rows?.push([]);
    else if (token.type === 'inline') {
      const figure = token.children?.find((child) => child.type === 'image');
      const runs = runsOf(token);
      if (rows) rows.at(-1)?.push(runs);
      else if (figure)
        blocks.push({
          kind: 'figure',
          name: decodeURIComponent(String(figure.attrGet('src'))),
          caption: figure.content,
        });
      else if (heading === 1) blocks.push({ kind: 'title', text: plain(runs) });
      else if (heading) blocks.push({ kind: 'heading', level: heading === 2 ? 1 : 2, text: plain(runs) });
      else if (warning) blocks.push({ kind: 'warning', runs });
      else if (item) blocks.push({ kind: 'item', runs, mark: item });
      else blocks.push({ kind: 'paragraph', runs });
    }
  }
  return blocks;
};
