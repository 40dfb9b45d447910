import { readFile } from 'node:fs/promises';
import { dxfReferences, svgReferences, textsOfDrawing, withTexts } from '@kanonos/core';
import { Helper } from 'dxf';
import { decodeText } from './decode.ts';

/** Larger drawings are kept, found and handed out, and not drawn. */
export const MOST_DXF = 20 * 1024 * 1024;

/** A picture of its lines that holds anything else than lines is none. */
const MORE_THAN_LINES = /<(script|image|foreignObject|use|a|style)\b|\son\w+\s*=|href/i;
const POINTS = [
  ['x', 'y'],
  ['x2', 'y2'],
] as const;

/** Texts of blocks are placed relative to their block's base, as the reader does for lines. */
const rebase = ({ parsed }: Helper): void => {
  for (const { x = 0, y = 0, entities } of parsed.blocks)
    if (x !== 0 || y !== 0)
      for (const entity of entities)
        if (entity.type === 'TEXT' || entity.type === 'MTEXT')
          for (const [across, up] of POINTS) {
            if (typeof entity[across] === 'number') entity[across] -= x;
            if (typeof entity[up] === 'number') entity[up] -= y;
          }
};

/**
 * A DXF drawing as SVG: its lines, and its texts on them, without anything that a picture could run or fetch. Older drawings are
 * written in the code page of their time.
 *
 * @throws where it is no drawing
 */
export const drawDxf = async (path: string): Promise<string> => {
  const drawing = new Helper(decodeText(await readFile(path)));
  const lines = drawing.toSVG();
  if (MORE_THAN_LINES.test(lines)) throw new Error('contains more than lines');
  rebase(drawing);
  return withTexts(lines, textsOfDrawing(drawing.denormalised));
};

/** The same as a picture that fits into a square of so many pixels, its lines thick enough to be seen there. */
export const drawDxfSmall = async (path: string, side: number): Promise<Buffer> => {
  const svg = await drawDxf(path);
  const [, , width = 0, height = 0] = (/viewBox="([^"]*)"/.exec(svg)?.[1] ?? '').split(/\s+/).map(Number);
  if (!(width > 0 || height > 0)) throw new Error('an empty drawing');
  const scale = side / Math.max(width, height);
  const pixels = (length: number) => Math.max(1, Math.round(length * scale));
  return Buffer.from(
    svg
      .replace('width="100%" height="100%"', `width="${pixels(width)}" height="${pixels(height)}"`)
      .replace('stroke-width="0.1%"', 'stroke-width="0.4%"'),
  );
};

/** The names of other files that a drawing refers to. */
export const referencesOf = async (path: string, extension: string): Promise<string[]> => {
  const text = await readFile(path, 'utf8');
  return extension.toLowerCase() === 'dxf' ? dxfReferences(text) : svgReferences(text);
};
