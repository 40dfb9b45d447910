import type { StartingConfiguration } from './build.ts';
import * as make from './build.ts';

const byQuality = make.approval('Approve for quality', 'approved for quality assurance', 'role/QA');
const byHead = make.approval('Approve as head of laboratory', 'approved for use in the laboratory', 'role/HEAD');
const AREA = make.field('workArea', 'Area', 'choice', {
  level: 'document',
  shown: true,
  options: make.choices('Reception', 'Chemistry', 'Microbiology', 'Haematology', 'Administration'),
});

/** Medical laboratories and test laboratories: document control by ISO 15189:2022 (8.3) and ISO/IEC 17025:2017 (8.3). */
export const laboratory: StartingConfiguration = {
  id: 'laboratory',
  name: 'Medical or laboratory quality',
  about:
    'Operating procedures and test methods with yearly review and required reading, validation and training records, equipment files, and change notes that say why a method changed.',
  unitRights: { ...make.COMMON_RIGHTS, 'role/QA': ['audit'] },
  package: make.packageOf({
    units: [
      ...make.COMMON_UNITS,
      { kind: 'role', code: 'QA', name: 'Quality assurance' },
      { kind: 'role', code: 'HEAD', name: 'Head of laboratory' },
      { kind: 'group', code: 'STAFF', name: 'Laboratory staff' },
    ],
    types: [
      make.type('SOP', 'Operating procedure', 'How work is done here, with responsibilities and records.', {
        changeNote: 'must',
        family: 'Quality system',
        group: 'How work is done',
        example: 'Reception of samples',
        fields: [AREA],
        reviewEvery: 12,
        readersNeeded: true,
        route: make.route('Review, owner, quality', make.review(), make.approvalByOwner, byQuality),
        reading: make.readers('group/STAFF', 10),
      }),
      make.type('MET', 'Test method', 'Principle, reagents, steps, limits and how results are judged.', {
        changeNote: 'must',
        family: 'Quality system',
        group: 'How work is done',
        example: 'Determination of nitrate',
        fields: [
          AREA,
          make.field('analyte', 'Measured quantity', 'text', { mandatory: true, shown: true }),
          make.field('range', 'Measuring range', 'text', { help: 'With its unit' }),
          make.field('accredited', 'Accredited', 'yes/no', { level: 'document' }),
        ],
        reviewEvery: 12,
        readersNeeded: true,
        route: make.route('Review, head of laboratory, quality', make.review(), byHead, byQuality),
        reading: make.readers('group/STAFF', 10),
      }),
      make.type('FRM', 'Form', 'What is filled in and kept as a record.', {
        family: 'Quality system',
        group: 'How work is done',
        example: 'Temperature log',
        scheme: { kind: 'integers', first: 1 },
        reviewEvery: 24,
        route: make.route('Quality', byQuality),
      }),
      make.type('VAL', 'Validation', 'Plan and report that a method or device does what it must.', {
        family: 'Evidence',
        group: 'Fitness',
        example: 'Validation of the nitrate method',
        fields: [AREA, make.field('validated', 'What is validated', 'text', { mandatory: true })],
        reviewEvery: 0,
        route: make.route('Review, head of laboratory, quality', make.review(), byHead, byQuality),
      }),
      make.type('TRN', 'Training record', 'Who was trained in what, by whom, with the result.', {
        family: 'Evidence',
        group: 'People',
        example: 'Training on the nitrate method',
        numbering: 'ORG-{type}-{year}-{counter:4:per=year}',
        scheme: { kind: 'none' },
        fields: [
          make.field('trainee', 'Trained person', 'person', { mandatory: true, shown: true }),
          make.field('trainedOn', 'Trained on', 'date', { mandatory: true, default: { from: 'today' } }),
          make.field('passed', 'Passed', 'yes/no'),
        ],
        reviewEvery: 0,
        route: make.route('Head of laboratory', byHead),
      }),
      make.type('CHN', 'Change note', 'What is to change, why, what it affects, and what must be done before.', {
        family: 'Evidence',
        group: 'Change',
        example: 'New reagent for nitrate',
        numbering: 'ORG-{type}-{year}-{counter:3:per=year}',
        isChangeNote: true,
        changeNote: 'never',
        scheme: { kind: 'integers', first: 1 },
        fields: [
          make.field('reasonOfChange', 'Reason of the change', 'choice', {
            mandatory: true,
            options: make.choices('Improvement', 'Nonconformity', 'New requirement', 'Supplier change'),
          }),
        ],
        reviewEvery: 0,
        route: make.route('Head of laboratory, quality', byHead, byQuality),
      }),
      make.type('EQP', 'Equipment file', 'One device: identity, calibration, maintenance.', {
        family: 'Evidence',
        group: 'Fitness',
        example: 'Spectrophotometer 2',
        scheme: { kind: 'integers', first: 1 },
        fields: [
          AREA,
          make.field('serial', 'Serial number', 'text', { level: 'document' }),
          make.field('calibratedUntil', 'Calibrated until', 'date', {
            level: 'document',
            shown: true,
            remind: { days: 30, to: 'owner' },
          }),
        ],
        reviewEvery: 12,
        route: make.route('Owner', make.approvalByOwner),
      }),
    ],
  }),
  folders: [
    make.openFolder(['Quality system'], '1'),
    make.subfolder('Quality system', 'Procedures'),
    make.subfolder('Quality system', 'Methods'),
    make.subfolder('Quality system', 'Forms'),
    make.openFolder(['Evidence'], '2'),
    make.subfolder('Evidence', 'Validation'),
    make.subfolder('Evidence', 'Equipment'),
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
