import type { StartingConfiguration } from './build.ts';
import * as make from './build.ts';

const checked = make.approval('Check', 'checked', 'group/CHK', 3);
const approved = make.approval('Approve for the project', 'approved for the project', 'role/LEAD', 3);
const PROJECT = make.field('project', 'Project', 'entry', {
  level: 'document',
  list: 'project',
  mandatory: true,
  shown: true,
});
/** The project with its client, which the list of projects knows. */
const PROJECT_AND_CLIENT = [
  { ...PROJECT, fills: { client: 'client' } },
  make.field('client', 'Client', 'text', { level: 'document' }),
];
const DISCIPLINE = make.field('discipline', 'Discipline', 'choice', {
  level: 'document',
  list: 'discipline',
  shown: true,
});
const SHARING = [
  { code: 'S0', text: 'Work in progress, not shared' },
  { code: 'S1', text: 'Suitable for coordination' },
  { code: 'S2', text: 'Suitable for information' },
  { code: 'S3', text: 'Suitable for review and comment' },
  { code: 'A1', text: 'Authorised for construction' },
];

/** Engineering projects: information containers with status by ISO 19650-2:2018 (annex of national practice left to the organisation). */
export const engineering: StartingConfiguration = {
  id: 'engineering',
  name: 'Engineering projects',
  about:
    'Drawings, models, specifications, calculations and transmittals by project and discipline, with status codes for sharing. Checked and approved with signatures; preliminary revisions before the first issue.',
  unitRights: { ...make.COMMON_RIGHTS },
  package: make.packageOf({
    units: [
      ...make.COMMON_UNITS,
      { kind: 'group', code: 'CHK', name: 'Checkers' },
      { kind: 'role', code: 'LEAD', name: 'Project lead' },
      { kind: 'department', code: 'CIV', name: 'Civil and structural' },
      { kind: 'department', code: 'MEC', name: 'Mechanical' },
      { kind: 'department', code: 'ELE', name: 'Electrical and control' },
    ],
    choices: [
      {
        key: 'discipline',
        name: 'Disciplines',
        dependsOn: null,
        options: [
          { code: 'C', text: 'Civil' },
          { code: 'S', text: 'Structural' },
          { code: 'M', text: 'Mechanical' },
          { code: 'E', text: 'Electrical' },
          { code: 'P', text: 'Process' },
        ],
      },
    ],
    lookups: [
      {
        key: 'project',
        name: 'Projects',
        metadata: [{ key: 'client', label: 'Client', kind: 'text' }],
        entries: [{ code: 'P-001', name: 'First project', metadata: { client: 'First client' }, retired: false }],
      },
    ],
    types: [
      make.type('DWG', 'Drawing', 'A drawing sheet with its title block.', {
        family: 'Design',
        group: 'Drawings and models',
        example: 'General arrangement of the pump station',
        scheme: { kind: 'staged', stages: [{ prefix: 'P', width: 2 }, { letters: true }] },
        fields: [
          ...PROJECT_AND_CLIENT,
          DISCIPLINE,
          make.field('scale', 'Scale', 'text'),
          make.field('sheet', 'Sheet size', 'choice', { options: make.choices('A4', 'A3', 'A2', 'A1', 'A0') }),
        ],
        sharing: SHARING,
        reviewEvery: 0,
        route: make.route('Check, approve', checked, approved),
      }),
      make.type('SPC', 'Specification', 'What something must be, and how that is shown.', {
        family: 'Design',
        group: 'Requirements',
        example: 'Specification of the drive motor',
        fields: [...PROJECT_AND_CLIENT, DISCIPLINE],
        sharing: SHARING,
        reviewEvery: 0,
        route: make.route('Review, approve', make.review(), approved),
      }),
      make.type('CAL', 'Calculation', 'Inputs, method, results and what follows from them.', {
        family: 'Design',
        group: 'Requirements',
        example: 'Stability of the retaining wall',
        fields: [...PROJECT_AND_CLIENT, DISCIPLINE, make.field('standard', 'Standard used', 'text')],
        sharing: SHARING,
        reviewEvery: 0,
        route: make.route('Check, approve', checked, approved),
      }),
      make.type('RPT', 'Report', 'What was found or decided, with figures.', {
        family: 'Project',
        group: 'Evidence',
        example: 'Site inspection in March',
        fields: [...PROJECT_AND_CLIENT],
        reviewEvery: 0,
        route: make.route('Review, approve', make.review(), approved),
      }),
      make.type('TRN', 'Transmittal', 'What was sent to whom, when and for which purpose.', {
        family: 'Project',
        group: 'Exchange',
        example: 'Drawings for construction to the contractor',
        numbering: 'ORG-{type}-{year}-{counter:4:per=year}',
        scheme: { kind: 'none' },
        fields: [
          PROJECT,
          make.field('receiver', 'Sent to', 'text', { mandatory: true, shown: true }),
          make.field('purpose', 'Purpose', 'choice', {
            mandatory: true,
            options: make.choices('For information', 'For comment', 'For approval', 'For construction'),
          }),
          make.field('sentOn', 'Sent on', 'date', { default: { from: 'today' }, shown: true }),
        ],
        reviewEvery: 0,
        releaseWithoutRoute: true,
      }),
      make.type('VND', 'Supplier document', 'A document of a supplier, with the supplier’s own number and label.', {
        family: 'Project',
        group: 'Exchange',
        example: 'Motor data sheet',
        numbering: null,
        externalPattern: '[\\p{L}\\p{N}][\\p{L}\\p{N} ./_-]{2,60}',
        scheme: { kind: 'own' },
        fields: [
          PROJECT,
          make.field('supplier', 'Supplier', 'text', { mandatory: true, level: 'document', shown: true }),
        ],
        reviewEvery: 0,
        route: make.route('Review', make.review('Comment as engineer', 10)),
      }),
    ],
  }),
  folders: [
    make.openFolder(['Projects'], '1'),
    make.subfolder('Projects', 'First project'),
    make.subfolder('Projects', 'First project', 'Design'),
    make.subfolder('Projects', 'First project', 'Exchange'),
    make.openFolder(['Standards and templates'], '2', 'role/LEAD'),
  ],
};
