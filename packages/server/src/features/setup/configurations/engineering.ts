import {
  approval,
  COMMON_RIGHTS,
  COMMON_UNITS,
  choices,
  field,
  openFolder,
  packageOf,
  review,
  route,
  type StartingConfiguration,
  subfolder,
  type,
} from './build.ts';

const checked = approval('Check', 'checked', 'group/CHK', 3);
const approved = approval('Approve for the project', 'approved for the project', 'role/LEAD', 3);
const PROJECT = field('project', 'Project', 'entry', {
  level: 'document',
  list: 'project',
  mandatory: true,
  shown: true,
});
/** The project with its client, which the list of projects knows. */
const PROJECT_AND_CLIENT = [
  { ...PROJECT, fills: { client: 'client' } },
  field('client', 'Client', 'text', { level: 'document' }),
];
const DISCIPLINE = field('discipline', 'Discipline', 'choice', { level: 'document', list: 'discipline', shown: true });
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
  unitRights: { ...COMMON_RIGHTS },
  package: packageOf({
    units: [
      ...COMMON_UNITS,
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
      type('DWG', 'Drawing', 'A drawing sheet with its title block.', {
        family: 'Design',
        group: 'Drawings and models',
        example: 'General arrangement of the pump station',
        scheme: { kind: 'staged', stages: [{ prefix: 'P', width: 2 }, { letters: true }] },
        fields: [
          ...PROJECT_AND_CLIENT,
          DISCIPLINE,
          field('scale', 'Scale', 'text'),
          field('sheet', 'Sheet size', 'choice', { options: choices('A4', 'A3', 'A2', 'A1', 'A0') }),
        ],
        sharing: SHARING,
        reviewMonths: 0,
        route: route('Check, approve', checked, approved),
      }),
      type('SPC', 'Specification', 'What something must be, and how that is shown.', {
        family: 'Design',
        group: 'Requirements',
        example: 'Specification of the drive motor',
        fields: [...PROJECT_AND_CLIENT, DISCIPLINE],
        sharing: SHARING,
        reviewMonths: 0,
        route: route('Review, approve', review(), approved),
      }),
      type('CAL', 'Calculation', 'Inputs, method, results and what follows from them.', {
        family: 'Design',
        group: 'Requirements',
        example: 'Stability of the retaining wall',
        fields: [...PROJECT_AND_CLIENT, DISCIPLINE, field('standard', 'Standard used', 'text')],
        sharing: SHARING,
        reviewMonths: 0,
        route: route('Check, approve', checked, approved),
      }),
      type('RPT', 'Report', 'What was found or decided, with figures.', {
        family: 'Project',
        group: 'Evidence',
        example: 'Site inspection in March',
        fields: [...PROJECT_AND_CLIENT],
        reviewMonths: 0,
        route: route('Review, approve', review(), approved),
      }),
      type('TRN', 'Transmittal', 'What was sent to whom, when and for which purpose.', {
        family: 'Project',
        group: 'Exchange',
        example: 'Drawings for construction to the contractor',
        numbering: 'ORG-{type}-{year}-{counter:4:per=year}',
        scheme: { kind: 'none' },
        fields: [
          PROJECT,
          field('receiver', 'Sent to', 'text', { mandatory: true, shown: true }),
          field('purpose', 'Purpose', 'choice', {
            mandatory: true,
            options: choices('For information', 'For comment', 'For approval', 'For construction'),
          }),
          field('sentOn', 'Sent on', 'date', { default: { from: 'today' }, shown: true }),
        ],
        reviewMonths: 0,
        releaseWithoutRoute: true,
      }),
      type('VND', 'Supplier document', 'A document of a supplier, with the supplier’s own number and label.', {
        family: 'Project',
        group: 'Exchange',
        example: 'Motor data sheet',
        numbering: null,
        externalPattern: '[\\p{L}\\p{N}][\\p{L}\\p{N} ./_-]{2,60}',
        scheme: { kind: 'own' },
        fields: [PROJECT, field('supplier', 'Supplier', 'text', { mandatory: true, level: 'document', shown: true })],
        reviewMonths: 0,
        route: route('Review', review('Comment as engineer', 10)),
      }),
    ],
  }),
  folders: [
    openFolder(['Projects'], '1'),
    subfolder('Projects', 'First project'),
    subfolder('Projects', 'First project', 'Design'),
    subfolder('Projects', 'First project', 'Exchange'),
    openFolder(['Standards and templates'], '2', 'role/LEAD'),
  ],
};
