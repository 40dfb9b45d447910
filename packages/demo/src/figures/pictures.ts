import sharp from 'sharp';
import { FIGURES } from './drawn.ts';
import { PHOTOGRAPHS } from './photographs.ts';

export type Picture = { bytes: Buffer; type: 'png' | 'jpg'; width: number; height: number };

const made = new Map<string, Promise<Picture>>();

const make = async (name: string, wanted: Picture['type']): Promise<Picture> => {
  const [what = '', ...rest] = name.split(':');
  const argument = rest.join(':');
  const photograph = what === 'photo';
  const draw = photograph ? PHOTOGRAPHS[argument] : FIGURES[what];
  if (!draw) throw new Error(`a text of the demo names the picture ${name}, which nobody draws`);
  // Grain costs by the pixel, and a photograph needs fewer than a line.
  const points = photograph ? 1 : 2;
  const image = sharp(Buffer.from(draw(argument)), { density: 72 * points }).flatten({ background: '#fff' });
  const type = photograph ? 'jpg' : wanted;
  const { data, info } = await (type === 'jpg'
    ? image.jpeg({ quality: photograph ? 78 : 90 })
    : image.png({ palette: true })
  ).toBuffer({ resolveWithObject: true });
  return { bytes: data, type, width: Math.round(info.width / points), height: Math.round(info.height / points) };
};

/**
 * A picture of a text by its name (`grip`, `jaw-bolts:1-3-2-4`, `photo:spring-pack`), with its size in points; each is drawn once. A
 * photograph is always a JPEG; a drawing is one where that is wanted, because a PNG must be taken apart to go into a PDF.
 */
export const pictureOf = (name: string, wanted: Picture['type'] = 'png'): Promise<Picture> => {
  const key = `${wanted} ${name}`;
  const known = made.get(key) ?? make(name, wanted);
  made.set(key, known);
  return known;
};
