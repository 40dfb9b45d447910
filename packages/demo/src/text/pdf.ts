import { PDFDocument, type PDFFont, type PDFPage, rgb, StandardFonts } from '@cantoo/pdf-lib';
import { pictureOf } from '../figures/pictures.ts';
import { type Block, plain, type Run } from './blocks.ts';

const PAGE = { width: 595, height: 842, margin: 62, foot: 40 };
const INK = rgb(0.07, 0.13, 0.16);
const GREY = rgb(0.54, 0.59, 0.61);
/** Characters that the standard fonts of PDF lack (WinAnsi), and what is written instead. */
const INSTEAD: Record<string, string> = {
  '→': '->',
  '≤': '<=',
  '≥': '>=',
  '−': '-',
  Ω: 'Ohm',
  '\u2009': ' ',
  '\u202f': ' ',
};
const written = (text: string) => text.replace(/[→≤≥−Ω\u2009\u202f]/g, (c) => INSTEAD[c] ?? ' ');

type Fonts = { plain: PDFFont; bold: PDFFont; italic: PDFFont };
type Look = { size: number; bold?: boolean; italic?: boolean; left?: number; after?: number };

/** One page after the other, filled from the top. */
class Pages {
  page: PDFPage;
  y = 0;
  constructor(
    readonly pdf: PDFDocument,
    readonly fonts: Fonts,
  ) {
    this.page = this.begin();
  }
  begin(): PDFPage {
    this.page = this.pdf.addPage([PAGE.width, PAGE.height]);
    this.y = PAGE.height - PAGE.margin;
    return this.page;
  }
  /** Begins a page where so much height is not left on this one. */
  need(height: number): void {
    if (this.y - height < PAGE.margin) this.begin();
  }
  fontOf(run: { bold?: boolean | undefined; italic?: boolean | undefined }): PDFFont {
    return run.bold ? this.fonts.bold : run.italic ? this.fonts.italic : this.fonts.plain;
  }
  /** Words of runs as lines that fit into a width. */
  lines(
    runs: readonly Run[],
    size: number,
    width: number,
    bold = false,
  ): { text: string; font: PDFFont; x: number }[][] {
    const lines: { text: string; font: PDFFont; x: number }[][] = [[]];
    let x = 0;
    for (const run of runs) {
      const font = this.fontOf({ bold: bold || run.bold, italic: run.italic });
      for (const word of written(run.text).split(/(?<= )/)) {
        const wide = font.widthOfTextAtSize(word.trimEnd(), size);
        if (x > 0 && x + wide > width) {
          lines.push([]);
          x = 0;
        }
        if (word.trim() || x > 0) lines.at(-1)?.push({ text: word, font, x });
        x += font.widthOfTextAtSize(word, size);
      }
    }
    return lines;
  }
  write(runs: readonly Run[], { size, bold = false, left = 0, after = 6 }: Look): void {
    for (const line of this.lines(runs, size, PAGE.width - 2 * PAGE.margin - left, bold)) {
      this.need(size * 1.4);
      this.y -= size * 1.4;
      for (const { text, font, x } of line)
        this.page.drawText(text, { x: PAGE.margin + left + x, y: this.y, size, font, color: INK });
    }
    this.y -= after;
  }
}

const run = (text: string, look: { bold?: boolean; italic?: boolean } = {}): Run[] => [
  { text, bold: look.bold ?? false, italic: look.italic ?? false },
];

/** Columns as wide as what is in them asks, together as wide as the page. */
const widthsOf = (pages: Pages, rows: Run[][][], size: number): number[] => {
  const wanted = (rows[0] ?? []).map((_, c) =>
    Math.max(
      36,
      ...rows.map((cells) =>
        Math.min(260, pages.fonts.plain.widthOfTextAtSize(written(plain(cells[c] ?? [])), size) + 16),
      ),
    ),
  );
  const all = wanted.reduce((sum, width) => sum + width, 0);
  return wanted.map((width) => (width * (PAGE.width - 2 * PAGE.margin)) / all);
};

const table = (pages: Pages, rows: Run[][][]): void => {
  const size = 9.5;
  const widths = widthsOf(pages, rows, size);
  for (const [r, cells] of rows.entries()) {
    const lined = cells.map((runs, c) => pages.lines(runs, size, (widths[c] ?? 0) - 10, r === 0));
    const height = Math.max(...lined.map((lines) => lines.length)) * size * 1.35 + 12;
    pages.need(height);
    let left = PAGE.margin;
    for (const [c, lines] of lined.entries()) {
      const width = widths[c] ?? 0;
      pages.page.drawRectangle({
        x: left,
        y: pages.y - height,
        width,
        height,
        borderColor: GREY,
        borderWidth: 0.6,
        ...(r === 0 ? { color: rgb(0.9, 0.93, 0.94) } : {}),
      });
      for (const [n, line] of lines.entries())
        for (const { text, font, x } of line)
          pages.page.drawText(text, { x: left + 5 + x, y: pages.y - 5 - (n + 1) * size * 1.3, size, font, color: INK });
      left += width;
    }
    pages.y -= height;
  }
  pages.y -= 10;
};

const figure = async (pages: Pages, name: string, caption: string): Promise<void> => {
  const { bytes, width, height } = await pictureOf(name, 'jpg');
  const image = await pages.pdf.embedJpg(bytes);
  const shown = Math.min(430, width);
  const high = (height * shown) / width;
  pages.need(high + 30);
  pages.page.drawImage(image, { x: (PAGE.width - shown) / 2, y: pages.y - high, width: shown, height: high });
  pages.y -= high + 4;
  pages.write(run(caption, { italic: true }), { size: 9, left: (PAGE.width - shown) / 2 - PAGE.margin, after: 10 });
};

const put = async (pages: Pages, block: Block): Promise<void> => {
  switch (block.kind) {
    case 'title':
      return pages.write(run(block.text), { size: 18, bold: true, after: 12 });
    case 'heading':
      pages.need(60);
      pages.y -= block.level === 1 ? 8 : 2;
      return pages.write(run(block.text), { size: block.level === 1 ? 12.5 : 11, bold: true, after: 4 });
    case 'paragraph':
      // A paragraph in bold is the name of the table below it.
      if (block.runs.every((run) => run.bold)) pages.need(90);
      return pages.write(block.runs, { size: 10.5 });
    case 'warning': {
      const [page, top] = [pages.page, pages.y];
      pages.write(block.runs, { size: 10.5, left: 12 });
      if (page === pages.page)
        page.drawRectangle({
          x: PAGE.margin,
          y: pages.y + 3,
          width: 3,
          height: top - pages.y - 5,
          color: rgb(0.65, 0.17, 0.08),
        });
      return;
    }
    case 'item':
      return pages.write([...run(`${block.mark} `), ...block.runs], { size: 10.5, left: 14, after: 3 });
    case 'table':
      return table(pages, block.rows);
    case 'page':
      pages.begin();
      return;
    case 'figure':
      return figure(pages, block.name, block.caption);
  }
};

/** A PDF (ISO 32000) with pages of running text, tables and pictures, each page with its number. */
export const pdfOf = async (blocks: readonly Block[]): Promise<Buffer> => {
  const pdf = await PDFDocument.create();
  const fixed = new Date('2020-01-01T12:00:00Z');
  const title = blocks.find((block) => block.kind === 'title')?.text ?? '';
  pdf.setTitle(title);
  pdf.setCreationDate(fixed);
  pdf.setModificationDate(fixed);
  pdf.setProducer('Tarnholt Ropeways');
  const pages = new Pages(pdf, {
    plain: await pdf.embedFont(StandardFonts.Helvetica),
    bold: await pdf.embedFont(StandardFonts.HelveticaBold),
    italic: await pdf.embedFont(StandardFonts.HelveticaOblique),
  });
  for (const block of blocks) await put(pages, block);
  const all = pdf.getPages();
  for (const [i, page] of all.entries())
    page.drawText(`Page ${i + 1} of ${all.length}`, {
      x: PAGE.width - PAGE.margin - 60,
      y: PAGE.foot,
      size: 8,
      font: pages.fonts.plain,
      color: GREY,
    });
  return Buffer.from(await pdf.save({ useObjectStreams: false }));
};
