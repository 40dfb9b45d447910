import type { FieldDefinition, RouteDefinition, StepDefinition } from '@kanonos/core';
import type { HouseDescription } from '@kanonos/server';

const field = (
  key: string,
  label: string,
  kind: FieldDefinition['kind'],
  more: Partial<FieldDefinition> = {},
): FieldDefinition => ({ key, label, kind, mandatory: false, signed: true, ...more });

const review: StepDefinition = {
  name: 'Review for content',
  kind: 'review',
  asked: [{ by: 'chosen', minimum: 1 }],
  rule: { kind: 'all' },
  workingDays: 5,
  onDecline: 'draft',
};
const byOwner: StepDefinition = {
  name: 'Approve as owner',
  kind: 'approval',
  meaning: 'approved as owner',
  asked: [{ by: 'owner' }],
  rule: { kind: 'all' },
  workingDays: 3,
  onDecline: 'draft',
};
const byUnit = (name: string, meaning: string, unitId: string): StepDefinition => ({
  name,
  kind: 'approval',
  meaning,
  asked: [{ by: 'unit', unitId }],
  rule: { kind: 'any one' },
  workingDays: 3,
  onDecline: 'draft',
});

const fullRoute = (unit: (key: string) => string): RouteDefinition => ({
  name: 'Review, owner, technical authority',
  steps: [review, byOwner, byUnit('Approve as technical authority', 'approved as technical authority', unit('ta'))],
});
const qualityRoute = (unit: (key: string) => string): RouteDefinition => ({
  name: 'Review, quality',
  steps: [review, byUnit('Approve for quality', 'approved for quality and safety', unit('qm'))],
});
const drawingRoute = (unit: (key: string) => string): RouteDefinition => ({
  name: 'Check, technical authority',
  steps: [
    { ...review, name: 'Check the drawing' },
    byUnit('Approve for construction', 'approved for construction', unit('ta')),
  ],
});
const noRoute = (): RouteDefinition => ({ name: 'None', steps: [] });

const EQUIPMENT = field('equipment', 'Equipment', 'text', { help: 'The part of the ropeway that it is about' });

/** The house rules of Tarnholt Ropeways, an invented organisation that builds and runs passenger aerial ropeways. */
export const tarnholt = (year: number, demoPassword: string | null): HouseDescription => ({
  name: 'Tarnholt Ropeways',
  code: 'THR',
  zone: 'Europe/Zurich',
  demoPassword,
  holidays: [year - 3, year - 2, year - 1, year, year + 1].flatMap((y) => [
    { day: `${y}-01-01`, name: 'New Year' },
    { day: `${y}-08-01`, name: 'Valley day' },
    { day: `${y}-12-08`, name: 'Ropeway day' },
    { day: `${y}-12-25`, name: 'Christmas' },
    { day: `${y}-12-26`, name: 'St Stephen' },
  ]),
  units: [
    { key: 'dc', kind: 'department', code: 'DC', name: 'Document control' },
    { key: 'eng', kind: 'department', code: 'ENG', name: 'Engineering' },
    { key: 'mnt', kind: 'department', code: 'MNT', name: 'Maintenance' },
    { key: 'ops', kind: 'department', code: 'OPS', name: 'Operations' },
    { key: 'qs', kind: 'department', code: 'QS', name: 'Quality & safety' },
    { key: 'pur', kind: 'department', code: 'PUR', name: 'Purchasing' },
    { key: 'wh', kind: 'department', code: 'WH', name: 'Works hall' },
    { key: 'ta', kind: 'role', code: 'TA', name: 'Technical authority' },
    { key: 'qm', kind: 'role', code: 'QM', name: 'Quality manager' },
    { key: 'dcr', kind: 'role', code: 'CTRL', name: 'Document controller' },
    { key: 'author', kind: 'group', code: 'AUTH', name: 'Authors' },
    { key: 'rescue', kind: 'group', code: 'RESC', name: 'Rescue team' },
    { key: 'grips', kind: 'group', code: 'GRIP', name: 'Grip fitters' },
    { key: 'tarn', kind: 'site', code: 'TV', name: 'Tarn Valley' },
    { key: 'holt', kind: 'site', code: 'MH', name: 'Mid Holt' },
    { key: 'skarn', kind: 'site', code: 'SP', name: 'Skarn Peak' },
    { key: 'hall', kind: 'site', code: 'LT', name: 'Lower Tarn works hall' },
  ],
  folders: [
    { key: '1', parent: null, name: 'Rope & drive', code: '1' },
    { key: '1/haul', parent: '1', name: 'Haul rope' },
    { key: '1/track', parent: '1', name: 'Track ropes' },
    { key: '1/drive', parent: '1', name: 'Drive station machinery' },
    { key: '2', parent: null, name: 'Structures', code: '2' },
    { key: '2/towers', parent: '2', name: 'Towers 1 to 12' },
    { key: '3', parent: null, name: 'Carriers', code: '3' },
    { key: '3/grips', parent: '3', name: 'Grips' },
    { key: '3/cabins', parent: '3', name: 'Cabins' },
    { key: '4', parent: null, name: 'Operations', code: '4' },
    { key: '4/daily', parent: '4', name: 'Daily operation' },
    { key: '4/rescue', parent: '4', name: 'Rescue' },
    { key: '5', parent: null, name: 'Stations', code: '5' },
    { key: '6', parent: null, name: 'Company', code: '6' },
    { key: '6/contracts', parent: '6', name: 'Agreements and suppliers' },
    { key: '6/minutes', parent: '6', name: 'Minutes and mail' },
  ],
  types: [
    {
      code: 'POL',
      name: 'Policy',
      help: 'What the house commits itself to, on one or two pages. Example: Fitness for duty.',
      numbering: 'THR-{type}-{counter:4}',
      scheme: { kind: 'integers', first: 1 },
      fields: [],
      route: qualityRoute,
      reviewMonths: 24,
      readersNeeded: true,
    },
    {
      code: 'PRO',
      name: 'Procedure',
      help: 'Who does what in which order, with limits and records. Example: Daily opening inspection.',
      numbering: 'THR-{type}-{counter:4}',
      scheme: { kind: 'letters' },
      fields: [
        EQUIPMENT,
        field('limit', 'Limit value', 'text', { help: 'The one value that decides, with its unit' }),
        field('interval', 'Interval', 'choice', {
          options: ['daily', 'weekly', 'monthly', 'yearly', 'on occasion'].map((code) => ({ code, text: code })),
        }),
      ],
      route: fullRoute,
      readersNeeded: true,
      reviewMonths: 36,
    },
    {
      code: 'WIN',
      name: 'Work instruction',
      help: 'One task at one place, step by step. Example: Torque sequence for socket bolts.',
      numbering: 'THR-{type}-{counter:4}',
      scheme: { kind: 'letters' },
      fields: [EQUIPMENT, field('tool', 'Special tool', 'text')],
      route: fullRoute,
      reviewMonths: 24,
    },
    {
      code: 'FRM',
      name: 'Form',
      help: 'What is filled in and kept as a record. Example: Wind stop and restart record.',
      numbering: 'THR-{type}-{counter:4}',
      scheme: { kind: 'integers', first: 1 },
      fields: [field('keepYears', 'Records kept', 'number', { unit: 'years', mandatory: true, signed: false })],
      route: qualityRoute,
    },
    {
      code: 'DWG',
      name: 'Drawing',
      help: 'A drawing sheet with its title block. Example: Tower 9 sheave assembly.',
      numbering: 'THR-{type}-{area}{counter:3}',
      scheme: { kind: 'staged', stages: [{ prefix: 'P', width: 2 }, { letters: true }] },
      fields: [
        field('scale', 'Scale', 'text', { mandatory: true }),
        field('sheet', 'Sheet size', 'choice', {
          options: ['A4', 'A3', 'A2', 'A1', 'A0'].map((code) => ({ code, text: code })),
        }),
      ],
      route: drawingRoute,
      reviewMonths: 0,
    },
    {
      code: 'SPC',
      name: 'Specification',
      help: 'What something must be and how that is shown. Example: Cabin door interlock.',
      numbering: 'THR-{type}-{counter:4}',
      scheme: { kind: 'letters' },
      fields: [EQUIPMENT],
      route: fullRoute,
    },
    {
      code: 'RPT',
      name: 'Report',
      help: 'What was found, with figures and a judgement. Example: Magnetic rope test.',
      numbering: 'THR-{type}-{counter:4}',
      scheme: { kind: 'letters' },
      fields: [EQUIPMENT, field('testedOn', 'Tested on', 'date')],
      route: qualityRoute,
      reviewMonths: 0,
    },
    {
      code: 'AGR',
      name: 'Agreement',
      help: 'What was agreed with somebody outside.',
      numbering: 'THR-{type}-{counter:4}',
      scheme: { kind: 'major.minor' },
      fields: [
        field('party', 'Other party', 'text', { mandatory: true }),
        field('until', 'Runs until', 'date', { signed: false }),
      ],
      route: qualityRoute,
    },
    {
      code: 'MAI',
      name: 'Mail record',
      help: 'A mail that counts as a record. It has one revision.',
      numbering: 'THR-{type}-{counter:4}',
      scheme: { kind: 'none' },
      fields: [field('from', 'From', 'text')],
      route: noRoute,
      reviewMonths: 0,
      releaseWithoutRoute: true,
    },
    {
      code: 'MIN',
      name: 'Minutes',
      help: 'What a meeting decided. Numbered by year.',
      numbering: 'THR-{type}-{year}-{counter:3:per=year}',
      scheme: { kind: 'integers', first: 1 },
      fields: [field('heldOn', 'Held on', 'date', { mandatory: true })],
      route: noRoute,
      reviewMonths: 0,
      releaseWithoutRoute: true,
    },
    {
      code: 'SUP',
      name: 'Supplier document',
      help: 'A document of a supplier, with the supplier’s own number and label.',
      numbering: null,
      outsidePattern: '[\\p{L}\\p{N}][\\p{L}\\p{N} ./_-]{2,60}',
      scheme: { kind: 'own' },
      fields: [field('maker', 'Maker', 'text', { mandatory: true })],
      route: noRoute,
      releaseWithoutRoute: true,
    },
  ],
  grants: ['1', '2', '3', '4', '5', '6']
    .flatMap((folder) => [
      { folder, subject: 'all' as const, rights: ['read', 'download', 'comment'] as const },
      { folder, subject: { unit: 'dcr' }, rights: ['release', 'manage'] as const },
      { folder, subject: { unit: 'author' }, rights: ['author'] as const },
      { folder, subject: { unit: 'ta' }, rights: ['author'] as const },
      { folder, subject: { unit: 'qm' }, rights: ['author', 'read past'] as const },
    ])
    .map((grant) => ({ ...grant, rights: [...grant.rights] })),
  counters: [
    ['THR-POL-#', 1],
    ['THR-PRO-#', 111],
    ['THR-WIN-#', 316],
    ['THR-FRM-#', 18],
    ['THR-DWG-2#', 206],
    ['THR-DWG-5#', 190],
    ['THR-SPC-#', 50],
    ['THR-RPT-#', 458],
    ['THR-MAI-#', 310],
    ['THR-AGR-#', 11],
  ].map(([scope, last]) => ({
    scope: String(scope),
    last: Number(last),
    reason: 'Numbers up to here were given before the house came to Kanonos',
  })),
});
