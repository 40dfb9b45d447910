import { addDays } from '@kanonos/core';
import { adHocRounds, rounds, signatures } from '@kanonos/server';
import { type Context, DEMO_PASSWORD, idOf, openAll } from './context.ts';

/** Lays rounds outside a route, and signatures outside rounds, on the line of time. */
export const planAdHocRounds = (c: Context): void => {
  c.add(c.at(9, 200), () => askDrivers(c));
  c.add(c.at(7, 205), () =>
    answer(c, 'THR-PRO-0114', 'rafael.osei', 'The brake test in section 4 takes longer in frost.'),
  );
  c.add(c.at(4, 210), () => informWorkshop(c));
  c.add(c.at(20, 215), () => witness(c, 'THR-RPT-0459', 'anselm.roth', 'Witnessed'));
};

/** Comments of those who work by it are asked for, until a day; one has answered. */
const askDrivers = async (c: Context) => {
  await adHocRounds.startAdHocRound(c.app, await c.as('joren.adeyemi'), 'THR-PRO-0114', {
    name: 'Experience of the first winter',
    message: 'What should the next revision say otherwise?',
    lastDay: addDays(c.day, 6),
    workingDays: 5,
    steps: [
      {
        name: 'Comment',
        kind: 'review',
        people: ['rafael.osei', 'petra.lindqvist'].map((name) => idOf(c.ids, name)),
        isAnyOne: false,
        beside: false,
      },
      { name: 'Sum up', kind: 'task', people: [idOf(c.ids, 'joren.adeyemi')], isAnyOne: false, beside: false },
    ],
    documents: ['THR-FRM-0012'],
    uploads: [],
  });
};

/** The route of the type that leads to nothing. */
const informWorkshop = async (c: Context) => {
  await adHocRounds.startAdHocRound(c.app, await c.as('ines.varga'), 'THR-WIN-0336', {
    name: 'Before the yearly overhaul',
    message: 'Please make sure that your people have the present revision at hand.',
    lastDay: null,
    workingDays: 5,
    steps: [],
    fromRoute: 'Information of the owner',
    documents: [],
    uploads: [],
  });
};

const answer = async (c: Context, ref: string, who: string, comment: string) => {
  const view = await openAll(c, ref, who);
  const asked = view.rounds
    .find(({ isAdHoc, state }) => isAdHoc && state === 'running')
    ?.steps.flatMap(({ assignments }) => assignments)
    .find((one) => one.state === 'open' && one.person.id === idOf(c.ids, who));
  if (!asked) throw new Error(`${ref}: ${who} is not asked`);
  await rounds.decide(c.app, await c.as(who), asked.id, {
    decision: 'with comments',
    comment,
    name: null,
    password: null,
    digest: null,
    version: view.revision.versions,
  });
};

const witness = async (c: Context, ref: string, who: string, meaning: string) => {
  await openAll(c, ref, who);
  const viewer = await c.as(who);
  const { digest } = await signatures.toSignOutside(c.app, viewer, ref, undefined);
  await signatures.signOutside(c.app, viewer, ref, {
    meaning,
    comment: 'Present at the test on tower 7.',
    digest,
    name: who,
    password: DEMO_PASSWORD,
  });
};
