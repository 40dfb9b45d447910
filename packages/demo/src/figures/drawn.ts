import { box, callout, chart, circle, flow, GREY, measure, path, svg, text } from './svg.ts';

const HATCH = '#e3e9eb';
const many = (count: number, make: (n: number) => string): string =>
  Array.from({ length: count }, (_, n) => make(n)).join('');

const grip = () =>
  svg(
    640,
    300,
    path('M108 196a42 42 0 0 0 84 0l14 56h-112z', { fill: '#f4f7f8' }),
    path('M108 184a42 42 0 0 1 84 0l56 -64l30 26l-52 92h-20l-14 -54', { fill: '#f4f7f8' }),
    circle(150, 190, 34, { fill: HATCH, width: 2.2 }),
    many(9, (n) => path(`M${262 + n * 26} 112l13 44`, { width: 3 })),
    path('M252 108h250v52h-250z', { dash: '5 4' }),
    path('M502 134h70m-18 -14l18 14l-18 14'),
    circle(232, 214, 9, { fill: '#fff' }),
    callout(1, 60, 120, 132, 176),
    callout(2, 60, 250, 118, 226),
    callout(3, 300, 250, 240, 218),
    callout(4, 380, 60, 380, 108),
    callout(5, 560, 190, 540, 138),
    text(18, 292, '1 rope   2 fixed jaw with lining   3 split pin   4 spring pack   5 coupling lever', 13),
  );

const bolts = (order: readonly number[]) =>
  svg(
    420,
    260,
    box(90, 30, 240, 170, { fill: '#f4f7f8' }),
    circle(210, 115, 46),
    ...order.map((n, i) => {
      const [x, y] = [
        [130, 65],
        [290, 65],
        [290, 165],
        [130, 165],
      ][i] as [number, number];
      return circle(x, y, 19, { fill: '#fff', width: 2 }) + text(x, y + 6, String(n), 17, 'middle');
    }),
    measure(130, 226, 290, 226, '96'),
  );

const bench = (hasGauge: boolean) =>
  svg(
    640,
    230,
    box(30, 150, 580, 20, { fill: HATCH }),
    path('M60 110H430', { width: 7 }),
    box(42, 84, 36, 66, { fill: '#f4f7f8' }),
    box(250, 82, 74, 56, { fill: '#f4f7f8' }),
    path('M324 110H470', { width: 2 }),
    box(470, 92, 96, 36, { fill: '#eef3f4' }),
    circle(400, 72, 22, { fill: '#fff' }),
    path('M400 72l12 -12M400 94v14'),
    hasGauge ? box(262, 40, 50, 16, { fill: '#fff' }) + path('M287 56v26') + callout(5, 350, 30, 313, 46) : '',
    callout(1, 60, 40, 60, 84),
    callout(2, 220, 50, 262, 90),
    callout(3, 440, 40, 420, 60),
    callout(4, 590, 60, 556, 94),
    text(18, 214, `1 anchor   2 grip   3 dynamometer   4 hydraulic pull${hasGauge ? '   5 gauge G-11' : ''}`, 13),
  );

const lay = () =>
  svg(
    640,
    150,
    path('M20 50H620M20 92H620', { width: 2 }),
    many(20, (n) => path(`M${22 + n * 31} 92c8 -4 14 -36 26 -42`, { width: 1.4 })),
    many(3, (n) => path(`M${220 + n * 60} 58l7 8l-6 5`, { stroke: '#a52c15', width: 2.4 })),
    measure(146, 118, 332, 118, 'one lay length: 6 strands, about 280 mm'),
    text(350, 44, 'broken wires, counted within it', 12),
  );

const splice = () =>
  svg(
    640,
    140,
    path('M20 60H620', { width: 9, stroke: GREY }),
    many(
      6,
      (n) =>
        path(`M${70 + n * 100} 48c10 8 10 16 0 24`, { width: 3 }) +
        text(70 + n * 100, 36, `tuck ${n + 1}`, 12, 'middle'),
    ),
    measure(70, 104, 170, 104, '60 d'),
    measure(20, 128, 620, 128, '1,200 d'),
  );

const line = (from: number, to: number) => {
  const heights = [0, 0.12, 0.2, 0.3, 0.34, 0.42, 0.52, 0.57, 0.66, 0.74, 0.86, 0.93, 1];
  const at = (n: number) => [40 + n * 46, 230 - (heights[n] ?? 1) * 150] as const;
  return svg(
    680,
    290,
    path(heights.map((_, n) => `${n ? 'L' : 'M'}${at(n)[0]} ${at(n)[1] + 44}`).join(''), { stroke: GREY }),
    path(heights.map((_, n) => `${n ? 'L' : 'M'}${at(n)[0]} ${at(n)[1]}`).join(''), { width: 2.4 }),
    path(
      heights
        .slice(from, to + 1)
        .map((_, n) => `${n ? 'L' : 'M'}${at(from + n)[0]} ${at(from + n)[1] - 8}`)
        .join(''),
      { stroke: '#a52c15', width: 4 },
    ),
    ...heights
      .slice(1)
      .map(
        (_, n) =>
          path(`M${at(n + 1)[0]} ${at(n + 1)[1]}v44`, { width: 2 }) +
          text(at(n + 1)[0], at(n + 1)[1] + 62, String(n + 1), 12, 'middle'),
      ),
    text(6, 262, 'Tarn Valley', 12),
    text(320, 220, 'Mid Holt', 12),
    text(590, 60, 'Skarn Peak', 12),
    text(6, 284, 'Red: spans of this procedure', 12),
  );
};

const lowering = () =>
  svg(
    640,
    320,
    path('M10 40H630', { width: 5 }),
    path('M320 40v26M300 66h40'),
    box(250, 70, 140, 110, { fill: '#f4f7f8' }),
    box(264, 84, 48, 40),
    box(328, 84, 48, 40),
    path('M380 130V262', { width: 2 }),
    circle(380, 252, 10, { fill: '#fff' }),
    path('M380 262v30m0 -22l-12 12m12 -12l12 12m-12 10l-10 16m10 -16l10 16'),
    circle(470, 262, 9, { fill: '#fff' }),
    path('M470 271v26m0 -18l-14 6m14 -6l12 8m-12 10l-9 14m9 -14l9 14M456 277L384 236'),
    path('M10 312H630', { width: 3, stroke: GREY }),
    measure(200, 180, 200, 312, '28 m'),
    callout(1, 130, 100, 250, 110),
    callout(2, 560, 150, 386, 170),
    callout(3, 560, 240, 480, 268),
    text(
      18,
      22,
      '1 first rescuer in the cabin   2 descender and safety line   3 second rescuer with the brake hand',
      13,
    ),
  );

const ladder = () =>
  svg(
    420,
    340,
    path('M180 320L196 30M240 320L224 30M150 40h130', { width: 3 }),
    many(12, (n) => path(`M${183 + n * 1.2} ${300 - n * 22}h${54 - n * 2.4}`, { width: 1.2 })),
    path('M290 40V320', { dash: '4 4' }),
    circle(236, 150, 9, { fill: '#fff' }),
    path('M236 159v34m0 -26l18 -8m-18 34l-8 22m8 -22l10 20M244 164L290 150'),
    circle(340, 286, 9, { fill: '#fff' }),
    path('M340 295v30m0 -22l-12 12m12 -12l12 12'),
    measure(120, 240, 120, 320, '3 m'),
    callout(1, 360, 120, 291, 150),
    callout(2, 390, 250, 350, 284),
    text(6, 336, '1 fall arrester   2 second fitter with the radio', 12),
  );

const liner = (limit: string) =>
  svg(
    520,
    250,
    path('M90 40h340v60c-50 60 -290 60 -340 0z', { fill: HATCH }),
    path('M120 40c20 60 260 60 280 0', { fill: '#fff' }),
    circle(260, 52, 34, { fill: '#f4f7f8', width: 2 }),
    path('M96 118h328', { stroke: '#a52c15', dash: '6 4' }),
    text(430, 122, 'wear mark', 12),
    measure(44, 84, 44, 118, limit),
    callout(1, 40, 200, 170, 122),
    callout(2, 320, 200, 270, 80),
    text(80, 238, '1 liner   2 rope, 40 mm', 13),
  );

const door = () =>
  svg(
    520,
    260,
    box(40, 30, 200, 190, { fill: '#f4f7f8' }),
    box(240, 30, 200, 190),
    path('M240 20V230', { dash: '5 4' }),
    path('M240 110h54l16 14l-16 14h-54', { fill: HATCH }),
    path('M330 124h80m-18 -10l18 10l-18 10', { stroke: '#a52c15', width: 2 }),
    text(346, 110, 'F', 15),
    callout(1, 90, 90, 250, 122),
    callout(2, 480, 200, 410, 180),
    text(40, 250, '1 bolt of the interlock   2 door leaf; F is the force of the test', 12),
  );

const plan = () =>
  svg(
    640,
    220,
    ...['String A', 'String B', 'String C'].map(
      (name, n) =>
        box(40 + n * 150, 40, 110, 60, { fill: '#f4f7f8' }) +
        text(95 + n * 150, 74, name, 13, 'middle') +
        path(`M${95 + n * 150} 100v40`),
    ),
    path('M60 140H560', { width: 3 }),
    box(500, 40, 110, 60, { fill: '#eef3f4' }),
    text(555, 74, 'Brakes', 13, 'middle'),
    path('M555 100v40'),
    text(60, 170, '110 V direct current; each string alone holds the brakes for 10 minutes.', 12),
  );

/** A tower by its height and sheaves, with the ground and the rope. */
const tower = (height: number, sheaves: number) => {
  const ground = 56 + height * 7;
  const top = 50;
  return svg(
    520,
    ground + 34,
    path(`M20 ${ground}H500`, { width: 3, stroke: GREY }),
    path(`M232 ${ground}L250 ${top}M288 ${ground}L270 ${top}M170 ${top}h180`, { width: 4 }),
    many(Math.round(height / 2) - 1, (n) =>
      path(`M${234 + n * 0.9} ${ground - 10 - n * 13.4}h${52 - n * 1.8}`, { width: 1.2 }),
    ),
    path(`M60 ${top - 22}H460`, { width: 3 }),
    many(sheaves, (n) => circle(180 + (n * 160) / Math.max(1, sheaves - 1), top - 12, 8, { fill: '#fff' })),
    box(216, ground, 88, 22, { fill: HATCH }),
    measure(420, top - 22, 420, ground, `${height.toFixed(1)} m`),
  );
};

const WAVES = Array.from({ length: 80 }, (_, i) => 0.5 + 0.35 * Math.sin(i / 5) ** 2 + ((i * 37) % 11) / 40);

/** The figures of the texts, by name; behind a colon stands what differs between revisions. */
export const FIGURES: Record<string, (argument: string) => string> = {
  grip,
  'jaw-bolts': (order) => bolts((order || '1-3-2-4').split('-').map(Number)),
  'test-bench': (more) => bench(more === 'gauge'),
  'lay-length': lay,
  splice,
  line: (spans) => {
    const [from = 1, to = 12] = spans.split('-').map(Number);
    return line(from, to);
  },
  lowering,
  ladder,
  liner: (limit) => liner(limit.replaceAll('_', ' ') || '8 mm'),
  door,
  batteries: plan,
  tower: (figures) => {
    const [height = 10, sheaves = 6] = figures.split('-').map(Number);
    return tower(height, sheaves);
  },
  flow: (steps) => flow(steps.replaceAll('_', ' ').split(';')),
  'wind-limits': () =>
    chart([8, 8, 8, 8, 8, 5, 5, 2, 0, 0], {
      most: 8,
      x: 'gusts, km/h',
      y: 'speed of the line, m/s',
      labels: ['0', '20', '40', '60', '80', '100'],
    }),
  'metallic-loss': () =>
    chart([...WAVES.slice(0, 41), 1.8, 1.2, ...WAVES.slice(43)], {
      most: 8,
      limit: 6,
      x: 'position along the rope, m',
      y: 'loss of metallic area, %',
      labels: ['0', '200', '400', '600', '800'],
    }),
  'slip-force': () =>
    chart([7.4, 7.2, 7.3, 6.9, 6.7, 6.4, 6.5, 6.4], {
      most: 9,
      limit: 6.8,
      x: 'pull',
      y: 'force at first slip, kN',
      labels: ['1', '2', '3', '4', '5', '6', '7', '8'],
    }),
};
