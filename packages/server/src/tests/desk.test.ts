import type { DeskRow } from '@kanonos/contract';
import { addDays, type RevisionState } from '@kanonos/core';
import { afterAll, beforeAll, beforeEach, describe, expect, test } from 'vitest';
import { counts, desk } from '../features/desk/service.ts';
import { revisionRead } from '../features/reading/service.ts';
import { addAbsence } from '../features/session/absences.ts';
import { history } from '../features/trail/service.ts';
import { changed } from '../platform/db/connect.ts';
import { openOrganisation, type TestOrganisation } from './organisation.ts';

let organisation: TestOrganisation;
const FIRST = '2026-11-25';
const goTo = (day: string) => {
  organisation.clock.now = new Date(`${day}T09:00:00Z`);
};
beforeAll(async () => {
  organisation = await openOrganisation();
});
beforeEach(() => goTo(FIRST));
afterAll(() => organisation.close());

const rowsOf = async (person: string, number: string): Promise<DeskRow[]> =>
  (await desk(organisation.app, await organisation.as(person))).rows.filter((row) => row.number === number);
const kindsOf = async (person: string, number: string) => (await rowsOf(person, number)).map(({ kind }) => kind);
const submitted = async () => {
  const { number } = await organisation.register('author');
  await organisation.submit('author', number);
  return number;
};

describe('a round that waits', () => {
  test('is to be decided by one, waits for others for its author, and is nobody else’s', async () => {
    const number = await submitted();
    expect(await kindsOf('reviewer', number)).toEqual(['decide']);
    expect(await rowsOf('author', number)).toMatchObject([
      { kind: 'waiting', overdue: false, detail: 'Waiting for Reviewer · Review' },
    ]);
    expect(await kindsOf('controller', number)).toEqual([]);
    expect(await kindsOf('reader', number)).toEqual([]);
  });

  test('is stuck for the controller once it is overdue, and is no task of its author', async () => {
    const number = await submitted();
    const before = (await counts(organisation.app, await organisation.as('author'))).desk;
    goTo('2026-12-07');
    expect(await rowsOf('controller', number)).toMatchObject([
      { kind: 'stuck', overdue: true, detail: 'Waiting 8 working days for Reviewer · Review' },
    ]);
    expect((await counts(organisation.app, await organisation.as('author'))).desk).toBe(before);
  });

  test('is stuck at once when the assignee is absent beyond its day without a deputy', async () => {
    const number = await submitted();
    await addAbsence(organisation.app, await organisation.as('reviewer'), {
      from: FIRST,
      to: '2026-12-20',
      deputyId: null,
    } as never);
    expect(await rowsOf('controller', number)).toMatchObject([
      {
        kind: 'stuck',
        overdue: false,
        primary: true,
        detail: 'Waiting for Reviewer, absent until 20 Dec 2026 without a deputy · Review',
      },
    ]);
  });
});

test('an overdue check-out is offered to people who may take it over', async () => {
  const { number } = await organisation.register('author');
  await organisation.checkOut('author', number, { note: 'New limits', expectedBack: '2026-11-27' });
  expect(await kindsOf('controller', number)).toEqual([]);
  goTo('2026-11-28');
  expect(await rowsOf('controller', number)).toMatchObject([{ kind: 'overdue', action: 'Take over' }]);
  expect((await rowsOf('controller', number))[0]?.detail).toContain('“New limits”');
  expect(await kindsOf('author', number)).toEqual(['writing']);
  expect(await kindsOf('reader', number)).toEqual([]);
});

test('a periodic review waits for the owner and the controller when it comes near', async () => {
  const { number, id } = await organisation.register('author');
  await changed(
    organisation.app.db,
    `update documents set public_state = 'in force', newest_state = 'in force', public_label = 'A', public_title = 'Rope', review_on = :on where id = :id`,
    { id, on: addDays(FIRST, 14) },
  );
  expect(await kindsOf('controller', number)).toContain('review');
  expect(await kindsOf('stranger', number)).not.toContain('review');
  goTo(addDays(FIRST, -1));
  expect(await kindsOf('controller', number)).not.toContain('review');
});

test('rows come in the order of the Desk, and within a kind what is due first comes first', async () => {
  goTo('2026-12-07');
  const { rows } = await desk(organisation.app, await organisation.as('controller'));
  const kinds = rows.map(({ kind }) => kind);
  expect(kinds.indexOf('overdue')).toBeGreaterThan(kinds.lastIndexOf('stuck'));
  const due = rows.filter((row) => row.kind === 'stuck').map((row) => row.due ?? '');
  expect(due).toEqual([...due].sort());
});

describe('the history of a document', () => {
  test('comes a page at a time without cutting a command, and every event once', async () => {
    const number = await submitted();
    const author = await organisation.as('author');
    const whole = await history(organisation.app, author, number);
    expect(whole.next).toBeNull();
    const seqs: (number | null)[] = [];
    let before: string | undefined;
    for (let guard = 0; guard < 50; guard++) {
      const page = await history(organisation.app, author, number, { limit: 1, ...(before ? { before } : {}) });
      seqs.push(...page.entries.map((entry) => entry.seq));
      expect(new Set(page.entries.map((entry) => entry.at)).size).toBeLessThanOrEqual(1);
      if (!page.next) break;
      before = page.next;
    }
    expect(seqs).toEqual(whole.entries.map((entry) => entry.seq));
  });

  test('has topics, each with what its commands did besides', async () => {
    const number = await submitted();
    const author = await organisation.as('author');
    const kinds = async (topic: 'decisions' | 'content' | 'readings') =>
      (await history(organisation.app, author, number, { topic })).entries.map(({ kind }) => kind);
    expect(await kinds('decisions')).toContain('revision.submitted');
    expect(await kinds('content')).toContain('document.registered');
    expect(await kinds('readings')).toEqual([]);
  });
});

test('whose readings count: a revision’s own once it may be read, else those of the one in force', () => {
  const revision = (id: string, state: RevisionState) => ({ id, state });
  const inForce = revision('b', 'in force');
  const counted = (id: string, state: RevisionState) => revisionRead(revision(id, state), inForce).id;
  expect([counted('a', 'superseded'), counted('b', 'in force'), counted('d', 'scheduled')]).toEqual(['a', 'b', 'd']);
  expect([counted('c', 'draft'), counted('c', 'in review')]).toEqual(['b', 'b']);
  expect(revisionRead(revision('c', 'draft'), undefined).id).toBe('c');
});
