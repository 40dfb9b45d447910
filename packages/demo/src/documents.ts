import { floorSheet, sheaveSheet } from './figures/sheet.ts';
import { drillRecord, gripRecord, windRecord } from './forms.ts';
import { makeMail } from './mail.ts';
import { manual } from './manual.ts';
import { type FileOf, fromMarkdown, fromText } from './text/fileOf.ts';

export type DemoRevision = {
  change: 'first issue' | 'minor' | 'major' | 'editorial';
  reason: string;
  summary: string;
  daysAgo: number;
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
  /** The file of each revision. */
  file: FileOf;
  revisions: DemoRevision[];
  ending: Ending;
  reviewers?: string[];
  number?: string;
  label?: string;
  readers?: { units?: string[]; instructions?: string; days?: number; before?: boolean };
  /** It must not be used since some days. */
  hold?: { reason: string; wayOut: string; daysAgo: number };
};

const first = (daysAgo: number): DemoRevision => ({
  change: 'first issue',
  reason: '',
  summary: 'First issue.',
  daysAgo,
});

const towerDrawing: FileOf = async (revision) => ({
  name: 'tower9.svg',
  bytes:
    revision === 1
      ? sheaveSheet(
          {
            title: 'Tower 9 sheave assembly',
            scale: '1:20',
            sheet: 'A3',
            revision: 'P01',
            notes: ['8 sheaves, liners 60 mm', 'Rope 40 mm', 'Corrosion protection C5'],
          },
          8,
          '4 100',
        )
      : sheaveSheet(
          {
            title: 'Tower 9 sheave assembly',
            scale: '1:20',
            sheet: 'A3',
            revision: 'P02',
            notes: ['10 sheaves, liners 60 mm', 'Rope 40 mm', 'Beam 4 480 mm', 'Corrosion protection C5'],
          },
          10,
          '4 480',
        ),
});
const floorPlan: FileOf = async () => ({
  name: 'floor plan.svg',
  bytes: floorSheet({
    title: 'Drive station floor plan',
    scale: '1:100',
    sheet: 'A3',
    drawn: 'R. Lindt',
    notes: ['Exit A to the car park', 'Exit B to the forest road', 'Green: ways out, 1.2 m wide and kept free'],
  }),
});
const makersLetter: FileOf = async () => ({
  name: 'jaw bolts.eml',
  bytes: makeMail(
    'service@brennhof.example',
    'Jaw bolt torque',
    [
      'Dear Mr Brandvik,',
      'from lot 26/3 on please torque the jaw bolts of the grip to 225 N·m, in two rounds: first to 120 N·m, then to the full value, crosswise. The bolts of this lot are of class 10.9 and stretch less; with 210 N·m they may loosen under alternating load.',
      'For jaws of earlier lots the value of 210 N·m still holds. Where jaws of both lots sit in one grip, take 225 N·m and bolts of class 10.9 throughout.',
      'The certificate of the lot will follow with the delivery. Please mark the bolt heads after torquing and look at the marks after the first day.',
      'With kind regards',
      'Brennhof Castings, service',
    ].join('\r\n\r\n'),
  ),
});

/** The described documents of the scenario, in the order in which their numbers were taken. */
export const DOCUMENTS: DemoDocument[] = [
  {
    type: 'PRO',
    folder: '1/haul',
    title: 'Daily opening inspection of the haul rope',
    owner: 'petra.lindqvist',
    author: 'joren.adeyemi',
    file: fromText('opening-inspection', 'opening inspection.docx'),
    ending: 'in force',
    metadata: { equipment: 'Haul rope', interval: 'daily', limit: '3 wires per lay' },
    keywords: ['rope', 'opening'],
    readers: { units: ['ops'], instructions: 'Read before your next opening duty.', days: 10 },
    revisions: [
      first(1180),
      {
        change: 'minor',
        reason: 'Lightning marks were missed twice',
        summary: 'Marks of lightning added to what is looked at.',
        daysAgo: 800,
      },
      {
        change: 'minor',
        reason: 'Audit finding 2025-14',
        summary: 'The record names time and name.',
        daysAgo: 420,
      },
      {
        change: 'major',
        reason: 'Limit of broken wires lowered by the rope maker',
        summary: 'More than three broken wires in one lay length stop the opening; formerly five.',
        daysAgo: 62,
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
    file: fromText('track-lubrication', 'track rope lubrication.docx'),
    ending: 'in force',
    metadata: { equipment: 'Track ropes', interval: 'yearly' },
    revisions: [first(1060)],
  },
  {
    type: 'PRO',
    folder: '3/grips',
    title: 'Exchange of a grip on the line',
    owner: 'otto.brandvik',
    author: 'joren.adeyemi',
    file: fromText('grip-exchange', 'grip exchange.docx'),
    ending: 'in force',
    metadata: { equipment: 'Grips', interval: 'on occasion' },
    readers: { units: ['grips'], days: 8 },
    revisions: [first(1040)],
  },
  {
    type: 'PRO',
    folder: '1/haul',
    title: 'Repair of the haul rope splice',
    owner: 'otto.brandvik',
    author: 'joren.adeyemi',
    file: fromText('splice-repair', 'splice repair.pdf'),
    ending: 'in force',
    metadata: { equipment: 'Haul rope', interval: 'on occasion' },
    revisions: [first(1020)],
  },
  {
    type: 'PRO',
    folder: '4/daily',
    title: 'Lightning watch and clearing of the platforms',
    owner: 'petra.lindqvist',
    author: 'petra.lindqvist',
    reviewers: ['uwe.marten'],
    file: fromText('lightning-watch', 'lightning watch.docx'),
    ending: 'in force',
    metadata: { interval: 'on occasion' },
    readers: { units: ['ops'], days: 10 },
    revisions: [first(1000)],
  },
  {
    type: 'PRO',
    folder: '2/towers',
    title: 'Clearing snow and ice from the towers',
    owner: 'otto.brandvik',
    author: 'otto.brandvik',
    reviewers: ['lin.sato'],
    file: fromText('snow-and-ice', 'snow and ice.md'),
    ending: 'in force',
    metadata: { equipment: 'Towers', interval: 'on occasion' },
    revisions: [
      first(980),
      {
        change: 'major',
        reason: 'Slip on tower 4 in the last winter',
        summary: 'Crampons are worn above 3 m; the second fitter stays on the ground.',
        daysAgo: 31,
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
    file: fromText('grip-overhaul', 'grip overhaul.docx'),
    ending: 'in approval',
    metadata: { equipment: 'Grips', limit: '6.2 kN', interval: 'yearly' },
    keywords: ['grip', 'slip force'],
    readers: {
      units: ['mnt'],
      instructions: 'The limit decides whether a carrier may run. Ask Otto before you sign if table 2 is unclear.',
      days: 10,
    },
    revisions: [
      first(960),
      {
        change: 'minor',
        reason: 'Split pins were used twice',
        summary: 'The split pin is renewed each time.',
        daysAgo: 630,
      },
      {
        change: 'major',
        reason:
          'Trial on carrier 31 showed slip at 6.4 kN with a worn spring pack; the torque follows the maker’s letter of 12 October',
        summary: 'Slip-force limit raised from 6.2 to 6.8 kN, spread tightened to 8 %; new step 4.5 for the gauge.',
        daysAgo: 14,
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
    file: fromText('bullwheel-bearings', 'bullwheel.docx'),
    ending: 'withdrawn',
    metadata: { equipment: 'Return bullwheel', interval: 'monthly' },
    revisions: [
      first(940),
      {
        change: 'minor',
        reason: 'Grease changed',
        summary: 'New grease.',
        daysAgo: 640,
      },
    ],
  },
  {
    type: 'PRO',
    folder: '4/daily',
    title: 'Operation in strong wind',
    owner: 'petra.lindqvist',
    author: 'joren.adeyemi',
    file: fromText('strong-wind', 'strong wind.docx'),
    ending: 'in force',
    metadata: { interval: 'on occasion', limit: '80 km/h' },
    revisions: [first(900)],
  },
  {
    type: 'PRO',
    folder: '4/rescue',
    title: 'Vertical rescue from cabins between towers 6 and 11',
    owner: 'petra.lindqvist',
    author: 'petra.lindqvist',
    reviewers: ['mara.quill', 'uwe.marten'],
    file: fromText('vertical-rescue', 'vertical rescue.docx'),
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
      first(760),
      {
        change: 'major',
        reason: 'Spans 9 to 11 came under rope rescue after the road was lost',
        summary: 'Holds now for the spans between towers 6 and 11; two rescuers per cabin.',
        daysAgo: 17,
      },
    ],
  },
  {
    type: 'PRO',
    folder: '4/daily',
    title: 'Transport of materials outside opening hours',
    owner: 'petra.lindqvist',
    author: 'joren.adeyemi',
    file: fromText('night-transport', 'night transport.docx'),
    ending: 'rejected',
    metadata: { interval: 'on occasion' },
    revisions: [first(21)],
  },
  {
    type: 'WIN',
    folder: '4/daily',
    title: 'Operation and maintenance manual of the ropeway',
    owner: 'otto.brandvik',
    author: 'joren.adeyemi',
    reviewers: ['lin.sato'],
    file: fromMarkdown(manual, 'manual.pdf'),
    ending: 'in force',
    keywords: ['manual'],
    metadata: { equipment: 'Whole line' },
    revisions: [
      first(930),
      {
        change: 'minor',
        reason: 'Emergency drive exchanged',
        summary: 'Chapter on the emergency drive anew; lubricants brought together in one table.',
        daysAgo: 560,
      },
      {
        change: 'minor',
        reason: 'Experience of two winters',
        summary: 'Faults of the winter added; intervals of the wind gauges halved.',
        daysAgo: 180,
      },
    ],
  },
  {
    type: 'WIN',
    folder: '1/track',
    title: 'Torque sequence for track rope socket bolts',
    owner: 'otto.brandvik',
    author: 'joren.adeyemi',
    file: fromText('socket-bolts', 'socket bolts.docx'),
    ending: 'checked out',
    metadata: { equipment: 'Track rope sockets', tool: 'Torque wrench 200–800 N·m' },
    revisions: [first(40)],
  },
  {
    type: 'WIN',
    folder: '2/towers',
    title: 'Exchange of sheave liners on towers 3 to 12',
    owner: 'otto.brandvik',
    author: 'otto.brandvik',
    reviewers: ['lin.sato'],
    file: fromText('sheave-liners', 'sheave liners.docx'),
    ending: 'in force',
    metadata: { equipment: 'Sheaves', tool: 'Liner press' },
    revisions: [first(450)],
  },
  {
    type: 'WIN',
    folder: '1/drive',
    title: 'Exchange of the batteries of the drive station',
    owner: 'otto.brandvik',
    author: 'joren.adeyemi',
    file: fromText('batteries', 'batteries.docx'),
    ending: 'in force',
    metadata: { equipment: 'UPS', tool: 'Insulated tools' },
    revisions: [first(300)],
  },
  {
    type: 'WIN',
    folder: '3/cabins',
    title: 'Repair of the anti-slip floor of a cabin',
    owner: 'otto.brandvik',
    author: 'zora.blum',
    reviewers: ['otto.brandvik'],
    file: fromText('cabin-floor', 'cabin floor.docx'),
    ending: 'draft',
    metadata: { equipment: 'Cabins' },
    revisions: [first(6)],
  },
  {
    type: 'FRM',
    folder: '4/daily',
    title: 'Wind stop and restart record',
    owner: 'petra.lindqvist',
    author: 'petra.lindqvist',
    reviewers: ['uwe.marten'],
    file: windRecord,
    ending: 'in force',
    metadata: { keepYears: 5 },
    revisions: [
      first(980),
      {
        change: 'minor',
        reason: 'Restart was not recorded',
        summary: 'Column for the restart and who allowed it.',
        daysAgo: 3,
      },
    ],
  },
  {
    type: 'FRM',
    folder: '3/grips',
    title: 'Grip test record',
    owner: 'otto.brandvik',
    author: 'joren.adeyemi',
    file: gripRecord,
    ending: 'in force',
    metadata: { keepYears: 10 },
    revisions: [first(800)],
  },
  {
    type: 'FRM',
    folder: '4/rescue',
    title: 'Rescue drill record',
    owner: 'petra.lindqvist',
    author: 'petra.lindqvist',
    reviewers: ['mara.quill'],
    file: drillRecord,
    ending: 'in force',
    hold: {
      reason: 'The form has no line for the second rescue device that came in October',
      wayOut: 'Note the second device on a sheet of its own and attach it; revision 2 will have the line.',
      daysAgo: 4,
    },
    metadata: { keepYears: 8 },
    revisions: [first(740)],
  },
  {
    type: 'DWG',
    folder: '2/towers',
    title: 'Tower 9 sheave assembly, general arrangement',
    owner: 'lin.sato',
    author: 'joren.adeyemi',
    reviewers: ['georg.milde'],
    file: towerDrawing,
    ending: 'in review',
    metadata: { scale: '1:20', sheet: 'A2' },
    revisions: [
      first(160),
      {
        change: 'major',
        reason: 'Two sheaves more after the rope force was recalculated',
        summary: 'Ten sheaves instead of eight; beam lengthened.',
        daysAgo: 4,
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
    file: floorPlan,
    ending: 'in force',
    metadata: { scale: '1:100', sheet: 'A1' },
    revisions: [first(500)],
  },
  {
    type: 'POL',
    folder: '6',
    title: 'Fitness for duty of ropeway operators',
    owner: 'mara.quill',
    author: 'uwe.marten',
    reviewers: ['petra.lindqvist'],
    file: fromText('fitness-for-duty', 'fitness for duty.pdf'),
    ending: 'in force',
    keywords: ['safety'],
    readers: { units: ['ops', 'mnt'], instructions: 'Everybody who works at the line signs this.', days: 10 },
    revisions: [first(5)],
  },
  {
    type: 'POL',
    folder: '6',
    title: 'Safety policy of Tarnholt Ropeways',
    owner: 'mara.quill',
    author: 'uwe.marten',
    reviewers: ['petra.lindqvist'],
    file: fromText('safety-policy', 'safety policy.pdf'),
    ending: 'in force',
    readers: { units: ['ops', 'mnt', 'wh'], days: 15 },
    revisions: [first(365)],
  },
  {
    type: 'SPC',
    folder: '3/cabins',
    title: 'Cabin door interlock, supply specification',
    owner: 'otto.brandvik',
    author: 'joren.adeyemi',
    reviewers: ['rosa.lindt'],
    file: fromText('door-interlock', 'door interlock.docx'),
    ending: 'approved',
    metadata: { equipment: 'Cabin doors' },
    revisions: [
      first(1200),
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
    file: fromText('magnetic-rope-test', 'magnetic rope test.pdf'),
    ending: 'in review',
    metadata: { equipment: 'Haul rope, section 3', result: 'pass' },
    revisions: [first(16)],
  },
  {
    type: 'RPT',
    folder: '3/grips',
    title: 'Trial of the spring pack on carrier 31',
    owner: 'lin.sato',
    author: 'joren.adeyemi',
    reviewers: ['otto.brandvik'],
    file: fromText('trial-carrier-31', 'trial carrier 31.pdf'),
    ending: 'in force',
    metadata: { equipment: 'Grips', result: 'fail' },
    revisions: [first(33)],
  },
  {
    type: 'AGR',
    folder: '6/contracts',
    title: 'Maintenance agreement for the emergency drive',
    owner: 'mara.quill',
    author: 'walt.ingram',
    reviewers: ['xenia.pohl'],
    file: fromText('agreement', 'agreement.pdf'),
    ending: 'in approval',
    metadata: { party: 'Halden Motors' },
    revisions: [
      first(330),
      {
        change: 'minor',
        reason: 'Second inspection moves before the winter season',
        summary: 'Inspections in April and October.',
        daysAgo: 12,
      },
    ],
  },
  {
    type: 'MIN',
    folder: '6/minutes',
    title: 'Safety meeting, autumn',
    owner: 'mara.quill',
    author: 'mara.quill',
    file: fromText('minutes', 'minutes.md'),
    ending: 'in force',
    metadata: { heldOn: '2026-10-14' },
    revisions: [first(41)],
  },
  {
    type: 'MAI',
    folder: '6/minutes',
    title: 'Letter of the grip maker on jaw bolt torque',
    owner: 'otto.brandvik',
    author: 'joren.adeyemi',
    file: makersLetter,
    ending: 'in force',
    metadata: { from: 'Brennhof Castings' },
    revisions: [first(40)],
  },
  {
    type: 'SUP',
    folder: '6/contracts',
    title: 'Casting certificate, grip jaws lot 26/3',
    owner: 'otto.brandvik',
    author: 'joren.adeyemi',
    file: fromText('certificate', 'certificate.pdf'),
    ending: 'draft',
    number: 'BRH 26-0388',
    label: 'Issue 1',
    metadata: { maker: 'Brennhof Castings' },
    revisions: [first(8)],
  },
  {
    type: 'WIN',
    folder: '3/cabins',
    title: 'Washing of the cabins in winter',
    owner: 'otto.brandvik',
    author: 'otto.brandvik',
    file: fromText('washing', 'washing.md'),
    ending: 'abandoned',
    revisions: [first(120)],
  },
];
