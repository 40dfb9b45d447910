import cyrillic from '@fontsource/noto-sans/files/noto-sans-cyrillic-400-normal.woff?url';
import cyrillicBold from '@fontsource/noto-sans/files/noto-sans-cyrillic-700-normal.woff?url';
import greek from '@fontsource/noto-sans/files/noto-sans-greek-400-normal.woff?url';
import greekBold from '@fontsource/noto-sans/files/noto-sans-greek-700-normal.woff?url';
import latin from '@fontsource/noto-sans/files/noto-sans-latin-400-normal.woff?url';
import latinBold from '@fontsource/noto-sans/files/noto-sans-latin-700-normal.woff?url';
import latinExt from '@fontsource/noto-sans/files/noto-sans-latin-ext-400-normal.woff?url';
import latinExtBold from '@fontsource/noto-sans/files/noto-sans-latin-ext-700-normal.woff?url';
import type { FontBytes } from './pages.ts';

/** The typeface in the parts in which it is shipped, the most frequent first. */
const PARTS: readonly [plain: string, bold: string][] = [
  [latin, latinBold],
  [latinExt, latinExtBold],
  [greek, greekBold],
  [cyrillic, cyrillicBold],
];

const bytesAt = async (address: string): Promise<Uint8Array> => {
  const response = await fetch(address);
  if (!response.ok) throw new Error('The typeface for the report could not be loaded.');
  return new Uint8Array(await response.arrayBuffer());
};

/** The typeface of reports. */
export const loadFonts = (): Promise<FontBytes[]> =>
  Promise.all(PARTS.map(async ([plain, bold]) => ({ plain: await bytesAt(plain), bold: await bytesAt(bold) })));
