import { comparedInWords } from '@kanonos/core';
import { count } from '../../../ui/format.ts';
import { layPage } from '../laying.ts';
import { placesOf } from '../layOut.ts';
import { overlaid } from '../overlaid.ts';
import { openPages } from '../rasters.ts';
import { metadataApart, sideName } from '../sides.ts';
import type { Comparison } from '../useComparison.ts';
import { wording } from '../wording.ts';
import type { OverlaidPage } from './comparisonPdf.ts';

/** More pages are not laid over each other for a report. */
const MOST_PAGES = 60;

const layAll = async (
  { old, new: now }: Pick<Comparison, 'old' | 'new'>,
  progress: (summary: string) => void,
): Promise<OverlaidPage[]> => {
  const [a, b] = [overlaid(old), overlaid(now)];
  if (!a || !b) return [];
  const pages = { old: await openPages(a), new: await openPages(b) };
  try {
    const most = Math.min(MOST_PAGES, Math.max(pages.old.count, pages.new.count));
    const laid: OverlaidPage[] = [];
    for (let page = 1; page <= most; page++) {
      progress(wording.pageOf(page, most));
      const { over, width, height, regions } = await layPage(pages, page);
      laid.push({ png: over, width, height, regions });
    }
    return laid;
  } finally {
    pages.old.close();
    pages.new.close();
  }
};

/** Whether there is something to report: words that were compared, or pages that can be laid over each other. */
export const canReport = ({ old, new: now, compared }: Comparison): boolean =>
  old !== undefined &&
  now !== undefined &&
  (compared !== null || (overlaid(old) !== undefined && overlaid(now) !== undefined));

/** The comparison as a PDF file; the writing library is loaded on request. */
export const makeReport = async (
  comparison: Comparison,
  about: { title: string; made: string },
  progress: (summary: string) => void,
): Promise<{ name: string; bytes: Uint8Array }> => {
  const { old, new: now, compared } = comparison;
  if (!old || !now) throw new Error('The versions are not ready yet.');
  progress('begun');
  const [{ comparisonPdf }, { loadFonts }] = await Promise.all([import('./comparisonPdf.ts'), import('./fonts.ts')]);
  const metadata = metadataApart(old, now);
  const pages = await layAll(comparison, progress);
  const differing = pages.reduce((sum, page) => sum + page.regions.length, 0);
  const seen = pages.length > 0 ? `${count(differing, wording.visibleDifference, wording.visibleDifferences)}` : '';
  const words = compared ? comparedInWords(compared.counts, metadata.length) || wording.theTextsAreIdentical2 : '';
  progress(wording.creatingTheReport);
  const bytes = await comparisonPdf(
    {
      title: about.title,
      old,
      new: now,
      oldName: sideName(old),
      newName: sideName(now),
      summary: [words, seen].filter(Boolean).join('; '),
      metadata,
      words: compared && placesOf(compared.parts),
      overlaid: pages,
      made: about.made,
    },
    await loadFonts(),
  );
  const name = wording.toPdf(now.document.number, sideName(old), sideName(now)).replace(/[^\p{L}\p{N} .,_-]/gu, '-');
  return { name, bytes };
};
