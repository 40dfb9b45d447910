import { makeDocx, makeDrawing, makeMail, makeMarkdown, makePdf, makeXlsx, type Section, type Text } from './files.ts';

export type DemoFile = { name: string; bytes: Buffer };
export type DemoRevision = {
  change: 'first issue' | 'minor' | 'major' | 'editorial';
  reason: string;
  summary: string;
  daysAgo: number;
  file: () => Promise<DemoFile>;
  metadata?: Record<string, string | number>;
};
/** How far the last revision has come. */
export type Ending =
  | 'in force'
  | 'draft'
  | 'checked out'
  | 'rejected'
  | 'in review'
  | 'in approval'
  | 'approved'
  | 'scheduled'
  | 'withdrawn'
  | 'abandoned';
export type DemoDocument = {
  type: string;
  folder: string;
  title: string;
  owner: string;
  author: string;
  metadata?: Record<string, string | number>;
  keywords?: string[];
  revisions: DemoRevision[];
  ending: Ending;
  reviewers?: string[];
  number?: string;
  label?: string;
  readers?: { units?: string[]; instructions?: string; days?: number; before?: boolean };
};

const file =
  (name: string, text: Text, kind: 'docx' | 'pdf' | 'md' = 'docx') =>
  async (): Promise<DemoFile> => ({
    name: `${name}.${kind}`,
    bytes: kind === 'docx' ? makeDocx(text) : kind === 'pdf' ? await makePdf(text) : makeMarkdown(text),
  });
const first = (
  daysAgo: number,
  make: () => Promise<DemoFile>,
  metadata?: Record<string, string | number>,
): DemoRevision => ({
  change: 'first issue',
  reason: '',
  summary: 'First issue.',
  daysAgo,
  file: make,
  ...(metadata ? { metadata } : {}),
});

const grip = (limit: string, spread: string, torque: string, gauge: boolean): Text => ({
  title: 'Grip overhaul and slip-force test',
  sections: [
    [
      '1 Purpose',
      'This procedure says how detachable grips are taken apart, inspected, put together and tested. It holds for all grips of the carriers 1 to 48 and for the spares in the works hall at Lower Tarn.',
    ],
    [
      '2 Before the work',
      '2.1 Take the carrier off the line and enter its number in form THR-FRM-0020. 2.2 Release the spring pack with the press; never by hand.',
      'The fitter wears eye protection. Nobody stands in line with the spring pack while it is under load.',
    ],
    [
      '3 Inspection',
      '3.1 Clean the jaws and look for cracks with dye penetrant. A crack of any length rejects the jaw.',
      '3.2 Measure the wear of the jaw lining at three places. Below 4 mm it is renewed.',
      '3.3 Renew the split pin each time, also where it looks sound.',
    ],
    [
      '4 Slip-force test',
      `4.1 Clamp the grip on the test rope of 40 mm nominal diameter. Bring the spring pack to the length in table 2${gauge ? ', read with gauge G-11' : ''}.`,
      '4.2 Pull at 5 mm/s until the grip slips. Record the force at first slip.',
      `4.3 The grip passes where three pulls in a row exceed ${limit} and differ by less than ${spread}.`,
      '4.4 Where one pull falls below, renew the spring pack and start again at 4.1.',
      ...(gauge ? ['4.5 Write the gauge number, the three forces and the rope diameter on form THR-FRM-0020.'] : []),
    ],
    [
      '5 Reassembly',
      `5.1 Torque the jaw bolts in the order of figure 3 to ${torque}. Mark each bolt head once it holds.`,
      '5.2 Fit a new split pin. A used pin is never fitted again.',
      '5.3 After the first day on the line check the marks of all bolts; see THR-PRO-0112 for the opening inspection.',
    ],
  ],
});
const inspection = (extra: Section[]): Text => ({
  title: 'Daily opening inspection of the haul rope',
  sections: [
    [
      '1 Who and when',
      'The operator on opening duty inspects the haul rope every day before the first passenger, from the platform of the drive station, at inspection speed 0.5 m/s.',
    ],
    [
      '2 What is looked at',
      '2.1 Broken wires: more than three in one lay length stop the opening.',
      '2.2 The splice: its tucks lie smooth, no strand stands out.',
      '2.3 Marks of lightning: blue spots or molten wire ends are reported to the technical authority at once.',
      ...extra.flatMap(([, ...p]) => p),
    ],
    [
      '3 Record',
      'The result goes into the opening book with time and name. Where a limit is reached, the line stays closed until the technical authority has decided; the wind record THR-FRM-0019 is not used for this.',
    ],
    ['4 Reference', 'The yearly test of the rope is described in the report series that begins with THR-RPT-0460.'],
  ],
});
const rescue = (towers: string): Text => ({
  title: 'Vertical rescue from cabins between towers 6 and 11',
  sections: [
    [
      '1 When',
      `Rescue by rope begins when the emergency drive cannot bring the cabins to a station within 60 minutes. This procedure holds for the spans ${towers}.`,
    ],
    [
      '2 Alarm',
      'The operations manager calls the rescue team, names the number of cabins and passengers, and closes the track below the line.',
      'The team leader confirms the weather at Mid Holt: above 70 km/h wind nobody climbs.',
    ],
    [
      '3 Lowering',
      '3.1 Two rescuers per cabin. The first enters from above, the second secures below.',
      '3.2 Speak to the passengers before the door is opened. Children first, each in the small harness.',
      '3.3 Lower at no more than 1 m/s. The brake hand never leaves the rope.',
    ],
    [
      '4 After the rescue',
      'Every harness is taken out of use until it was inspected. The drill record THR-FRM-0021 is filled in on the same day.',
    ],
  ],
});
const short = (title: string, ...sections: Section[]): Text => ({ title, sections });
const seg = (s: string): Section => ['1 Purpose', s];

/** The described documents of the scenario, in the order in which their numbers were taken. */
export const DOCUMENTS: DemoDocument[] = [
  {
    type: 'PRO',
    folder: '1/haul',
    title: 'Daily opening inspection of the haul rope',
    owner: 'petra.lindqvist',
    author: 'joren.adeyemi',
    ending: 'in force',
    metadata: { equipment: 'Haul rope', interval: 'daily', limit: '3 wires per lay' },
    keywords: ['rope', 'opening'],
    readers: { units: ['ops'], instructions: 'Read before your next opening duty.', days: 10 },
    revisions: [
      first(1180, file('opening inspection', inspection([]))),
      {
        change: 'minor',
        reason: 'Lightning marks were missed twice',
        summary: 'Marks of lightning added to what is looked at.',
        daysAgo: 800,
        file: file(
          'opening inspection',
          inspection([['', '2.4 After a thunderstorm the whole rope runs through once more.']]),
        ),
      },
      {
        change: 'minor',
        reason: 'Audit finding 2025-14',
        summary: 'The record names time and name.',
        daysAgo: 420,
        file: file(
          'opening inspection',
          inspection([
            ['', '2.4 After a thunderstorm the whole rope runs through once more.'],
            ['', '2.5 The lubrication is dry to the touch.'],
          ]),
        ),
      },
      {
        change: 'major',
        reason: 'Limit of broken wires lowered by the rope maker',
        summary: 'More than three broken wires in one lay length stop the opening; formerly five.',
        daysAgo: 62,
        file: file(
          'opening inspection',
          inspection([
            ['', '2.4 After a thunderstorm the whole rope runs through once more.'],
            ['', '2.5 The lubrication is dry to the touch.'],
            ['', '2.6 The diameter is measured every Monday at the splice and 20 m behind it.'],
          ]),
        ),
      },
    ],
  },
  {
    type: 'PRO',
    folder: '1/track',
    title: 'Lubrication of the track ropes',
    owner: 'otto.brandvik',
    author: 'otto.brandvik',
    reviewers: ['joren.adeyemi'],
    ending: 'in force',
    metadata: { equipment: 'Track ropes', interval: 'yearly' },
    revisions: [
      first(
        1060,
        file(
          'track rope lubrication',
          short(
            'Lubrication of the track ropes',
            seg('Track ropes are lubricated once a year, in dry weather above 5 °C.'),
            [
              '2 Work',
              'The lubricating carriage runs at 1 m/s. The fitter keeps 2 m distance from the saddle.',
              'Used rags go into the closed bin at Mid Holt.',
            ],
          ),
        ),
      ),
    ],
  },
  {
    type: 'PRO',
    folder: '3/grips',
    title: 'Exchange of a grip on the line',
    owner: 'otto.brandvik',
    author: 'joren.adeyemi',
    ending: 'in force',
    metadata: { equipment: 'Grips', interval: 'on occasion' },
    readers: { units: ['grips'], days: 8 },
    revisions: [
      first(
        1040,
        file(
          'grip exchange',
          short(
            'Exchange of a grip on the line',
            seg('A grip that slips or does not open is exchanged at the nearest station, never on the span.'),
            [
              '2 Steps',
              'Bring the carrier to the station with the emergency drive. Fit a grip that has passed THR-PRO-0118 within 12 months.',
              'Run one empty round and inspect the marks.',
            ],
          ),
        ),
      ),
    ],
  },
  {
    type: 'PRO',
    folder: '1/haul',
    title: 'Repair of the haul rope splice',
    owner: 'otto.brandvik',
    author: 'joren.adeyemi',
    ending: 'in force',
    metadata: { equipment: 'Haul rope', interval: 'on occasion' },
    revisions: [
      first(
        1020,
        file(
          'splice repair',
          short('Repair of the haul rope splice', seg('Only a splicer with a valid certificate repairs the splice.'), [
            '2 Limits',
            'The splice is 1,200 times the diameter long. Tucks lie at least 60 diameters apart.',
            'A magnetic test follows within a week; see THR-RPT-0460.',
          ]),
          'pdf',
        ),
      ),
    ],
  },
  {
    type: 'PRO',
    folder: '4/daily',
    title: 'Lightning watch and clearing of the platforms',
    owner: 'petra.lindqvist',
    author: 'petra.lindqvist',
    reviewers: ['uwe.marten'],
    ending: 'in force',
    metadata: { interval: 'on occasion' },
    readers: { units: ['ops'], days: 10 },
    revisions: [
      first(
        1000,
        file(
          'lightning watch',
          short(
            'Lightning watch and clearing of the platforms',
            seg('From the first warning of a storm within 15 km the line takes no more passengers.'),
            [
              '2 Clearing',
              'Cabins on the line are brought in at full speed. Platforms are cleared when the last cabin has arrived.',
              'The line reopens 20 minutes after the last flash within 10 km.',
            ],
          ),
        ),
      ),
    ],
  },
  {
    type: 'PRO',
    folder: '2/towers',
    title: 'Clearing snow and ice from the towers',
    owner: 'otto.brandvik',
    author: 'otto.brandvik',
    reviewers: ['lin.sato'],
    ending: 'in force',
    metadata: { equipment: 'Towers', interval: 'on occasion' },
    revisions: [
      first(
        980,
        file(
          'snow and ice',
          short(
            'Clearing snow and ice from the towers',
            seg('Ice on sheaves and platforms is cleared before the line opens.'),
            [
              '2 Safety',
              'Two fitters per tower, both on the line. The drive is locked with the key of the team leader.',
            ],
          ),
          'md',
        ),
      ),
      {
        change: 'major',
        reason: 'Slip on tower 4 in the last winter',
        summary: 'Crampons are worn above 3 m; the second fitter stays on the ground.',
        daysAgo: 31,
        file: file(
          'snow and ice',
          short(
            'Clearing snow and ice from the towers',
            seg('Ice on sheaves and platforms is cleared before the line opens.'),
            [
              '2 Safety',
              'Crampons are worn above 3 m. One fitter climbs, the second stays on the ground with the radio.',
              'The drive is locked with the key of the team leader.',
            ],
          ),
          'md',
        ),
      },
    ],
  },
  {
    type: 'PRO',
    folder: '3/grips',
    title: 'Grip overhaul and slip-force test',
    owner: 'otto.brandvik',
    author: 'joren.adeyemi',
    reviewers: ['mara.quill'],
    ending: 'in approval',
    metadata: { equipment: 'Grips', limit: '6.2 kN', interval: 'yearly' },
    keywords: ['grip', 'slip force'],
    readers: {
      units: ['mnt'],
      instructions: 'The limit decides whether a carrier may run. Ask Otto before you sign if table 2 is unclear.',
      days: 10,
    },
    revisions: [
      first(960, file('grip overhaul', grip('6.2 kN', '12 %', '210 N·m', false))),
      {
        change: 'minor',
        reason: 'Split pins were used twice',
        summary: 'The split pin is renewed each time.',
        daysAgo: 630,
        file: file('grip overhaul', grip('6.2 kN', '10 %', '210 N·m', false)),
      },
      {
        change: 'major',
        reason:
          'Trial on carrier 31 showed slip at 6.4 kN with a worn spring pack; the torque follows the maker’s letter of 12 October',
        summary: 'Slip-force limit raised from 6.2 to 6.8 kN, spread tightened to 8 %; new step 4.5 for the gauge.',
        daysAgo: 14,
        file: file('grip overhaul', grip('6.8 kN', '8 %', '225 N·m', true)),
        metadata: { limit: '6.8 kN' },
      },
    ],
  },
  {
    type: 'PRO',
    folder: '1/drive',
    title: 'Lubrication of return bullwheel bearings',
    owner: 'otto.brandvik',
    author: 'otto.brandvik',
    reviewers: ['joren.adeyemi'],
    ending: 'withdrawn',
    metadata: { equipment: 'Return bullwheel', interval: 'monthly' },
    revisions: [
      first(
        940,
        file(
          'bullwheel',
          short('Lubrication of return bullwheel bearings', seg('The bearings are greased by hand every month.'), [
            '2 Note',
            'Since the sealed bearings were fitted no grease is added.',
          ]),
        ),
      ),
      {
        change: 'minor',
        reason: 'Grease changed',
        summary: 'New grease.',
        daysAgo: 640,
        file: file(
          'bullwheel',
          short(
            'Lubrication of return bullwheel bearings',
            seg('The bearings are greased by hand every month with grease G2.'),
          ),
        ),
      },
    ],
  },
  {
    type: 'PRO',
    folder: '4/daily',
    title: 'Operation in strong wind',
    owner: 'petra.lindqvist',
    author: 'joren.adeyemi',
    ending: 'in force',
    metadata: { interval: 'on occasion', limit: '80 km/h' },
    revisions: [
      first(
        900,
        file(
          'strong wind',
          short('Operation in strong wind', seg('Above 60 km/h the line runs slower, above 80 km/h it stops.'), [
            '2 Stop',
            'Cabins are brought in before the line stands. The stop is written on THR-FRM-0019.',
          ]),
        ),
      ),
    ],
  },
  {
    type: 'PRO',
    folder: '4/rescue',
    title: 'Vertical rescue from cabins between towers 6 and 11',
    owner: 'petra.lindqvist',
    author: 'petra.lindqvist',
    reviewers: ['mara.quill', 'uwe.marten'],
    ending: 'scheduled',
    metadata: { interval: 'on occasion' },
    keywords: ['rescue'],
    readers: {
      units: ['rescue'],
      instructions: 'Read it before the drill. Bring questions to the drill on Saturday.',
      days: 9,
      before: true,
    },
    revisions: [
      first(760, file('vertical rescue', rescue('between towers 6 and 9'))),
      {
        change: 'major',
        reason: 'Spans 9 to 11 came under rope rescue after the road was lost',
        summary: 'Holds now for the spans between towers 6 and 11; two rescuers per cabin.',
        daysAgo: 17,
        file: file('vertical rescue', rescue('between towers 6 and 11')),
      },
    ],
  },
  {
    type: 'PRO',
    folder: '4/daily',
    title: 'Transport of materials outside opening hours',
    owner: 'petra.lindqvist',
    author: 'joren.adeyemi',
    ending: 'rejected',
    metadata: { interval: 'on occasion' },
    revisions: [
      first(
        21,
        file(
          'night transport',
          short(
            'Transport of materials outside opening hours',
            seg('Materials of up to 400 kg are carried in cabins 12 and 13 after the last passenger.'),
            ['2 Loading', 'The load is lashed to the four floor rings. Its mass is written on the loading card.'],
          ),
        ),
      ),
    ],
  },
  {
    type: 'WIN',
    folder: '1/track',
    title: 'Torque sequence for track rope socket bolts',
    owner: 'otto.brandvik',
    author: 'joren.adeyemi',
    ending: 'checked out',
    metadata: { equipment: 'Track rope sockets', tool: 'Torque wrench 200–800 N·m' },
    revisions: [
      first(
        40,
        file(
          'socket bolts',
          short(
            'Torque sequence for track rope socket bolts',
            seg('M24 and M30 bolts of the sockets are tightened crosswise in three rounds.'),
            ['2 Values', 'M24: 300, 480, 620 N·m. M30: see table 2.'],
          ),
        ),
      ),
    ],
  },
  {
    type: 'WIN',
    folder: '2/towers',
    title: 'Exchange of sheave liners on towers 3 to 12',
    owner: 'otto.brandvik',
    author: 'otto.brandvik',
    reviewers: ['lin.sato'],
    ending: 'in force',
    metadata: { equipment: 'Sheaves', tool: 'Liner press' },
    revisions: [
      first(
        450,
        file(
          'sheave liners',
          short(
            'Exchange of sheave liners on towers 3 to 12',
            seg('Liners worn below the mark are exchanged in pairs.'),
            [
              '2 Steps',
              'Lift the rope with the hoist at the tower head; the drawing is THR-DWG-2207.',
              'Press the liner evenly; it must not stand out by more than 0.5 mm.',
            ],
          ),
        ),
      ),
    ],
  },
  {
    type: 'WIN',
    folder: '1/drive',
    title: 'Exchange of the batteries of the drive station',
    owner: 'otto.brandvik',
    author: 'joren.adeyemi',
    ending: 'in force',
    metadata: { equipment: 'UPS', tool: 'Insulated tools' },
    revisions: [
      first(
        300,
        file(
          'batteries',
          short(
            'Exchange of the batteries of the drive station',
            seg('The emergency power holds 30 minutes with new batteries.'),
            ['2 Steps', 'One string after the other, so that the brakes stay supplied.'],
          ),
        ),
      ),
    ],
  },
  {
    type: 'WIN',
    folder: '3/cabins',
    title: 'Repair of the anti-slip floor of a cabin',
    owner: 'otto.brandvik',
    author: 'zora.blum',
    reviewers: ['otto.brandvik'],
    ending: 'draft',
    metadata: { equipment: 'Cabins' },
    revisions: [
      first(
        6,
        file(
          'cabin floor',
          short(
            'Repair of the anti-slip floor of a cabin',
            seg('Loose floor is cut out to the next rib and bonded anew.'),
            ['2 Cure', '24 hours at 18 °C or more before passengers step on it.'],
          ),
        ),
      ),
    ],
  },
  {
    type: 'FRM',
    folder: '4/daily',
    title: 'Wind stop and restart record',
    owner: 'petra.lindqvist',
    author: 'petra.lindqvist',
    reviewers: ['uwe.marten'],
    ending: 'in force',
    metadata: { keepYears: 5 },
    revisions: [
      first(980, async () => ({
        name: 'wind record.xlsx',
        bytes: makeXlsx([
          ['Wind stop and restart record', ''],
          ['Date', 'Tower', 'Gust km/h', 'Stopped at'],
          ['', '', '', ''],
        ]),
      })),
      {
        change: 'minor',
        reason: 'Restart was not recorded',
        summary: 'Column for the restart and who allowed it.',
        daysAgo: 3,
        file: async () => ({
          name: 'wind record.xlsx',
          bytes: makeXlsx([
            ['Wind stop and restart record', ''],
            ['Date', 'Tower', 'Gust km/h', 'Stopped at', 'Restarted at', 'Allowed by'],
            ['', '', '', '', '', ''],
          ]),
        }),
      },
    ],
  },
  {
    type: 'FRM',
    folder: '3/grips',
    title: 'Grip test record',
    owner: 'otto.brandvik',
    author: 'joren.adeyemi',
    ending: 'in force',
    metadata: { keepYears: 10 },
    revisions: [
      first(800, async () => ({
        name: 'grip test.xlsx',
        bytes: makeXlsx([
          ['Grip test record for THR-PRO-0118 rev B', ''],
          ['Carrier', 'Pull 1 kN', 'Pull 2 kN', 'Pull 3 kN', 'Spread %', 'Fitter'],
          ['31', '6.4', '6.6', '6.5', '3.1', 'R. Osei'],
        ]),
      })),
    ],
  },
  {
    type: 'FRM',
    folder: '4/rescue',
    title: 'Rescue drill record',
    owner: 'petra.lindqvist',
    author: 'petra.lindqvist',
    reviewers: ['mara.quill'],
    ending: 'in force',
    metadata: { keepYears: 8 },
    revisions: [
      first(740, async () => ({
        name: 'drill.xlsx',
        bytes: makeXlsx([
          ['Rescue drill record', ''],
          ['Date', 'Span', 'Cabins', 'Minutes to last passenger', 'Leader'],
        ]),
      })),
    ],
  },
  {
    type: 'DWG',
    folder: '2/towers',
    title: 'Tower 9 sheave assembly, general arrangement',
    owner: 'lin.sato',
    author: 'joren.adeyemi',
    reviewers: ['georg.milde'],
    ending: 'in review',
    metadata: { scale: '1:20', sheet: 'A2' },
    revisions: [
      first(160, async () => ({
        name: 'tower9.svg',
        bytes: makeDrawing('Tower 9 sheave assembly', ['8 sheaves, liners 60 mm', 'Rope 40 mm'], 8),
      })),
      {
        change: 'major',
        reason: 'Two sheaves more after the rope force was recalculated',
        summary: 'Ten sheaves instead of eight; beam lengthened.',
        daysAgo: 4,
        file: async () => ({
          name: 'tower9.svg',
          bytes: makeDrawing(
            'Tower 9 sheave assembly',
            ['10 sheaves, liners 60 mm', 'Rope 40 mm', 'Beam 4 480 mm'],
            10,
          ),
        }),
      },
    ],
  },
  {
    type: 'DWG',
    folder: '5',
    title: 'Drive station floor plan with evacuation routes',
    owner: 'lin.sato',
    author: 'rosa.lindt',
    reviewers: ['joren.adeyemi'],
    ending: 'in force',
    metadata: { scale: '1:100', sheet: 'A1' },
    revisions: [
      first(500, async () => ({
        name: 'floor plan.svg',
        bytes: makeDrawing('Drive station floor plan', ['Exit A to the car park', 'Exit B to the forest road'], 3),
      })),
    ],
  },
  {
    type: 'POL',
    folder: '6',
    title: 'Fitness for duty of ropeway operators',
    owner: 'mara.quill',
    author: 'uwe.marten',
    reviewers: ['petra.lindqvist'],
    ending: 'in force',
    keywords: ['safety'],
    readers: { units: ['ops', 'mnt'], instructions: 'Everybody who works at the line signs this.', days: 10 },
    revisions: [
      first(
        5,
        file(
          'fitness for duty',
          short(
            'Fitness for duty of ropeway operators',
            seg('Nobody runs a ropeway who is tired, ill, or under the influence of alcohol or drugs.'),
            [
              '2 What it means',
              'Eleven hours of rest lie between two shifts. Who feels unfit says so before the shift and is not asked why.',
              'The supervisor decides on the day; the decision is not discussed at the control desk.',
            ],
            ['3 Tests', 'Blood alcohol is 0.0 on duty. Tests follow an incident, never a suspicion by a passenger.'],
          ),
          'pdf',
        ),
      ),
    ],
  },
  {
    type: 'POL',
    folder: '6',
    title: 'Safety policy of Tarnholt Ropeways',
    owner: 'mara.quill',
    author: 'uwe.marten',
    reviewers: ['petra.lindqvist'],
    ending: 'in force',
    readers: { units: ['ops', 'mnt', 'wh'], days: 15 },
    revisions: [
      first(
        365,
        file(
          'safety policy',
          short('Safety policy of Tarnholt Ropeways', seg('Passengers come down safe, or the line stands still.'), [
            '2 Duties',
            'Everybody may stop the line. Nobody is asked to justify a stop.',
          ]),
          'pdf',
        ),
      ),
    ],
  },
  {
    type: 'SPC',
    folder: '3/cabins',
    title: 'Cabin door interlock, supply specification',
    owner: 'otto.brandvik',
    author: 'joren.adeyemi',
    reviewers: ['rosa.lindt'],
    ending: 'approved',
    metadata: { equipment: 'Cabin doors' },
    revisions: [
      first(
        1200,
        file(
          'door interlock',
          short(
            'Cabin door interlock, supply specification',
            seg('The interlock keeps the door shut against 800 N between stations.'),
            ['2 Test', '10,000 cycles without adjustment.'],
          ),
        ),
      ),
      ...[
        ['minor', 'Supplier changed', 'New supplier named.', 900],
        ['minor', 'Test cycles', '20,000 cycles.', 700],
        ['minor', 'Cold test', 'Test at −30 °C added.', 500],
        ['minor', 'Material', 'Spring of stainless steel.', 350],
        [
          'major',
          'Complaint 2026-07: door opened at 760 N',
          'Holding force raised from 800 to 1,000 N; proof by type test.',
          9,
        ],
      ].map(
        ([change, reason, summary, daysAgo]): DemoRevision => ({
          change: change as 'minor',
          reason: String(reason),
          summary: String(summary),
          daysAgo: Number(daysAgo),
          file: file(
            'door interlock',
            short(
              'Cabin door interlock, supply specification',
              seg(`The interlock keeps the door shut between stations. ${summary}`),
              ['2 Test', 'Cycles and temperature as in table 1. Proof before delivery.'],
            ),
          ),
        }),
      ),
    ],
  },
  {
    type: 'RPT',
    folder: '1/haul',
    title: 'Magnetic rope test, section 3',
    owner: 'lin.sato',
    author: 'joren.adeyemi',
    reviewers: ['anselm.roth', 'uwe.marten'],
    ending: 'in review',
    metadata: { equipment: 'Haul rope, section 3', result: 'pass' },
    revisions: [
      first(
        16,
        file(
          'magnetic rope test',
          short(
            'Magnetic rope test, section 3',
            seg('The haul rope was tested over its whole length.'),
            [
              '2 Result',
              'Loss of metallic area 1.8 % at 412 m, below the limit of 6 %.',
              'Two wire breaks near the splice were found and marked.',
            ],
            [
              '3 Judgement',
              'The rope may go on running. Next test within 12 months; until then THR-PRO-0112 applies daily.',
            ],
          ),
          'pdf',
        ),
      ),
    ],
  },
  {
    type: 'RPT',
    folder: '3/grips',
    title: 'Trial of the spring pack on carrier 31',
    owner: 'lin.sato',
    author: 'joren.adeyemi',
    reviewers: ['otto.brandvik'],
    ending: 'in force',
    metadata: { equipment: 'Grips', result: 'fail' },
    revisions: [
      first(
        33,
        file(
          'trial carrier 31',
          short(
            'Trial of the spring pack on carrier 31',
            seg('With a worn spring pack the grip of carrier 31 slipped at 6.4 kN.'),
            ['2 Consequence', 'The limit of THR-PRO-0118, rev. B, leaves too little margin.'],
          ),
          'pdf',
        ),
      ),
    ],
  },
  {
    type: 'AGR',
    folder: '6/contracts',
    title: 'Maintenance agreement for the emergency drive',
    owner: 'mara.quill',
    author: 'walt.ingram',
    reviewers: ['xenia.pohl'],
    ending: 'in approval',
    metadata: { party: 'Halden Motors' },
    revisions: [
      first(
        330,
        file(
          'agreement',
          short(
            'Maintenance agreement for the emergency drive',
            seg('Halden Motors inspects the emergency drive twice a year.'),
          ),
          'pdf',
        ),
      ),
      {
        change: 'minor',
        reason: 'Second inspection moves before the winter season',
        summary: 'Inspections in April and October.',
        daysAgo: 12,
        file: file(
          'agreement',
          short(
            'Maintenance agreement for the emergency drive',
            seg('Halden Motors inspects the emergency drive in April and in October.'),
          ),
          'pdf',
        ),
      },
    ],
  },
  {
    type: 'MIN',
    folder: '6/minutes',
    title: 'Safety meeting, autumn',
    owner: 'mara.quill',
    author: 'mara.quill',
    ending: 'in force',
    metadata: { heldOn: '2026-10-14' },
    revisions: [
      first(
        41,
        file(
          'minutes',
          short('Safety meeting, autumn', [
            'Decided',
            'The grip limit is raised. Otto Brandvik informs the fitters.',
            'The rescue drill moves to the first Saturday of December.',
          ]),
          'md',
        ),
      ),
    ],
  },
  {
    type: 'MAI',
    folder: '6/minutes',
    title: 'Letter of the grip maker on jaw bolt torque',
    owner: 'otto.brandvik',
    author: 'joren.adeyemi',
    ending: 'in force',
    metadata: { from: 'Brennhof Castings' },
    revisions: [
      first(40, async () => ({
        name: 'jaw bolts.eml',
        bytes: makeMail(
          'service@brennhof.example',
          'Jaw bolt torque',
          'Dear Mr Brandvik,\r\n\r\nfrom lot 26/3 on please torque the jaw bolts of the grip to 225 N·m.\r\n\r\nBrennhof Castings',
        ),
      })),
    ],
  },
  {
    type: 'SUP',
    folder: '6/contracts',
    title: 'Casting certificate, grip jaws lot 26/3',
    owner: 'otto.brandvik',
    author: 'joren.adeyemi',
    ending: 'draft',
    number: 'BRH 26-0388',
    label: 'Issue 1',
    metadata: { maker: 'Brennhof Castings' },
    revisions: [
      first(
        8,
        file(
          'certificate',
          short('Casting certificate', [
            'Result',
            'Tensile strength 820 N/mm², no indication in the magnetic particle test.',
          ]),
          'pdf',
        ),
      ),
    ],
  },
  {
    type: 'WIN',
    folder: '3/cabins',
    title: 'Washing of the cabins in winter',
    owner: 'otto.brandvik',
    author: 'otto.brandvik',
    ending: 'abandoned',
    revisions: [
      first(
        120,
        file('washing', short('Washing of the cabins in winter', seg('Cabins are washed above 2 °C only.')), 'md'),
      ),
    ],
  },
];

const MORE: [title: string, folder: string, days: number][] = [
  ['Test run after a rope slip', '1/haul', 250],
  ['Measuring the sag of the track ropes', '1/track', 410],
  ['Oil change of the main gear', '1/drive', 280],
  ['Check of the service brake', '1/drive', 190],
  ['Check of the emergency brake', '1/drive', 191],
  ['Painting of tower feet', '2/towers', 520],
  ['Inspection of tower ladders', '2/towers', 372],
  ['Check of the wind gauges', '2/towers', 120],
  ['Exchange of cabin windows', '3/cabins', 610],
  ['Check of the cabin doors', '3/cabins', 95],
  ['Weighing of a carrier', '3/grips', 330],
  ['Opening of the line after a long stop', '4/daily', 210],
  ['Announcements in the stations', '4/daily', 700],
  ['Carrying of wheelchairs and prams', '4/daily', 150],
  ['Counting of passengers', '4/daily', 480],
  ['Care of rescue harnesses', '4/rescue', 260],
  ['Radio test with the rescue team', '4/rescue', 133],
  ['Clearing of the platforms of snow', '5', 355],
  ['Check of the fire doors', '5', 366],
  ['Keys of the stations', '5', 222],
];

/** Register entries with shared text, so that lists and facets look alive. */
export const MORE_DOCUMENTS: DemoDocument[] = MORE.map(([title, folder, daysAgo], i) => ({
  type: 'WIN',
  folder,
  title,
  owner: ['otto.brandvik', 'petra.lindqvist'][i % 2] ?? 'otto.brandvik',
  author: 'joren.adeyemi',
  reviewers: [['otto.brandvik', 'uwe.marten', 'rosa.lindt'][i % 3] ?? 'uwe.marten'],
  ending: i % 9 === 5 ? 'draft' : 'in force',
  revisions: [
    first(
      daysAgo,
      file(
        'instruction',
        short(
          title,
          seg(`This instruction says how the work “${title}” is done and how often.`),
          [
            '2 Before the work',
            'Tell the control desk. Lock the drive where the work lies within reach of moving parts.',
          ],
          ['3 After the work', 'Enter date and name in the maintenance book and give the key back.'],
        ),
      ),
    ),
  ],
}));
