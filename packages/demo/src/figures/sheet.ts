import { box, circle, escaped, measure, path, svg, text } from './svg.ts';

/** A drawing sheet: A3 landscape, two points for a millimetre. */
const SHEET = { width: 840, height: 594 };

export type TitleBlock = {
  title: string;
  scale: string;
  sheet: string;
  revision?: string;
  drawn?: string;
  notes: readonly string[];
};

const frame = ({ title, scale, sheet, revision = 'A', drawn = 'J. Adeyemi', notes }: TitleBlock): string[] => {
  const [left, top] = [470, 484];
  const cells: [number, number, number, number, string, string][] = [
    [0, 0, 350, 34, 'Title', title],
    [0, 34, 120, 28, 'Drawn', drawn],
    [120, 34, 90, 28, 'Scale', scale],
    [210, 34, 70, 28, 'Sheet', sheet],
    [280, 34, 70, 28, 'Revision', revision],
    [0, 62, 210, 28, 'Company', 'Tarnholt Ropeways'],
    [210, 62, 140, 28, 'Tolerances', 'ISO 2768-mK'],
  ];
  return [
    box(10, 10, 820, 574, { width: 0.8 }),
    box(20, 20, 800, 554, { width: 1.8 }),
    ...Array.from({ length: 8 }, (_, n) => text(70 + n * 100, 18, String(n + 1), 9, 'middle')),
    ...Array.from({ length: 6 }, (_, n) => text(15, 70 + n * 92, 'ABCDEF'[n] ?? '', 9, 'middle')),
    ...cells.map(
      ([x, y, w, h, name, value]) =>
        box(left + x, top + y, w, h, { width: 1 }) +
        text(left + x + 4, top + y + 9, name, 7) +
        text(left + x + 4, top + y + h - 7, value, y === 0 ? 14 : 11),
    ),
    text(34, 484, 'Notes', 11),
    ...notes.map((note, n) => text(34, 502 + n * 17, `${n + 1}. ${note}`, 11)),
  ];
};

const asSheet = (block: TitleBlock, ...parts: string[]): Buffer =>
  Buffer.from(svg(SHEET.width, SHEET.height, ...frame(block), ...parts));

/** A train of sheaves under the rope on its beam, with measures. */
export const sheaveSheet = (block: TitleBlock, sheaves: number, length: string): Buffer => {
  const pitch = 560 / Math.max(1, sheaves - 1);
  const at = (n: number) => 120 + n * pitch;
  return asSheet(
    block,
    path('M60 190h720', { width: 5 }),
    ...Array.from(
      { length: sheaves },
      (_, n) =>
        circle(at(n), 228, Math.min(34, pitch * 0.44)) +
        circle(at(n), 228, 7) +
        path(`M${at(n)} 262v52`) +
        path(`M${at(n) - 14} 228h28M${at(n)} 214v28`, { width: 0.6, dash: '6 2 1 2' }),
    ),
    ...Array.from({ length: Math.floor(sheaves / 2) }, (_, n) =>
      path(`M${at(n * 2) - 8} 300H${at(n * 2 + 1) + 8}v14H${at(n * 2) - 8}z`),
    ),
    path('M90 320h620l-20 26h-580z'),
    box(372, 346, 56, 92),
    path('M340 438h120', { width: 3 }),
    measure(120, 462, 680, 462, length),
    measure(120, 160, 120 + pitch, 160, `${Math.round(3780 / Math.max(1, sheaves - 1))}`),
    measure(760, 190, 760, 346, '780'),
    path('M640 80m-40 0a40 40 0 1 0 80 0a40 40 0 1 0 -80 0', { width: 1 }),
    path('M610 60c8 34 52 34 60 0M640 76v24', { width: 2 }),
    text(690, 84, 'Detail X, 1:5', 11),
  );
};

/** The floor of a station with its doors and the ways out. */
export const floorSheet = (block: TitleBlock): Buffer =>
  asSheet(
    block,
    box(80, 70, 620, 360, { width: 4 }),
    path('M80 210h220M300 70v140M300 290v140M480 430V300h220M480 70v110h220', { width: 3 }),
    circle(560, 250, 46),
    text(560, 254, 'Bullwheel', 11, 'middle'),
    ...[
      [150, 130, 'Control desk'],
      [170, 330, 'Ticket hall'],
      [370, 140, 'Platform'],
      [560, 120, 'Machine room'],
      [570, 380, 'Switchgear'],
    ].map(([x, y, words]) => text(Number(x), Number(y), String(words), 13, 'middle')),
    ...['M380 250H110M110 250l16 -8m-16 8l16 8', 'M380 300V446m0 0l-8 -16m8 16l8 -16', 'M570 340V300H480'].map((d) =>
      path(d, { stroke: '#1d6b3f', width: 4, dash: '12 6' }),
    ),
    text(40, 254, 'Exit A', 13),
    text(392, 452, 'Exit B', 13),
    measure(80, 466, 700, 466, '31 000'),
  );

/** A machine part in two views with its measures; the figure makes one part differ from another. */
export const partSheet = (block: TitleBlock, figure: number): Buffer => {
  const holes = 3 + (figure % 6);
  return asSheet(
    block,
    box(90, 110, 330, 210),
    path('M90 215h330M255 96v240', { width: 0.7, dash: '14 4 2 4' }),
    circle(255, 215, 62),
    circle(255, 215, 24),
    ...Array.from({ length: holes }, (_, n) => {
      const turn = (n / holes) * 2 * Math.PI;
      return circle(255 + 86 * Math.cos(turn), 215 + 86 * Math.sin(turn), 9);
    }),
    box(520, 110, 70 + (figure % 5) * 18, 210),
    path(`M520 191h${70 + (figure % 5) * 18}M520 239h${70 + (figure % 5) * 18}`, { dash: '6 4' }),
    measure(90, 352, 420, 352, `${300 + figure * 10}`),
    measure(450, 110, 450, 320, `${180 + (figure % 7) * 12}`),
    measure(520, 352, 590 + (figure % 5) * 18, 352, `${40 + (figure % 5) * 10}`),
    text(120, 90, `${holes} × ⌀${13 + (figure % 4) * 2}`, 13),
    path('M200 94L255 140', { width: 0.8 }),
    text(620, 190, 'Ra 3.2', 12),
    `<title>${escaped(block.title)}</title>`,
  );
};
