import type { TypeRule } from '@kanonos/contract';
import { beforeAll, expect, test } from 'vitest';
import { adHocRoutes, startAdHocRound } from '../features/rounds/adHoc.ts';
import { submissionRoute } from '../features/rounds/service.ts';
import { changeType, typeDetail } from '../features/rules/types.ts';
import { codeOf } from './organisation.ts';
import { stepOf } from './steps.ts';
import { withOrganisation } from './withOrganisation.ts';

const organisation = withOrganisation();
const approval = (name: string, person: string) =>
  stepOf(organisation, name, [person], { kind: 'approval', meaning: 'approved' });

beforeAll(async () => {
  const id = organisation.types.get('PRO') ?? '';
  const { rule, rowVersion } = await typeDetail(organisation.app, id);
  await changeType(organisation.app, await organisation.as('admin'), id, {
    rule: {
      ...rule,
      route: { name: 'Usual', steps: [approval('Approval', 'owner')] } as TypeRule['route'],
      furtherRoutes: [
        {
          route: { name: 'Of the authority', steps: [approval('Approval by the authority', 'authority')] },
          taken: { by: 'condition', when: 'owner:Authority' },
        },
        {
          route: { name: 'Light', steps: [approval('Short approval', 'author2')] },
          taken: { by: 'choice', mayChoose: 'author' },
        },
        {
          route: { name: 'Emergency', steps: [approval('Approval at once', 'controller')] },
          taken: { by: 'choice', mayChoose: 'controller' },
        },
        {
          route: {
            name: 'Information',
            leadsTo: 'nothing',
            steps: [
              stepOf(organisation, 'Take note', ['controller', 'author2'], {
                kind: 'acknowledge',
                rule: { kind: 'k of n', k: 1 },
              }),
            ],
          },
          taken: { by: 'choice', mayChoose: 'author' },
        },
      ] as TypeRule['furtherRoutes'],
    },
    reason: 'several ways',
    rowVersion,
    from: null,
    fill: [],
  });
});

const routeOf = async (person: string, number: string, route?: string) =>
  submissionRoute(organisation.app, await organisation.as(person), number, route ?? null);
const stepsOf = async (number: string) =>
  (await organisation.page('controller', number)).rounds[0]?.steps.map(({ name }) => name);

test('a document that meets a condition takes that route, every other one the usual', async () => {
  const plain = await organisation.register('author');
  expect(await routeOf('author', plain.number)).toMatchObject({ name: 'Usual', choices: ['Light'] });
  const secret = await organisation.register('controller', { owner: 'authority' });
  expect(await routeOf('controller', secret.number)).toMatchObject({
    name: 'Of the authority',
    choices: ['Light', 'Emergency'],
  });
  await organisation.submit('controller', secret.number);
  expect(await stepsOf(secret.number)).toEqual(['Approval by the authority']);
});

test('whoever submits may choose another one, as far as the type offers it to them', async () => {
  const { number } = await organisation.register('author');
  expect(await codeOf(organisation.submit('author', number, { route: 'Emergency' }))).toBe('route_not_offered');
  expect(await codeOf(organisation.submit('author', number, { route: 'Information' }))).toBe('route_not_offered');
  expect((await routeOf('author', number, 'Light')).steps).toMatchObject([
    { name: 'Short approval', people: ['Author2'] },
  ]);
  await organisation.submit('author', number, { route: 'Light' });
  expect(await stepsOf(number)).toEqual(['Short approval']);
});

test('a route that leads to nothing is offered to rounds outside the route, with its own rules', async () => {
  const { number } = await organisation.register('author');
  const { routes } = await adHocRoutes(organisation.app, await organisation.as('author'), number, undefined);
  expect(routes).toEqual([
    {
      name: 'Information',
      steps: [
        { name: 'Take note', kind: 'acknowledge', applies: true, people: ['Controller', 'Author2'], problem: null },
      ],
    },
  ]);
  const start = async (fromRoute: string) =>
    startAdHocRound(organisation.app, await organisation.as('author'), number, {
      name: 'Please note',
      message: '',
      lastDay: null,
      workingDays: 5,
      steps: [],
      fromRoute,
      documents: [],
      uploads: [],
    });
  expect(await codeOf(start('Light'))).toBe('route_not_offered');
  const { round } = await start('Information');
  const shown = (await organisation.page('controller', number)).rounds.find(({ n }) => n === round);
  expect(shown).toMatchObject({ isAdHoc: true, name: 'Please note', steps: [{ rule: '1 of the assignees' }] });
});
