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

const byQuality = approval('Approve for quality', 'approved for the management system', 'role/QM');
const PROCESS = field('process', 'Process', 'text', {
  help: 'The process of the management system that it belongs to',
});

/** Quality management by ISO 9001:2015 (7.5, documented information). */
export const quality: StartingConfiguration = {
  id: 'quality',
  name: 'Quality management by ISO 9001',
  about:
    'Policies, procedures, work instructions and forms with their records, and documents from outside. Reviewed by colleagues, approved by the owner and for quality, read and signed where it matters.',
  unitRights: { ...COMMON_RIGHTS, 'role/QM': ['audit'] },
  package: packageOf({
    units: [
      ...COMMON_UNITS,
      { kind: 'role', code: 'QM', name: 'Quality manager' },
      { kind: 'role', code: 'TOP', name: 'Top management' },
    ],
    types: [
      type('POL', 'Policy', 'What the organisation commits itself to, on one or two pages.', {
        family: 'Management',
        group: 'Direction',
        example: 'Quality policy',
        scheme: { kind: 'integers', first: 1 },
        reviewMonths: 12,
        readersNeeded: true,
        route: route(
          'Quality, top management',
          byQuality,
          approval('Approve for the organisation', 'approved for the organisation', 'role/TOP'),
        ),
        reading: readers('everyone', 20),
      }),
      type('PRO', 'Procedure', 'Who does what in which order, with limits and records.', {
        family: 'Management',
        group: 'Processes',
        example: 'Control of nonconforming products',
        fields: [
          PROCESS,
          field('clause', 'Clause of the standard', 'text', { level: 'document', help: 'Such as 8.7' }),
        ],
        reviewMonths: 24,
        readersNeeded: true,
        route: route('Review, owner, quality', review(), approvalByOwner, byQuality),
        routes: { minor: route('Owner, quality', approvalByOwner, byQuality) },
      }),
      type('WIN', 'Work instruction', 'One task at one place, step by step.', {
        family: 'Management',
        group: 'Processes',
        example: 'Setting up the filling line',
        fields: [PROCESS, field('workplace', 'Workplace', 'text', { level: 'document', shown: true })],
        reviewMonths: 24,
        route: route('Review, owner', review(), approvalByOwner),
      }),
      type('FRM', 'Form', 'What is filled in and kept as a record.', {
        family: 'Management',
        group: 'Processes',
        example: 'Goods receipt check',
        scheme: { kind: 'integers', first: 1 },
        fields: [
          field('keepYears', 'Records kept', 'number', {
            unit: 'years',
            mandatory: true,
            level: 'document',
            default: { from: 'fixed', value: '10' },
          }),
        ],
        route: route('Quality', byQuality),
      }),
      type('REC', 'Record', 'Evidence of what was done: it is kept, not revised.', {
        family: 'Evidence',
        group: 'Records',
        example: 'Management review of 2026',
        numbering: 'ORG-{type}-{year}-{counter:3:per=year}',
        scheme: { kind: 'none' },
        fields: [
          field('doneOn', 'Done on', 'date', { mandatory: true, default: { from: 'today' }, shown: true }),
          field('result', 'Result', 'choice', { options: choices('Conforming', 'Not conforming', 'For information') }),
        ],
        reviewMonths: 0,
        releaseWithoutRoute: true,
      }),
      type(
        'EXT',
        'External document',
        'A standard, law or supplier document, with its own number, watched at its source.',
        {
          family: 'Evidence',
          group: 'From outside',
          example: 'ISO 9001:2015',
          numbering: null,
          externalPattern: '[\\p{L}\\p{N}][\\p{L}\\p{N} ./:_-]{2,60}',
          scheme: { kind: 'own' },
          fields: [field('publisher', 'Publisher', 'text', { mandatory: true, level: 'document', shown: true })],
          origin: { checkMonths: 6 },
          reviewMonths: 0,
          releaseWithoutRoute: true,
        },
      ),
    ],
  }),
  folders: [
    openFolder(['Management system'], '1'),
    subfolder('Management system', 'Policies'),
    subfolder('Management system', 'Procedures'),
    subfolder('Management system', 'Work instructions'),
    subfolder('Management system', 'Forms'),
    openFolder(['Records'], '2'),
    subfolder('Records', 'Audits and reviews'),
    openFolder(['External documents'], '3'),
  ],
};
