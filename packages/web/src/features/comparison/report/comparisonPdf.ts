import type { SideContent } from '@kanonos/contract';
import type { ComparedPart, Region } from '@kanonos/core';
import { type Piece, type Place, pagesInWords } from '../layOut.ts';
import { wording } from '../wording.ts';
import { createPages, type FontBytes, GREY, type Look, type Run } from './pages.ts';

const IN: Look = { colour: [0.04, 0.33, 0.39], back: [0.87, 0.94, 0.95], line: 'under' };
const OUT: Look = { colour: [0.78, 0.16, 0.1], back: [0.98, 0.91, 0.89], line: 'through' };
const MOVED: Look = { back: [0.99, 0.95, 0.85] };
const LOOKS: Record<ComparedPart['kind'], Look> = { equal: {}, insert: IN, delete: OUT, moved: MOVED };
const KINDS: Record<Place['kind'], string> = { in: 'in', out: 'out', replaced: 'replaced', moved: 'moved' };

/** Pages of both laid over each other, as they were looked at. */
export type OverlaidPage = { png: string; width: number; height: number; regions: readonly Region[] };

export type Report = {
  title: string;
  old: SideContent;
  new: SideContent;
  oldName: string;
  newName: string;
  /** One sentence that sums up. */
  summary: string;
  metadata: readonly { label: string; old: string; new: string }[];
  words: { pieces: readonly Piece[]; places: readonly Place[] } | null;
  overlaid: readonly OverlaidPage[];
  /** Who made it and when, in words. */
  made: string;
};

/** A piece as runs of one text: what came, what went, what moved and what changed inside it. */
const roundsOf = (piece: Piece): Run[] => {
  const look = LOOKS[piece.kind];
  const text = (part: { old: string; new: string }) => (part.new || part.old).replaceAll('\f', '\n');
  if (piece.kind !== 'moved') return [{ ...look, text: text(piece) }];
  const tag = piece.new ? wording.movedHere2(piece.move) : wording.movedFromHere2(piece.move);
  const inside = piece.inner ?? [{ kind: 'moved' as const, old: piece.old, new: piece.new }];
  return [
    { text: tag, colour: GREY },
    ...inside.map((part) => ({ ...LOOKS[part.kind === 'equal' ? 'moved' : part.kind], text: text(part) })),
  ];
};

/** The comparison of two versions as a PDF: what differs in metadata and words, the whole text with its marks, pages over each other. */
export const comparisonPdf = async (report: Report, fonts: readonly FontBytes[]): Promise<Uint8Array> => {
  const { number } = report.new.document;
  const foot = wording.numberOldNameToNewNameMade(number, report.oldName, report.newName, report.made);
  const pages = await createPages(fonts, foot, wording.numberOldNameToNewName(number, report.oldName, report.newName));
  pages.write([{ text: number, colour: GREY }], { size: 10, after: 0 });
  pages.write([{ text: report.title, bold: true }], { size: 16, after: 8 });
  for (const [word, side, name] of [
    [wording.from, report.old, report.oldName],
    [wording.to, report.new, report.newName],
  ] as const)
    pages.write([
      { text: `${word}: `, colour: GREY },
      { text: side.document.number === number ? name : `${side.document.number}, ${name}`, bold: true },
      { text: `, ${side.state}, ${side.by.name}, ${side.at.slice(0, 10)}${side.note ? `: ${side.note}` : ''}` },
    ]);
  pages.rule();
  pages.write([{ text: report.summary, bold: true }]);
  if (report.metadata.length > 0) {
    pages.write([{ text: wording.metadata, bold: true }], { size: 12, after: 2 });
    for (const field of report.metadata)
      pages.write([
        { text: `${field.label}: ` },
        { ...OUT, text: field.old },
        { text: ' ' },
        { ...IN, text: field.new },
      ]);
  }
  if (report.words && report.words.places.length > 0) {
    pages.write([{ text: wording.changes, bold: true }], { size: 12, after: 2 });
    for (const place of report.words.places) {
      const where = [KINDS[place.kind], pagesInWords(place)].filter(Boolean).join(', ');
      pages.write([{ text: `${place.n}  ${where}`, colour: GREY }], { size: 8, after: 0 });
      pages.write(
        [
          ...(place.old && place.kind !== 'moved' ? [{ ...OUT, text: place.old }, { text: ' ' }] : []),
          ...(place.new || place.kind === 'moved' ? [{ ...IN, text: place.new || place.old }] : []),
        ],
        { size: 9, after: 3, indent: 14 },
      );
    }
  }
  if (report.words) {
    pages.rule();
    pages.write([{ text: wording.fullText, bold: true }], { size: 12 });
    pages.write(report.words.pieces.flatMap(roundsOf));
  }
  for (const [i, page] of report.overlaid.entries()) {
    const found = page.regions.length === 1 ? '1 difference' : `${page.regions.length} differences`;
    const about = wording.pageOverlayOfBothVersionsRed(
      i + 1,
      page.regions.length ? found : wording.noVisibleDifferences,
    );
    await pages.picture(page.png, page, about, page.regions);
  }
  return pages.finish();
};
