/** The three ways in which folders of this organisation are laid out. */
export const BLUEPRINTS: { name: string; folder: string; lookup: string | null; outline: string }[] = [
  {
    name: 'Ropeway line',
    folder: '7',
    lookup: 'project',
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
    outline: [
      'Overhaul {year}',
      '  Cabins {numbers}',
      '    + CHK Check list for cabins {numbers}',
      '  Doors',
      '  Findings',
    ].join('\n'),
  },
  {
    name: 'Supplier file',
    folder: '6/contracts',
    lookup: 'supplier',
    outline: ['{name}', '  Agreements', '  Certificates', '  Evaluations', '    + EVA First evaluation of {name}'].join(
      '\n',
    ),
  },
];
