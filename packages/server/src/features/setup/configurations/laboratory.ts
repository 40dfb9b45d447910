import {
  approval,
  approvalByOwner,
  COMMON_RIGHTS,
  COMMON_UNITS,
  choices,
  field,
  openFolder,
  packageOf,
  readers,
  review,
  route,
  type StartingConfiguration,
  subfolder,
  type,
} from './build.ts';

const byQuality = approval('Approve for quality', 'approved for quality assurance', 'role/QA');
const byHead = approval('Approve as head of laboratory', 'approved for use in the laboratory', 'role/HEAD');
const AREA = field('workArea', 'Area', 'choice', {
  level: 'document',
  shown: true,
  options: choices('Reception', 'Chemistry', 'Microbiology', 'Haematology', 'Administration'),
});

/** Medical laboratories and test laboratories: document control by ISO 15189:2022 (8.3) and ISO/IEC 17025:2017 (8.3). */
export const laboratory: StartingConfiguration = {
  id: 'laboratory',
  name: 'Medical or laboratory quality',
  about:
    'Operating procedures and test methods with yearly review and required reading, validation and training records, equipment files, and change notes that say why a method changed.',
  unitRights: { ...COMMON_RIGHTS, 'role/QA': ['audit'] },
  package: packageOf({
    units: [
      ...COMMON_UNITS,
      { kind: 'role', code: 'QA', name: 'Quality assurance' },
      { kind: 'role', code: 'HEAD', name: 'Head of laboratory' },
      { kind: 'group', code: 'STAFF', name: 'Laboratory staff' },
    ],
    types: [
      type('SOP', 'Operating procedure', 'How work is done here, with responsibilities and records.', {
        family: 'Quality system',
        group: 'How work is done',
        example: 'Reception of samples',
        fields: [AREA],
        reviewMonths: 12,
        readersNeeded: true,
        route: route('Review, owner, quality', review(), approvalByOwner, byQuality),
        reading: readers('group/STAFF', 10),
      }),
      type('MET', 'Test method', 'Principle, reagents, steps, limits and how results are judged.', {
        family: 'Quality system',
        group: 'How work is done',
        example: 'Determination of nitrate',
        fields: [
          AREA,
          field('analyte', 'Measured quantity', 'text', { mandatory: true, shown: true }),
          field('range', 'Measuring range', 'text', { help: 'With its unit' }),
          field('accredited', 'Accredited', 'yes/no', { level: 'document' }),
        ],
        reviewMonths: 12,
        readersNeeded: true,
        route: route('Review, head of laboratory, quality', review(), byHead, byQuality),
        reading: readers('group/STAFF', 10),
      }),
      type('FRM', 'Form', 'What is filled in and kept as a record.', {
        family: 'Quality system',
        group: 'How work is done',
        example: 'Temperature log',
        scheme: { kind: 'integers', first: 1 },
        reviewMonths: 24,
        route: route('Quality', byQuality),
      }),
      type('VAL', 'Validation', 'Plan and report that a method or device does what it must.', {
        family: 'Evidence',
        group: 'Fitness',
        example: 'Validation of the nitrate method',
        fields: [AREA, field('validated', 'What is validated', 'text', { mandatory: true })],
        reviewMonths: 0,
        route: route('Review, head of laboratory, quality', review(), byHead, byQuality),
      }),
      type('TRN', 'Training record', 'Who was trained in what, by whom, with the result.', {
        family: 'Evidence',
        group: 'People',
        example: 'Training on the nitrate method',
        numbering: 'ORG-{type}-{year}-{counter:4:per=year}',
        scheme: { kind: 'none' },
        fields: [
          field('trainee', 'Trained person', 'person', { mandatory: true, shown: true }),
          field('trainedOn', 'Trained on', 'date', { mandatory: true, default: { from: 'today' } }),
          field('passed', 'Passed', 'yes/no'),
        ],
        reviewMonths: 0,
        route: route('Head of laboratory', byHead),
      }),
      type('CHN', 'Change note', 'What is to change, why, what it affects, and what must be done before.', {
        family: 'Evidence',
        group: 'Change',
        example: 'New reagent for nitrate',
        numbering: 'ORG-{type}-{year}-{counter:3:per=year}',
        scheme: { kind: 'integers', first: 1 },
        fields: [
          field('reasonOfChange', 'Reason of the change', 'choice', {
            mandatory: true,
            options: choices('Improvement', 'Nonconformity', 'New requirement', 'Supplier change'),
          }),
          field('affects', 'Affects', 'text', { help: 'Numbers of the documents that change' }),
        ],
        reviewMonths: 0,
        route: route('Head of laboratory, quality', byHead, byQuality),
      }),
      type('EQP', 'Equipment file', 'One device: identity, calibration, maintenance.', {
        family: 'Evidence',
        group: 'Fitness',
        example: 'Spectrophotometer 2',
        scheme: { kind: 'integers', first: 1 },
        fields: [
          AREA,
          field('serial', 'Serial number', 'text', { level: 'document' }),
          field('calibratedUntil', 'Calibrated until', 'date', {
            level: 'document',
            shown: true,
            remind: { days: 30, to: 'owner' },
          }),
        ],
        reviewMonths: 12,
        route: route('Owner', approvalByOwner),
      }),
    ],
  }),
  folders: [
    openFolder(['Quality system'], '1'),
    subfolder('Quality system', 'Procedures'),
    subfolder('Quality system', 'Methods'),
    subfolder('Quality system', 'Forms'),
    openFolder(['Evidence'], '2'),
    subfolder('Evidence', 'Validation'),
    subfolder('Evidence', 'Equipment'),
    {
      path: ['Training'],
      code: '3',
      rights: [
        { to: 'role/QA', rights: ['author', 'read past'] },
        { to: 'role/HEAD', rights: ['author'] },
        { to: 'role/CTRL', rights: ['release', 'manage'] },
      ],
    },
  ],
};
