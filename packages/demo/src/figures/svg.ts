/** Small pieces from which figures and sheets are drawn (SVG 1.1). */
export const INK = '#12222a';
export const GREY = '#8a979c';
export const escaped = (text: string): string => text.replace(/[&<>"]/g, (c) => `&#${c.charCodeAt(0)};`);

export const svg = (width: number, height: number, ...parts: string[]): string =>
  `<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 ${width} ${height}" width="${width}" height="${height}" font-family="Liberation Sans, DejaVu Sans, sans-serif"><rect width="${width}" height="${height}" fill="#fff"/>${parts.join('')}</svg>`;

type Look = { fill?: string; stroke?: string; width?: number; dash?: string };
const look = ({ fill = 'none', stroke = INK, width = 1.6, dash }: Look) =>
  `fill="${fill}" stroke="${stroke}" stroke-width="${width}"${dash ? ` stroke-dasharray="${dash}"` : ''}`;

export const path = (d: string, more: Look = {}): string => `<path d="${d}" ${look(more)}/>`;
export const circle = (x: number, y: number, r: number, more: Look = {}): string =>
  `<circle cx="${x}" cy="${y}" r="${r}" ${look(more)}/>`;
export const box = (x: number, y: number, w: number, h: number, more: Look = {}): string =>
  `<rect x="${x}" y="${y}" width="${w}" height="${h}" ${look(more)}/>`;
export const text = (
  x: number,
  y: number,
  words: string,
  size = 13,
  anchor: 'start' | 'middle' | 'end' = 'start',
): string =>
  `<text x="${x}" y="${y}" font-size="${size}" fill="${INK}" text-anchor="${anchor}">${escaped(words).replaceAll('   ', ' \u00a0 ')}</text>`;

/** A measure between two points on one height or one side, with ticks and its figure. */
export const measure = (x1: number, y1: number, x2: number, y2: number, words: string): string => {
  const level = y1 === y2;
  const tick = (x: number, y: number) => (level ? `M${x} ${y - 6}v12` : `M${x - 6} ${y}h12`);
  return (
    path(`M${x1} ${y1}L${x2} ${y2}${tick(x1, y1)}${tick(x2, y2)}`, { width: 1 }) +
    (level ? text((x1 + x2) / 2, y1 - 6, words, 12, 'middle') : text(x1 + 9, (y1 + y2) / 2 + 4, words, 12))
  );
};

/** A number in a ring, with a line to what it names. */
export const callout = (n: number, x: number, y: number, toX: number, toY: number): string =>
  path(`M${x} ${y}L${toX} ${toY}`, { width: 1 }) +
  circle(x, y, 12, { fill: '#fff' }) +
  text(x, y + 4.5, String(n), 13, 'middle');

/** Boxes with words, one after the other, with arrows between them. */
export const flow = (steps: readonly string[], width = 640): string => {
  const each = width / steps.length;
  return svg(
    width,
    110,
    ...steps.map((words, i) => {
      const x = i * each + 8;
      const lines = words.split('|');
      return (
        box(x, 20, each - 34, 70, { fill: '#eef3f4' }) +
        lines
          .map((line, n) => text(x + (each - 34) / 2, 58 + (n - (lines.length - 1) / 2) * 16, line, 12, 'middle'))
          .join('') +
        (i < steps.length - 1 ? path(`M${x + each - 32} 55h20m-7 -5l7 5l-7 5`) : '')
      );
    }),
  );
};

/** A line over equal steps, with a limit across and the names of both axes. */
export const chart = (
  values: readonly number[],
  o: { most: number; limit?: number; x: string; y: string; labels?: readonly string[] },
): string => {
  const [left, right, top, bottom] = [58, 620, 24, 236];
  const at = (i: number) => left + (i * (right - left)) / Math.max(1, values.length - 1);
  const high = (value: number) => bottom - (value / o.most) * (bottom - top);
  const marks = [0, 0.25, 0.5, 0.75, 1].map((part) => part * o.most);
  return svg(
    640,
    290,
    ...marks.map(
      (value) =>
        path(`M${left} ${high(value)}H${right}`, { stroke: '#dde4e6', width: 1 }) +
        text(left - 8, high(value) + 4, String(Math.round(value * 100) / 100), 11, 'end'),
    ),
    path(`M${left} ${top}V${bottom}H${right}`),
    path(values.map((value, i) => `${i ? 'L' : 'M'}${at(i).toFixed(1)} ${high(value).toFixed(1)}`).join(''), {
      stroke: '#0b5563',
      width: 2.2,
    }),
    ...(o.limit === undefined
      ? []
      : [
          path(`M${left} ${high(o.limit)}H${right}`, { stroke: '#a52c15', dash: '7 5' }) +
            text(right, high(o.limit) - 6, 'limit', 12, 'end'),
        ]),
    ...(o.labels ?? []).map((label, i) =>
      text(at((i * (values.length - 1)) / Math.max(1, (o.labels?.length ?? 1) - 1)), bottom + 17, label, 11, 'middle'),
    ),
    text((left + right) / 2, 276, o.x, 12, 'middle'),
    text(10, 14, o.y, 12),
  );
};
