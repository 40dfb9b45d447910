import { type Refusal, refusal } from '../result.ts';
import { isLanguage } from './titles.ts';

/** The facts about one of several originals. */
export type OriginalAbout = { description: string; language: string; sheet: number | null };

/**
 * What is wrong with the originals of a version: no language tags, sheets twice, or sheets that leave one out (they count
 * from 1 to how many there are).
 */
export const checkOriginals = (originals: readonly OriginalAbout[]): Refusal[] => {
  const refusals = originals
    .filter(({ language }) => language !== '' && !isLanguage(language))
    .map(({ language }) => refusal('title_language_invalid', { language }));
  const sheets = originals.flatMap(({ sheet }) => (sheet === null ? [] : [sheet])).sort((a, b) => a - b);
  // The same sheet may be there in several languages.
  const once = [...new Set(sheets)];
  const gap = once.findIndex((sheet, index) => sheet !== index + 1);
  if (gap >= 0) refusals.push(refusal('sheet_left_out', { sheet: gap + 1, of: once.at(-1) ?? 0 }));
  return refusals;
};

/** "sheet 2 of 3", or nothing. */
export const sheetWords = (sheet: number | null, all: readonly OriginalAbout[]): string =>
  sheet === null ? '' : `sheet ${sheet} of ${Math.max(...all.map((one) => one.sheet ?? 0))}`;
