import { PDFDocument, type PDFFont, type PDFPage, rgb } from '@cantoo/pdf-lib';
import * as fontkit from 'fontkit';
import { wording } from '../wording.ts';

export type Colour = readonly [red: number, green: number, blue: number];
export type Look = {
  bold?: boolean;
  colour?: Colour;
  /** Painted below the words. */
  back?: Colour;
  line?: 'under' | 'through';
};
export type Run = Look & { text: string };
export type Box = { x: number; y: number; width: number; height: number };
/** One part of a typeface: the characters that it has are drawn with it. */
export type FontBytes = { plain: Uint8Array; bold: Uint8Array };

export const INK: Colour = [0.07, 0.13, 0.16];
export const GREY: Colour = [0.36, 0.44, 0.48];
const [WIDTH, HEIGHT, MARGIN, FOOT] = [595.28, 841.89, 54, 30];
/** What no part of the typeface has is written otherwise. */
const INSTEAD: Readonly<Record<string, string>> = {
  '→': '->',
  '←': '<-',
  '≤': '<=',
  '≥': '>=',
  '≠': '!=',
  '−': '-',
  '‑': '-',
  '\u00ad': '',
  '\u2028': '\n',
  '\t': '    ',
};

type Part = { plain: PDFFont; bold: PDFFont; has: ReadonlySet<number> };
type Glyph = { text: string; font: PDFFont; width: number; look: Look };

const colour = ([red, green, blue]: Colour) => rgb(red, green, blue);

/**
 * A PDF that is written from top to bottom: paragraphs of runs, rules and pictures, broken into pages (A4, points) with a foot that
 * says what it is and which page of how many.
 */
export const createPages = async (fonts: readonly FontBytes[], foot: string, title: string) => {
  const pdf = await PDFDocument.create();
  pdf.registerFontkit(fontkit as never);
  pdf.setTitle(title);
  pdf.setProducer(wording.kanonos);
  const embed = (bytes: Uint8Array) => pdf.embedFont(bytes, { subset: true, features: { liga: false, kern: false } });
  const parts: Part[] = [];
  for (const { plain, bold } of fonts) {
    const font = await embed(plain);
    parts.push({ plain: font, bold: await embed(bold), has: new Set(font.getCharacterSet()) });
  }
  let page: PDFPage = pdf.addPage([WIDTH, HEIGHT]);
  let y = HEIGHT - MARGIN;
  const widths = new Map<string, number>();

  const next = (size: [number, number] = [WIDTH, HEIGHT]) => {
    page = pdf.addPage(size);
    y = size[1] - MARGIN;
  };

  const glyphsOf = (text: string, look: Look, size: number): Glyph[] =>
    [...text.normalize('NFC')].flatMap((raw): Glyph[] => {
      const known = (char: string) => parts.find((part) => part.has.has(char.codePointAt(0) ?? 0));
      const chars = known(raw) || raw === '\n' ? [raw] : [...(INSTEAD[raw] ?? '?')];
      return chars.map((char) => {
        const part = known(char) ?? (parts[0] as Part);
        const font = look.bold ? part.bold : part.plain;
        const key = `${char}${look.bold ? 'b' : ''}${parts.indexOf(part)}`;
        const width = char === '\n' ? 0 : (widths.get(key) ?? font.widthOfTextAtSize(char, 1));
        widths.set(key, width);
        return { text: char, font, width: width * size, look };
      });
    });

  /** Glyphs in lines that fit: broken at blanks, at line ends, and inside a word only where it is longer than a line. */
  const linesOf = (glyphs: readonly Glyph[], room: number): Glyph[][] => {
    const lines: Glyph[][] = [[]];
    let [used, lastBlank] = [0, -1];
    for (const glyph of glyphs) {
      if (glyph.text === '\n') {
        lines.push([]);
        [used, lastBlank] = [0, -1];
        continue;
      }
      let line = lines.at(-1) as Glyph[];
      if (used + glyph.width > room && line.length > 0 && glyph.text !== ' ') {
        const rest = lastBlank >= 0 ? line.splice(lastBlank + 1) : [];
        line = rest;
        lines.push(line);
        used = rest.reduce((sum, one) => sum + one.width, 0);
        lastBlank = -1;
      }
      line.push(glyph);
      used += glyph.width;
      if (glyph.text === ' ') lastBlank = line.length - 1;
    }
    return lines;
  };

  const drawLine = (line: readonly Glyph[], left: number, size: number) => {
    let x = left;
    for (let at = 0; at < line.length; ) {
      const first = line[at] as Glyph;
      let end = at;
      while (end < line.length && line[end]?.font === first.font && line[end]?.look === first.look) end++;
      const stretch = line.slice(at, end);
      const width = stretch.reduce((sum, one) => sum + one.width, 0);
      const { back, line: stroke, colour: of = INK } = first.look;
      if (back) page.drawRectangle({ x, y: y - size * 0.28, width, height: size * 1.24, color: colour(back) });
      page.drawText(stretch.map((one) => one.text).join(''), { x, y, size, font: first.font, color: colour(of) });
      if (stroke) {
        const at_ = stroke === 'under' ? y - size * 0.16 : y + size * 0.3;
        page.drawLine({
          start: { x, y: at_ },
          end: { x: x + width, y: at_ },
          thickness: size * 0.07,
          color: colour(of),
        });
      }
      x += width;
      at = end;
    }
  };

  const write = (
    runs: readonly Run[],
    { size = 10, after = 5, indent = 0 }: { size?: number; after?: number; indent?: number } = {},
  ): void => {
    const glyphs = runs.flatMap((run) => {
      const { text, ...look } = run;
      return glyphsOf(text, look, size);
    });
    const height = size * 1.42;
    for (const line of linesOf(glyphs, WIDTH - 2 * MARGIN - indent)) {
      if (y - height < MARGIN + FOOT) next();
      y -= height;
      drawLine(line, MARGIN + indent, size);
    }
    y -= after;
  };

  const rule = (): void => {
    y -= 3;
    page.drawLine({ start: { x: MARGIN, y }, end: { x: WIDTH - MARGIN, y }, thickness: 0.6, color: colour(GREY) });
    y -= 6;
  };

  /** A picture on a page of its own, upright or lying as it fits better, with a line above it and boxes on it (in its pixels). */
  const picture = async (
    png: string,
    pixels: { width: number; height: number },
    about: string,
    boxes: readonly Box[],
  ) => {
    const lying = pixels.width > pixels.height;
    next(lying ? [HEIGHT, WIDTH] : [WIDTH, HEIGHT]);
    const wide = lying ? HEIGHT : WIDTH;
    y -= 12;
    drawLine(glyphsOf(about, {}, 10), MARGIN, 10);
    const image = await pdf.embedPng(png);
    const scale = Math.min((wide - 2 * MARGIN) / pixels.width, (y - MARGIN - FOOT - 10) / pixels.height);
    const [width, height] = [pixels.width * scale, pixels.height * scale];
    const at = { x: MARGIN, y: y - 10 - height };
    page.drawImage(image, { ...at, width, height });
    page.drawRectangle({ ...at, width, height, borderWidth: 0.5, borderColor: colour(GREY) });
    for (const box of boxes)
      page.drawRectangle({
        x: at.x + box.x * scale,
        y: at.y + height - (box.y + box.height) * scale,
        width: box.width * scale,
        height: box.height * scale,
        borderWidth: 1,
        borderColor: rgb(0.69, 0.44, 0),
        borderDashArray: [4, 2.5],
      });
    y = at.y;
  };

  const finish = async (): Promise<Uint8Array> => {
    const all = pdf.getPages();
    for (const [i, one] of all.entries()) {
      page = one;
      y = FOOT;
      const number = glyphsOf(wording.iOfAllCount(i + 1, all.length), { colour: GREY }, 8);
      drawLine(glyphsOf(foot, { colour: GREY }, 8), MARGIN, 8);
      drawLine(number, one.getWidth() - MARGIN - number.reduce((sum, glyph) => sum + glyph.width, 0), 8);
    }
    return pdf.save();
  };
  return { write, rule, picture, finish };
};

export type Pages = Awaited<ReturnType<typeof createPages>>;
