import { addDays } from '@kanonos/core';
import { describe, expect, test } from 'vitest';
import { deactivate } from '../features/people/service.ts';
import { abandon } from '../features/release/revise.ts';
import { startAdHocRound } from '../features/rounds/adHoc.ts';
import { openRounds } from '../features/rounds/openRounds.ts';
import { cancelPlanned, plannedRounds, planRound, startPlannedRounds } from '../features/rounds/planned.ts';
import { codeOf } from './organisation.ts';
import { withOrganisation } from './withOrganisation.ts';

const organisation = withOrganisation();
const today = () => organisation.clock.now.toISOString().slice(0, 10);
const wait = (days: number) => {
  organisation.clock.now = new Date(organisation.clock.now.getTime() + days * 86_400_000);
};
type Body = Parameters<typeof planRound>[3];
const plan = async (as: string, number: string, more: Partial<Body> = {}) =>
  planRound(organisation.app, await organisation.as(as), number, {
    name: 'Winter check',
    message: '',
    lastDay: null,
    workingDays: 4,
    steps: [
      { name: 'Look', kind: 'review', people: [organisation.ids.controller ?? ''], isAnyOne: false, beside: false },
    ],
    documents: [],
    uploads: [],
    on: addDays(today(), 5),
    ...more,
  });
const planned = async (as: string, number: string) =>
  (await plannedRounds(organisation.app, await organisation.as(as), number)).rounds;
const running = async (number: string) =>
  (await organisation.page('controller', number)).rounds.filter(({ isAdHoc }) => isAdHoc);
const inForce = async () => {
  const { number } = await organisation.register('author');
  await organisation.toInForce(number);
  return number;
};

describe('a round that is planned', () => {
  test('asks nobody before its day, and begins once on it with its files', async () => {
    const number = await inForce();
    const file = await organisation.upload('author', 'minutes', 'minutes.txt');
    await plan('author', number, { uploads: [file] });
    await startPlannedRounds(organisation.app);
    expect(await running(number)).toEqual([]);
    expect(await planned('reader', number)).toMatchObject([
      { name: 'Winter check', by: { name: 'Author' }, mayCancel: false },
    ]);
    wait(5);
    await Promise.all([startPlannedRounds(organisation.app), startPlannedRounds(organisation.app)]);
    await startPlannedRounds(organisation.app);
    expect(await running(number)).toMatchObject([{ name: 'Winter check', files: [{ name: 'minutes.txt' }] }]);
    expect(await planned('author', number)).toEqual([]);
    expect((await organisation.verdict()).kind).toBe('intact');
  });

  test('is refused now for what stands against it now, and may not end before it begins', async () => {
    const number = await inForce();
    expect(await codeOf(plan('author', number, { on: today() }))).toBe('day_not_after_today');
    expect(await codeOf(plan('author', number, { lastDay: addDays(today(), 2) }))).toBe('last_day_past');
    expect(await codeOf(plan('author', number, { steps: [] }))).toBe('route_missing');
    const draft = await organisation.register('author');
    expect(await codeOf(plan('reader', draft.number))).toBe('not_found');
  });

  test('is cancelled by whoever planned it or controls the document', async () => {
    const number = await inForce();
    const { id } = await plan('reader', number);
    const cancel = async (as: string) =>
      cancelPlanned(organisation.app, await organisation.as(as), id, { reason: 'not needed' });
    expect(await codeOf(cancel('reader2'))).toBe('not_found');
    await cancel('controller');
    expect(await codeOf(cancel('reader'))).toBe('not_found');
    wait(6);
    await startPlannedRounds(organisation.app);
    expect(await running(number)).toEqual([]);
  });

  test('that is impossible on its day is given up, and its planner is told', async () => {
    const number = await inForce();
    const leaver = await organisation.addPerson('leaver');
    await plan('author', number, {
      steps: [{ name: 'Look', kind: 'review', people: [leaver.id], isAnyOne: false, beside: false }],
    });
    await deactivate(organisation.app, await organisation.as('admin'), leaver.id, 'left');
    wait(6);
    await startPlannedRounds(organisation.app);
    await startPlannedRounds(organisation.app);
    expect(await planned('author', number)).toEqual([]);
    expect(await running(number)).toEqual([]);
  });

  test('ends with the draft that it is about, as does one that runs', async () => {
    const { number } = await organisation.register('author');
    await plan('author', number);
    const viewer = await organisation.as('author');
    const look = [
      {
        name: 'Look',
        kind: 'review' as const,
        people: [organisation.ids.controller ?? ''],
        isAnyOne: false,
        beside: false,
      },
    ];
    await startAdHocRound(organisation.app, viewer, number, {
      name: 'At once',
      message: '',
      lastDay: null,
      workingDays: 4,
      steps: look,
      documents: [],
      uploads: [],
    });
    await abandon(organisation.app, viewer, number, { seen: '*', reason: 'Written elsewhere' });
    expect(await planned('author', number)).toEqual([]);
    expect((await openRounds(organisation.app, await organisation.as('controller'), { q: number })).rows).toEqual([]);
  });
});
