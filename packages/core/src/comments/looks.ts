import { compareRasters } from '../comparison/rasters.ts';
import { boxOf, type Mark } from './marks.ts';

/** A page as pixels: red, green, blue and alpha of each, line by line. */
export type Raster = { data: ArrayLike<number>; width: number; height: number };

/** How much of the page around a mark belongs to its place, in parts of the page. */
const AROUND = 0.02;
/** Of what is drawn there no more than this part may differ. */
const MOST_DIFFERING = 0.1;
/** Darker points are ink. */
const PAPER = 200;
/** Pages of another shape are other pages. */
const MOST_SKEW = 0.02;

const cut = (page: Raster, box: { x: number; y: number; width: number; height: number }): Raster => {
  const data = new Uint8ClampedArray(box.width * box.height * 4);
  for (let y = 0; y < box.height; y++)
    for (let x = 0; x < box.width; x++)
      for (let channel = 0; channel < 4; channel++)
        data[(y * box.width + x) * 4 + channel] =
          page.data[((box.y + y) * page.width + box.x + x) * 4 + channel] ?? 255;
  return { data, width: box.width, height: box.height };
};

/** How many points of a picture are drawn on. */
const inkOf = ({ data, width, height }: Raster): number => {
  let ink = 0;
  for (let at = 0; at < width * height * 4; at += 4)
    if (Math.min(data[at] ?? 255, data[at + 1] ?? 255, data[at + 2] ?? 255) < PAPER && (data[at + 3] ?? 255) > 0) ink++;
  return ink;
};

/** The share of the drawing that differs between two pictures of one size; undefined where both are blank. */
const differingPart = (a: Raster, b: Raster): number | undefined => {
  const ink = Math.max(inkOf(a), inkOf(b));
  if (ink === 0) return undefined;
  return (compareRasters(a.data, b.data, a.width, a.height).share * a.width * a.height) / ink;
};

/**
 * Whether the place of a mark looks on one page as it does on another: pages of the same shape on which little differs of what is
 * drawn under the mark and close around it, or, where the place is blank, on the whole page. Grain, and a line that moved by a point,
 * are no difference.
 */
export const looksSame = (mark: Pick<Mark, 'points'>, before: Raster, now: Raster): boolean => {
  const skew = before.width / before.height / (now.width / now.height);
  if (Math.abs(skew - 1) > MOST_SKEW) return false;
  const [width, height] = [Math.min(before.width, now.width), Math.min(before.height, now.height)];
  if (Math.abs(before.width - now.width) > 2 || Math.abs(before.height - now.height) > 2) return false;
  const { x, y, width: w, height: h } = boxOf(mark.points);
  const left = Math.max(0, Math.floor((x - AROUND) * width));
  const top = Math.max(0, Math.floor((y - AROUND) * height));
  const box = {
    x: left,
    y: top,
    width: Math.max(1, Math.min(width, Math.ceil((x + w + AROUND) * width)) - left),
    height: Math.max(1, Math.min(height, Math.ceil((y + h + AROUND) * height)) - top),
  };
  const part = differingPart(cut(before, box), cut(now, box));
  if (part !== undefined) return part <= MOST_DIFFERING;
  // A blank place looks like every other one: there the page around it decides.
  const whole = { x: 0, y: 0, width, height };
  return (differingPart(cut(before, whole), cut(now, whole)) ?? 0) <= MOST_DIFFERING;
};
