import type { StartingConfiguration } from './build.ts';
import * as make from './build.ts';

const byQuality = make.approval('Approve for quality', 'approved for the management system', 'role/QM');
const PROCESS = make.field('process', 'Process', 'text', {
  help: 'The process of the management system that it belongs to',
});

/** Quality management by ISO 9001:2015 (7.5, documented information). */
export const quality: StartingConfiguration = {
  id: 'quality',
  name: 'Quality management by ISO 9001',
  about:
    'Policies, procedures, work instructions and forms with their records, and documents from outside. Reviewed by colleagues, approved by the owner and for quality, read and signed where it matters.',
  unitRights: { ...make.COMMON_RIGHTS, 'role/QM': ['audit'] },
  package: make.packageOf({
    units: [
      ...make.COMMON_UNITS,
      { kind: 'role', code: 'QM', name: 'Quality manager' },
      { kind: 'role', code: 'TOP', name: 'Top management' },
    ],
    types: [
      make.type('POL', 'Policy', 'What the organisation commits itself to, on one or two pages.', {
        family: 'Management',
        group: 'Direction',
        example: 'Quality policy',
        scheme: { kind: 'integers', first: 1 },
        reviewEvery: 12,
        readersNeeded: true,
        route: make.route(
          'Quality, top management',
          byQuality,
          make.approval('Approve for the organisation', 'approved for the organisation', 'role/TOP'),
        ),
        reading: make.readers('everyone', 20),
      }),
      make.type('PRO', 'Procedure', 'Who does what in which order, with limits and records.', {
        family: 'Management',
        group: 'Processes',
        example: 'Control of nonconforming products',
        fields: [
          PROCESS,
          make.field('clause', 'Clause of the standard', 'text', { level: 'document', help: 'Such as 8.7' }),
        ],
        reviewEvery: 24,
        readersNeeded: true,
        route: make.route('Review, owner, quality', make.review(), make.approvalByOwner, byQuality),
        routes: { minor: make.route('Owner, quality', make.approvalByOwner, byQuality) },
      }),
      make.type('WIN', 'Work instruction', 'One task at one place, step by step.', {
        family: 'Management',
        group: 'Processes',
        example: 'Setting up the filling line',
        fields: [PROCESS, make.field('workplace', 'Workplace', 'text', { level: 'document', shown: true })],
        reviewEvery: 24,
        route: make.route('Review, owner', make.review(), make.approvalByOwner),
      }),
      make.type('FRM', 'Form', 'What is filled in and kept as a record.', {
        family: 'Management',
        group: 'Processes',
        example: 'Goods receipt check',
        scheme: { kind: 'integers', first: 1 },
        fields: [
          make.field('keepYears', 'Records kept', 'number', {
            unit: 'years',
            mandatory: true,
            level: 'document',
            default: { from: 'fixed', value: '10' },
          }),
        ],
        route: make.route('Quality', byQuality),
      }),
      make.type('REC', 'Record', 'Evidence of what was done: it is kept, not revised.', {
        family: 'Evidence',
        group: 'Records',
        example: 'Management review of 2026',
        numbering: 'ORG-{type}-{year}-{counter:3:per=year}',
        scheme: { kind: 'none' },
        fields: [
          make.field('doneOn', 'Done on', 'date', { mandatory: true, default: { from: 'today' }, shown: true }),
          make.field('result', 'Result', 'choice', {
            options: make.choices('Conforming', 'Not conforming', 'For information'),
          }),
        ],
        reviewEvery: 0,
        releaseWithoutRoute: true,
      }),
      make.type(
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
          fields: [make.field('publisher', 'Publisher', 'text', { mandatory: true, level: 'document', shown: true })],
          origin: { checkMonths: 6 },
          reviewEvery: 0,
          releaseWithoutRoute: true,
        },
      ),
    ],
  }),
  folders: [
    make.openFolder(['Management system'], '1'),
    make.subfolder('Management system', 'Policies'),
    make.subfolder('Management system', 'Procedures'),
    make.subfolder('Management system', 'Work instructions'),
    make.subfolder('Management system', 'Forms'),
    make.openFolder(['Records'], '2'),
    make.subfolder('Records', 'Audits and reviews'),
    make.openFolder(['External documents'], '3'),
  ],
};
