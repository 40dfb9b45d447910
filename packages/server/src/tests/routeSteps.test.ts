import type { RouteDefinition, StepDefinition } from '@kanonos/core';
import { describe, expect, test } from 'vitest';
import { changeRounds } from '../features/rounds/changes.ts';
import { escalateWaiting } from '../features/rounds/escalate.ts';
import { openRounds } from '../features/rounds/openRounds.ts';
import { decide, submissionRoute } from '../features/rounds/service.ts';
import { addAbsence } from '../features/session/absences.ts';
import { rows } from '../platform/db/connect.ts';
import { codeOf } from './organisation.ts';
import { stepOf } from './steps.ts';
import { withOrganisation } from './withOrganisation.ts';

const organisation = withOrganisation();

const step = (name: string, people: string[], more: Partial<StepDefinition> = {}) =>
  stepOf(organisation, name, people, more);
const sign = (name: string, people: string[], more: Partial<StepDefinition> = {}) =>
  step(name, people, { kind: 'approval', meaning: `approved by ${name}`, ...more });

/** A document that was submitted on these steps. */
const submitted = async (steps: StepDefinition[], registered = organisation.register('author')) => {
  const route: RouteDefinition = { name: 'tried', steps };
  await rows(organisation.app.db, `update types set route = :route::jsonb where code = 'PRO'`, {
    route: JSON.stringify(route),
  });
  const document = await registered;
  await organisation.submit('author', document.number, { chosen: [] });
  return document;
};
const roundOf = async (number: string) => {
  const [round] = (await organisation.page('controller', number)).rounds;
  if (!round) throw new Error('no round');
  return round;
};
/** Each step with its state, and its assignees with theirs. */
const statesOf = async (number: string) =>
  (await roundOf(number)).steps.map(({ name, state, assignments }) => [
    `${name} ${state}`,
    ...assignments.map((one) => `${one.person.name} ${one.decision ?? one.state}`),
  ]);
const mailsTo = (name: string, number: string) =>
  rows<{ subject: string }>(
    organisation.app.db,
    'select m.subject from mails m join people p on p.id = m.person_id where p.name = :name and m.subject like :like order by m.created_at',
    { name, like: `%${number}%` },
  );

describe('steps at the same time', () => {
  test('are asked together, and the next is asked when all of them are done', async () => {
    const { number } = await submitted([
      step('Check', ['reviewer']),
      step('Safety', ['owner'], { beside: true }),
      sign('Authority', ['authority']),
    ]);
    expect(await statesOf(number)).toEqual([
      ['Check open', 'Reviewer open'],
      ['Safety open', 'Owner open'],
      ['Authority waiting', 'Authority waiting'],
    ]);
    await organisation.decideAs('owner', number, 'no objection');
    expect((await organisation.page('author', number)).next).toMatchObject({ step: 'Check', who: ['Reviewer'] });
    await organisation.decideAs('reviewer', number, 'no objection');
    expect(await statesOf(number)).toEqual([
      ['Check done', 'Reviewer no objection'],
      ['Safety done', 'Owner no objection'],
      ['Authority open', 'Authority open'],
    ]);
  });

  test('of two approvals both sign, in whichever order, also at once', async () => {
    const { number } = await submitted([sign('Owner', ['owner']), sign('Authority', ['authority'], { beside: true })]);
    await Promise.all([organisation.decideAs('authority', number), organisation.decideAs('owner', number)]);
    const page = await organisation.page('author', number);
    expect(page.revision.state).toBe('approved');
    expect(page.rounds[0]?.steps.flatMap((s) => s.assignments).map((a) => a.signature?.state)).toEqual([
      'intact',
      'intact',
    ]);
  });

  test('end together when one of them rejects', async () => {
    const { number } = await submitted([
      step('Check', ['reviewer']),
      step('Safety', ['owner'], { beside: true }),
      sign('Authority', ['authority']),
    ]);
    await organisation.decideAs('reviewer', number, 'reject', 'Wrong load');
    expect(await statesOf(number)).toEqual([
      ['Check rejected', 'Reviewer reject'],
      ['Safety not needed', 'Owner not needed'],
      ['Authority not needed', 'Authority not needed'],
    ]);
    expect((await organisation.page('author', number)).revision.state).toBe('draft');
  });

  test('are one line in the list of rounds, and skipped one by one', async () => {
    const { number } = await submitted([
      step('Check', ['reviewer']),
      step('Safety', ['owner'], { beside: true }),
      sign('Authority', ['authority']),
    ]);
    const controller = await organisation.as('controller');
    const { rows: lines } = await openRounds(organisation.app, controller, { q: number });
    expect(lines).toMatchObject([{ step: 'Check, Safety', stepNumber: 0, stepCount: 2 }]);
    expect(lines[0]?.waitingFor.map((one) => one.person.name)).toEqual(['Reviewer', 'Owner']);
    const skip = { rounds: [(await roundOf(number)).id], change: { kind: 'skip step', step: 2 }, reason: 'No load' };
    expect(await changeRounds(organisation.app, controller, skip as never)).toEqual({ changed: 1, refused: [] });
    expect(await statesOf(number)).toMatchObject([['Check open', 'Reviewer open'], ['Safety not needed', {}], {}]);
  });
});

describe('a step with a condition', () => {
  test('is asked where the document meets it', async () => {
    const steps = [
      step('Check', ['reviewer'], { when: 'folder:"Below" or change:major' }),
      step('Look', ['owner'], { when: 'change:"first issue"' }),
      sign('Authority', ['authority']),
    ];
    const { number } = await submitted(steps, organisation.register('author', { folder: '2' }));
    expect(await statesOf(number)).toEqual([
      ['Check not needed'],
      ['Look open', 'Owner open'],
      ['Authority waiting', 'Authority waiting'],
    ]);
    const below = await submitted(steps, organisation.register('author', { folder: '1/a' }));
    expect((await statesOf(below.number))[0]).toEqual(['Check open', 'Reviewer open']);
  });

  test('is shown before submitting, and never leaves a submission that asks nobody', async () => {
    const { id, number } = await organisation.register('author');
    await rows(organisation.app.db, `update types set route = :route::jsonb where code = 'PRO'`, {
      route: JSON.stringify({ name: 'x', steps: [sign('Authority', ['authority'], { when: 'change:major' })] }),
    });
    const author = await organisation.as('author');
    expect((await submissionRoute(organisation.app, author, id)).steps).toMatchObject([
      { name: 'Authority', applies: false, when: 'change:major', people: [] },
    ]);
    expect(await codeOf(organisation.submit('author', number, { chosen: [] }))).toBe('route_asks_nobody');
    expect((await organisation.page('author', number)).rounds).toEqual([]);
  });

  test('that asks nobody is passed over when a rejection leads back to it', async () => {
    const { number } = await submitted([
      step('Check', ['reviewer']),
      step('Extra', ['owner'], { when: 'change:major' }),
      sign('Authority', ['authority'], { onReject: 1 }),
    ]);
    await organisation.decideAs('reviewer', number, 'no objection');
    await organisation.decideAs('authority', number, 'reject', 'Look again');
    expect(await statesOf(number)).toEqual([
      ['Check open', 'Reviewer open'],
      ['Extra not needed'],
      ['Authority waiting', 'Authority waiting'],
    ]);
  });
});

describe('a rejection to an earlier step', () => {
  const steps = (keepsAgreed: boolean) => [
    step('Check', ['reviewer']),
    step('Safety', ['owner']),
    sign('Authority', ['authority'], { onReject: 0, keepsAgreed }),
  ];
  const rejected = async (keepsAgreed: boolean) => {
    const { number } = await submitted(steps(keepsAgreed));
    await organisation.decideAs('reviewer', number, 'no objection');
    await organisation.decideAs('owner', number, 'no objection');
    await organisation.decideAs('authority', number, 'reject', 'Look again');
    await organisation.decideAs('reviewer', number, 'no objection');
    return number;
  };

  test('asks all again', async () => {
    expect((await statesOf(await rejected(false)))[1]).toEqual(['Safety open', 'Owner open']);
  });

  test('or only those who have not agreed', async () => {
    const number = await rejected(true);
    expect(await statesOf(number)).toEqual([
      ['Check done', 'Reviewer no objection'],
      ['Safety done', 'Owner no objection'],
      ['Authority open', 'Authority open'],
    ]);
    await organisation.decideAs('authority', number);
    expect((await organisation.page('author', number)).revision.state).toBe('approved');
  });
});

describe('a step that takes too long', () => {
  const person = (name: string) => ({ by: 'person', personId: organisation.ids[name] ?? '' }) as const;
  const wait = async (days: number) => {
    organisation.clock.now = new Date(organisation.clock.now.getTime() + days * 86_400_000);
    return escalateWaiting(organisation.app);
  };

  test('reminds, tells, and hands over, each once', async () => {
    const { number } = await submitted([
      step('Check', ['reviewer'], {
        escalations: [
          { afterDays: 2, action: 'remind' },
          { afterDays: 3, action: 'tell', to: { by: 'submitter' } },
          { afterDays: 6, action: 'hand over', to: person('owner') },
        ],
      }),
      sign('Authority', ['authority']),
    ]);
    await wait(1);
    expect((await mailsTo('Reviewer', number)).length).toBe(1);
    // Two working days later, whichever day the test began on.
    await wait(4);
    const reminders = (await mailsTo('Reviewer', number)).length;
    expect(reminders).toBeGreaterThan(1);
    await wait(0);
    expect((await mailsTo('Reviewer', number)).length).toBe(reminders);
    await wait(9);
    expect((await mailsTo('Author', number)).map((mail) => mail.subject)).toContain(`${number} A is waiting: Check`);
    expect((await statesOf(number))[0]).toEqual(['Check open', 'Owner open']);
    await organisation.decideAs('owner', number, 'no objection');
    expect((await statesOf(number))[0]).toEqual(['Check done', 'Owner no objection']);
  });

  test('asks somebody as well, whichever answers', async () => {
    const { number } = await submitted([
      step('Check', ['reviewer'], {
        rule: { kind: 'any one' },
        escalations: [{ afterDays: 1, action: 'also ask', to: person('owner') }],
      }),
      sign('Authority', ['authority']),
    ]);
    await wait(4);
    expect((await statesOf(number))[0]).toEqual(['Check open', 'Reviewer open', 'Owner open']);
    await organisation.decideAs('owner', number, 'no objection');
    expect((await statesOf(number))[0]).toEqual(['Check done', 'Reviewer not needed', 'Owner no objection']);
  });

  test('tells who cannot be asked, with the reason on record', async () => {
    const { id, number } = await submitted([
      sign('Authority', ['authority'], {
        escalations: [{ afterDays: 1, action: 'hand over', to: person('author') }],
      }),
    ]);
    await wait(4);
    expect((await statesOf(number))[0]).toEqual(['Authority open', 'Authority open']);
    const [event] = await rows<{ text: string }>(
      organisation.app.db,
      `select text from events where kind = 'step.escalated' and document_id = :id`,
      { id },
    );
    expect(JSON.parse(event?.text ?? '{}').payload).toMatchObject({
      action: 'hand over',
      to: 'Author',
      refused: expect.stringContaining('Author'),
    });
  });

  test('is due on the day of a field, where the document has one', async () => {
    const [type] = await rows<{ fields: { key: string; kind: string }[] }>(
      organisation.app.db,
      `select fields from types where code = 'PRO'`,
    );
    const day = { key: 'neededBy', label: 'Needed by', kind: 'date', mandatory: false, level: 'revision' };
    await rows(organisation.app.db, `update types set fields = :fields::jsonb where code = 'PRO'`, {
      fields: JSON.stringify([...(type?.fields ?? []), day]),
    });
    const registered = organisation.register('author').then(async (document) => {
      await organisation.correct('author', document.id, { metadata: { neededBy: '2027-03-01' } });
      return document;
    });
    const { number } = await submitted([step('Check', ['reviewer'], { dueField: 'neededBy' })], registered);
    expect((await roundOf(number)).steps[0]?.dueOn).toBe('2027-03-01');
  });
});

test('a round keeps the route that it began with', async () => {
  const { number } = await submitted([step('Check', ['reviewer']), sign('Authority', ['authority'])]);
  await rows(organisation.app.db, `update types set route = '{"name": "other", "steps": []}' where code = 'PRO'`);
  await organisation.decideAs('reviewer', number, 'no objection');
  await organisation.decideAs('authority', number);
  expect((await organisation.page('author', number)).revision.state).toBe('approved');
});

test('an absence entered while somebody decides: the decision counts once, the rest goes to the deputy', async () => {
  const both = [step('Check', ['reviewer', 'owner']), sign('Authority', ['authority'])];
  const { number } = await submitted(both);
  const [assignment] = (await roundOf(number)).steps[0]?.assignments ?? [];
  const today = organisation.clock.now.toISOString().slice(0, 10);
  const [, answered] = await Promise.all([
    addAbsence(organisation.app, await organisation.as('reviewer'), {
      from: today,
      to: today,
      deputyId: organisation.ids.author2 ?? '',
    }),
    organisation.decideAs('reviewer', number, 'no objection').then(
      () => 'decided',
      (error: Error) => error.message,
    ),
  ]);
  expect(answered).toBe('decided');
  const deputy = decide(organisation.app, await organisation.as('author2'), assignment?.id ?? '', {
    decision: 'no objection',
    comment: '',
    name: null,
    password: null,
    digest: null,
    version: 1,
  });
  expect(await codeOf(deputy)).toBe('already_decided');
  expect((await statesOf(number))[0]).toEqual(['Check open', 'Reviewer no objection', 'Owner open']);
});
