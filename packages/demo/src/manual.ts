import { textOf } from './text/source.ts';

type Tower = {
  n: number;
  height: number;
  kind: string;
  sheaves: [up: number, down: number];
  slope: number;
  force: number;
  foot: string;
  note: string;
};

const TOWERS: readonly Tower[] = [
  {
    n: 1,
    height: 9.4,
    kind: 'support',
    sheaves: [6, 6],
    slope: 12,
    force: 38,
    foot: 'concrete on rock',
    note: 'Stands in the car park; barrier against lorries.',
  },
  {
    n: 2,
    height: 14.2,
    kind: 'support',
    sheaves: [6, 6],
    slope: 14,
    force: 44,
    foot: 'concrete on gravel',
    note: 'Foot under water at snow melt; look at the drain in April.',
  },
  {
    n: 3,
    height: 21.6,
    kind: 'support',
    sheaves: [8, 8],
    slope: 19,
    force: 61,
    foot: 'concrete on gravel',
    note: 'Carries wind gauge W1.',
  },
  {
    n: 4,
    height: 17.0,
    kind: 'hold-down',
    sheaves: [8, 8],
    slope: 9,
    force: 52,
    foot: 'concrete on rock',
    note: 'Slip in the last winter; crampons above 3 m.',
  },
  {
    n: 5,
    height: 19.8,
    kind: 'support',
    sheaves: [6, 6],
    slope: 18,
    force: 47,
    foot: 'rock anchors',
    note: 'Passing place of the maintenance carriage.',
  },
  {
    n: 6,
    height: 24.4,
    kind: 'support',
    sheaves: [8, 8],
    slope: 21,
    force: 66,
    foot: 'rock anchors',
    note: 'Mid Holt below; carries wind gauge W2 and a rescue carriage.',
  },
  {
    n: 7,
    height: 28.1,
    kind: 'support',
    sheaves: [10, 10],
    slope: 27,
    force: 79,
    foot: 'rock anchors',
    note: 'Highest platform; fall arrester on both ladders.',
  },
  {
    n: 8,
    height: 26.0,
    kind: 'support',
    sheaves: [10, 10],
    slope: 38,
    force: 83,
    foot: 'rock anchors',
    note: 'Steepest span above; rescue carriage in the box.',
  },
  {
    n: 9,
    height: 22.7,
    kind: 'support',
    sheaves: [10, 8],
    slope: 33,
    force: 88,
    foot: 'rock anchors',
    note: 'Sheave assembly THR-DWG-2207; carries wind gauge W3.',
  },
  {
    n: 10,
    height: 18.3,
    kind: 'hold-down',
    sheaves: [8, 8],
    slope: 29,
    force: 58,
    foot: 'rock anchors',
    note: 'Saddle passed with the bypass sling in a rescue.',
  },
  {
    n: 11,
    height: 16.9,
    kind: 'support',
    sheaves: [6, 6],
    slope: 17,
    force: 49,
    foot: 'concrete on rock',
    note: 'Reached only by rope since the road was lost.',
  },
  {
    n: 12,
    height: 11.2,
    kind: 'support',
    sheaves: [6, 6],
    slope: 8,
    force: 36,
    foot: 'concrete on rock',
    note: 'Beside Skarn Peak; icicles of the roof fall onto the ladder.',
  },
];

/** The page of one tower: its figures, its sheaves, and what is looked at when. */
const towerPage = (tower: Tower, revision: number): string => {
  const { n, height, kind, sheaves, slope, force, foot, note } = tower;
  const gauge = [3, 6, 9].includes(n);
  return [
    '---',
    `### 4.${n} Tower ${n}`,
    note,
    `![Figure 4.${n}: Tower ${n} from the side](tower:${height}-${sheaves[0]})`,
    [
      '| Figure | Value |',
      '|---|---|',
      `| Height of the rope above the ground | ${height.toFixed(1)} m |`,
      `| Kind of tower | ${kind} |`,
      `| Sheaves, uphill and downhill | ${sheaves[0]} and ${sheaves[1]} |`,
      `| Slope of the span above | ${slope}° |`,
      `| Greatest force on the head | ${force} kN |`,
      `| Foot | ${foot} |`,
      `| Bolts of the foot | ${n > 4 ? '12 × M36, 1,450 N·m' : '16 × M30, 980 N·m'} |`,
    ].join('\n'),
    [
      '| What is looked at | How often | Limit |',
      '|---|---|---|',
      `| Liners of all ${sheaves[0] + sheaves[1]} sheaves | every month | 8 mm above the mark |`,
      '| Bearings, by hand and by ear | every month | no play, no noise |',
      '| Slack rope switch, tried by hand | every month | line stops |',
      `| Ladder and arrester | every year | THR-WIN-0323 |`,
      `| Bolts of the foot | every year | mark in place |`,
      `| Rope position in the groove, both sides | every week | ${kind === 'hold-down' ? 'middle, 5 mm' : 'middle, 8 mm'} |`,
      ...(gauge ? [`| Wind gauge | ${revision > 2 ? 'every three months' : 'twice a year'} | 5 % |`] : []),
    ].join('\n'),
    `**Getting there.** ${n <= 2 ? 'On foot from the drive station, 10 minutes.' : n <= 6 ? `By the service road as far as tower ${n}; chains from November on.` : n <= 9 ? 'On foot from Mid Holt with rope partner; in winter with skis and avalanche gear.' : 'With the maintenance carriage from Skarn Peak.'} Two persons, radio, harness.`,
    `**Work on the sheaves.** The rope is lifted with the hoist at the head by ${kind === 'hold-down' ? '60 mm, with the counter hook' : '40 mm'}; the force for it is at most ${Math.round(force / 2 + 6)} kN. The sheaves are exchanged as THR-WIN-0321 says. After the work the line runs one round at 1 m/s while a fitter watches this tower.`,
    ...(n === 9 ? ['![Figure: Section of a liner](liner:8_mm)'] : []),
  ].join('\n\n');
};

/** The manual of the whole line in one of its revisions: written chapters, and a page for each tower. */
export const manual = (revision: number): string =>
  textOf('manual', revision).replace('{{towers}}', TOWERS.map((tower) => towerPage(tower, revision)).join('\n\n'));
