import { describe, expect, test } from 'vitest';
import { sendReminders } from '../features/desk/index.ts';
import { desk } from '../features/desk/service.ts';
import { revise } from '../features/release/revise.ts';
import { answerReview, confirmReview, postponeReview, reviewOf } from '../features/reviews/service.ts';
import { rows } from '../platform/db/connect.ts';
import { codeOf, PASSWORD } from './organisation.ts';
import { withOrganisation } from './withOrganisation.ts';

const organisation = withOrganisation();

/** What is done next has an instant of its own. */
const aWhileLater = () => {
  organisation.clock.now = new Date(organisation.clock.now.getTime() + 60_000);
};

/** A document in force that is due for review on a day. */
const due = async (on: string) => {
  const { id, number } = await organisation.register('author');
  await organisation.toInForce(number);
  await rows(organisation.app.db, 'update documents set review_on = :on where id = :id', { id, on });
  aWhileLater();
  return { id, number };
};
const reviewDay = async (id: string) =>
  (await rows<{ review_on: string }>(organisation.app.db, 'select review_on from documents where id = :id', { id }))[0]
    ?.review_on;
const confirm = async (
  as: string,
  number: string,
  more: { password?: string; digest?: string; comment?: string } = {},
) => {
  const viewer = await organisation.as(as);
  await organisation.openFiles(as, number);
  const { signing, due: seenDue } = await reviewOf(organisation.app, viewer, number);
  aWhileLater();
  return confirmReview(organisation.app, viewer, number, {
    seen: '*',
    due: seenDue,
    comment: '',
    name: as,
    password: PASSWORD,
    digest: signing.digest,
    ...more,
  });
};
const postpone = async (number: string, to: string, as = 'owner') => {
  const [document] = await rows<{ review_on: string }>(
    organisation.app.db,
    `select coalesce(review_on, '2026-12-01') as review_on from documents where number = :number`,
    { number },
  );
  return postponeReview(organisation.app, await organisation.as(as), number, {
    seen: '*',
    due: document?.review_on ?? '',
    to,
    reason: 'The season begins',
  });
};

describe('a periodic review', () => {
  test('confirms what is in force with a signature, and the next one follows', async () => {
    const { id, number } = await due('2026-12-01');
    const before = await reviewOf(organisation.app, await organisation.as('owner'), number);
    expect(before).toMatchObject({ label: 'A', due: '2026-12-01', earlier: [], use: { since: '2026-11-25' } });
    expect(await confirm('owner', number, { comment: 'Read with the crew' })).toEqual({
      next: before.nextIfConfirmed,
    });
    expect(await reviewDay(id)).toBe(before.nextIfConfirmed);
    const after = await reviewOf(organisation.app, await organisation.as('owner'), number);
    expect(after.earlier).toMatchObject([
      { outcome: 'confirmed', due: '2026-12-01', next: before.nextIfConfirmed, comment: 'Read with the crew' },
    ]);
    const [signature] = await rows<{ meaning: string; printed_name: string }>(
      organisation.app.db,
      `select meaning, printed_name from signatures where revision_id = (select public_revision_id from documents where id = :id) and meaning like 'reviewed%'`,
      { id },
    );
    expect(signature).toEqual({ meaning: 'reviewed and confirmed', printed_name: 'Owner' });
  });

  test('counts how the document was used since', async () => {
    const { number } = await due('2026-12-01');
    await organisation.openFiles('author2', number);
    await organisation.openFiles('owner', number);
    const { use } = await reviewOf(organisation.app, await organisation.as('owner'), number);
    expect(use.readers).toBe(2);
    expect(use.openings).toBeGreaterThanOrEqual(2);
  });

  test('is for its owner and for whoever releases; a wrong password confirms nothing', async () => {
    const { id, number } = await due('2026-12-01');
    expect(await codeOf(reviewOf(organisation.app, await organisation.as('author2'), number))).toBe('right_missing');
    expect(await codeOf(postpone(number, '2026-12-10', 'author2'))).toBe('right_missing');
    expect(await codeOf(confirm('owner', number, { password: 'wrong' }))).toBe('signing_wrong');
    expect(await codeOf(confirm('owner', number, { digest: 'f'.repeat(64) }))).toBe('record_changed');
    expect(await reviewDay(id)).toBe('2026-12-01');
    expect(await codeOf(confirm('controller', number))).toBe('done');
  });

  test('two who confirm at once: one of them is told that it changed', async () => {
    const { number } = await due('2026-12-01');
    await Promise.all(['owner', 'controller'].map((name) => organisation.openFiles(name, number)));
    const results = await Promise.all(
      ['owner', 'controller'].map(async (name) => {
        const viewer = await organisation.as(name);
        const { signing } = await reviewOf(organisation.app, viewer, number);
        return codeOf(
          confirmReview(organisation.app, viewer, number, {
            seen: '*',
            due: '2026-12-01',
            comment: '',
            name,
            password: PASSWORD,
            digest: signing.digest,
          }),
        );
      }),
    );
    expect(results.sort()).toEqual(['changed_meanwhile', 'done']);
  });

  test('that finds a change needed stays due until the next revision is in force', async () => {
    const { id, number } = await due('2026-12-01');
    await answerReview(organisation.app, await organisation.as('owner'), number, {
      seen: '*',
      due: '2026-12-01',
      outcome: 'minor change',
      comment: 'Table 2 names the old grease',
    });
    expect(await reviewDay(id)).toBe('2026-12-01');
    await revise(organisation.app, await organisation.as('author'), number, {
      seen: '*',
      changeKind: 'minor',
      reason: 'Table 2 names the old grease',
      summary: '',
      uploadId: null,
      label: null,
      changeNote: null,
    });
    await organisation.toInForce(number);
    expect((await reviewDay(id)) ?? '').toMatch(/^202[789]-11-25$/);
  });

  test('is postponed within the limit of the type, counted from the first day', async () => {
    const { id, number } = await due('2026-12-01');
    const { latestPostponement } = await reviewOf(organisation.app, await organisation.as('owner'), number);
    expect(latestPostponement).toBe('2027-01-30');
    await postpone(number, '2027-01-20');
    expect(await reviewDay(id)).toBe('2027-01-20');
    expect(await codeOf(postpone(number, '2027-01-10'))).toBe('review_not_later');
    expect(await codeOf(postpone(number, '2027-02-10'))).toBe('review_postponed_too_far');
    await postpone(number, '2027-01-30');
    expect((await reviewOf(organisation.app, await organisation.as('owner'), number)).latestPostponement).toBeNull();
    // A confirmation ends it: the limit counts anew.
    await confirm('owner', number);
    const anew = await reviewOf(organisation.app, await organisation.as('owner'), number);
    expect(anew.latestPostponement).not.toBeNull();
  });

  test('is asked of the owner some days ahead by mail, once, and stands on the Desk', async () => {
    const { number } = await due('2026-12-05');
    await sendReminders(organisation.app);
    await sendReminders(organisation.app);
    const mails = await rows<{ name: string }>(
      organisation.app.db,
      `select p.name from mails m join people p on p.id = m.person_id where m.subject like :like`,
      { like: `${number}: Periodic review,%` },
    );
    expect(mails).toEqual([{ name: 'Owner' }]);
    const mine = (await desk(organisation.app, await organisation.as('owner'))).rows;
    expect(mine.find((row) => row.kind === 'review' && row.number === number)).toMatchObject({
      action: 'Review',
      link: `/d/${number}/review`,
    });
  });

  test('tells the supervisor of the owner when it is overdue for the days of the type', async () => {
    const { number } = await due('2026-11-05');
    await rows(
      organisation.app.db,
      `insert into memberships (id, person_id, kind, ref_id, from_day) values (gen_random_uuid(), :owner, 'supervisor', :controller, '2026-01-01')`,
      { owner: organisation.ids.owner, controller: organisation.ids.controller },
    );
    await sendReminders(organisation.app);
    const mails = await rows<{ name: string }>(
      organisation.app.db,
      `select p.name from mails m join people p on p.id = m.person_id where m.subject like :like`,
      { like: `${number}: Periodic review is overdue,%` },
    );
    expect(mails).toEqual([{ name: 'Controller' }]);
  });

  test('is not there for what has no interval, or is not in force', async () => {
    const { number } = await organisation.register('author');
    expect(await codeOf(reviewOf(organisation.app, await organisation.as('owner'), number))).toBe('nothing_in_force');
    const { id, number: other } = await due('2026-12-01');
    await rows(organisation.app.db, 'update documents set review_on = null where id = :id', { id });
    expect(await codeOf(postpone(other, '2026-12-10'))).toBe('review_never');
  });
});
