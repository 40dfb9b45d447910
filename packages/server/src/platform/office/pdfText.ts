import type { PDFFont } from '@cantoo/pdf-lib';

/** Letters that the standard fonts of PDF (ISO 32000-2, 9.6.2.2) have; others become a question mark. */
export const written = (font: PDFFont, text: string): string => {
  const known = new Set(font.getCharacterSet());
  return [...text.normalize('NFC').replaceAll(/\s+/g, ' ')]
    .map((letter) => (known.has(letter.codePointAt(0) ?? 0) ? letter : '?'))
    .join('');
};

/** A text in lines that fit a width. */
export const inLines = (font: PDFFont, text: string, size: number, room: number): string[] => {
  const lines: string[] = [];
  for (const word of text.split(' ')) {
    const last = lines.at(-1);
    const longer = last === undefined ? word : `${last} ${word}`;
    if (last !== undefined && font.widthOfTextAtSize(longer, size) <= room) lines[lines.length - 1] = longer;
    else lines.push(word);
  }
  return lines;
};
