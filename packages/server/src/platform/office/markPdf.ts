import { degrees, PDFDocument, type PDFFont, rgb, StandardFonts } from '@cantoo/pdf-lib';
import { type PageBox, toPage } from '@kanonos/core';
import { boxOfPage } from './pdfPage.ts';
import { written } from './pdfText.ts';
import { addSignaturePages, type SignaturePage } from './signaturePage.ts';

/**
 * The marking of a PDF copy: a header and a footer line on each page, a word across it where it no longer applies, and its signatures as
 * a last page.
 */
export type PageMarks = { head: string; foot: string; across: string; signatures?: SignaturePage };

const [SIZE, MARGIN] = [7.5, 18];
const INK = rgb(0.2, 0.28, 0.32);
const RED = rgb(0.7, 0.13, 0.07);
/** A program's signature covers every byte: whatever is added breaks it. */
const SIGNED = /\/ByteRange\s*\[/;

/** A visible place, measured from the left and from below, in the page's own coordinates. */
const placeOn = (box: PageBox, seen: { wide: number; high: number }, across: number, up: number) => {
  const [x, y] = toPage([across / seen.wide, 1 - up / seen.high], box);
  return { x, y };
};

/** A text cut so that it fits a width. */
const fitting = (font: PDFFont, text: string, room: number): string => {
  let cut = text;
  while (cut && font.widthOfTextAtSize(cut, SIZE) > room) cut = cut.slice(0, -1);
  return cut;
};

/**
 * Marks every page of a PDF copy. The same bytes and words give the same copy. Undefined where it is handed out unchanged:
 * signed by a program, locked with a password, or not to be read.
 */
export const markPdf = async (
  bytes: Uint8Array,
  { head, foot, across, signatures }: PageMarks,
): Promise<Uint8Array | undefined> => {
  if (SIGNED.test(Buffer.from(bytes).toString('latin1'))) return undefined;
  let pdf: PDFDocument;
  try {
    pdf = await PDFDocument.load(bytes, { updateMetadata: false });
    pdf.getPages();
  } catch {
    return undefined;
  }
  const [plain, bold] = [
    await pdf.embedFont(StandardFonts.Helvetica),
    await pdf.embedFont(StandardFonts.HelveticaBold),
  ];
  if (signatures) addSignaturePages(pdf, { plain, bold }, signatures);
  const [above, below, word] = [written(plain, head), written(plain, foot), written(bold, across)];
  for (const page of pdf.getPages()) {
    const box = boxOfPage(page);
    const [wide, high] = box.rotation % 180 === 0 ? [box.width, box.height] : [box.height, box.width];
    const at = (across: number, up: number) => placeOn(box, { wide, high }, across, up);
    const line = (text: string, up: number) =>
      text &&
      page.drawText(fitting(plain, text, wide - 2 * MARGIN), {
        ...at(MARGIN, up),
        size: SIZE,
        font: plain,
        color: across ? RED : INK,
        rotate: degrees(box.rotation),
      });
    line(above, high - MARGIN);
    line(below, MARGIN - SIZE / 2);
    if (!word) continue;
    const size = Math.min(96, (0.8 * Math.hypot(wide, high)) / Math.max(1, bold.widthOfTextAtSize(word, 1)));
    const angle = (Math.atan2(high, wide) * 180) / Math.PI;
    const half = bold.widthOfTextAtSize(word, size) / 2;
    const [dx, dy] = [half * Math.cos((angle * Math.PI) / 180), half * Math.sin((angle * Math.PI) / 180)];
    page.drawText(word, {
      ...at(wide / 2 - dx, high / 2 - dy),
      size,
      font: bold,
      color: RED,
      opacity: 0.16,
      rotate: degrees(box.rotation + angle),
    });
  }
  return pdf.save({ useObjectStreams: false, updateFieldAppearances: false });
};
