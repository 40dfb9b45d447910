// A day is the day of the organisation: half an hour before its midnight and half an hour after, in winter and in summer, east and west.
import { addDays, firstInstantOf } from '@kanonos/core';
import { afterAll, beforeAll, describe, expect, test } from 'vitest';
import { addComment, reply, withdraw as withdrawComment } from '../../features/comments/service.ts';
import { desk } from '../../features/desk/service.ts';
import { removeDocument } from '../../features/documents/removing.ts';
import { registerPage } from '../../features/find/service.ts';
import { myReadings, readingTask, signReading } from '../../features/reading/service.ts';
import { runDueWork } from '../../features/release/runDueWork.ts';
import { trailPage } from '../../features/trail/service.ts';
import { changed, firstRow, rows } from '../../platform/db/connect.ts';
import { openOrganisation, PASSWORD, type TestOrganisation } from '../organisation.ts';

const MOMENTS: [what: string, zone: string, day: string, at: string][] = [
  ['23:30 in winter', 'Europe/Zurich', '2027-01-12', '2027-01-12T22:30:00Z'],
  ['00:30 in winter', 'Europe/Zurich', '2027-01-13', '2027-01-12T23:30:00Z'],
  ['23:30 in summer', 'Europe/Zurich', '2027-07-14', '2027-07-14T21:30:00Z'],
  ['00:30 in summer', 'Europe/Zurich', '2027-07-15', '2027-07-14T22:30:00Z'],
  ['23:30 in winter, west', 'America/New_York', '2027-01-12', '2027-01-13T04:30:00Z'],
  ['23:30 in summer, west', 'America/New_York', '2027-07-14', '2027-07-15T03:30:00Z'],
];

describe.each(MOMENTS)('17: at %s (%s)', (_what, zone, day, at) => {
  let organisation: TestOrganisation;
  let number: string;
  beforeAll(async () => {
    organisation = await openOrganisation();
    await rows(organisation.app.db, 'update organisation set zone = :zone', { zone });
    organisation.clock.now = new Date(at);
    ({ number } = await organisation.register('author', { title: 'Of the day' }));
    await organisation.requireReading(number, ['reader']);
    await organisation.toInForce(number);
  });
  afterAll(() => organisation.close());

  const found = async (q: string) =>
    (
      await registerPage(organisation.app, await organisation.as('controller'), {
        revisionScope: 'newest',
        q,
        reach: 'everywhere',
        sort: 'number',
        order: 'asc',
        limit: 50,
      })
    ).rows.map((row) => row.number);

  test.each(['effective', 'changed'])('search by %s finds the day and no other', async (field) => {
    expect(await found(`${field}:${day}`)).toContain(number);
    expect(await found(`${field}>=${day}`)).toContain(number);
    expect(await found(`${field}<=${day}`)).toContain(number);
    for (const q of [
      `${field}:${addDays(day, 1)}`,
      `${field}:${addDays(day, -1)}`,
      `${field}<${day}`,
      `${field}>${day}`,
    ])
      expect([q, (await found(q)).includes(number)]).toEqual([q, false]);
  });

  test('the trail of the day', async () => {
    const of = async (from: string, to: string) =>
      (await trailPage(organisation.app, { from, to, document: number, limit: 200 } as never)).rows.length;
    const all = await of(addDays(day, -3), addDays(day, 3));
    expect(all).toBeGreaterThan(4);
    expect(await of(day, day)).toBe(all);
    expect(await of(addDays(day, 1), addDays(day, 3))).toBe(0);
    expect(await of(addDays(day, -3), addDays(day, -1))).toBe(0);
  });

  test('what is overdue, in the register and on the Desk', async () => {
    const { number: sent } = await organisation.register('author', { title: 'On its way' });
    await organisation.submit('author', sent);
    const due = (on: string) =>
      changed(
        organisation.app.db,
        `update steps set due_on = :on where round_id in (select u.id from rounds u join revisions r on r.id = u.revision_id join documents d on d.id = r.document_id where d.number = :sent)`,
        { on, sent },
      );
    const look = async () => ({
      found: (await found('state:overdue')).includes(sent),
      counted: (await desk(organisation.app, await organisation.as('controller'))).organisation?.overdue,
      row: (await desk(organisation.app, await organisation.as('reviewer'))).rows.find((row) => row.number === sent)
        ?.overdue,
    });
    await due(day);
    expect(await look()).toEqual({ found: false, counted: 0, row: false });
    await due(addDays(day, -1));
    expect(await look()).toEqual({ found: true, counted: 1, row: true });
  });

  test('a reading signed on its last day is on time, one day later it is not', async () => {
    const reading = await firstRow<{ id: string }>(
      organisation.app.db,
      `select a.id from reading_assignments a join documents d on d.id = a.document_id where d.number = :number`,
      { number },
    );
    const id = reading?.id ?? '';
    const reader = await organisation.as('reader');
    const due = (on: string) =>
      changed(organisation.app.db, 'update reading_assignments set due_on = :on where id = :id', { on, id });
    const state = async () => (await myReadings(organisation.app, reader)).rows.find((row) => row.id === id)?.state;
    await due(day);
    const open = await state();
    await due(addDays(day, -1));
    expect(await state()).not.toBe(open);
    const { digest } = await readingTask(organisation.app, reader, id);
    await organisation.openFiles('reader', number);
    await signReading(organisation.app, reader, id, { name: 'reader', password: PASSWORD, digest, remark: '' });
    const share = async () =>
      (await desk(organisation.app, await organisation.as('controller'))).organisation?.onTimePercent;
    expect(await share()).toBe(0);
    await due(day);
    expect(await share()).toBe(100);
  });

  test('a release planned for tomorrow holds from its first instant there', async () => {
    const { number: planned } = await organisation.register('author', { title: 'Planned' });
    await organisation.submitAndReview(planned);
    await organisation.decideAs('owner', planned);
    await organisation.decideAs('authority', planned);
    const tomorrow = addDays(day, 1);
    await organisation.release('controller', planned, { on: tomorrow });
    await runDueWork(organisation.app);
    const state = async () => (await organisation.page('controller', planned)).revision.state;
    expect(await state()).toBe('scheduled');
    const now = organisation.clock.now;
    organisation.clock.now = firstInstantOf(tomorrow, zone);
    await runDueWork(organisation.app);
    expect(await state()).toBe('in force');
    expect(await found(`effective:${tomorrow}`)).toContain(planned);
    organisation.clock.now = now;
  });
});

describe('18: figures on the Desk', () => {
  let organisation: TestOrganisation;
  beforeAll(async () => {
    organisation = await openOrganisation();
  });
  afterAll(() => organisation.close());
  const detailOf = async (name: string, number: string) =>
    (await desk(organisation.app, await organisation.as(name))).rows.find((row) => row.number === number)?.detail;

  test('an open comment is counted once, without its replies, and not when it is withdrawn', async () => {
    const { number } = await organisation.register('author');
    await organisation.submit('author', number);
    const page = await organisation.page('reviewer', number);
    const comment = async (text: string) =>
      (
        await addComment(organisation.app, await organisation.as('reviewer'), number, {
          revisionId: page.revision.id,
          text,
          blocking: false,
        } as never)
      ).id;
    const kept = await comment('one');
    await reply(organisation.app, await organisation.as('author'), number, kept, 'an answer');
    await reply(organisation.app, await organisation.as('reviewer'), number, kept, 'another answer');
    const withdrawn = await comment('two');
    await withdrawComment(organisation.app, await organisation.as('reviewer'), number, withdrawn);
    expect(await detailOf('reviewer', number)).toContain('1 open comment');
  });

  test('a draft that was removed is on no Desk', async () => {
    const { number } = await organisation.register('author', { title: 'To be removed' });
    expect(await detailOf('author', number)).toBeDefined();
    await removeDocument(organisation.app, await organisation.as('controller'), number, {
      reason: 'not needed',
      seen: '*',
    });
    expect(await detailOf('author', number)).toBeUndefined();
  });
});
