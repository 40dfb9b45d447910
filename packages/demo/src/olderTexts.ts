/** What a document of the older register says, by its type; the figures differ from one document to the next. */
type About = { title: string; from: string; n: number };

const table = (head: string[], rows: (string | number)[][]): string =>
  [head, head.map(() => '---'), ...rows].map((cells) => `| ${cells.join(' | ')} |`).join('\n');
const figure = (n: number, least: number, step: number, digits = 1): string =>
  (least + ((n * 7) % 11) * step).toFixed(digits);

const report = ({ title, from, n }: About): string =>
  [
    `# ${title}`,
    '## What was tested',
    `${title}, in the week before ${from}. Weather dry, ${4 + (n % 15)} °C, wind below 20 km/h. The instruments were within their day of calibration.`,
    '## Figures',
    table(
      ['Place', 'Measured', 'Limit', 'Judgement'],
      ['first', 'second', 'third', 'fourth'].map((place, i) => [
        `${place} place`,
        figure(n + i, 0.4, 0.3),
        '6.0',
        n % 9 === 4 && i === 2 ? 'watch' : 'good',
      ]),
    ),
    '## Judgement',
    n % 9 === 4
      ? 'All figures are within their limits. The third place is measured again in six months.'
      : 'All figures are within their limits. The next test is due after a year.',
  ].join('\n\n');

const instruction = ({ title, n }: About): string =>
  [
    `# ${title}`,
    '## Before the work',
    'Tell the control desk, lock the drive and try to start it. Two persons, one of them has done the work before.',
    '## Steps',
    [
      'Clean the place, so that cracks and wear can be seen.',
      `Measure at ${2 + (n % 4)} places and write the figures down.`,
      'Do the work slowly; parts that were taken off are laid out in their order.',
      'Compare with the limits, let the second person look.',
      'Remove tools and locks, run once without passengers.',
    ]
      .map((step, i) => `${i + 1}. ${step}`)
      .join('\n'),
    '## Limits',
    table(
      ['What', 'Good'],
      [
        ['Wear', `up to ${figure(n, 0.8, 0.2)} mm`],
        ['Play', `up to ${figure(n, 0.1, 0.05, 2)} mm`],
        ['Torque', `${80 + (n % 9) * 20} N·m`],
      ],
    ),
  ].join('\n\n');

const minutes = ({ title, n }: About): string =>
  [
    `# ${title}`,
    'Present: six of eight. Minutes: document control.',
    '## Talked about',
    `${['The figures of the last weeks and three near misses', 'The state of the towers after the frost', 'Spare parts that come late', 'The rosters of the season'][n % 4]}. Nothing was left open from the last meeting.`,
    '## Decided',
    `1. ${['The weekly check is done by two persons.', 'The order is doubled.', 'The procedure is looked at again before the season.'][n % 3]}\n2. The next meeting is in two weeks.`,
    '## To do',
    table(
      ['What', 'Who', 'Until'],
      [
        ['Tell the shifts', 'Operations', 'next week'],
        ['Bring the list up to date', 'Document control', 'next meeting'],
      ],
    ),
  ].join('\n\n');

const specification = ({ title, n }: About): string =>
  [
    `# ${title}`,
    '## Scope',
    'This specification goes to suppliers together with the order. Where it and the order differ, the order holds.',
    '## Requirements',
    table(
      ['No.', 'Requirement', 'Value'],
      [
        ['1', 'Life', `${5 + (n % 10)} years`],
        ['2', 'Temperature', '−30 to +40 °C'],
        ['3', 'Corrosion', 'C5, 240 h salt spray'],
        ['4', 'Marking', 'maker, lot, year'],
        ['5', 'Proof', 'certificate 3.1'],
      ],
    ),
    '## Delivery',
    'In one lot, dry, with the certificate on paper and as a file.',
  ].join('\n\n');

const form = ({ title }: About): string =>
  [
    `# ${title}`,
    'Filled in on the day, by whoever has done it.',
    table(
      ['Date', 'Time', 'Place', 'What', 'Name'],
      Array.from({ length: 8 }, () => ['', '', '', '', '']),
    ),
  ].join('\n\n');

const letter = ({ title, from }: About): string =>
  [
    `# ${title}`,
    `Received on ${from}.`,
    'We thank you for your question and answer as follows. The part may be used as before within the limits that were agreed; what goes beyond them wants our written consent.',
    'Please send us the drawing in force and tell us the day of the work.',
  ].join('\n\n');

const agreement = ({ title, n }: About): string =>
  [
    `# ${title}`,
    '## What is agreed',
    `The work is done ${['every month', 'twice a year', 'on call'][n % 3]}, on days that are agreed two weeks ahead, and reported within five working days.`,
    '## Price and term',
    'A fixed price a year, with the index of wages. The agreement runs from year to year and may be ended three months before the end of a year.',
  ].join('\n\n');

const BY_TYPE: Record<string, (about: About) => string> = {
  RPT: report,
  WIN: instruction,
  MIN: minutes,
  SPC: specification,
  FRM: form,
  MAI: letter,
  AGR: agreement,
};

/** The Markdown of a document that came over from the older register. */
export const olderText = (type: string, about: About): string => (BY_TYPE[type] ?? letter)(about);
