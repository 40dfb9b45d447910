import { type PDFDocument, type PDFFont, rgb } from '@cantoo/pdf-lib';
import { inLines, written } from './pdfText.ts';

/** What a page of signatures says: of which revision they are, and each with who, what it means, when, and over what. */
export type SignaturePage = {
  title: string;
  about: string;
  signatures: readonly { who: string; meaning: string; when: string; fingerprint: string }[];
  /** Below the last of them. */
  note: string;
};

/** A4, upright, in points. */
const [WIDE, HIGH] = [595.28, 841.89];
const [LEFT, TOP, BOTTOM] = [64, 72, 64];
const [INK, LIGHT, LINE] = [rgb(0.1, 0.15, 0.18), rgb(0.33, 0.4, 0.44), rgb(0.7, 0.75, 0.78)];
const SIGNATURE_HIGH = 64;

/**
 * Adds pages with signatures at the end of a PDF: name, meaning and time of each together (21 CFR 11.50(a)), and the fingerprint of the
 * record that it is bound to.
 */
export const addSignaturePages = (
  pdf: PDFDocument,
  { plain, bold }: { plain: PDFFont; bold: PDFFont },
  { title, about, signatures, note }: SignaturePage,
): void => {
  let page = pdf.addPage([WIDE, HIGH]);
  let y = HIGH - TOP;
  const text = (font: PDFFont, words: string, size: number, color = INK) => {
    for (const line of inLines(font, written(font, words), size, WIDE - 2 * LEFT)) {
      page.drawText(line, { x: LEFT, y, size, font, color });
      y -= size * 1.45;
    }
  };
  text(bold, title, 17);
  y -= 2;
  text(plain, about, 10.5, LIGHT);
  for (const one of signatures) {
    if (y - SIGNATURE_HIGH < BOTTOM) {
      page = pdf.addPage([WIDE, HIGH]);
      y = HIGH - TOP;
    }
    y -= 6;
    page.drawLine({ start: { x: LEFT, y }, end: { x: WIDE - LEFT, y }, thickness: 0.6, color: LINE });
    y -= 17;
    text(bold, one.who, 11.5);
    text(plain, one.meaning, 10.5);
    text(plain, one.when, 9.5, LIGHT);
    text(plain, one.fingerprint, 8, LIGHT);
  }
  y -= 10;
  text(plain, note, 8.5, LIGHT);
};
