import { cabinCheckList } from './forms.ts';
import type { FileOf } from './text/fileOf.ts';

/** The three ways in which folders of this organisation are laid out. */
export const BLUEPRINTS: {
  name: string;
  folder: string;
  lookup: string | null;
  outline: string;
  files?: FileOf[];
  /** What was laid out from it, how many days ago. */
  projects: { daysAgo: number; values: Record<string, string> }[];
}[] = [
  {
    name: 'Ropeway line',
    folder: '7',
    lookup: 'project',
    projects: [{ daysAgo: 95, values: { project: 'P-2407 Tower 9 sheaves', client: 'Tarnholt Ropeways' } }],
    outline: [
      '{client} | client={client}',
      '  {project}',
      '    + MIN First meeting of {project}',
      '    Start',
      '    Line and stations',
      '      + RSK Risk assessment of {project}',
      '    Rope and drive',
      '    Agreements',
      '    Acceptance',
    ].join('\n'),
  },
  {
    name: 'Cabin overhaul',
    folder: '3/cabins',
    lookup: null,
    files: [cabinCheckList],
    projects: [{ daysAgo: 24, values: { year: '2026', numbers: '33 to 48' } }],
    outline: [
      'Overhaul {year}',
      '  Cabins {numbers}',
      '    + CHK (cabin check list.xlsx) Check list for cabins {numbers}',
      '  Doors',
      '  Findings',
    ].join('\n'),
  },
  {
    name: 'Supplier file',
    folder: '6/contracts',
    lookup: 'supplier',
    projects: [{ daysAgo: 40, values: { name: 'Kelm Cabins' } }],
    outline: ['{name}', '  Agreements', '  Certificates', '  Evaluations', '    + EVA First evaluation of {name}'].join(
      '\n',
    ),
  },
];
