import { beforeAll, expect, test } from 'vitest';
import { checkIn, checkOut } from '../features/authoring/service.ts';
import { decide } from '../features/rounds/service.ts';
import { task } from '../features/rounds/views.ts';
import { changeType, typeDetail } from '../features/rules/types.ts';
import { PASSWORD } from './organisation.ts';
import { stepOf } from './steps.ts';
import { withOrganisation } from './withOrganisation.ts';

const organisation = withOrganisation();

/** Three people one after the other, two of whom may edit; then somebody signs. */
const setRoute = async (keepsDecisions: boolean) => {
  const id = organisation.types.get('PRO') ?? '';
  const { rule, rowVersion } = await typeDetail(organisation.app, id);
  const steps = [
    stepOf(organisation, 'First look', ['reviewer'], { editing: true }),
    stepOf(organisation, 'Second look', ['author2'], { editing: true }),
    stepOf(organisation, 'Approval', ['owner'], { kind: 'approval', meaning: 'approved' }),
  ];
  await changeType(organisation.app, await organisation.as('admin'), id, {
    rule: { ...rule, route: { name: 'Review and approval', steps, keepsDecisions } as typeof rule.route },
    reason: 'edits add up',
    rowVersion,
    from: null,
    fill: [],
  });
};
beforeAll(() => setRoute(true));

const taskOf = async (person: string, number: string) => {
  const round = (await organisation.page('controller', number)).rounds[0];
  const found = round?.steps
    .flatMap(({ assignments }) => assignments)
    .find((one) => one.person.id === organisation.ids[person] && one.state === 'open');
  return task(organisation.app, await organisation.as(person), found?.id ?? '');
};
const edit = async (person: string, number: string, text: string) => {
  const viewer = await organisation.as(person);
  await checkOut(organisation.app, viewer, number, { seen: '*', note: '', expectedBack: null });
  const uploadId = await organisation.upload(person, text, 'edited.md');
  await checkIn(organisation.app, viewer, number, { seen: '*', uploadId, note: 'clearer' });
};
const answer = async (person: string, number: string, decision: 'no objection' | 'approve') => {
  const { assignmentId, version, digest } = await taskOf(person, number);
  await organisation.openFiles(person, number);
  return decide(organisation.app, await organisation.as(person), assignmentId, {
    decision,
    comment: '',
    name: person,
    password: PASSWORD,
    digest,
    version: version.n,
  });
};

test('the next person sees what was submitted, the last state and the difference; the last one signs the last state', async () => {
  const { number } = await organisation.register('author');
  await organisation.submit('author', number);
  const submitted = await taskOf('reviewer', number);
  expect(submitted.mayEdit).toBe(true);
  expect(submitted.comparedWith).toEqual([]);
  await organisation.openFiles('reviewer', number);
  await edit('reviewer', number, '# Second state');
  // Who edited sees what they saw before, which is what was submitted.
  expect((await taskOf('reviewer', number)).comparedWith.map(({ kind, n }) => [kind, n])).toEqual([['last seen', 1]]);
  await answer('reviewer', number, 'no objection');

  const second = await taskOf('author2', number);
  expect(second.version.n).toBe(2);
  expect(second.comparedWith.map(({ kind, n }) => [kind, n])).toEqual([['submitted', 1]]);
  await organisation.openFiles('author2', number);
  await edit('author2', number, '# Third state');
  const again = await taskOf('author2', number);
  expect(again.comparedWith.map(({ kind, n }) => [kind, n])).toEqual([
    ['last seen', 2],
    ['submitted', 1],
  ]);
  // The route keeps decisions: the first one stands, on the older version.
  const [first] = again.round.steps;
  expect(first?.assignments[0]).toMatchObject({ state: 'answered', onVersion: 2 });
  await answer('author2', number, 'no objection');

  const last = await taskOf('owner', number);
  expect(last.version.n).toBe(3);
  expect(last.covers?.files.map(({ sha256 }) => sha256)).toEqual(last.version.files.map(({ sha256 }) => sha256));
  await answer('owner', number, 'approve');
  const page = await organisation.page('controller', number);
  expect(page.revision.state).toBe('approved');
  expect(page.rounds[0]?.digest).toBe(last.digest);
});

test('where the route asks again, the decision on the older version is open again', async () => {
  await setRoute(false);
  const { number } = await organisation.register('author');
  await organisation.submit('author', number);
  await answer('reviewer', number, 'no objection');
  await edit('author2', number, '# Other');
  expect((await taskOf('reviewer', number)).version.n).toBe(2);
  const second = (await organisation.page('controller', number)).rounds[0]?.steps[1];
  expect(second?.assignments.map(({ state }) => state)).toEqual(['waiting']);
});
