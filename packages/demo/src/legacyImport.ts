import { strToU8, zipSync } from 'fflate';

const WHAT = [
  'Rope test',
  'Grip test',
  'Tower inspection',
  'Brake test',
  'Cabin inspection',
  'Rescue drill',
  'Bearing check',
  'Sheave wear',
];
const WHERE = [
  'section 1',
  'section 2',
  'section 3',
  'tower 4',
  'tower 9',
  'drive station',
  'return station',
  'carrier 31',
];
const PLACES = [
  'Rope & drive / Haul rope',
  'Rope & drive / Track ropes',
  'Carriers / Grips',
  'Carriers / Cabins',
  'Structures / Towers 1 to 12',
];
const OWNERS = ['Otto Brandvik', 'Petra Lindqvist', 'Joren Adeyemi', 'Lin Sato'];
const HEAD = [
  'Report no.',
  'Title',
  'Rev',
  'Status',
  'Valid from',
  'Valid to',
  'Filed in',
  'Responsible',
  'File name',
  'Approved by',
  'Tested on',
  'Remarks',
];

export type LegacyImport = { csv: string; files: Record<string, string>; lines: number; faults: number };

/**
 * A list of old reports as an organisation may have kept it in a spreadsheet, with its files: 200 lines, several revisions of some reports,
 * and faults as people make them. The same each time.
 */
export const legacyImport = (lines = 200): LegacyImport => {
  const rows: string[][] = [];
  const files: Record<string, string> = {};
  for (let n = 0; rows.length < lines; n++) {
    const number = `THR-RPT-${String(101 + n).padStart(4, '0')}`;
    const title = `${WHAT[n % 8]}, ${WHERE[(n * 3) % 8]}`;
    const year = 2009 + (n % 12);
    const labels = n % 6 === 0 ? ['A', 'B'] : n % 17 === 0 ? ['A', 'B', 'C'] : ['A'];
    labels.forEach((label, i) => {
      const file = `${number}_${label}.md`;
      const last = i === labels.length - 1;
      const day = `${String(1 + (n % 27)).padStart(2, '0')}.${String(1 + ((n + i) % 9)).padStart(2, '0')}`;
      files[file] =
        `# ${title}\n\nReport ${number}, revision ${label}, of ${year + i}. Measured as laid down; nothing beyond its limit.\n`;
      const withdrawn = last && n % 23 === 5;
      rows.push([
        number,
        title,
        label,
        last ? (withdrawn ? 'withdrawn' : 'valid') : 'replaced',
        `${day}.${year + i}`,
        withdrawn ? `31.12.${year + 4}` : '',
        PLACES[n % 5] ?? '',
        OWNERS[n % 4] ?? '',
        file,
        'Mara Quill',
        `${day}.${year + i}`,
        n % 9 === 0 ? 'Paper original in the cupboard of the works hall' : '',
      ]);
    });
  }
  const kept = rows.slice(0, lines);
  const faults = plant(kept, files);
  return { csv: toList([HEAD, ...kept]), files, lines: kept.length, faults };
};

/** Faults as real lists have them: a digit missing, a day of another order, a file that is not there, a line twice. */
const plant = (rows: string[][], files: Record<string, string>): number => {
  const edits: [line: number, column: number, value: string][] = [
    [3, 0, 'THR-RPT-104'],
    [11, 0, 'THR-RPT-9104'],
    [19, 0, 'THR-RPT-0460'],
    [27, 2, 'I'],
    [35, 3, 'lost'],
    [43, 4, '02.31.2012'],
    [51, 4, ''],
    [59, 6, 'Rope & drive / Attic'],
    [67, 7, 'Hugo Wendt'],
    [75, 8, 'scan 0075.md'],
    [83, 1, ''],
    [91, 10, 'spring 2014'],
  ];
  for (const [line, column, value] of edits) {
    const row = rows[line];
    if (row) row[column] = value;
  }
  const twice = rows[99];
  if (twice && rows[100]) rows[100] = [...twice];
  for (const name of Object.keys(files)) if (!rows.some((row) => row[8] === name)) delete files[name];
  return edits.length + 2;
};

/** Rows as a list that a spreadsheet keeps with semicolons. */
export const toList = (rows: readonly (readonly string[])[]): string => {
  const cell = (text: string) => (/[;"\n]/.test(text) ? `"${text.replaceAll('"', '""')}"` : text);
  return rows.map((row) => row.map(cell).join(';')).join('\r\n');
};

/** The files of an legacy documents as one zip. */
export const zipOf = (files: Record<string, string>): Uint8Array =>
  zipSync(Object.fromEntries(Object.entries(files).map(([name, text]) => [name, strToU8(text)])));
