import { rmSync } from 'node:fs';
import { describe, expect, test } from 'vitest';
import { find, registerPage } from '../features/find/service.ts';
import { documentPage } from '../features/page/service.ts';
import { setMembership } from '../features/people/service.ts';
import {
  myReadings,
  readers,
  readingTask,
  remindOverdue,
  setRequirement,
  signReading,
  teamReading,
} from '../features/reading/service.ts';
import { preflightFor } from '../features/release/preflight.ts';
import { abandon } from '../features/release/revise.ts';
import { runDueWork } from '../features/release/runDueWork.ts';
import { moveDay, reopen } from '../features/release/service.ts';
import { reinstate, reinstatementFor, withdraw } from '../features/release/withdraw.ts';
import { endDay } from '../features/trail/heads.ts';
import { history } from '../features/trail/service.ts';
import { changed, rows } from '../platform/db/connect.ts';
import { codeOf, PASSWORD } from './organisation.ts';
import { withOrganisation } from './withOrganisation.ts';

const organisation = withOrganisation();

const now = (text: string) => {
  organisation.clock.now = new Date(text);
};
const approve = async (number: string) => {
  await organisation.submitAndReview(number);
  await organisation.decideAs('owner', number);
  await organisation.decideAs('authority', number);
};
const nextRevision = async (number: string) => {
  await organisation.revise('author', number, { reason: 'because', summary: 'more' });
  await approve(number);
};
const scheduleOn = async (number: string, on: string) => organisation.release('controller', number, { on });
const stateOf = async (number: string) =>
  Object.fromEntries((await organisation.page('controller', number)).revisions.map((r) => [r.label, r.state]));

describe('release', () => {
  test('now: the former revision is superseded in the same instant', async () => {
    const { id, number } = await organisation.register('author');
    await organisation.toInForce(number);
    await nextRevision(number);
    organisation.clock.now = new Date(organisation.clock.now.getTime() + 60_000);
    await organisation.release('controller', number);
    expect(await stateOf(number)).toEqual({ A: 'superseded', B: 'in force' });
    const periods = await rows<{ from_at: Date; to_at: Date | null }>(
      organisation.app.db,
      'select from_at, to_at from periods where document_id = :id order by from_at',
      { id },
    );
    expect(periods[0]?.to_at).toEqual(periods[1]?.from_at);
    expect(await codeOf(organisation.release('author', number))).toBe('right_missing');
  });

  test('on a coming day it comes into force from that day’s first instant, also after a standstill', async () => {
    now('2026-11-25T09:00:00Z');
    const { id, number } = await organisation.register('author');
    await approve(number);
    expect(await codeOf(scheduleOn(number, '2026-11-25'))).toBe('day_not_after_today');
    await scheduleOn(number, '2026-12-07');
    now('2026-12-06T22:59:00Z');
    await runDueWork(organisation.app);
    expect(await stateOf(number)).toEqual({ A: 'scheduled' });
    now('2026-12-09T11:00:00Z');
    await runDueWork(organisation.app);
    expect(await stateOf(number)).toEqual({ A: 'in force' });
    const [period] = await rows<{ from_at: Date }>(
      organisation.app.db,
      'select from_at from periods where document_id = :id',
      { id },
    );
    expect(period?.from_at.toISOString()).toBe('2026-12-06T23:00:00.000Z');
    const [event] = await rows<{ actor: string }>(
      organisation.app.db,
      `select actor from events where document_id = :id and kind = 'revision.in-force'`,
      { id },
    );
    expect(event?.actor).toBe('system.clock');
    now('2026-11-25T09:00:00Z');
  });

  test('due changes are applied before any other command, so nobody decides on an outdated state', async () => {
    now('2027-01-10T09:00:00Z');
    const { number } = await organisation.register('author');
    await approve(number);
    await scheduleOn(number, '2027-01-11');
    now('2027-01-11T09:00:00Z');
    expect(
      await codeOf(
        reopen(organisation.app, await organisation.as('controller'), number, { reason: 'overdue', seen: '*' }),
      ),
    ).toBe('wrong_state');
    expect(await stateOf(number)).toEqual({ A: 'in force' });
  });

  test('a blocker that appears before the day holds it, informs the controller, and it comes into force when cleared', async () => {
    now('2027-02-01T09:00:00Z');
    const { id, number } = await organisation.register('author');
    await approve(number);
    await scheduleOn(number, '2027-02-03');
    const title = (value: string) =>
      changed(organisation.app.db, 'update revisions set title = :value where document_id = :id', { value, id });
    await title('Forged');
    now('2027-02-03T09:00:00Z');
    await runDueWork(organisation.app);
    expect((await organisation.page('controller', number)).next?.kind).toBe('blocked');
    expect(
      await rows(
        organisation.app.db,
        `select 1 from mails where subject like :like and address = 'controller@test.example'`,
        {
          like: `Blocked: ${number}%`,
        },
      ),
    ).toHaveLength(1);
    await title('A procedure');
    now('2027-02-04T10:00:00Z');
    await runDueWork(organisation.app);
    const [period] = await rows<{ from_at: Date }>(
      organisation.app.db,
      'select from_at from periods where document_id = :id',
      { id },
    );
    expect(period?.from_at.toISOString()).toBe('2027-02-04T10:00:00.000Z');
  });

  test('the preflight names what blocks: an altered signature, missing content', async () => {
    const { id, number } = await organisation.register('author');
    await approve(number);
    const [file] = await rows<{ sha256: string }>(
      organisation.app.db,
      `select f.sha256 from version_files f join versions v on v.id = f.version_id join revisions r on r.id = v.revision_id where r.document_id = :id`,
      { id },
    );
    rmSync(organisation.app.content.pathOf(file?.sha256 ?? ''));
    const lines = (await preflightFor(organisation.app, await organisation.as('controller'), number)).lines.filter(
      (line) => line.blocks,
    );
    expect(lines.map((line) => line.refusal?.code)).toEqual([
      'signature_altered',
      'signature_altered',
      'content_missing',
    ]);
    expect(await codeOf(organisation.release('controller', number))).toBe('preflight_blocked');
  });

  test('moving, dropping and reopening: signatures become void and it has to be sent again', async () => {
    const { number } = await organisation.register('author');
    await approve(number);
    await scheduleOn(number, '2027-06-01');
    const controller = await organisation.as('controller');
    await moveDay(organisation.app, controller, number, { seen: '*', on: '2027-06-02', reason: 'later' });
    expect((await organisation.page('controller', number)).revision.plannedOn).toBe('2027-06-02');
    expect(await moveDay(organisation.app, controller, number, { seen: '*', on: null, reason: 'not yet' })).toEqual({
      state: 'approved',
    });
    await reopen(organisation.app, controller, number, { reason: 'typo', seen: '*' });
    const page = await organisation.page('controller', number);
    expect(page.revision.state).toBe('draft');
    expect(page.rounds[0]?.steps.flatMap((s) => s.assignments).flatMap((a) => a.signature?.state ?? [])).toEqual([
      'void',
      'void',
    ]);
    await abandon(organisation.app, await organisation.as('author'), number, { reason: 'no longer needed', seen: '*' });
    expect(await stateOf(number)).toEqual({ A: 'abandoned' });
  });

  test('withdrawing and coming into force at once: one of them wins and the document is consistent', async () => {
    now('2027-03-01T09:00:00Z');
    const { id, number } = await organisation.register('author');
    await organisation.toInForce(number);
    now('2027-03-01T10:00:00Z');
    const controller = await organisation.as('controller');
    await withdraw(organisation.app, controller, number, { seen: '*', on: '2027-03-02', reason: 'replaced' });
    expect(await codeOf(organisation.revise('author', number, { changeKind: 'minor', reason: 'x' }))).toBe(
      'withdrawal_planned',
    );
    now('2027-03-02T09:00:00Z');
    await Promise.all([
      runDueWork(organisation.app),
      codeOf(withdraw(organisation.app, controller, number, { seen: '*', on: null, reason: 'now' })),
      runDueWork(organisation.app),
    ]);
    expect(await stateOf(number)).toEqual({ A: 'withdrawn' });
    const periods = await rows<{ to_at: Date | null }>(
      organisation.app.db,
      'select to_at from periods where document_id = :id',
      { id },
    );
    expect(periods.map((p) => p.to_at?.toISOString())).toEqual(['2027-03-01T23:00:00.000Z']);
    await organisation.openFiles('controller', number);
    const { signing } = await reinstatementFor(organisation.app, controller, number);
    await reinstate(organisation.app, controller, number, {
      seen: '*',
      reason: 'needed again',
      name: 'controller',
      password: PASSWORD,
      digest: signing.digest,
    });
    expect(await stateOf(number)).toEqual({ A: 'in force' });
  });
});

describe('what is not approved stays invisible without read work', () => {
  test('in lists, pages, labels, search and the history', async () => {
    now('2027-04-01T09:00:00Z');
    const { number } = await organisation.register('author', { title: 'Unseen zebra' });
    const reader = await organisation.as('reader');
    expect(await codeOf(documentPage(organisation.app, reader, number, {}))).toBe('not_found');
    expect((await find(organisation.app, reader, 'zebra', 10)).hits).toEqual([]);
    expect((await find(organisation.app, await organisation.as('author'), 'zebra', 10)).hits).toHaveLength(1);
    await organisation.toInForce(number);
    await organisation.revise('author', number, { reason: 'secret reason' });
    const page = await documentPage(organisation.app, reader, number, {});
    expect(page.revisions.map((r) => r.label)).toEqual(['A']);
    expect(page).toMatchObject({ work: null, next: null, checkout: null, revision: { label: 'A' } });
    expect(JSON.stringify((await history(organisation.app, reader, number)).entries)).not.toContain('secret reason');
    const zebras = {
      revisionScope: 'newest',
      q: 'zebra',
      reach: 'everywhere',
      sort: 'number',
      order: 'asc',
      limit: 10,
    } as const;
    const list = await registerPage(organisation.app, reader, zebras);
    expect(list.rows.map((r) => [r.label, r.state])).toEqual([['A', 'in force']]);
    const newest = await registerPage(organisation.app, await organisation.as('author'), zebras);
    expect(newest.rows.map((r) => [r.label, r.state])).toEqual([['B', 'draft']]);
  });

  test('a number typed in any usual form goes straight there, and paging by key shows every row once', async () => {
    const { number } = await organisation.register('author');
    const author = await organisation.as('author');
    expect(
      (await find(organisation.app, author, number.replace('TST-PRO-0', 'pro ').replace(/pro 0*/, 'pro '), 10)).goTo,
    ).toBe(number);
    const seen: string[] = [];
    let after: string | undefined;
    do {
      const page = await registerPage(organisation.app, author, {
        revisionScope: 'newest',
        q: '',
        reach: 'everywhere',
        sort: 'changed',
        order: 'desc',
        limit: 3,
        after,
      });
      seen.push(...page.rows.map((r) => r.number));
      after = page.next ?? undefined;
    } while (after);
    const all = await registerPage(organisation.app, author, {
      revisionScope: 'newest',
      q: '',
      reach: 'everywhere',
      sort: 'changed',
      order: 'desc',
      limit: 200,
    });
    expect(seen).toEqual(all.rows.map((r) => r.number));
    expect(new Set(seen).size).toBe(seen.length);
  });

  test('in force on a past and on a coming day', async () => {
    now('2027-05-10T09:00:00Z');
    const { number } = await organisation.register('author', { title: 'Dayview' });
    await organisation.toInForce(number);
    now('2027-05-20T09:00:00Z');
    await nextRevision(number);
    await scheduleOn(number, '2027-06-07');
    const on = async (day: string, name = 'controller') =>
      (
        await registerPage(organisation.app, await organisation.as(name), {
          revisionScope: 'in force',
          q: 'dayview',
          reach: 'everywhere',
          sort: 'number',
          order: 'asc',
          limit: 5,
          on: day,
        })
      ).rows.map((r) => r.label);
    expect(await on('2027-05-09')).toEqual([]);
    expect(await on('2027-05-12')).toEqual(['A']);
    expect(await on('2027-06-06')).toEqual(['A']);
    expect(await on('2027-06-07')).toEqual(['B']);
    expect(await on('2027-06-07', 'reader')).toEqual(['A']);
    expect(
      (await documentPage(organisation.app, await organisation.as('controller'), number, { on: '2027-06-08' })).revision
        .label,
    ).toBe('B');
  });
});

describe('required reading', () => {
  const require_ = async (number: string, more: object = {}) =>
    setRequirement(organisation.app, await organisation.as('controller'), number, {
      everyone: false,
      unitIds: [organisation.units.get('ops') ?? ''],
      personIds: [],
      exceptPersonIds: [organisation.ids.owner ?? ''],
      kind: 'read and sign',
      instructions: 'Read it',
      workingDays: 5,
      newJoinerDays: 3,
      perChange: { minor: 'carry over', major: 'read the changes' },
      beforeInForce: false,
      reason: '',
      rowVersion: null,
      ...more,
    });
  const readingOf = async (name: string, number: string) =>
    (await myReadings(organisation.app, await organisation.as(name))).rows.find((row) => row.number === number);
  const signAs = async (name: string, number: string) => {
    const viewer = await organisation.as(name);
    const id = (await readingOf(name, number))?.id ?? '';
    const task = await readingTask(organisation.app, viewer, id);
    await organisation.openFiles(name, task.document.number);
    return signReading(organisation.app, viewer, id, {
      name,
      password: PASSWORD,
      digest: task.digest,
      remark: 'clear',
    });
  };

  test('readers get theirs when it comes into force, sign with the password, and the signature is intact', async () => {
    now('2027-07-01T09:00:00Z');
    const { number } = await organisation.register('author');
    await require_(number);
    await organisation.toInForce(number);
    expect(await readingOf('reader', number)).toMatchObject({ state: 'open', due: '2027-07-08' });
    expect(await readingOf('owner', number)).toBeUndefined();
    await signAs('reader', number);
    const task = await readingTask(
      organisation.app,
      await organisation.as('reader'),
      (await readingOf('reader', number))?.id ?? '',
    );
    expect(task).toMatchObject({
      state: 'signed',
      maySign: false,
      signature: { state: 'intact', meaning: 'read and understood' },
      remark: 'clear',
    });
    expect(await codeOf(signAs('reader', number))).toBe('reading_closed');
    expect((await readers(organisation.app, await organisation.as('controller'), number)).compliance).toEqual({
      done: 1,
      owed: 2,
      percent: 50,
    });
  });

  test('after a minor change signatures are carried over; after a major one signers read the changes; others read all', async () => {
    now('2027-08-02T09:00:00Z');
    const { number } = await organisation.register('author');
    await require_(number);
    await organisation.toInForce(number);
    await signAs('reader', number);
    now('2027-08-03T09:00:00Z');
    await nextRevision(number);
    await organisation.release('controller', number);
    expect(await readingOf('reader', number)).toMatchObject({ label: 'B', policy: 'read the changes', state: 'open' });
    expect(await readingOf('reader2', number)).toMatchObject({ label: 'B', policy: 'read all' });
    const states = await rows<{ state: string }>(
      organisation.app.db,
      `select a.state from reading_assignments a join revisions r on r.id = a.revision_id where r.label = 'A' and a.document_id = (select id from documents where number = :number) order by a.state`,
      { number },
    );
    expect(states.map((s) => s.state)).toEqual(['overtaken', 'signed']);
  });

  test('a joiner gets it with newJoiner days and a leaver’s closes as not needed, by the clock alone', async () => {
    now('2027-09-01T09:00:00Z');
    const { number } = await organisation.register('author');
    await require_(number);
    await organisation.toInForce(number);
    now('2027-09-13T09:00:00Z');
    const admin = await organisation.as('admin');
    await setMembership(organisation.app, admin, organisation.ids.stranger ?? '', {
      kind: 'department',
      refId: organisation.units.get('ops') ?? '',
      from: '2027-09-13',
    });
    await setMembership(organisation.app, admin, organisation.ids.reader2 ?? '', {
      kind: 'department',
      refId: organisation.units.get('eng') ?? '',
      from: '2027-09-13',
    });
    await runDueWork(organisation.app);
    expect(await readingOf('stranger', number)).toMatchObject({ state: 'open', due: '2027-09-16' });
    expect(await readingOf('reader2', number)).toBeUndefined();
    expect(await runDueWork(organisation.app)).toMatchObject({ readings: 0 });
  });

  test('a supervisor sees the team and reminds overdue readers with one mail each', async () => {
    now('2027-12-01T09:00:00Z');
    const team = await teamReading(organisation.app, await organisation.as('owner'), undefined);
    expect(team.people.map((p) => p.person.name)).toEqual(['Reader', 'Reader2']);
    expect(team.overdue).toBeGreaterThan(0);
    const { people } = await remindOverdue(organisation.app, await organisation.as('owner'), undefined);
    expect(await rows(organisation.app.db, `select 1 from mails where kind = 'reminder'`)).toHaveLength(people);
    expect(await codeOf(teamReading(organisation.app, await organisation.as('reader'), undefined))).toBe('not_found');
    expect(
      await codeOf(teamReading(organisation.app, await organisation.as('author'), `team-${organisation.ids.owner}`)),
    ).toBe('not_found');
  });
});

test('the exported trail with its heads is intact from first to last', async () => {
  await endDay(organisation.app);
  const verdict = await organisation.verdict();
  expect(verdict).toMatchObject({ kind: 'intact', heads: 1 });
  expect(verdict.kind === 'intact' && verdict.upTo).toBeGreaterThan(150);
});
