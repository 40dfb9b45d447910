import { Readable } from 'node:stream';
import { expect, test } from 'vitest';
import { checkIn, discardCheckout, takeOverCheckout } from '../features/authoring/service.ts';
import { takeUpload } from '../features/content/uploads.ts';
import { sendReminders } from '../features/desk/reminders.ts';
import { listCheckouts } from '../features/desk/service.ts';
import { rows } from '../platform/db/connect.ts';
import { codeOf } from './organisation.ts';
import { withOrganisation } from './withOrganisation.ts';

const organisation = withOrganisation();

const out = async (person: string, ref: string, expectedBack: string | null = null) =>
  organisation.checkOut(person, ref, { expectedBack });
const changed = async (person: string, text: string) => ({
  uploadId: (
    await takeUpload(organisation.app, await organisation.as(person), 'text.md', Readable.from([Buffer.from(text)]))
  ).id,
  note: 'changed',
});
const mailsTo = (person: string) =>
  rows<{ subject: string; text: string }>(
    organisation.app.db,
    'select m.subject, m.text from mails m join people p on p.id = m.person_id where p.sign_in_name = :person order by m.created_at, m.id',
    { person },
  );
const listed = async (person: string) => (await listCheckouts(organisation.app, await organisation.as(person))).rows;

test('50 people at once fight over 10 documents: each has one holder, and all others learn who', async () => {
  const documents: { number: string }[] = [];
  for (let i = 0; i < 10; i++) documents.push(await organisation.register('author'));
  const tries = Array.from({ length: 50 }, (_, i) => ({
    person: i % 2 ? 'author' : 'author2',
    ref: documents[i % 10]?.number ?? '',
  }));
  const ended = await Promise.allSettled(tries.map(({ person, ref }) => out(person, ref)));
  expect(ended.filter((one) => one.status === 'fulfilled')).toHaveLength(10);
  for (const [i, one] of ended.entries()) {
    if (one.status === 'fulfilled') continue;
    const [refusal] = (one.reason as { refusals: { code: string }[] }).refusals;
    expect(['checked_out', 'checked_out_by_you'], tries[i]?.ref).toContain(refusal?.code);
  }
  const open = await rows<{ n: number; d: number }>(
    organisation.app.db,
    'select count(*)::int as n, count(distinct document_id)::int as d from checkouts where ended_at is null',
  );
  expect(open).toEqual([{ n: 10, d: 10 }]);
  for (const { number } of documents) {
    const { checkout } = await organisation.page('controller', number);
    await discardCheckout(
      organisation.app,
      await organisation.as(checkout?.person.name === 'Author' ? 'author' : 'author2'),
      number,
      { seen: '*' },
    );
  }
});

test('a check-out is taken over with a reason by who manages; the former holder is informed and can no longer check in', async () => {
  const { number } = await organisation.register('author');
  await out('author', number, '2026-12-01');
  expect(
    await codeOf(
      takeOverCheckout(organisation.app, await organisation.as('author2'), number, { reason: 'mine', seen: '*' }),
    ),
  ).toBe('right_missing');
  const controller = await organisation.as('controller');
  await takeOverCheckout(organisation.app, controller, number, {
    reason: 'Author is ill, the audit is tomorrow',
    seen: '*',
  });
  expect((await organisation.page('author', number)).checkout).toMatchObject({
    person: { name: 'Controller' },
    note: 'Author is ill, the audit is tomorrow',
  });
  expect(
    await codeOf(
      checkIn(organisation.app, await organisation.as('author'), number, {
        ...(await changed('author', 'overdue')),
        seen: '*',
      }),
    ),
  ).toBe('checked_out');
  const [mail] = (await mailsTo('author')).slice(-1);
  expect(mail?.subject).toBe(`Controller took over your check-out of ${number}`);
  expect(mail?.text).toContain('Author is ill, the audit is tomorrow');
  expect(await codeOf(takeOverCheckout(organisation.app, controller, number, { reason: 'again', seen: '*' }))).toBe(
    'checked_out_by_you',
  );
  // The day on which it was expected stays: others still wait for it.
  expect((await listed('controller')).find((row) => row.number === number)).toMatchObject({
    mine: true,
    expectedBack: '2026-12-01',
    overdue: false,
  });
  await discardCheckout(organisation.app, controller, number, { seen: '*' });
  expect(
    await codeOf(takeOverCheckout(organisation.app, controller, number, { reason: 'nobody has it', seen: '*' })),
  ).toBe('not_checked_out');
  const told = await rows<{ text: string }>(
    organisation.app.db,
    `select text from events where kind = 'check-out.taken-over'`,
  );
  expect(told).toHaveLength(1);
  expect(told[0]?.text).toContain('"from":"Author"');
});

test('taken over while the other one checks in: one of the two happened first, and nothing is half done', async () => {
  for (let i = 0; i < 6; i++) {
    const { number } = await organisation.register('author');
    await out('author', number);
    const body = await changed('author', `version ${Math.random()}`);
    const [checkedIn, taken] = await Promise.all([
      codeOf(checkIn(organisation.app, await organisation.as('author'), number, { ...body, seen: '*' })),
      codeOf(
        takeOverCheckout(organisation.app, await organisation.as('controller'), number, {
          reason: 'urgent',
          seen: '*',
        }),
      ),
    ]);
    const page = await organisation.page('controller', number);
    if (checkedIn === 'done') {
      expect([taken, page.revision.versions, page.checkout]).toEqual(['not_checked_out', 2, null]);
    } else {
      expect([checkedIn, taken, page.revision.versions]).toEqual(['checked_out', 'done', 1]);
      expect(page.checkout?.person.name).toBe('Controller');
      await discardCheckout(organisation.app, await organisation.as('controller'), number, { seen: '*' });
    }
  }
});

test('the list has mine and those of work that I may see, with age; who reads only sees none', async () => {
  const { number } = await organisation.register('author', { folder: '1' });
  await out('author', number, '2026-11-20');
  expect((await listed('author')).map((row) => [row.number, row.mine, row.overdue])).toEqual([[number, true, true]]);
  expect((await listed('controller')).map((row) => [row.number, row.mine, row.mayTakeOver])).toEqual([
    [number, false, true],
  ]);
  expect((await listed('author2')).map((row) => row.mayTakeOver)).toEqual([false]);
  expect(await listed('reader')).toEqual([]);
  expect(await listed('stranger')).toEqual([]);
});

test('who has something out beyond its day is reminded once', async () => {
  const before = (await mailsTo('author')).length;
  expect(await sendReminders(organisation.app)).toBe(1);
  expect(await sendReminders(organisation.app)).toBe(0);
  const mails = await mailsTo('author');
  expect(mails).toHaveLength(before + 1);
  expect(mails.at(-1)?.text).toContain('It was expected back on 20 Nov 2026');
});
