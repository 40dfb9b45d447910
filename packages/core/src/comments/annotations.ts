import { boxOf, cloudPath, type Mark, type MarkTool } from './marks.ts';

/** The visible part of a page in its own units, and how far it is turned clockwise when it is shown. */
export type PageBox = { x: number; y: number; width: number; height: number; rotation: 0 | 90 | 180 | 270 };
type Point = readonly [number, number];

/** A point of the shown page (parts of its width and height, from the upper left) in the page's own units, from its lower left. */
export const toPage = ([fx, fy]: Point, { x, y, width, height, rotation }: PageBox): [number, number] => {
  const [u, v] = { 0: [fx, 1 - fy], 90: [fy, fx], 180: [1 - fx, fy], 270: [1 - fy, 1 - fx] }[rotation] as [
    number,
    number,
  ];
  return [x + u * width, y + v * height];
};

/** The way back: a point in the page's own units as parts of the shown page, held within it. */
export const fromPage = ([px, py]: Point, { x, y, width, height, rotation }: PageBox): [number, number] => {
  const [u, v] = [(px - x) / width, (py - y) / height];
  const [fx, fy] = { 0: [u, 1 - v], 90: [v, u], 180: [1 - u, v], 270: [1 - v, 1 - u] }[rotation] as [number, number];
  const held = (n: number) => Math.min(1, Math.max(0, n));
  return [held(fx), held(fy)];
};

/** An annotation of ISO 32000-2, 12.5.6, with what draws it: operators of a content stream in the page's own units. */
export type Annotation = {
  subtype: 'Square' | 'Line' | 'Ink' | 'Highlight' | 'FreeText' | 'Stamp';
  rect: [number, number, number, number];
  colour: [number, number, number];
  /** Ends of a line, with an arrow at the second one or none. */
  line?: { points: [number, number, number, number]; arrow: boolean };
  ink?: number[];
  quad?: number[];
  cloudy?: boolean;
  text?: string;
  drawing: string;
};

const WIDTH = 1.5;
const SIZE = 11;
const NOTE = 18;
const n = (value: number) => String(Math.round(value * 100) / 100);

/** Text of a content stream in the standard encoding of Helvetica; what it does not have is a question mark. */
const shown = (text: string) =>
  `(${text.replace(/[^\x20-\x7e\xa1-\xff]/g, '?').replace(/[\\()]/g, (sign) => `\\${sign}`)})`;

const colourOf = (hex: string): [number, number, number] =>
  [1, 3, 5].map((at) => Number.parseInt(hex.slice(at, at + 2), 16) / 255) as [number, number, number];

/** An SVG path of moves, arcs of half a turn and an end, as curves of a content stream. */
const curves = (path: string): string => {
  const out: string[] = [];
  let [x, y] = [0, 0];
  for (const [, command, numbers = ''] of path.matchAll(/([MAZ])([^MAZ]*)/g)) {
    const values = numbers
      .trim()
      .split(/[\s,]+/)
      .map(Number);
    if (command === 'Z') out.push('h');
    else if (command === 'M') {
      [x, y] = values as [number, number];
      out.push(`${n(x)} ${n(y)} m`);
    } else {
      const [toX = 0, toY = 0] = values.slice(-2);
      // A half turn is near enough one curve whose handles are outside by two thirds of the way between its ends.
      const [outX, outY] = [((toY - y) * 2) / 3, (-(toX - x) * 2) / 3];
      out.push(`${n(x + outX)} ${n(y + outY)} ${n(toX + outX)} ${n(toY + outY)} ${n(toX)} ${n(toY)} c`);
      [x, y] = [toX, toY];
    }
  }
  return out.join('\n');
};

const arrowHead = ([x1, y1]: Point, [x2, y2]: Point): string => {
  const angle = Math.atan2(y2 - y1, x2 - x1);
  const side = (turn: number) => `${n(x2 - 9 * Math.cos(angle + turn))} ${n(y2 - 9 * Math.sin(angle + turn))}`;
  return `${side(0.45)} m ${n(x2)} ${n(y2)} l ${side(-0.45)} l S`;
};

/** The annotation that a mark is in a PDF. */
export const annotationOf = (mark: Mark, page: PageBox): Annotation => {
  const points = mark.points.map((point) => toPage(point, page));
  const [first = [0, 0], second = first] = points as [number, number][];
  const colour = colourOf(mark.colour);
  const ink = `${colour.map(n).join(' ')} RG ${n(WIDTH)} w`;
  const box = boxOf(points);
  const margin = 12;
  const around = (by: number): Annotation['rect'] => [
    box.x - by,
    box.y - by,
    box.x + box.width + by,
    box.y + box.height + by,
  ];
  const rectangle = `${n(box.x)} ${n(box.y)} ${n(box.width)} ${n(box.height)} re`;
  switch (mark.tool) {
    case 'box':
      return { subtype: 'Square', rect: around(WIDTH), colour, drawing: `${ink} ${rectangle} S` };
    case 'cloud':
      return {
        subtype: 'Square',
        rect: around(margin),
        colour,
        cloudy: true,
        drawing: `${ink} ${curves(cloudPath(box, 14))} S`,
      };
    case 'highlight': {
      const [x1, y1, x2, y2] = [box.x, box.y, box.x + box.width, box.y + box.height];
      return {
        subtype: 'Highlight',
        rect: around(0),
        colour,
        quad: [x1, y2, x2, y2, x1, y1, x2, y1],
        drawing: `/Over gs ${colour.map(n).join(' ')} rg ${rectangle} f`,
      };
    }
    case 'arrow':
    case 'line': {
      const arrow = mark.tool === 'arrow';
      const stroke = `${ink} ${n(first[0])} ${n(first[1])} m ${n(second[0])} ${n(second[1])} l S`;
      return {
        subtype: 'Line',
        rect: around(margin),
        colour,
        line: { points: [first[0], first[1], second[0], second[1]], arrow },
        drawing: arrow ? `${stroke} ${arrowHead(first, second)}` : stroke,
      };
    }
    case 'free':
      return {
        subtype: 'Ink',
        rect: around(margin),
        colour,
        ink: points.flat(),
        drawing: `${ink} 1 J 1 j ${points.map(([x, y], i) => `${n(x)} ${n(y)} ${i ? 'l' : 'm'}`).join(' ')} S`,
      };
    default: {
      const lines = (mark.text ?? '').split('\n').slice(0, 20);
      const width = Math.max(40, ...lines.map((line) => line.length * SIZE * 0.56)) + 8;
      const height = lines.length * SIZE * 1.3 + 6;
      const rect: Annotation['rect'] = [first[0], first[1] - height, first[0] + width, first[1]];
      const frame =
        mark.tool === 'stamp'
          ? `${ink} ${n(rect[0] + 1)} ${n(rect[1] + 1)} ${n(width - 2)} ${n(height - 2)} re S `
          : '';
      const text = lines.map((line) => `${shown(line)} Tj T*`).join(' ');
      return {
        subtype: mark.tool === 'stamp' ? 'Stamp' : 'FreeText',
        rect,
        colour,
        text: mark.text ?? '',
        drawing: `${frame}BT /Helv ${SIZE} Tf ${colour.map(n).join(' ')} rg ${n(SIZE * 1.3)} TL ${n(first[0] + 4)} ${n(first[1] - SIZE - 2)} Td ${text} ET`,
      };
    }
  }
};

/** An annotation as it was read from a PDF. */
export type ReadAnnotation = {
  subtype: string;
  rect: [number, number, number, number];
  colour?: [number, number, number];
  line?: [number, number, number, number];
  arrow?: boolean;
  ink?: number[];
  cloudy?: boolean;
  text: string;
};

const TOOLS: Record<string, MarkTool> = {
  Square: 'box',
  Circle: 'cloud',
  Line: 'line',
  Ink: 'free',
  Highlight: 'highlight',
  Underline: 'highlight',
  StrikeOut: 'highlight',
  Squiggly: 'highlight',
  FreeText: 'text',
  Stamp: 'stamp',
  Text: 'box',
};

/** The mark that an annotation of somebody's program is here; nothing for what is no remark (links, fields, windows of remarks). */
export const markOfAnnotation = (read: ReadAnnotation, page: PageBox, number: number): Mark | undefined => {
  const tool = read.cloudy ? 'cloud' : read.arrow ? 'arrow' : TOOLS[read.subtype];
  if (!tool) return undefined;
  const hex = (read.colour ?? [0.65, 0.17, 0.08]).map((part) =>
    Math.round(Math.min(1, Math.max(0, part)) * 255)
      .toString(16)
      .padStart(2, '0'),
  );
  const [x1, , , y2] = read.rect;
  // A note is a picture of a fixed size at the upper left of its rectangle, which some programs make as narrow as a hair (ISO 32000-2,
  // 12.5.6.4).
  const [x2, y1] = read.subtype === 'Text' ? [x1 + NOTE, y2 - NOTE] : [read.rect[2], read.rect[1]];
  const pairs = (flat: readonly number[]): Point[] =>
    Array.from({ length: Math.floor(flat.length / 2) }, (_, i) => [flat[2 * i] ?? 0, flat[2 * i + 1] ?? 0]);
  const points =
    tool === 'free'
      ? pairs(read.ink ?? []).slice(0, 2000)
      : read.line && (tool === 'line' || tool === 'arrow')
        ? pairs(read.line)
        : tool === 'text' || tool === 'stamp'
          ? [[x1, y2] as Point]
          : [[x1, y2] as Point, [x2, y1] as Point];
  const mark = { tool, page: number, points: points.map((point) => fromPage(point, page)), colour: `#${hex.join('')}` };
  if (tool === 'text' || tool === 'stamp') return { ...mark, text: read.text.trim() || 'Stamp' };
  return mark.points.length >= 2 ? mark : undefined;
};
