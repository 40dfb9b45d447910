import { plainDrawingText } from './words.ts';

type Matrix = readonly [a: number, b: number, c: number, d: number, e: number, f: number];

/** A text of a drawing with its place: its lines, and what brings a text of height 1 (upright, from its origin) to its place. */
export type DrawnText = { lines: string[]; place: Matrix; anchor: 'start' | 'middle' | 'end'; rise: number };

/** An entity of a drawing as it was read: group codes by name (DXF reference, TEXT, MTEXT, ATTRIB), and the inserts that contain it. */
export type DrawingEntity = Readonly<Record<string, unknown>>;

const LINE = 1.6;
/** Capitals are this much of the height of a typeface, a letter this wide on average. */
const [CAPITAL, WIDE] = [0.72, 0.7];
const MOST_TEXTS = 20_000;

const numberOf = (value: unknown, otherwise = 0): number =>
  typeof value === 'number' && Number.isFinite(value) ? value : otherwise;
const textOf = (value: unknown): string => (typeof value === 'string' ? value : '');
const partOf = (value: unknown): DrawingEntity =>
  typeof value === 'object' && value !== null ? (value as DrawingEntity) : {};

const after = ([a, b, c, d, e, f]: Matrix, [A, B, C, D, E, F]: Matrix): Matrix => [
  A * a + C * b,
  B * a + D * b,
  A * c + C * d,
  B * c + D * d,
  A * e + C * f + E,
  B * e + D * f + F,
];

/** Where an insert puts the content of its block; one seen from behind (extrusion −1) is mirrored. */
const insertMatrix = (insert: DrawingEntity): Matrix => {
  const angle = (numberOf(insert.rotation) * Math.PI) / 180;
  const [cos, sin] = [Math.cos(angle), Math.sin(angle)];
  const [sx, sy] = [numberOf(insert.scaleX, 1) || 1, numberOf(insert.scaleY, 1) || 1];
  const side = insert.extrusionZ === -1 ? -1 : 1;
  return [side * sx * cos, sx * sin, -side * sy * sin, sy * cos, side * numberOf(insert.x), numberOf(insert.y)];
};

/** A line, broken where it would be wider than its paragraph (in heights). */
const wrapped = (line: string, room: number): string[] => {
  if (room <= 0) return [line];
  const out: string[] = [];
  for (const word of line.split(' ')) {
    const last = out.at(-1);
    if (last === undefined || (last.length + 1 + word.length) * WIDE > room) out.push(word);
    else out[out.length - 1] = `${last} ${word}`;
  }
  return out;
};

const ANCHORS = ['start', 'middle', 'end'] as const;

const paragraph = (entity: DrawingEntity): DrawnText | undefined => {
  const height = numberOf(entity.nominalTextHeight, 1) || 1;
  const room = numberOf(entity.refRectangleWidth) / height;
  const lines = plainDrawingText(textOf(entity.string))
    .split('\n')
    .flatMap((line) => wrapped(line.trim(), room));
  const [x, y] = [numberOf(entity.xAxisX, 1), numberOf(entity.xAxisY)];
  const length = Math.hypot(x, y) || 1;
  const [cos, sin] = [(height * x) / length, (height * y) / length];
  // 1 to 3 hang from their upper edge, 4 to 6 are centred, 7 to 9 rest on their lower edge.
  const at = Math.min(9, Math.max(1, numberOf(entity.attachmentPoint, 1))) - 1;
  const below = (lines.length - 1) * LINE;
  return {
    lines,
    place: [cos, sin, -sin, cos, numberOf(entity.x), numberOf(entity.y)],
    anchor: ANCHORS[at % 3] ?? 'start',
    rise: [-1, (below - 1) / 2, below][Math.floor(at / 3)] ?? 0,
  };
};

const line = (entity: DrawingEntity): DrawnText | undefined => {
  const height = numberOf(entity.textHeight, 1) || 1;
  const angle = (numberOf(entity.rotation) * Math.PI) / 180;
  const [cos, sin] = [height * Math.cos(angle), height * Math.sin(angle)];
  const [across, up] = [numberOf(entity.hAlign), numberOf(entity.vAlign)];
  // A text aligned to anything but the start of its base line is at its second point.
  const second = (across !== 0 || up !== 0) && across !== 3 && across !== 5 && entity.x2 !== undefined;
  return {
    lines: [
      plainDrawingText(textOf(entity.string))
        .replace(/\s*\n\s*/g, ' ')
        .trim(),
    ],
    place: [cos, sin, -sin, cos, numberOf(second ? entity.x2 : entity.x), numberOf(second ? entity.y2 : entity.y)],
    anchor: !second ? 'start' : across === 2 ? 'end' : across === 1 || across === 4 ? 'middle' : 'start',
    rise: !second ? 0 : up === 3 ? -1 : up === 2 || across === 4 ? -0.5 : up === 1 ? 0.2 : 0,
  };
};

/** The texts of a drawing with their places; the values of a block's attributes are texts, their definitions are none. */
export const textsOfDrawing = (entities: readonly DrawingEntity[]): DrawnText[] => {
  const texts: DrawnText[] = [];
  for (const entity of entities) {
    const found =
      entity.type === 'TEXT'
        ? line(entity)
        : entity.type === 'MTEXT'
          ? paragraph(entity)
          : entity.type === 'ATTRIB' && (numberOf(entity.attributeFlags) & 1) === 0
            ? line({ x2: entity.x2, y2: entity.y2, ...partOf(entity.text) })
            : undefined;
    if (!found || found.lines.every((one) => one === '')) continue;
    const inserts = Array.isArray(entity.transforms) ? (entity.transforms as DrawingEntity[]) : [];
    texts.push({
      ...found,
      place: inserts.reduce<Matrix>((place, one) => after(place, insertMatrix(one)), found.place),
    });
    if (texts.length === MOST_TEXTS) break;
  }
  return texts;
};

/** Signs that XML has no place for are left out; one of them would hide the whole drawing. */
const escaped = (text: string): string =>
  text
    .replace(/[^\t\n\r\x20-\ud7ff\ue000-\ufffd\u{10000}-\u{10ffff}]/gu, '')
    .replace(/[&<>"]/g, (sign) => `&#${sign.charCodeAt(0)};`);
const n = (value: number): string => String(Number(value.toPrecision(7)));

/** The corners of a text as near as they are known without its typeface. */
const cornersOf = ({ lines, place, anchor, rise }: DrawnText): [number, number][] => {
  const wide = Math.max(...lines.map((one) => one.length)) * WIDE;
  const from = anchor === 'start' ? 0 : anchor === 'middle' ? -wide / 2 : -wide;
  const [low, high] = [rise - (lines.length - 1) * LINE - 0.3, rise + 1];
  const [a, b, c, d, e, f] = place;
  return [
    [from, low],
    [from, high],
    [from + wide, low],
    [from + wide, high],
  ].map(([x = 0, y = 0]) => [a * x + c * y + e, b * x + d * y + f]);
};

const SIZE = 100;

const element = ({ lines, place: [a, b, c, d, e, f], anchor, rise }: DrawnText): string => {
  // Set in a size that browsers do not round, and turned over again: the drawing grows upwards, its picture downwards.
  const size = SIZE / CAPITAL;
  const place = [a / SIZE, b / SIZE, -c / SIZE, -d / SIZE, e, f].map(n).join(' ');
  const spans = lines.map((one, i) => `<tspan x="0" y="${n((i * LINE - rise) * SIZE)}">${escaped(one)}</tspan>`);
  return `<text transform="matrix(${place})" font-size="${n(size)}" text-anchor="${anchor}">${spans.join('')}</text>`;
};

/**
 * The picture of a drawing's lines with its texts on it, its frame grown to hold them.
 *
 * @param svg a picture whose last group has y upwards, as it is made of lines
 */
export const withTexts = (svg: string, texts: readonly DrawnText[]): string => {
  const end = svg.lastIndexOf('</g>');
  const frame = /viewBox="([^"]*)"/.exec(svg);
  const sides = (frame?.[1] ?? '')
    .trim()
    .split(/[\s,]+/)
    .map(Number);
  if (texts.length === 0 || end < 0 || !frame || sides.length !== 4 || !sides.every(Number.isFinite)) return svg;
  const [x = 0, y = 0, width = 0, height = 0] = sides;
  const corners = texts.flatMap(cornersOf);
  // A frame without width and height is none: there were no lines.
  const [xs, ys] =
    width === 0 && height === 0
      ? [[], []]
      : [
          [x, x + width],
          [y, y + height],
        ];
  const all = { x: [...xs, ...corners.map(([at]) => at)], y: [...ys, ...corners.map(([, at]) => -at)] };
  const least = (values: number[]) => values.reduce((a, b) => Math.min(a, b));
  const most = (values: number[]) => values.reduce((a, b) => Math.max(a, b));
  const [left, top] = [least(all.x), least(all.y)];
  const box = [left, top, most(all.x) - left, most(all.y) - top].map(n).join(' ');
  const drawn = `<g stroke="none" fill="#000000" font-family="sans-serif">${texts.map(element).join('')}</g>`;
  return `${svg.slice(0, end)}${drawn}${svg.slice(end)}`.replace(frame[0], `viewBox="${box}"`);
};
