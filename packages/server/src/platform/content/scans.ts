import { PDFDocument } from '@cantoo/pdf-lib';
import sharp from 'sharp';

const MOST_PAGES = 300;
const MOST_PIXELS = 120_000_000;
const SECONDS = 60;
/** The assumed resolution of a scan that declares none, in points per inch. */
const USUAL_DENSITY = 200;

/**
 * The pages of a TIFF, which browsers do not show, as a PDF in their true size: black and white without loss, the rest as photographs.
 *
 * @throws where it is no picture, or has more than 300 pages
 */
export const pagesOfScan = async (path: string): Promise<Uint8Array> => {
  const { pages = 1 } = await sharp(path).metadata();
  if (pages > MOST_PAGES) throw new Error(`It has more than ${MOST_PAGES} pages.`);
  const pdf = await PDFDocument.create();
  for (let page = 0; page < pages; page++) {
    const picture = sharp(path, { page, limitInputPixels: MOST_PIXELS }).timeout({ seconds: SECONDS });
    const { density = 0, depth, space, channels } = await picture.metadata();
    // More channels than colours and one for what shows through are measurements of some camera: they are left out.
    const upright =
      (channels ?? 3) > 4 ? picture.rotate().removeAlpha() : picture.rotate().flatten({ background: '#ffffff' });
    const isLine = depth === 'uchar' && (space === 'b-w' || channels === 1);
    const image = isLine
      ? await pdf.embedPng(await upright.toColourspace('b-w').png().toBuffer())
      : await pdf.embedJpg(await upright.toColourspace('srgb').jpeg({ quality: 88 }).toBuffer());
    const scale = 72 / (density >= 30 ? density : USUAL_DENSITY);
    const [width, height] = [image.width * scale, image.height * scale];
    pdf.addPage([width, height]).drawImage(image, { x: 0, y: 0, width, height });
  }
  return pdf.save();
};
