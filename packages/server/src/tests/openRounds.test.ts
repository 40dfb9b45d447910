import type { RoundChangeBody, Route } from '@kanonos/contract';
import { describe, expect, test } from 'vitest';
import { bottlenecks, pastAnswers } from '../features/rounds/bottlenecks.ts';
import { changeRounds } from '../features/rounds/changes.ts';
import { awaitedPeople, openRounds } from '../features/rounds/openRounds.ts';
import { submissionRoute } from '../features/rounds/service.ts';
import { tryRoute } from '../features/rounds/tryRoute.ts';
import { absencesOfPerson, addAbsence, endAbsence } from '../features/session/absences.ts';
import { changed, rows } from '../platform/db/connect.ts';
import { newId } from '../platform/db/ids.ts';
import { codeOf } from './organisation.ts';
import { withOrganisation } from './withOrganisation.ts';

const organisation = withOrganisation();
const idOf = (person: string) => organisation.ids[person] ?? '';
const open = async (as: string, query: Parameters<typeof openRounds>[2] = {}) =>
  openRounds(organisation.app, await organisation.as(as), query);
const change = async (as: string, ids: string[], wanted: RoundChangeBody, reason = 'Uwe is ill') =>
  changeRounds(organisation.app, await organisation.as(as), { rounds: ids, change: wanted, reason });
/** A document in review, with its open round. */
const submitted = async () => {
  const { id, number } = await organisation.register('author');
  await organisation.submit('author', number);
  const [round] = (await organisation.page('controller', number)).rounds;
  return { id, number, round: round?.id ?? '' };
};
const awaited = async (number: string) =>
  (await organisation.page('controller', number)).rounds[0]?.steps
    .flatMap((step) => step.assignments)
    .filter((one) => one.state === 'open')
    .map((one) => one.person.name);
const mailsTo = async (person: string, like: string) =>
  rows<{ subject: string }>(
    organisation.app.db,
    'select m.subject from mails m join people p on p.id = m.person_id where p.sign_in_name = :person and m.subject like :like',
    { person, like },
  );
/** Lets the person supervise another from long ago on. */
const supervise = (supervisor: string, person: string) =>
  rows(
    organisation.app.db,
    `insert into memberships (id, person_id, kind, ref_id, from_day) values (:id, :person, 'supervisor', :supervisor, '2020-01-01')`,
    { id: newId(), person: idOf(person), supervisor: idOf(supervisor) },
  );

describe('the list of open rounds', () => {
  test('tells for whom each waits, since when, how far it is and when it will be done', async () => {
    const { number, round } = await submitted();
    const { rows: found, counts } = await open('controller');
    const row = found.find((one) => one.id === round);
    expect(row).toMatchObject({
      number,
      n: 1,
      startedBy: { name: 'Author' },
      stepNumber: 0,
      stepCount: 3,
      overdue: false,
      waitingFor: [{ person: { name: 'Reviewer' }, waitedDays: 0, absentUntil: null, deputy: null }],
      spans: [{ people: ['Reviewer'], to: null }],
      mayChange: ['remind', 'reassign', 'take over', 'add person', 'add step', 'extend', 'skip step', 'cancel'],
    });
    expect(row?.forecast && row.forecast.half <= row.forecast.nearlyAll).toBe(true);
    expect(counts.all).toBe(found.length);
    const { people } = await awaitedPeople(organisation.app, await organisation.as('controller'), {});
    expect(people).toContainEqual({ id: idOf('reviewer'), name: 'Reviewer', rounds: expect.any(Number) });
  });

  test('holds what one controls or started, and nothing for a reader', async () => {
    const { round } = await submitted();
    const of = async (person: string) => (await open(person)).rows.map((row) => row.id);
    expect(await of('author')).toContain(round);
    expect((await open('author')).rows.find((row) => row.id === round)?.mayChange).toEqual(['remind', 'cancel']);
    expect(await of('reader')).not.toContain(round);
    expect(await of('stranger')).toEqual([]);
  });

  test('finds by number, title and the person awaited, and takes % as a sign', async () => {
    const { number, round } = await submitted();
    expect((await open('controller', { q: number })).rows.map((row) => row.id)).toEqual([round]);
    expect((await open('controller', { q: '100 %' })).rows).toEqual([]);
    const forReviewer = (await open('controller', { person: idOf('reviewer') })).rows;
    expect(forReviewer.map((row) => row.id)).toContain(round);
    expect((await open('controller', { person: idOf('reader') })).rows).toEqual([]);
  });

  test('says which are stuck: overdue, or waiting for somebody absent without a deputy', async () => {
    const { round } = await submitted();
    const stuck = async () => (await open('controller', { only: 'stuck' })).rows.find((row) => row.id === round);
    expect(await stuck()).toBeUndefined();
    const { id } = await addAbsence(
      organisation.app,
      await organisation.as('admin'),
      { from: '2026-11-20', to: '2026-12-31', deputyId: null },
      idOf('reviewer'),
    );
    expect(await stuck()).toMatchObject({ waitingFor: [{ absentUntil: '2026-12-31' }] });
    // Nobody answers while away: the forecast lies after the absence.
    expect((await stuck())?.forecast?.half.slice(0, 4)).toBe('2027');
    await endAbsence(organisation.app, await organisation.as('admin'), id, idOf('reviewer'));
    await rows(
      organisation.app.db,
      `update steps set due_on = '2026-01-02' where round_id = :round and state = 'open'`,
      {
        round,
      },
    );
    expect(await stuck()).toMatchObject({ overdue: true });
    expect((await open('controller', { only: 'overdue' })).rows.map((row) => row.id)).toContain(round);
  });

  test('refuses a place that no answer gave', async () => {
    expect(await codeOf(open('controller', { after: 'somewhere' }))).toBe('input_invalid');
  });
});

describe('changes to running rounds', () => {
  test('a reassignment asks the new person, tells the former one, and is on record with its reason', async () => {
    const { number, round } = await submitted();
    expect(
      await change('controller', [round], { kind: 'reassign', from: idOf('reviewer'), to: idOf('authority2') }),
    ).toEqual({
      changed: 1,
      refused: [],
    });
    expect(await awaited(number)).toEqual(['Authority2']);
    expect(await mailsTo('authority2', `%${number}%`)).toHaveLength(1);
    expect(await mailsTo('reviewer', `${number}%reassigned to Authority2`)).toHaveLength(1);
    const [event] = await rows<{ text: string }>(
      organisation.app.db,
      `select text from events where kind = 'assignment.reassigned' order by seq desc limit 1`,
    );
    expect(JSON.parse(event?.text ?? '{}')).toMatchObject({
      payload: { from: 'Reviewer', to: 'Authority2', reason: 'Uwe is ill' },
    });
    await organisation.decideAs('authority2', number, 'no objection', '');
    expect((await organisation.page('author', number)).revision.state).toBe('in approval');
  });

  test('taking over works for many at once; what is refused is named and stops nothing', async () => {
    const [first, second] = [await submitted(), await submitted()];
    const answer = await change('controller', [first.round, newId(), second.round], {
      kind: 'take over',
      from: idOf('reviewer'),
    });
    expect(answer.changed).toBe(2);
    expect(answer.refused).toHaveLength(1);
    expect(await awaited(first.number)).toEqual(['Controller']);
    expect(await awaited(second.number)).toEqual(['Controller']);
    const again = await change('controller', [first.round], { kind: 'take over', from: idOf('reviewer') });
    expect(again.refused[0]?.reasons).toEqual(['Reviewer has no open assignment in this round.']);
  });

  test('a person added is asked too, and counts once', async () => {
    const { number, round } = await submitted();
    await change('controller', [round], { kind: 'add person', person: idOf('authority2') });
    expect(await awaited(number)).toEqual(['Reviewer', 'Authority2']);
    const twice = await change('controller', [round], { kind: 'add person', person: idOf('authority2') });
    expect(twice.refused[0]?.reasons[0]).toContain('already assigned');
    await organisation.decideAs('reviewer', number, 'no objection', '');
    expect((await organisation.page('author', number)).revision.state).toBe('in review');
    await organisation.decideAs('authority2', number, 'no objection', '');
    expect((await organisation.page('author', number)).revision.state).toBe('in approval');
  });

  test('an extension counts working days from the due day, and from today where that has passed', async () => {
    const { round } = await submitted();
    const due = async () => (await open('controller')).rows.find((row) => row.id === round)?.due ?? '';
    const before = await due();
    await change('controller', [round], { kind: 'extend', workingDays: 5 });
    expect((await due()) > before).toBe(true);
    await rows(
      organisation.app.db,
      `update steps set due_on = '2026-01-02' where round_id = :round and state = 'open'`,
      {
        round,
      },
    );
    await change('controller', [round], { kind: 'extend', workingDays: 1 });
    expect((await due()).slice(0, 7) >= '2026-11').toBe(true);
  });

  test('a review can be skipped, the only approval by others cannot', async () => {
    const { number, round } = await submitted();
    await change('controller', [round], { kind: 'skip step' });
    expect((await organisation.page('author', number)).revision.state).toBe('in approval');
    // The owner’s approval: the authority’s follows.
    await change('controller', [round], { kind: 'skip step' });
    expect(await awaited(number)).toEqual(['Authority', 'Authority2']);
    const last = await change('controller', [round], { kind: 'skip step' });
    expect(last.refused[0]?.reasons[0]).toContain('only approval');
    expect((await organisation.page('author', number)).revision.state).toBe('in approval');
  });

  test('the only approval is not given to an author', async () => {
    const { number, round } = await submitted();
    await organisation.decideAs('reviewer', number, 'no objection', '');
    await change('controller', [round], { kind: 'skip step' });
    const others = `person_id = '${idOf('authority2')}' and step_id in (select id from steps where round_id = :round)`;
    await rows(organisation.app.db, `update assignments set state = 'not needed' where ${others}`, { round });
    const toAuthor = await change('controller', [round], {
      kind: 'reassign',
      from: idOf('authority'),
      to: idOf('author'),
    });
    expect(toAuthor.refused[0]?.reasons).toEqual([
      'Author is an author of this revision and would be its only approver.',
    ]);
  });

  test('cancelling makes it a draft again and tells whoever submitted it', async () => {
    const { number, round } = await submitted();
    await change('controller', [round], { kind: 'cancel' });
    expect((await organisation.page('author', number)).revision.state).toBe('draft');
    expect(await mailsTo('author', `${number}%recalled`)).toHaveLength(1);
    const ended = await change('controller', [round], { kind: 'remind' }, '');
    expect(ended.refused[0]?.reasons).toEqual(['This round has ended.']);
  });

  test('whoever started it reminds and cancels, and chooses no other approvers', async () => {
    const { round } = await submitted();
    expect((await change('author', [round], { kind: 'remind' }, '')).changed).toBe(1);
    const refused = await change('author', [round], { kind: 'reassign', from: idOf('reviewer'), to: idOf('author') });
    expect(refused.refused[0]?.reasons).toEqual(['You may not reassign in this round.']);
  });

  test('a round of somebody else does not exist for a stranger', async () => {
    const { round } = await submitted();
    const refused = await change('stranger', [round], { kind: 'remind' }, '');
    expect(refused).toMatchObject({ changed: 0, refused: [{ number: '' }] });
  });

  test('everything but a reminder needs a reason', async () => {
    const { round } = await submitted();
    expect(await codeOf(change('controller', [round], { kind: 'skip step' }, ''))).toBe('reason_missing');
  });

  test('a reassignment and a decision at once: one of them counts, and the round is whole', async () => {
    const { number, round } = await submitted();
    const [, moved] = await Promise.all([
      codeOf(organisation.decideAs('reviewer', number, 'no objection', '')),
      change('controller', [round], { kind: 'reassign', from: idOf('reviewer'), to: idOf('authority2') }),
    ]);
    const page = await organisation.page('controller', number);
    const [step] = page.rounds[0]?.steps ?? [];
    expect(step?.assignments).toHaveLength(1);
    if (moved.changed === 1)
      expect(step?.assignments[0]).toMatchObject({ state: 'open', person: { name: 'Authority2' } });
    else expect(page.revision.state).toBe('in approval');
  });
});

describe('supervisors', () => {
  test('see the rounds of their people, hand over, and enter an absence when somebody falls ill', async () => {
    await supervise('author2', 'reviewer');
    const { number, round } = await submitted();
    const [row] = (await open('author2', { q: number })).rows;
    expect(row?.mayChange).toEqual(['remind', 'reassign', 'take over', 'extend']);
    const supervisor = await organisation.as('author2');
    const toldBefore = (await mailsTo('reviewer', 'An absence was entered for you')).length;
    await addAbsence(
      organisation.app,
      supervisor,
      { from: '2026-11-25', to: '2026-12-20', deputyId: idOf('authority') },
      idOf('reviewer'),
    );
    const { absences } = await absencesOfPerson(organisation.app, supervisor, idOf('reviewer'));
    expect(absences).toMatchObject([{ to: '2026-12-20', deputy: { name: 'Authority' } }]);
    expect(await mailsTo('reviewer', 'An absence was entered for you')).toHaveLength(toldBefore + 1);
    await change('author2', [round], { kind: 'reassign', from: idOf('reviewer'), to: idOf('authority') });
    expect(await awaited(number)).toEqual(['Authority']);
    await endAbsence(organisation.app, supervisor, absences[0]?.id ?? '', idOf('reviewer'));
  });

  test('nobody else enters absences for others', async () => {
    const absence = { from: '2026-11-25', to: '2026-12-20', deputyId: null };
    expect(await codeOf(addAbsence(organisation.app, await organisation.as('author'), absence, idOf('author2')))).toBe(
      'not_found',
    );
    expect(await codeOf(absencesOfPerson(organisation.app, await organisation.as('author'), idOf('author2')))).toBe(
      'not_found',
    );
  });
});

describe('forecasts and bottlenecks', () => {
  test('a submission is forecast before it is made', async () => {
    const { number } = await organisation.register('author');
    const { forecast } = await submissionRoute(organisation.app, await organisation.as('author'), number);
    expect(forecast && forecast.half >= '2026-11' && forecast.half <= forecast.nearlyAll).toBe(true);
  });

  test('a running round is forecast on its document, and no more once it has ended', async () => {
    const { number, round } = await submitted();
    const forecastOn = async () => (await organisation.page('author', number)).rounds[0]?.forecast;
    expect((await forecastOn())?.half).toBeTruthy();
    await change('controller', [round], { kind: 'cancel' });
    expect(await forecastOn()).toBeNull();
  });

  test('how long answers took is summed by step, person, department and month, and opens to the answers', async () => {
    const { number } = await submitted();
    await organisation.decideAs('reviewer', number, 'no objection', '');
    await changed(
      organisation.app.db,
      `update assignments set opened_at = decided_at - interval '14 days' where state = 'answered' and step_id in (select s.id from steps s join rounds u on u.id = s.round_id join documents d on d.id = u.document_id where d.number = :number)`,
      { number },
    );
    const controller = await organisation.as('controller');
    const byPerson = (await bottlenecks(organisation.app, controller, { by: 'person' })).rows;
    const reviewer = byPerson.find((row) => row.name === 'Reviewer');
    expect(reviewer).toMatchObject({ key: idOf('reviewer'), slowDays: expect.any(Number) });
    const behind = (await pastAnswers(organisation.app, controller, { by: 'person', key: idOf('reviewer') })).rows;
    expect(behind).toHaveLength(reviewer?.answers ?? -1);
    expect(behind[0]).toMatchObject({ number, person: 'Reviewer', decision: 'no objection', workingDays: 10 });
    for (const by of ['step', 'department', 'month'] as const) {
      const groups = (await bottlenecks(organisation.app, controller, { by })).rows;
      expect(groups.reduce((sum, row) => sum + row.answers, 0)).toBe(
        byPerson.reduce((sum, row) => sum + row.answers, 0),
      );
    }
    // How long somebody takes concerns who oversees it, not everybody who sees the document.
    for (const other of ['stranger', 'reviewer', 'reader'])
      expect((await bottlenecks(organisation.app, await organisation.as(other), {})).rows, other).toEqual([]);
  });
});

describe('trying a route', () => {
  const step = (name: string, kind: 'review' | 'approval', assignees: object[]) => ({
    name,
    kind,
    meaning: 'approved',
    assignees,
    rule: { kind: 'all' as const },
    workingDays: 3,
    onReject: 'draft' as const,
  });
  const tried = async (steps: object[], fallbackApproverId: string | null = null) =>
    tryRoute(organisation.app, await organisation.as('controller'), organisation.types.get('PRO') ?? '', {
      route: { name: 'Tried', steps } as Route,
      fallbackApproverId,
    });

  test('asks for each document of the type whom it would ask, and changes nothing', async () => {
    const { number } = await submitted();
    const before = await rows<{ n: number }>(organisation.app.db, 'select count(*)::int as n from rounds');
    const trial = await tried([
      step('Look', 'review', [{ by: 'chosen', minimum: 2 }]),
      step('Sign', 'approval', [{ by: 'person', personId: idOf('authority') }]),
    ]);
    expect(trial).toMatchObject({ doubts: [], stopped: 0, tried: trial.all });
    const [first] = trial.documents;
    expect(first?.number).toBe(number);
    expect(first?.steps).toEqual([
      { name: 'Look', people: ['to be chosen'], applies: true, problem: null },
      { name: 'Sign', people: ['Authority'], applies: true, problem: null },
    ]);
    expect(first?.forecast && first.forecast.half >= '2026-11').toBe(true);
    expect(await rows<{ n: number }>(organisation.app.db, 'select count(*)::int as n from rounds')).toEqual(before);
  });

  test('names documents where nobody would be asked, or only an author', async () => {
    const nobody = [{ by: 'unit', unitId: newId() }];
    await rows(organisation.app.db, 'update organisation set fallback_approver = null');
    const none = await tried([step('Sign', 'approval', nobody)]);
    expect(none.stopped).toBe(none.tried);
    expect(none.documents[0]?.problems).toEqual([{ kind: 'nobody is asked', steps: ['Sign'], person: null }]);
    expect((await tried([step('Sign', 'approval', nobody)], idOf('authority'))).documents[0]?.steps[0]?.people).toEqual(
      ['Authority'],
    );
    const byAuthor = await tried([step('Sign', 'approval', [{ by: 'person', personId: idOf('author') }])]);
    expect(byAuthor.stopped).toBeGreaterThan(0);
    expect(byAuthor.documents[0]?.problems).toEqual([
      { kind: 'only the author approves', steps: ['Sign'], person: null },
    ]);
  });

  test('doubts what an experienced administrator would ask about', async () => {
    const authority = [{ by: 'person', personId: idOf('authority') }];
    const { doubts } = await tried([step('First', 'approval', authority), step('Second', 'approval', authority)]);
    expect(doubts).toMatchObject([
      { kind: 'one person in two approvals', steps: ['First', 'Second'], person: 'Authority' },
    ]);
  });
});

describe('a step that is added to a running round', () => {
  const added = (name: string, people: string[], kind: 'review' | 'approval' = 'review') => ({
    name,
    kind,
    ...(kind === 'approval' ? { meaning: 'countersigned' } : {}),
    people: people.map(idOf),
    isAnyOne: false,
    beside: false,
  });
  const stepsOf = async (number: string) =>
    (await organisation.page('controller', number)).rounds[0]?.steps.map(({ n, name, state }) => [n, name, state]);

  test('comes after the open one, is asked in its turn, and an approval comes last', async () => {
    const { number, round } = await submitted();
    const before = (await stepsOf(number)) ?? [];
    const review = { kind: 'add step' as const, added: added('Check loads', ['author2']), workingDays: 2 };
    expect((await change('controller', [round], review)).refused).toEqual([]);
    const approval = {
      kind: 'add step' as const,
      added: added('Countersignature', ['controller'], 'approval'),
      workingDays: 2,
    };
    expect((await change('controller', [round], approval)).refused).toEqual([]);
    const names = (await stepsOf(number))?.map(([, name]) => name);
    expect(names).toEqual([
      before[0]?.[1],
      'Check loads',
      ...before.slice(1).map(([, name]) => name),
      'Countersignature',
    ]);
    await organisation.decideAs('reviewer', number, 'no objection');
    expect(await awaited(number)).toEqual(['Author2']);
    await organisation.decideAs('author2', number, 'no objection');
    for (const person of ['owner', 'authority', 'controller']) await organisation.decideAs(person, number);
    expect((await organisation.page('controller', number)).revision.state).toBe('approved');
    expect((await organisation.verdict()).kind).toBe('intact');
  });

  test('is no review once something is being approved, and is added by whoever controls the document', async () => {
    const { number, round } = await submitted();
    const review = { kind: 'add step' as const, added: added('Late look', ['author2']), workingDays: 2 };
    expect((await change('author', [round], review)).changed).toBe(0);
    await organisation.decideAs('reviewer', number, 'no objection');
    expect((await change('controller', [round], review)).refused).toMatchObject([{ number }]);
    const byAuthor = { ...review, added: added('Own approval', ['reader'], 'approval') };
    expect((await change('controller', [round], byAuthor)).changed).toBe(1);
  });
});
