import { addDays } from '@kanonos/core';
import { partSheet, sheaveSheet } from './figures/sheet.ts';
import { toList } from './legacyImport.ts';
import { olderText } from './olderTexts.ts';

const FOLDERS: Record<string, string> = {
  haul: 'Rope & drive / Haul rope',
  track: 'Rope & drive / Track ropes',
  drive: 'Rope & drive / Drive station machinery',
  towers: 'Structures / Towers 1 to 12',
  grips: 'Carriers / Grips',
  cabins: 'Carriers / Cabins',
  daily: 'Operations / Daily operation',
  rescue: 'Operations / Rescue',
  stations: 'Stations',
  contracts: 'Company / Agreements and suppliers',
  minutes: 'Company / Minutes and mail',
};
const AREAS: [area: number, folder: string, parts: string[], count: number][] = [
  [1, 'drive', ['Bull wheel', 'Main gearbox', 'Service brake', 'Emergency drive', 'Coupling guard', 'Motor frame'], 24],
  [2, 'towers', ['sheave assembly', 'cross arm', 'ladder and platform', 'foundation', 'catwalk', 'rope saddle'], 48],
  [4, 'rescue', ['Rescue seat', 'Descender', 'Anchor point', 'Winch frame'], 12],
  [5, 'stations', ['Platform edge', 'Gate', 'Control desk', 'Roof truss', 'Cabin store', 'Rope pit'], 36],
];
const REPORTS: [title: string, folder: string][] = [
  ['Rope test, section', 'haul'],
  ['Track rope, visual check of span', 'track'],
  ['Brake test of the service brake, month', 'drive'],
  ['Grip slip test, carrier', 'grips'],
  ['Tower inspection, tower', 'towers'],
  ['Rescue drill, section', 'rescue'],
  ['Cabin inspection, cabin', 'cabins'],
];
const INSTRUCTIONS: [title: string, folder: string, equipment: string][] = [
  ['Greasing the track rope saddles', 'track', 'Track rope'],
  ['Setting the brake gap of the service brake', 'drive', 'Service brake'],
  ['Changing the liner of a sheave', 'towers', 'Sheave train'],
  ['Measuring the rope diameter', 'haul', 'Haul rope'],
  ['Renewing a door seal', 'cabins', 'Cabin'],
  ['Exchanging a spring pack', 'grips', 'Grip'],
  ['Checking the oil of the main gearbox', 'drive', 'Gearbox'],
  ['Cleaning the wind gauges', 'towers', 'Wind gauge'],
];
const FORMS = [
  'Daily log of the drive station',
  'Handover of the shift',
  'Key list',
  'Lost property',
  'Visitor on the line',
  'Radio test',
  'Tool list of the tower team',
  'Snow clearing record',
  'Cabin cleaning record',
  'Record of an evacuation',
  'Fuel of the emergency drive',
  'Oil sample',
];
const SUBJECTS = [
  'Cabin glazing',
  'Liner of the sheaves',
  'Haul rope 44 mm',
  'Hydraulic unit of the brake',
  'Wind gauge',
  'Radio on the line',
];
const MEETINGS = ['Operations meeting', 'Safety circle', 'Works hall meeting', 'Season review'];
const SENDERS = ['The authority', 'Brennhof Castings', 'Skarnfeld Rope Works', 'The insurer'];
const OWNERS: Record<string, string> = {
  DWG: 'Joren Adeyemi',
  RPT: 'Otto Brandvik',
  WIN: 'Otto Brandvik',
  FRM: 'Petra Lindqvist',
  SPC: 'Lin Sato',
  MIN: 'Ines Varga',
  MAI: 'Ines Varga',
  AGR: 'Mara Quill',
};
const METADATA = ['Equipment', 'Scale', 'Sheet size', 'Tested on', 'Held on', 'Records kept', 'Other party'] as const;
const HEAD = [
  'Number',
  'Title',
  'Type',
  'Revision',
  'State',
  'Valid from',
  'Filed in',
  'Owner',
  'File',
  'Keywords',
  ...METADATA,
];

type Line = {
  number: string;
  title: string;
  folder: string;
  label: string;
  /** Days before the demo's day. */
  ago: number;
  metadata?: Partial<Record<(typeof METADATA)[number], string>>;
  keywords?: string;
};

const four = (n: number) => String(n).padStart(4, '0');
const many = <T>(count: number, make: (n: number) => T): T[] => Array.from({ length: count }, (_, n) => make(n));
const pick = <T>(list: readonly T[], n: number): T => list[n % list.length] as T;

const drawings = (): Line[] =>
  AREAS.flatMap(([area, folder, parts, count]) =>
    many(count, (n) => {
      const part = pick(parts, n);
      const place = area === 2 ? `Tower ${1 + (Math.floor(n / parts.length) % 12)}, ${part}` : part;
      const kind = pick(['general arrangement', 'detail', 'section', 'assembly'], Math.floor(n / parts.length));
      return {
        number: `THR-DWG-${area}${101 + n}`,
        title: `${place}, ${kind}`,
        folder,
        label: pick(['A', 'A', 'B', 'C', 'A'], n),
        ago: 330 + ((n * 53) % 900),
        metadata: { Scale: pick(['1:5', '1:10', '1:20', '1:50'], n), 'Sheet size': pick(['A3', 'A2', 'A1', 'A0'], n) },
        keywords: area === 2 ? 'tower' : '',
      };
    }),
  );

const reports = (day: string): Line[] =>
  many(72, (n) => {
    const [title, folder] = pick(REPORTS, n);
    const ago = 310 + ((n * 37) % 1000);
    return {
      number: `THR-RPT-${four(320 + n)}`,
      title: `${title} ${1 + (Math.floor(n / REPORTS.length) % 12)}`,
      folder,
      label: 'A',
      ago,
      metadata: { 'Tested on': addDays(day, -ago - 6) },
    };
  });

const rest = (day: string): Line[] => {
  const year = Number(day.slice(0, 4));
  return [
    ...many(24, (n) => {
      const [title, folder, equipment] = pick(INSTRUCTIONS, n);
      const site = pick(['drive station', 'return station', 'mid station'], Math.floor(n / INSTRUCTIONS.length));
      return {
        number: `THR-WIN-${four(240 + n)}`,
        title: `${title}, ${site}`,
        folder,
        label: pick(['A', 'B', 'D'], n),
        ago: 320 + ((n * 29) % 400),
        metadata: { Equipment: equipment },
      };
    }),
    ...FORMS.map((title, n) => ({
      number: `THR-FRM-${four(2 + n)}`,
      title,
      folder: 'daily',
      label: String(1 + (n % 3)),
      ago: 310 + ((n * 11) % 50),
      metadata: { 'Records kept': '10' },
    })),
    ...many(18, (n) => ({
      number: `THR-SPC-${four(20 + n)}`,
      title: `${pick(SUBJECTS, n)}, ${pick(['supply', 'test', 'installation'], Math.floor(n / SUBJECTS.length))} specification`,
      folder: pick(['cabins', 'towers', 'haul', 'drive', 'towers', 'stations'], n),
      label: pick(['A', 'B'], n),
      ago: 305 + ((n * 3) % 55),
    })),
    ...many(48, (n) => {
      // Two years of meetings; those of this year are numbered in the organisation itself.
      const of = year - 1 - Math.floor(n / 24);
      const held = `${of}-${String(1 + Math.floor((n % 24) / 2)).padStart(2, '0')}-${n % 2 ? '18' : '04'}`;
      return {
        number: `THR-MIN-${of}-${String(1 + (n % 24)).padStart(3, '0')}`,
        title: `${pick(MEETINGS, n)} of ${held}`,
        folder: 'minutes',
        label: '1',
        ago: Math.max(301, (Date.parse(day) - Date.parse(held)) / 86_400_000 - 2),
        metadata: { 'Held on': held },
      };
    }),
    ...many(24, (n) => ({
      number: `THR-MAI-${four(280 + n)}`,
      title: `${pick(SENDERS, n)}: answer ${1 + Math.floor(n / SENDERS.length)} on ${pick(['tower 9', 'the haul rope', 'the cabin doors'], n)}`,
      folder: 'minutes',
      label: '',
      ago: 302 + n * 17,
    })),
    ...many(6, (n) => ({
      number: `THR-AGR-${four(3 + n)}`,
      title: `${pick(['Cleaning', 'Snow clearing', 'Rope splicing', 'Lift repair', 'Radio network', 'Medical examinations'], n)}, yearly agreement`,
      folder: 'contracts',
      label: `${1 + (n % 2)}.0`,
      ago: 303 + n * 8,
      metadata: { 'Other party': pick(SENDERS.slice(1), n) },
    })),
  ];
};

/** The sheet of a drawing: a train of sheaves where it is one, else a part. */
const drawingOf = (line: Line, n: number): string => {
  const block = {
    title: line.title,
    scale: line.metadata?.Scale ?? '1:10',
    sheet: 'A3',
    revision: line.label,
    notes: ['Measures in mm', 'Edges broken 0.5', 'Corrosion protection C5'],
  };
  const sheet = line.title.includes('sheave') ? sheaveSheet(block, 6 + (n % 3) * 2, '4 100') : partSheet(block, n);
  return sheet.toString('utf8');
};

/**
 * The register as the organisation kept it before Kanonos, as a list with a file for each document: drawings, reports, minutes and what
 * else lay in its folders. The same for the same day.
 */
export const olderRegister = (day: string): { csv: string; files: Record<string, string>; documents: number } => {
  const files: Record<string, string> = {};
  const lines = [...drawings(), ...reports(day), ...rest(day)].map((line, n) => {
    const type = line.number.slice(4, 7);
    const file = `${line.number}.${type === 'DWG' ? 'svg' : 'md'}`;
    const from = addDays(day, -Math.round(line.ago));
    files[file] = type === 'DWG' ? drawingOf(line, n) : olderText(type, { title: line.title, from, n });
    return [
      line.number,
      line.title,
      type,
      line.label,
      'in force',
      from,
      FOLDERS[line.folder] ?? '',
      OWNERS[type] ?? '',
      file,
      line.keywords ?? '',
      ...METADATA.map((fieldValue) => line.metadata?.[fieldValue] ?? ''),
    ];
  });
  return { csv: toList([HEAD, ...lines]), files, documents: lines.length };
};
