import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { looksSame, type Raster } from './looks.ts';

/** A white page with black rectangles, in parts of the page. */
const page = (
  rectangles: readonly [x: number, y: number, w: number, h: number][],
  width = 200,
  height = 100,
): Raster => {
  const data = new Uint8ClampedArray(width * height * 4).fill(255);
  for (const [x, y, w, h] of rectangles)
    for (let row = Math.floor(y * height); row < Math.min(height, (y + h) * height); row++)
      for (let column = Math.floor(x * width); column < Math.min(width, (x + w) * width); column++)
        data.fill(0, (row * width + column) * 4, (row * width + column) * 4 + 3);
  return { data, width, height };
};
const mark = (...points: [number, number][]) => ({ points });
const ON_LEFT = mark([0.1, 0.2], [0.4, 0.6]);

describe('the place of a mark on another page', () => {
  test('is the same where nothing under it changed, whatever changed elsewhere', () => {
    const before = page([[0.2, 0.3, 0.1, 0.2]]);
    expect(looksSame(ON_LEFT, before, before)).toBe(true);
    expect(
      looksSame(
        ON_LEFT,
        before,
        page([
          [0.2, 0.3, 0.1, 0.2],
          [0.7, 0.7, 0.2, 0.2],
        ]),
      ),
    ).toBe(true);
  });

  test('is another one where something came, went or moved under it', () => {
    const before = page([[0.2, 0.3, 0.1, 0.2]]);
    for (const now of [
      page([]),
      page([[0.25, 0.35, 0.1, 0.2]]),
      page([
        [0.2, 0.3, 0.1, 0.2],
        [0.35, 0.5, 0.04, 0.08],
      ]),
    ])
      expect(looksSame(ON_LEFT, before, now)).toBe(false);
  });

  test('is another one on a page of another shape or size', () => {
    expect(looksSame(ON_LEFT, page([]), page([], 100, 200))).toBe(false);
    expect(looksSame(ON_LEFT, page([]), page([], 400, 200))).toBe(false);
  });

  test('that is blank is the same on a page that is much the same, and another one where the page is another', () => {
    const blank = mark([0.8, 0.05], [0.95, 0.2]);
    const before = page([
      [0.1, 0.3, 0.2, 0.2],
      [0.4, 0.6, 0.1, 0.1],
    ]);
    expect(
      looksSame(
        blank,
        before,
        page([
          [0.1, 0.3, 0.2, 0.2],
          [0.41, 0.6, 0.1, 0.1],
        ]),
      ),
    ).toBe(true);
    expect(looksSame(blank, before, page([[0.6, 0.7, 0.2, 0.2]]))).toBe(false);
  });

  test('is found for a mark on a point, and at the edge', () => {
    const before = page([[0, 0, 1, 1]]);
    expect(looksSame(mark([1, 1]), before, before)).toBe(true);
    expect(looksSame(mark([0, 0], [1, 1]), before, page([]))).toBe(false);
  });

  test('never depends on which of the two is older, and is always found on the page itself', () => {
    const part = fc.double({ min: 0, max: 1, noNaN: true });
    const rectangle = fc.tuple(part, part, part, part);
    fc.assert(
      fc.property(
        fc.array(rectangle, { maxLength: 3 }),
        fc.array(rectangle, { maxLength: 3 }),
        fc.array(fc.tuple(part, part), { minLength: 1, maxLength: 4 }),
        (a, b, points) => {
          const [one, other] = [page(a), page(b)];
          expect(looksSame({ points }, one, one)).toBe(true);
          expect(looksSame({ points }, one, other)).toBe(looksSame({ points }, other, one));
        },
      ),
      { numRuns: 60 },
    );
  });
});
