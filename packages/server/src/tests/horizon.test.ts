import { describe, expect, test } from 'vitest';
import { moveReviews, proposeLevel } from '../features/horizon/level.ts';
import { horizon } from '../features/horizon/service.ts';
import { reviewOf } from '../features/reviews/service.ts';
import { rows } from '../platform/db/connect.ts';
import { codeOf } from './organisation.ts';
import { withOrganisation } from './withOrganisation.ts';

const organisation = withOrganisation();

const ahead = async (as: string, query: Partial<Parameters<typeof horizon>[2]> = {}) =>
  horizon(organisation.app, await organisation.as(as), { whose: 'mine', ...query });
const inForce = async (on: string) => {
  const { id, number } = await organisation.register('author');
  await organisation.toInForce(number);
  await rows(organisation.app.db, 'update documents set review_on = :on where id = :id', { id, on });
  return { id, number };
};

describe('what comes due', () => {
  test('is what one does oneself: reviews of what one owns, check-outs and readings, the earliest first', async () => {
    const { id, number } = await organisation.register('author');
    await organisation.requireReading(id, ['owner', 'author2']);
    await organisation.toInForce(number);
    const { number: other } = await inForce('2026-12-01');
    const mine = await ahead('owner', { until: '2026-12-31' });
    expect(mine.items.map((one) => [one.number, one.kind])).toEqual([
      [number, 'reading'],
      [other, 'review'],
    ]);
    // Somebody else's are not among them.
    expect((await ahead('author2', { until: '2026-12-31' })).items.map((one) => [one.number, one.kind])).toEqual([
      [number, 'reading'],
    ]);
  });

  test('for all is given to those who release: who read the same by the same day are one line', async () => {
    expect(await codeOf(ahead('reader', { whose: 'all' }))).toBe('right_missing');
    expect((await ahead('reader')).mayAll).toBe(false);
    const { items, mayAll } = await ahead('controller', { whose: 'all', until: '2027-01-31' });
    expect(mayAll).toBe(true);
    expect(items.find(({ kind }) => kind === 'reading')).toMatchObject({ people: 2, person: null });
    const of = organisation.ids.author2 ?? '';
    const theirs = await ahead('controller', { whose: 'all', until: '2027-01-31', person: of });
    expect(theirs.items.map(({ kind, person }) => [kind, person?.id])).toEqual([['reading', of]]);
  });

  test('names days of release, withdrawals and what is overdue, and adds up the load of each week', async () => {
    const { number } = await inForce('2026-11-02');
    const { id, number: planned } = await inForce('2029-01-01');
    await rows(organisation.app.db, `update documents set withdraw_on = '2026-12-15' where id = :id`, { id });
    const { items, weeks, from } = await ahead('owner', { until: '2026-12-31' });
    expect(from).toBe('2026-11-25');
    expect(items[0]).toMatchObject({ number, kind: 'review', overdue: true, minutes: 60 });
    expect(items.find((one) => one.number === planned)).toMatchObject({ kind: 'withdrawal', day: '2026-12-15' });
    // What is overdue is still to be done: in the first week.
    expect(weeks[0]).toMatchObject({ week: '2026-11-23' });
    expect(weeks[0]?.review).toBeGreaterThanOrEqual(60);
    expect(weeks.at(-1)?.week).toBe('2026-12-28');
  });

  test('keeps what one may not see to itself, and looks no further ahead than is planned by the day', async () => {
    const { id, number } = await inForce('2026-12-02');
    await rows(
      organisation.app.db,
      `insert into grants (id, document_id, subject_kind, subject_id, rights, withheld)
       values (gen_random_uuid(), :id, 'person', :controller, '{}', true)`,
      { id, controller: organisation.ids.controller },
    );
    const seen = await ahead('controller', { whose: 'all', until: '2026-12-31' });
    expect(seen.items.map((one) => one.number)).not.toContain(number);
    expect((await ahead('owner', { until: '2099-01-01' })).until < '2030-01-01').toBe(true);
  });
});

describe('levelling', () => {
  const reviewDays = async (ids: readonly string[]) =>
    (
      await rows<{ review_on: string }>(
        organisation.app.db,
        'select review_on from documents where id = any(:ids::uuid[]) order by review_on',
        { ids: [...ids] },
      )
    ).map(({ review_on }) => review_on);
  const propose = async (more: Partial<Parameters<typeof proposeLevel>[2]> = {}) =>
    proposeLevel(organisation.app, await organisation.as('owner'), {
      whose: 'mine',
      until: '2027-04-30',
      hours: 2,
      ...more,
    });

  test('proposes other days within the limits and on working days, and moves nothing by itself', async () => {
    const ids: string[] = [];
    for (let i = 0; i < 4; i++) ids.push((await inForce('2027-03-10')).id);
    // The owner is away in the week before: it goes into the week after.
    await rows(
      organisation.app.db,
      `insert into absences (id, person_id, from_day, to_day) values (gen_random_uuid(), :owner, '2027-03-01', '2027-03-05')`,
      { owner: organisation.ids.owner },
    );
    const { moves, overfull } = await propose();
    const march = moves.filter(({ documentId }) => ids.includes(documentId));
    expect(march.map(({ from, to }) => [from, to])).toEqual([
      ['2027-03-10', '2027-03-17'],
      ['2027-03-10', '2027-03-17'],
    ]);
    expect(overfull.after).toBeLessThan(overfull.before);
    expect(await reviewDays(ids)).toEqual(['2027-03-10', '2027-03-10', '2027-03-10', '2027-03-10']);
    const owner = await organisation.as('owner');
    const given = {
      moves: march.map(({ documentId, from, to }) => ({ documentId, from, to })),
      reason: 'Weeks levelled',
    };
    expect(await moveReviews(organisation.app, owner, given)).toEqual({ moved: 2, left: [] });
    expect(await reviewDays(ids)).toEqual(['2027-03-10', '2027-03-10', '2027-03-17', '2027-03-17']);
    // What was proposed for a day that is no longer theirs is left, with why.
    const again = await moveReviews(organisation.app, owner, given);
    expect(again).toMatchObject({ moved: 0, left: [{ refusals: [{ code: 'changed_meanwhile' }] }, {}] });
  });

  test('brings reviews forward, and goes beyond no limit', async () => {
    const { id, number } = await inForce('2027-03-24');
    const owner = await organisation.as('owner');
    const move = (from: string, to: string) =>
      moveReviews(organisation.app, owner, { moves: [{ documentId: id, from, to }], reason: 'Levelled' });
    expect(await move('2027-03-24', '2027-03-16')).toEqual({ moved: 1, left: [] });
    expect((await move('2027-03-16', '2026-11-25')).left[0]?.refusals[0]?.code).toBe('day_not_after_today');
    expect((await move('2027-03-16', '2027-12-24')).left[0]?.refusals[0]?.code).toBe('review_postponed_too_far');
    expect(await reviewDays([id])).toEqual(['2027-03-16']);
    const { earlier } = await reviewOf(organisation.app, owner, number);
    expect(earlier.map(({ outcome }) => outcome)).toEqual(['brought forward']);
  });

  test('is for whoever may postpone each of them', async () => {
    const { id } = await inForce('2027-03-24');
    const moved = await moveReviews(organisation.app, await organisation.as('author2'), {
      moves: [{ documentId: id, from: '2027-03-24', to: '2027-03-16' }],
      reason: 'Levelled',
    });
    expect(moved).toMatchObject({ moved: 0, left: [{ refusals: [{ code: 'right_missing' }] }] });
  });
});
