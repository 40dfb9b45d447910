import { execFile } from 'node:child_process';
import { readFile } from 'node:fs/promises';
import { promisify } from 'node:util';
import sharp from 'sharp';
import { drawDxfSmall } from './drawing.ts';

const run = promisify(execFile);
const SECONDS = 30;
const MOST_DRAWN = 80 * 1024 * 1024;
/** A picture that unfolds to more is not looked at. */
const MOST_PIXELS = 120_000_000;
const PDF = 'application/pdf';
const DXF = 'image/vnd.dxf';

/**
 * A page of a PDF, a picture or a drawing, as a PNG on white that fits into a square. SVG is drawn without fetching what it names.
 *
 * @param side pixels of the longer side
 * @throws when it cannot be drawn within the limits of time and size
 */
export const drawPage = async (path: string, mediaType: string, page: number, side: number): Promise<Buffer> => {
  if (mediaType === PDF) {
    const at = ['-f', String(page), '-l', String(page)];
    const { stdout } = await run('pdftoppm', ['-png', '-singlefile', ...at, '-scale-to', String(side), path], {
      timeout: SECONDS * 1000,
      maxBuffer: MOST_DRAWN,
      encoding: 'buffer',
    });
    return stdout;
  }
  const isDrawing = mediaType === DXF;
  return sharp(isDrawing ? await drawDxfSmall(path, side) : await readFile(path), {
    limitInputPixels: MOST_PIXELS,
    pages: 1,
  })
    .timeout({ seconds: SECONDS })
    .rotate()
    .resize(side, side, { fit: 'inside', withoutEnlargement: mediaType !== 'image/svg+xml' && !isDrawing })
    .flatten({ background: '#ffffff' })
    .png()
    .toBuffer();
};

/** The same page as bare pixels (red, green, blue, opacity), to be compared with another. */
export const rasterOfPage = async (
  path: string,
  mediaType: string,
  page: number,
  side: number,
): Promise<{ data: Uint8Array; width: number; height: number }> => {
  const png = await drawPage(path, mediaType, page, side);
  const { data, info } = await sharp(png).ensureAlpha().raw().toBuffer({ resolveWithObject: true });
  return { data, width: info.width, height: info.height };
};
