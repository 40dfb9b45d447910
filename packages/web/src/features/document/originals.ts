import type { FileInfo, Upload } from '@kanonos/contract';
import { wording } from './wording.ts';

/** One of several originals in a form: sent anew, or kept from the version before. */
export type OriginalRow = {
  upload: Upload | null;
  kept: FileInfo | null;
  description: string;
  language: string;
  sheet: string;
};

export const keptRow = (file: FileInfo): OriginalRow => ({
  upload: null,
  kept: file,
  description: file.description,
  language: file.language,
  sheet: file.sheet === null ? '' : String(file.sheet),
});

export const EMPTY_ROW: OriginalRow = { upload: null, kept: null, description: '', language: '', sheet: '' };

/** The facts about an original, as the server takes them. */
export const toFacts = ({ description, language, sheet }: Pick<OriginalRow, 'description' | 'language' | 'sheet'>) => ({
  description,
  language: language.trim(),
  sheet: sheet.trim() === '' ? null : Number(sheet),
});

/** "Sheet 2 of 3, de: the left side" of a file beside the others of its version. */
export const saidOf = (file: FileInfo, files: readonly FileInfo[]): string => {
  const sheets = Math.max(0, ...files.map((one) => one.sheet ?? 0));
  return [file.sheet === null ? '' : wording.sheetOf(file.sheet, sheets), file.language, file.description]
    .filter(Boolean)
    .join(', ');
};
