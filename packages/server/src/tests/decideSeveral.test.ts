import { beforeAll, describe, expect, test } from 'vitest';
import { checkIn, checkOut } from '../features/authoring/service.ts';
import { decideSeveral } from '../features/rounds/decide.ts';
import { rows } from '../platform/db/connect.ts';
import { codeOf, PASSWORD } from './organisation.ts';
import { withOrganisation } from './withOrganisation.ts';

const organisation = withOrganisation();

const setRoute = (route: object = {}) =>
  rows(organisation.app.db, `update types set route = :route::jsonb where code = 'PRO'`, {
    route: JSON.stringify({
      name: 'one approval',
      steps: [
        {
          name: 'Approve',
          kind: 'approval',
          meaning: 'approved for use',
          assignees: [{ by: 'person', personId: organisation.ids.owner }],
          rule: { kind: 'all' },
          workingDays: 3,
          onReject: 'draft',
        },
      ],
      ...route,
    }),
  });
beforeAll(() => setRoute());

const waiting = async ({ isOpened = true } = {}) => {
  const { id, number } = await organisation.register('author');
  await organisation.submit('author', number, { chosen: [] });
  if (isOpened) await organisation.openFiles('owner', number);
  return { id, number, given: await givenFor(number) };
};
/** The decision on a document as its screen would send it. */
const givenFor = async (number: string) => {
  const page = await organisation.page('controller', number);
  return {
    assignment: page.rounds[0]?.steps[0]?.assignments[0]?.id ?? '',
    decision: 'approve' as const,
    comment: '',
    digest: page.rounds[0]?.digest ?? null,
    version: page.revision.versions,
  };
};
const decideAll = async (decisions: Awaited<ReturnType<typeof givenFor>>[], password = PASSWORD) =>
  decideSeveral(organisation.app, await organisation.as('owner'), { decisions, name: 'owner', password });
const stateOf = async (number: string) => (await organisation.page('author', number)).revision.state;

describe('deciding several tasks with one password', () => {
  test('signs fifty, each bound to its own record, and names the one that fails', async () => {
    const all: Awaited<ReturnType<typeof waiting>>[] = [];
    for (let i = 0; i < 50; i++) all.push(await waiting());
    const [altered] = all;
    const given = all.map((one) => (one === altered ? { ...one.given, digest: 'f'.repeat(64) } : one.given));
    const answer = await decideAll(given);
    expect(answer).toMatchObject({ decided: 49, signed: 49 });
    expect(answer.refused).toEqual([
      { assignment: altered?.given.assignment, reasons: [expect.stringMatching(/changed/i)] },
    ]);
    expect(await stateOf(altered?.number ?? '')).toBe('in approval');
    const states = await Promise.all(all.slice(1).map(({ number }) => stateOf(number)));
    expect(new Set(states)).toEqual(new Set(['approved']));
    const signed = await rows<{ digest: string; record: string }>(
      organisation.app.db,
      `select g.digest, s.digest as record from signatures g join signing_records s on s.id = g.record_id where g.meaning = 'approved for use'`,
    );
    expect(signed).toHaveLength(49);
    expect(new Set(signed.map((one) => one.digest)).size).toBe(49);
    expect(signed.every((one) => one.digest === one.record)).toBe(true);
    expect((await organisation.verdict()).kind).toBe('intact');
  });

  test('does nothing where the password is wrong', async () => {
    const [one, other] = [await waiting(), await waiting()];
    expect(await codeOf(decideAll([one.given, other.given], 'wrong'))).toBe('signing_wrong');
    expect(await stateOf(one.number)).toBe('in approval');
    expect(await stateOf(other.number)).toBe('in approval');
  });

  test('asks that every file was opened, also where nothing is signed', async () => {
    const [one, unopened] = [await waiting(), await waiting({ isOpened: false })];
    expect(await decideAll([one.given, unopened.given])).toMatchObject({
      decided: 1,
      refused: [{ assignment: unopened.given.assignment, reasons: [expect.stringMatching(/open/i)] }],
    });
    expect(await stateOf(unopened.number)).toBe('in approval');
  });

  test('leaves what the type wants decided one by one', async () => {
    await setRoute({ decidedAlone: true });
    const alone = await waiting();
    await setRoute();
    const one = await waiting();
    expect(await decideAll([alone.given, one.given])).toMatchObject({
      decided: 1,
      refused: [{ assignment: alone.given.assignment, reasons: [expect.stringMatching(/one by one/)] }],
    });
  });

  test('never decides for somebody else, or twice', async () => {
    const { given, number } = await waiting();
    const reader = await organisation.as('reviewer');
    expect(
      await decideSeveral(organisation.app, reader, { decisions: [given], name: 'reviewer', password: PASSWORD }),
    ).toMatchObject({ decided: 0, refused: [{ assignment: given.assignment }] });
    expect(await decideAll([given, given])).toMatchObject({ decided: 1, signed: 1, refused: [{}] });
    expect(await stateOf(number)).toBe('approved');
  });

  test('notices a check-in since the task was opened', async () => {
    await setRoute({
      steps: [
        {
          name: 'Look',
          kind: 'review',
          editing: true,
          assignees: [{ by: 'person', personId: organisation.ids.owner }],
          rule: { kind: 'all' },
          workingDays: 3,
          onReject: 'draft',
        },
      ],
    });
    const { id, given, number } = await waiting();
    const owner = await organisation.as('owner');
    await checkOut(organisation.app, owner, id, { seen: '*', note: '', expectedBack: null });
    const uploadId = await organisation.upload('owner', '# Other', 'other.md');
    await checkIn(organisation.app, owner, id, { seen: '*', uploadId, note: 'edited' });
    await organisation.openFiles('owner', number);
    const look = { ...given, decision: 'no objection' as const, digest: null };
    expect(
      await decideSeveral(organisation.app, owner, { decisions: [look], name: null, password: null }),
    ).toMatchObject({ decided: 0, refused: [{}] });
  });
});
