import { PDFArray, PDFDict, PDFDocument, PDFHexString, PDFName, PDFNumber, PDFString } from '@cantoo/pdf-lib';
import { type Annotation, annotationOf, type Mark, type PageBox, type ReadAnnotation } from '@kanonos/core';
import { refused } from '../refused.ts';
import { boxOfPage } from './pdfPage.ts';

/** An annotation for a PDF: a mark, its author and time, and the words of its thread. */
export type Written = { id: string; mark: Mark; person: string; at: Date; text: string };
/** The prefix of our own annotations, by which they are recognised when they are read back. */
export const OWN = 'kanonos:';

export const openPdf = async (bytes: Uint8Array): Promise<PDFDocument> => {
  try {
    const pdf = await PDFDocument.load(bytes, { updateMetadata: false });
    pdf.getPages();
    return pdf;
  } catch {
    throw refused('pdf_unreadable');
  }
};

const dateOf = (at: Date) => PDFString.of(`D:${at.toISOString().replace(/[-:T]/g, '').slice(0, 14)}Z`);

const appearance = (pdf: PDFDocument, made: Annotation) =>
  pdf.context.register(
    pdf.context.stream(made.drawing, {
      Type: 'XObject',
      Subtype: 'Form',
      BBox: made.rect,
      Resources: {
        Font: { Helv: { Type: 'Font', Subtype: 'Type1', BaseFont: 'Helvetica', Encoding: 'WinAnsiEncoding' } },
        ExtGState: { Over: { Type: 'ExtGState', BM: 'Multiply', ca: 0.5 } },
      },
    }),
  );

/** Writes marks into a PDF as annotations (ISO 32000-2, 12.5.6), each with its author, its time and its own look. */
export const writeAnnotations = async (bytes: Uint8Array, written: readonly Written[]): Promise<Uint8Array> => {
  const pdf = await openPdf(bytes);
  const pages = pdf.getPages();
  for (const { id, mark, person, at, text } of written) {
    const page = pages[mark.page - 1];
    if (!page) continue;
    const made = annotationOf(mark, boxOfPage(page));
    const dict = pdf.context.obj({
      Type: 'Annot',
      Subtype: made.subtype,
      Rect: made.rect,
      C: made.colour,
      // Printed with the page.
      F: 4,
      ...(made.line ? { L: made.line.points, LE: ['None', made.line.arrow ? 'OpenArrow' : 'None'] } : {}),
      ...(made.ink ? { InkList: [made.ink] } : {}),
      ...(made.quad ? { QuadPoints: made.quad } : {}),
      ...(made.cloudy ? { BE: { S: 'C', I: 1 } } : {}),
      ...(made.subtype === 'FreeText' ? { DA: PDFString.of(`/Helv 11 Tf ${made.colour.join(' ')} rg`) } : {}),
    });
    dict.set(PDFName.of('NM'), PDFString.of(`${OWN}${id}`));
    dict.set(PDFName.of('T'), PDFHexString.fromText(person));
    dict.set(PDFName.of('Contents'), PDFHexString.fromText([made.text, text].filter(Boolean).join('\n\n')));
    dict.set(PDFName.of('M'), dateOf(at));
    dict.set(PDFName.of('CreationDate'), dateOf(at));
    dict.set(PDFName.of('AP'), pdf.context.obj({ N: appearance(pdf, made) }));
    page.node.addAnnot(pdf.context.register(dict));
  }
  return pdf.save({ useObjectStreams: false });
};

const numbers = (value: unknown): number[] =>
  value instanceof PDFArray ? value.asArray().flatMap((one) => (one instanceof PDFNumber ? [one.asNumber()] : [])) : [];
const words = (value: unknown): string =>
  value instanceof PDFString || value instanceof PDFHexString ? value.decodeText() : '';

export type ReadRemark = { name: string; author: string; page: number; box: PageBox; read: ReadAnnotation };
const MOST = 2000;

/** The annotations of a PDF with their authors, without those exported from here. */
export const readAnnotations = async (bytes: Uint8Array): Promise<ReadRemark[]> => {
  const pdf = await openPdf(bytes);
  const found: ReadRemark[] = [];
  for (const [i, page] of pdf.getPages().entries()) {
    const annots = page.node.Annots();
    for (let k = 0; annots && k < annots.size() && found.length < MOST; k++) {
      const dict = annots.lookup(k);
      if (!(dict instanceof PDFDict)) continue;
      const get = (key: string) => dict.lookup(PDFName.of(key));
      const name = words(get('NM'));
      const rect = numbers(get('Rect'));
      if (name.startsWith(OWN) || rect.length !== 4 || get('IRT')) continue;
      const [x1 = 0, y1 = 0, x2 = 0, y2 = 0] = rect;
      const subtype = get('Subtype');
      const ends = get('LE');
      const ink = get('InkList');
      const effect = get('BE');
      const line = numbers(get('L'));
      const colour = numbers(get('C'));
      const contents = words(get('Contents'));
      const kind = subtype instanceof PDFName ? subtype.decodeText() : '';
      found.push({
        name: name || `page ${i + 1} ${kind} ${rect.map((one) => one.toFixed(1)).join(' ')} ${contents.slice(0, 80)}`,
        author: words(get('T')),
        page: i + 1,
        box: boxOfPage(page),
        read: {
          subtype: kind,
          rect: [Math.min(x1, x2), Math.min(y1, y2), Math.max(x1, x2), Math.max(y1, y2)],
          text: contents,
          ...(colour.length === 3 ? { colour: colour as [number, number, number] } : {}),
          ...(line.length === 4 ? { line: line as [number, number, number, number] } : {}),
          ...(ends instanceof PDFArray && ends.toString().includes('Arrow') ? { arrow: true } : {}),
          ...(ink instanceof PDFArray && ink.size() > 0 ? { ink: numbers(ink.lookup(0)) } : {}),
          ...(effect instanceof PDFDict && String(effect.lookup(PDFName.of('S'))) === '/C' ? { cloudy: true } : {}),
        },
      });
    }
  }
  return found;
};
