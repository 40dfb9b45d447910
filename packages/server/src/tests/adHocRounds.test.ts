import { describe, expect, test } from 'vitest';
import { roundFile, startAdHocRound } from '../features/rounds/adHoc.ts';
import { changeRounds } from '../features/rounds/changes.ts';
import { decide, submit } from '../features/rounds/service.ts';
import { signOutside, toSignOutside } from '../features/rounds/signOutside.ts';
import { task } from '../features/rounds/views.ts';
import { codeOf, PASSWORD } from './organisation.ts';
import { withOrganisation } from './withOrganisation.ts';

const organisation = withOrganisation();
const idOf = (person: string) => organisation.ids[person] ?? '';
const inForce = async () => {
  const { id, number } = await organisation.register('author');
  await organisation.toInForce(number);
  return { id, number };
};
type Body = Parameters<typeof startAdHocRound>[3];
const step = (name: string, people: string[], more: Partial<Body['steps'][number]> = {}): Body['steps'][number] => ({
  name,
  kind: 'review',
  people: people.map(idOf),
  isAnyOne: false,
  beside: false,
  ...more,
});
const start = async (as: string, number: string, steps: Body['steps'], more: Partial<Body> = {}) =>
  startAdHocRound(organisation.app, await organisation.as(as), number, {
    name: 'Information',
    message: 'Please look at table 2',
    lastDay: null,
    workingDays: 4,
    steps,
    documents: [],
    uploads: [],
    ...more,
  });
const pageOf = (as: string, number: string) => organisation.page(as, number);
const roundOf = async (number: string, n: number) =>
  (await pageOf('controller', number)).rounds.find((one) => one.n === n);
const answer = async (
  as: string,
  assignment: string,
  decision: Parameters<typeof decide>[3]['decision'] = 'no objection',
  more: { comment?: string } = {},
) => {
  const viewer = await organisation.as(as);
  const { version, digest } = await task(organisation.app, viewer, assignment);
  return decide(organisation.app, viewer, assignment, {
    decision,
    comment: '',
    name: as,
    password: PASSWORD,
    digest,
    version: version.n,
    ...more,
  });
};
const assignmentOf = async (number: string, n: number, person: string) =>
  (await roundOf(number, n))?.steps
    .flatMap(({ assignments }) => assignments)
    .find((one) => one.person.id === idOf(person))?.id ?? '';

describe('an ad hoc round', () => {
  test('is started by a reader on what is in force, and leaves it in force whatever is answered', async () => {
    const { number } = await inForce();
    const { round } = await start('reader', number, [step('Comment', ['reader', 'controller'])]);
    const shown = await roundOf(number, round);
    expect(shown).toMatchObject({
      name: 'Information',
      isAdHoc: true,
      state: 'running',
      message: 'Please look at table 2',
    });
    const before = await pageOf('controller', number);
    expect(before.revision.state).toBe('in force');
    expect(before.next).toBeNull();
    await answer('reader', await assignmentOf(number, round, 'reader'));
    expect((await roundOf(number, round))?.state).toBe('running');
    await answer('controller', await assignmentOf(number, round, 'controller'), 'reject', { comment: 'no' });
    expect((await roundOf(number, round))?.state).toBe('rejected');
    expect((await pageOf('controller', number)).revision.state).toBe('in force');
    expect((await organisation.verdict()).kind).toBe('intact');
  });

  test('runs beside the round on the route, and the route goes its way', async () => {
    const { number } = await organisation.register('author');
    await organisation.submit('author', number);
    const { round } = await start('author', number, [step('Look', ['controller']), step('Answer', ['author'])]);
    expect(round).toBe(2);
    await answer('controller', await assignmentOf(number, round, 'controller'));
    await answer('author', await assignmentOf(number, round, 'author'));
    expect((await roundOf(number, round))?.state).toBe('done');
    const page = await pageOf('controller', number);
    expect(page.revision.state).toBe('in review');
    expect(page.next).toMatchObject({ kind: 'decide', who: ['Reviewer'] });
  });

  test('asks only who may read the revision, and gives nobody rights', async () => {
    const { number } = await organisation.register('author');
    expect(await codeOf(start('author', number, [step('Look', ['reader'])]))).toBe('asked_cannot_read');
    expect(await codeOf(start('reader', number, [step('Look', ['controller'])]))).toBe('not_found');
    const { round } = await start('author', number, [step('Look', ['controller'])]);
    const change = async (to: string) =>
      changeRounds(organisation.app, await organisation.as('controller'), {
        rounds: [(await roundOf(number, round))?.id ?? ''],
        change: { kind: 'add person', person: idOf(to) },
        reason: 'knows it',
      });
    expect(await change('reader')).toMatchObject({
      changed: 0,
      refused: [{ reasons: [expect.stringContaining('may not read')] }],
    });
    expect(await change('author2')).toMatchObject({ changed: 1 });
  });

  test('has one last day for all its steps, which is not past', async () => {
    const { number } = await inForce();
    const steps = [step('One', ['reader']), step('Two', ['controller'])];
    expect(await codeOf(start('controller', number, steps, { lastDay: '2020-01-01' }))).toBe('last_day_past');
    const lastDay = '2099-03-02';
    const { round } = await start('controller', number, steps, { lastDay });
    await answer('reader', await assignmentOf(number, round, 'reader'));
    expect((await roundOf(number, round))?.steps.map(({ dueOn }) => dueOn)).toEqual([lastDay, lastDay]);
  });

  test('signs what can change no more, also by its author, and counts as no approval', async () => {
    const draft = await organisation.register('author');
    const sign = step('Witness', ['author'], { kind: 'approval', meaning: 'Witnessed' });
    expect(await codeOf(start('author', draft.number, [sign]))).toBe('signs_what_can_change');
    const { number } = await inForce();
    const { round } = await start('controller', number, [sign, step('Comment', ['controller'])]);
    await organisation.openFiles('author', number);
    await answer('author', await assignmentOf(number, round, 'author'), 'approve');
    const [first] = (await roundOf(number, round))?.steps ?? [];
    expect(first?.assignments[0]?.signature).toMatchObject({ meaning: 'Witnessed', state: 'intact' });
    expect((await organisation.verdict()).kind).toBe('intact');
  });

  test('keeps documents and files beside it, each for whom may see it', async () => {
    const [one, other] = [await inForce(), await organisation.register('author')];
    const upload = await organisation.upload('author', 'minutes of the talk', 'minutes.md');
    const { round } = await start('author', one.number, [step('Look', ['reader'])], {
      documents: [other.number],
      uploads: [upload],
    });
    expect(await roundOf(one.number, round)).toMatchObject({
      documents: [{ number: other.number }],
      files: [{ name: 'minutes.md' }],
    });
    const shown = (await organisation.page('reader', one.number)).rounds.find(({ n }) => n === round);
    expect(shown?.documents).toEqual([]);
    const file = shown?.files[0]?.id ?? '';
    expect((await roundFile(organisation.app, await organisation.as('reader'), file)).name).toBe('minutes.md');
    const draft = await start('author', other.number, [step('Look', ['author2'])], { uploads: [upload] });
    const hidden = (await roundOf(other.number, draft.round))?.files[0]?.id ?? '';
    expect(await codeOf(organisation.as('reader').then((who) => roundFile(organisation.app, who, hidden)))).toBe(
      'not_found',
    );
  });

  test('is cancelled by whoever started it, and the revision stays as it is', async () => {
    const { number } = await inForce();
    const { round } = await start('reader', number, [step('Look', ['controller'])]);
    const cancel = async (as: string) =>
      changeRounds(organisation.app, await organisation.as(as), {
        rounds: [(await roundOf(number, round))?.id ?? ''],
        change: { kind: 'cancel' },
        reason: 'answered already',
      });
    expect((await cancel('author')).refused).toHaveLength(1);
    expect((await cancel('reader')).changed).toBe(1);
    expect((await roundOf(number, round))?.state).toBe('recalled');
    expect((await pageOf('controller', number)).revision.state).toBe('in force');
  });
});

describe('a signature outside a round', () => {
  const sign = async (
    as: string,
    number: string,
    more: { meaning?: string; password?: string; digest?: string } = {},
  ) => {
    const viewer = await organisation.as(as);
    const { digest } = await toSignOutside(organisation.app, viewer, number, undefined);
    return signOutside(organisation.app, viewer, number, {
      meaning: 'Witnessed',
      comment: '',
      digest,
      name: as,
      password: PASSWORD,
      ...more,
    });
  };

  test('has a meaning from the list, once for each person and meaning, and leaves the revision in its state', async () => {
    const { number } = await inForce();
    await organisation.openFiles('reader', number);
    expect(await codeOf(sign('reader', number, { meaning: 'Blessed' }))).toBe('meaning_unknown');
    expect(await codeOf(sign('reader', number, { password: 'wrong' }))).toBe('signing_wrong');
    await sign('reader', number);
    expect(await codeOf(sign('reader', number))).toBe('already_signed_so');
    const page = await pageOf('controller', number);
    expect(page.revision.state).toBe('in force');
    expect(page.signatures.find(({ meaning }) => meaning === 'Witnessed')).toMatchObject({
      printedName: 'Reader',
      state: 'intact',
    });
    expect((await organisation.verdict()).kind).toBe('intact');
  });

  test('covers what was opened, and nothing that can still change', async () => {
    const { number } = await inForce();
    expect(await codeOf(sign('reader', number))).toBe('files_not_opened');
    const draft = await organisation.register('author');
    expect(await codeOf(sign('author', draft.number))).toBe('signs_what_can_change');
    expect(await codeOf(sign('reader', draft.number))).toBe('not_found');
  });

  test('does not stand in for an approval that is missing', async () => {
    const { number } = await organisation.register('author');
    await organisation.submitAndReview(number);
    expect(await codeOf(sign('controller', number))).toBe('signs_what_can_change');
    expect(
      await codeOf(
        submit(organisation.app, await organisation.as('author'), number, { seen: '*', message: '', chosen: [] }),
      ),
    ).toBe('wrong_state');
  });
});
