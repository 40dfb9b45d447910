import { PDFDocument, rgb, StandardFonts } from '@cantoo/pdf-lib';
import { inLines, written } from './pdfText.ts';

/** A record as it is printed: what it is, what was answered section by section, and a line at the foot of each page. */
export type PrintedRecord = {
  title: string;
  about: string;
  sections: readonly { title: string; lines: readonly { label: string; value: string }[] }[];
  files: readonly string[];
  foot: string;
};

/** A4, upright, in points. */
const [WIDE, HIGH] = [595.28, 841.89];
const [LEFT, TOP, BOTTOM, LABEL_WIDE] = [56, 64, 62, 168];
const [INK, LIGHT, LINE] = [rgb(0.1, 0.15, 0.18), rgb(0.33, 0.4, 0.44), rgb(0.7, 0.75, 0.78)];

/** Prints a record on as many pages as it needs; the same record gives the same bytes. */
export const recordPdf = async ({ title, about, sections, files, foot }: PrintedRecord): Promise<Uint8Array> => {
  const pdf = await PDFDocument.create({ updateMetadata: false });
  pdf.setTitle(title);
  const [plain, bold] = [
    await pdf.embedFont(StandardFonts.Helvetica),
    await pdf.embedFont(StandardFonts.HelveticaBold),
  ];
  let page = pdf.addPage([WIDE, HIGH]);
  let y = HIGH - TOP;
  const room = (needed: number) => {
    if (y - needed >= BOTTOM) return;
    page = pdf.addPage([WIDE, HIGH]);
    y = HIGH - TOP;
  };
  const write = (font: typeof plain, words: string, size: number, color = INK) => {
    for (const line of inLines(font, written(font, words), size, WIDE - 2 * LEFT)) {
      room(size * 1.45);
      page.drawText(line, { x: LEFT, y, size, font, color });
      y -= size * 1.45;
    }
  };
  write(bold, title, 17);
  write(plain, about, 10, LIGHT);
  for (const section of sections) {
    room(60);
    y -= 12;
    page.drawLine({ start: { x: LEFT, y: y + 8 }, end: { x: WIDE - LEFT, y: y + 8 }, thickness: 0.6, color: LINE });
    y -= 8;
    write(bold, section.title, 12);
    y -= 2;
    for (const { label, value } of section.lines) {
      const labels = inLines(plain, written(plain, label), 9, LABEL_WIDE - 12);
      const values = value
        .split('\n')
        .flatMap((part) => inLines(plain, written(plain, part), 10, WIDE - 2 * LEFT - LABEL_WIDE));
      for (let at = 0; at < Math.max(labels.length, values.length); at++) {
        room(14);
        const [left, right] = [labels[at], values[at]];
        if (left) page.drawText(left, { x: LEFT, y, size: 9, font: plain, color: LIGHT });
        if (right) page.drawText(right, { x: LEFT + LABEL_WIDE, y, size: 10, font: plain, color: INK });
        y -= 14;
      }
      y -= 3;
    }
  }
  if (files.length > 0) {
    y -= 6;
    write(plain, `Files: ${files.join(', ')}`, 9.5, LIGHT);
  }
  for (const [at, one] of pdf.getPages().entries())
    one.drawText(written(plain, `${foot} · page ${at + 1} of ${pdf.getPageCount()}`), {
      x: LEFT,
      y: 34,
      size: 8,
      font: plain,
      color: LIGHT,
    });
  return pdf.save({ useObjectStreams: false });
};
