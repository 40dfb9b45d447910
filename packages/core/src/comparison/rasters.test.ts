import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { compareRasters, type Region } from './rasters.ts';

const [WIDTH, HEIGHT] = [120, 80];
const sheet = (...dark: Region[]): Uint8ClampedArray => {
  const pixels = new Uint8ClampedArray(WIDTH * HEIGHT * 4).fill(255);
  for (const { x, y, width, height } of dark)
    for (let j = y; j < y + height; j++)
      for (let i = x; i < x + width; i++) pixels.set([0, 0, 0, 255], (j * WIDTH + i) * 4);
  return pixels;
};
const compare = (a: Uint8ClampedArray, b: Uint8ClampedArray) => compareRasters(a, b, WIDTH, HEIGHT);
const inkAt = (overlay: Uint8ClampedArray, x: number, y: number) => [
  ...overlay.slice((y * WIDTH + x) * 4, (y * WIDTH + x) * 4 + 3),
];
const holds = (outer: Region, inner: Region) =>
  outer.x <= inner.x &&
  outer.y <= inner.y &&
  outer.x + outer.width >= inner.x + inner.width &&
  outer.y + outer.height >= inner.y + inner.height;

describe('two pictures over each other', () => {
  const [one, other] = [
    { x: 10, y: 10, width: 14, height: 10 },
    { x: 80, y: 50, width: 20, height: 12 },
  ];
  test('that are the same differ nowhere', () => {
    expect(compare(sheet(one), sheet(one))).toMatchObject({ regions: [], share: 0 });
  });

  test('show removed and added parts, each in a box of its own', () => {
    const { regions, overlay, share } = compare(sheet(one), sheet(other));
    expect(regions).toHaveLength(2);
    expect([holds(regions[0] as Region, one), holds(regions[1] as Region, other)]).toEqual([true, true]);
    expect(inkAt(overlay, 15, 15)).toEqual([200, 30, 20]);
    expect(inkAt(overlay, 90, 55)).toEqual([11, 85, 140]);
    expect(inkAt(overlay, 60, 5)).toEqual([255, 255, 255]);
    expect(share).toBeCloseTo((14 * 10 + 20 * 12) / (WIDTH * HEIGHT), 2);
  });

  test('that are shifted by one pixel, or have dust, do not differ', () => {
    const line = { x: 10, y: 30, width: 90, height: 2 };
    expect(compare(sheet(line), sheet({ ...line, y: 31 })).regions).toEqual([]);
    expect(compare(sheet(line), sheet(line, { x: 60, y: 60, width: 1, height: 2 })).regions).toEqual([]);
  });

  test('of different sizes are refused', () => {
    expect(() => compareRasters(new Uint8ClampedArray(4), new Uint8ClampedArray(8), 1, 1)).toThrow(RangeError);
  });

  test('have every larger difference in one of the boxes', () => {
    const block = fc.record({
      x: fc.integer({ min: 2, max: WIDTH - 22 }),
      y: fc.integer({ min: 2, max: HEIGHT - 22 }),
      width: fc.integer({ min: 6, max: 18 }),
      height: fc.integer({ min: 6, max: 18 }),
    });
    fc.assert(
      fc.property(fc.array(block, { minLength: 1, maxLength: 4 }), (blocks) => {
        const { regions } = compare(sheet(), sheet(...blocks));
        for (const { x, y, width, height } of blocks) {
          const middle = { x: x + Math.floor(width / 2), y: y + Math.floor(height / 2), width: 1, height: 1 };
          expect(regions.some((region) => holds(region, middle))).toBe(true);
        }
      }),
      { numRuns: 60 },
    );
  });
});
