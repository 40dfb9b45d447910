/** A region of two pictures in which they differ, in pixels. */
export type Region = { x: number; y: number; width: number; height: number };
export type ComparedRasters = {
  /** Both overlaid, RGBA: common parts in grey, removed in red, added in blue. */
  overlay: Uint8ClampedArray;
  regions: Region[];
  /** The share of pixels that differ, 0 to 1. */
  share: number;
};

/** Less difference of brightness than this is the grain of a scan or the smoothing of an edge. */
const THRESHOLD = 48;
/** Differences are gathered in squares of so many pixels; what lies in neighbouring squares is one region. */
const SQUARE = 12;
/** Fewer differing pixels in a square are dust. */
const DUST = 4;
const [CAME, WENT] = [
  [11, 85, 140],
  [200, 30, 20],
] as const;

const brightness = (pixels: ArrayLike<number>, at: number): number => {
  const alpha = (pixels[at + 3] ?? 255) / 255;
  const grey = 0.299 * (pixels[at] ?? 0) + 0.587 * (pixels[at + 1] ?? 0) + 0.114 * (pixels[at + 2] ?? 0);
  return grey * alpha + 255 * (1 - alpha);
};

/**
 * Lays two pictures of the same size over each other (RGBA, `width` × `height` × 4) and finds the regions in which they differ.
 * A line that moved by a pixel is no difference: a dark point that has a dark neighbour in the other picture counts as kept.
 */
export const compareRasters = (
  before: ArrayLike<number>,
  after: ArrayLike<number>,
  width: number,
  height: number,
): ComparedRasters => {
  const size = width * height;
  if (before.length !== size * 4 || after.length !== size * 4) throw new RangeError('both pictures have the same size');
  const [a, b] = [new Uint8Array(size), new Uint8Array(size)];
  for (let i = 0; i < size; i++) {
    a[i] = brightness(before, i * 4);
    b[i] = brightness(after, i * 4);
  }
  const darkest = (of: Uint8Array, x: number, y: number): number => {
    let least = 255;
    for (let dy = -1; dy <= 1; dy++)
      for (let dx = -1; dx <= 1; dx++) {
        const [nx, ny] = [x + dx, y + dy];
        if (nx >= 0 && ny >= 0 && nx < width && ny < height) least = Math.min(least, of[ny * width + nx] ?? 255);
      }
    return least;
  };
  const overlay = new Uint8ClampedArray(size * 4);
  const [columns, lines] = [Math.ceil(width / SQUARE), Math.ceil(height / SQUARE)];
  const squares = new Uint16Array(columns * lines);
  let differing = 0;
  for (let y = 0; y < height; y++)
    for (let x = 0; x < width; x++) {
      const i = y * width + x;
      const [old, now] = [a[i] ?? 255, b[i] ?? 255];
      const apart = Math.abs(old - now) > THRESHOLD;
      const went = apart && old < now && darkest(b, x, y) - old > THRESHOLD;
      const came = apart && now < old && darkest(a, x, y) - now > THRESHOLD;
      const ink = went ? WENT : came ? CAME : undefined;
      const grey = 255 - (255 - Math.min(old, now)) * 0.45;
      overlay.set(ink ? [...ink, 255] : [grey, grey, grey, 255], i * 4);
      if (!ink) continue;
      differing++;
      const square = Math.floor(y / SQUARE) * columns + Math.floor(x / SQUARE);
      squares[square] = (squares[square] ?? 0) + 1;
    }
  return { overlay, regions: regionsOf(squares, columns, lines, width, height), share: size ? differing / size : 0 };
};

/** Boxes around squares with differences that touch, the upper ones first. */
const regionsOf = (squares: Uint16Array, columns: number, lines: number, width: number, height: number): Region[] => {
  const seen = new Uint8Array(squares.length);
  const regions: Region[] = [];
  for (let start = 0; start < squares.length; start++) {
    if (seen[start] || (squares[start] ?? 0) < DUST) continue;
    let [left, top, right, bottom] = [columns, lines, 0, 0];
    const open = [start];
    seen[start] = 1;
    for (let at = open.pop(); at !== undefined; at = open.pop()) {
      const [cx, cy] = [at % columns, Math.floor(at / columns)];
      [left, top, right, bottom] = [Math.min(left, cx), Math.min(top, cy), Math.max(right, cx), Math.max(bottom, cy)];
      for (let dy = -1; dy <= 1; dy++)
        for (let dx = -1; dx <= 1; dx++) {
          const [nx, ny] = [cx + dx, cy + dy];
          const next = ny * columns + nx;
          if (nx < 0 || ny < 0 || nx >= columns || ny >= lines || seen[next] || (squares[next] ?? 0) < DUST) continue;
          seen[next] = 1;
          open.push(next);
        }
    }
    const [x, y] = [left * SQUARE, top * SQUARE];
    regions.push({
      x,
      y,
      width: Math.min(width, (right + 1) * SQUARE) - x,
      height: Math.min(height, (bottom + 1) * SQUARE) - y,
    });
  }
  return regions;
};
