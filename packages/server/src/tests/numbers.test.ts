import { Readable } from 'node:stream';
import { NEW_TYPE } from '@kanonos/contract';
import { describe, expect, test } from 'vitest';
import { takeUpload } from '../features/content/uploads.ts';
import { typesFor } from '../features/filing/choosing.ts';
import {
  endReservation,
  endRoundOut,
  knownNumbers,
  listReservations,
  numberRules,
  reserve,
  startCounter,
} from '../features/numbers/service.ts';
import { listCounters } from '../features/numbers/store.ts';
import { previewRegistration, registerDocument } from '../features/registration/service.ts';
import { addType } from '../features/rules/types.ts';
import { connect, rows } from '../platform/db/connect.ts';
import { codeOf } from './organisation.ts';
import { withOrganisation } from './withOrganisation.ts';

const organisation = withOrganisation();

const wish = (more: Partial<Parameters<typeof reserve>[2]> = {}) => ({
  typeId: organisation.types.get('PRO') ?? '',
  folderId: organisation.folders.get('1') ?? '',
  metadata: {},
  count: 3,
  forPersonId: organisation.ids.author ?? '',
  reason: 'A series of procedures',
  until: '2026-12-31',
  ...more,
});
const admin = () => organisation.as('admin');

/** Registers with a named number as a person does. */
const registerAs = async (person: string, number: string | null, type = 'PRO') => {
  const viewer = await organisation.as(person);
  const upload = await takeUpload(
    organisation.app,
    viewer,
    'text.md',
    Readable.from([Buffer.from(`# ${Math.random()}`)]),
  );
  return registerDocument(
    organisation.app,
    viewer,
    {
      typeId: organisation.types.get(type) ?? '',
      folderId: organisation.folders.get('1') ?? '',
      title: 'With a number of its own',
      metadata: {},
      uploadId: upload.id,
      summary: '',
      ownerId: null,
      number,
      label: null,
      keywords: [],
      note: '',
    },
    null,
  );
};

describe('reserving numbers', () => {
  test('takes them from the counter: documents registered meanwhile continue after them', async () => {
    const before = await organisation.register('author');
    const taken = await reserve(organisation.app, await admin(), wish());
    const after = await organisation.register('author');
    const n = (number: string) => Number(number.slice(-4));
    expect([n(taken.first), n(taken.last), n(after.number)]).toEqual([
      n(before.number) + 1,
      n(before.number) + 3,
      n(before.number) + 4,
    ]);
  });

  test('they are used by naming them, by whom they are for, once, and where they count', async () => {
    const { first, last } = await reserve(organisation.app, await admin(), wish({ count: 2 }));
    expect(await codeOf(registerAs('author2', first))).toBe('number_not_reserved');
    expect(await codeOf(registerAs('author', first, 'TWO'))).toBe('number_not_reserved');
    const offered = (await typesFor(organisation.app, await organisation.as('author'))).types.find(
      (t) => t.code === 'PRO',
    )?.reserved;
    expect(offered).toEqual(expect.arrayContaining([first, last]));
    const preview = await previewRegistration(organisation.app, await organisation.as('author'), {
      typeId: organisation.types.get('PRO') ?? '',
      folderId: organisation.folders.get('1') ?? '',
      title: 'x',
      metadata: {},
      number: first.toLowerCase(),
      label: null,
      extension: 'md',
    });
    expect(preview.number).toBe(first);
    expect((await registerAs('author', first.toLowerCase())).number).toBe(first);
    expect(await codeOf(registerAs('author', first))).toBe('number_not_reserved');
    expect(await codeOf(registerAs('author', 'TST-PRO-9999'))).toBe('number_not_reserved');
  });

  test('two who use the same one at once: one gets it, the other learns so', async () => {
    const { first } = await reserve(organisation.app, await admin(), wish({ count: 1 }));
    const both = await Promise.all([codeOf(registerAs('author', first)), codeOf(registerAs('author', first))]);
    expect(both.sort()).toEqual(['done', 'number_not_reserved']);
  });

  test('by many at once with registering in between leaves no gap and no duplicate', async () => {
    await Promise.all(
      Array.from({ length: 24 }, async (_, i) =>
        i % 3 === 0
          ? reserve(organisation.app, await admin(), wish({ count: 1 + (i % 4) }))
          : organisation.register('author'),
      ),
    );
    const [found] = await rows<{ last: number; n: number; distinct: number }>(
      organisation.app.db,
      `select c.last, (select count(*)::int from numbers where scope = c.scope) as n, (select count(distinct counter)::int from numbers where scope = c.scope) as distinct
       from counters c where c.scope = 'TST-PRO-#'`,
    );
    expect([found?.n, found?.distinct]).toEqual([found?.last, found?.last]);
  });

  test('is refused for a day that is past, a type with outside numbers, a folder that is not there', async () => {
    const refusedWith = async (more: Parameters<typeof wish>[0]) =>
      codeOf(reserve(organisation.app, await admin(), wish(more)));
    expect(await refusedWith({ until: '2026-11-25' })).toBe('day_not_after_today');
    expect(await refusedWith({ typeId: organisation.types.get('SUP') ?? '' })).toBe('number_is_external');
    expect(await refusedWith({ folderId: '00000000-0000-7000-8000-000000000001' })).toBe('not_found');
    expect(await refusedWith({ forPersonId: '00000000-0000-7000-8000-000000000001' })).toBe('not_found');
  });
});

describe('the end of a reservation', () => {
  test('makes unused numbers void with the reason, never to be given again', async () => {
    const { id, first, last } = await reserve(organisation.app, await admin(), wish({ count: 3 }));
    await registerAs('author', first);
    expect(await endReservation(organisation.app, await admin(), id, 'The project was stopped')).toEqual({ voided: 2 });
    expect(await codeOf(endReservation(organisation.app, await admin(), id, 'again'))).toBe('reservation_ended');
    expect(await codeOf(registerAs('author', last))).toBe('number_not_reserved');
    const { voids, reservations } = await listReservations(organisation.app);
    expect(voids).toContainEqual({ number: last, reason: 'The project was stopped' });
    expect(reservations.find((r) => r.id === id)).toMatchObject({
      count: 3,
      open: 0,
      endedWhy: 'The project was stopped',
    });
    await expect(
      rows(organisation.app.db, `update numbers set state = 'reserved' where number = :last`, { last }),
    ).rejects.toThrow('keeps what it is');
  });

  test('comes by itself when its last day has passed, and not before', async () => {
    const { last } = await reserve(organisation.app, await admin(), wish({ until: '2026-11-27' }));
    organisation.clock.now = new Date('2026-11-27T22:00:00Z');
    expect(await endRoundOut(organisation.app)).toBe(0);
    organisation.clock.now = new Date('2026-11-27T23:00:00Z');
    expect(await endRoundOut(organisation.app)).toBe(1);
    expect(await endRoundOut(organisation.app)).toBe(0);
    organisation.clock.now = new Date('2026-11-25T09:00:00Z');
    expect((await listReservations(organisation.app)).voids).toContainEqual({
      number: last,
      reason: 'reserved but not used',
    });
  });
});

describe('the last number before the organisation', () => {
  const start = async (last: number, type = 'TWO') =>
    startCounter(organisation.app, await admin(), {
      typeId: organisation.types.get(type) ?? '',
      folderId: organisation.folders.get('1') ?? '',
      metadata: {},
      last,
      reason: 'The old list ended here',
    });

  test('is set once, before the first is taken; the next one continues after it', async () => {
    expect(await start(417)).toEqual({ scope: 'TST-TWO-#', next: 'TST-TWO-0418' });
    expect(await codeOf(start(500))).toBe('counter_begun');
    expect((await organisation.register('author', { type: 'TWO' })).number).toBe('TST-TWO-0418');
    expect(await codeOf(start(500, 'PRO'))).toBe('counter_begun');
    expect(await codeOf(start(5, 'SUP'))).toBe('number_is_external');
  });
});

describe('what is known of numbers', () => {
  test('gives the titles of documents to people who may see them, and to others only that the numbers are taken', async () => {
    const seen = await organisation.register('author', { title: 'Seen by its authors' });
    const { first, id } = await reserve(organisation.app, await admin(), wish({ count: 2 }));
    await endReservation(organisation.app, await admin(), id, 'Not needed');
    const open = await reserve(organisation.app, await admin(), wish({ count: 1 }));
    const numbers = [seen.number, first, open.first, 'TST-PRO-9999'].map((number) => number.toLowerCase());
    const known = async (person: string) =>
      Object.fromEntries(
        (await knownNumbers(organisation.app, await organisation.as(person), numbers)).known.map((k) => [
          k.folded,
          [k.state, k.title, k.words],
        ]),
      );
    expect(await known('controller')).toEqual({
      [seen.number.toLowerCase()]: ['exists', 'Seen by its authors', null],
      [first.toLowerCase()]: ['void', null, 'Not needed'],
      [open.first.toLowerCase()]: ['reserved', null, 'for Author until 31 Dec 2026'],
    });
    expect((await known('stranger'))[seen.number.toLowerCase()]).toEqual(['taken', null, null]);
  });

  test('the rules come with their codes and the scopes in which they have begun to count', async () => {
    const { rules } = await numberRules(organisation.app);
    const pro = rules.find((rule) => rule.rule === 'TST-{type}-{counter:4}');
    expect(pro?.types.map((type) => type.code).sort()).toEqual(['PRO', 'TWO']);
    expect(pro?.codes.areas).toEqual(['1', '2', '9']);
    const scope = pro?.scopes.find((one) => one.scope === 'TST-PRO-#');
    expect(scope).toMatchObject({ gaps: [], given: (scope?.last ?? 0) - (scope?.startedAt ?? 0) });
  });

  test('an unexplained number is a gap, a free one from before the takeover is none', async () => {
    await rows(organisation.app.db, `insert into counters (scope, last, started_at) values ('GAP-#', 20, 10)`);
    await rows(
      organisation.app.db,
      `insert into numbers (folded, number, state, scope, counter, reason)
       select 'gap-' || c, 'GAP-' || c, 'void', 'GAP-#', c, 'for the test' from unnest('{3,4,12,13,17}'::int[]) c`,
    );
    const counted = (await listCounters(organisation.app.db)).find((one) => one.scope === 'GAP-#');
    expect(counted).toEqual({
      scope: 'GAP-#',
      last: 20,
      startedAt: 10,
      given: 3,
      takenOver: 2,
      gaps: [
        [11, 11],
        [14, 16],
        [18, 20],
      ],
    });
  });
});

test('reservations and their ends are in the trail, which stays intact', async () => {
  const kinds = await rows<{ kind: string; n: number }>(
    organisation.app.db,
    `select kind, count(*)::int as n from events where kind like 'numbers.%' or kind like 'counter.%' group by 1 order by 1`,
  );
  expect(kinds.map((row) => row.kind)).toEqual(['counter.started', 'numbers.reservation-ended', 'numbers.reserved']);
  expect((await organisation.verdict()).kind).toBe('intact');
});

test('32 clients over 20 scopes, a third of the transactions undone at the last moment: no gap, no number twice', async () => {
  const lines = Array.from({ length: 20 }, (_, i) => `L${String(i + 1).padStart(2, '0')}`);
  const { id: typeId } = await addType(organisation.app, await admin(), {
    rule: {
      ...NEW_TYPE,
      code: 'SCO',
      name: 'Sheet of a line',
      family: 'Records',
      group: 'Lines',
      numbering: 'SCO-{field:line}-{counter:3}',
      scheme: { kind: 'integers', first: 1 },
      fields: [
        {
          key: 'line',
          label: 'Line',
          kind: 'choice',
          mandatory: true,
          level: 'document',
          options: lines.map((code) => ({ code, text: code })),
        },
      ],
    },
    reason: 'A number series per line',
  });
  // Refused by the database when everything else of the transaction is done, as by a broken disk or a lost connection.
  const owner = connect(organisation.ownerUrl, 1);
  await rows(
    owner,
    `create function undo_marked() returns trigger language plpgsql as $$
     begin if new.title like 'undo %' then raise exception 'undone'; end if; return null; end $$`,
  );
  await rows(
    owner,
    `create constraint trigger undo_marked after insert on revisions deferrable initially deferred
     for each row execute function undo_marked()`,
  );
  const viewer = await organisation.as('author');
  const one = async (n: number) => {
    const marked = n % 3 === 0;
    const { id: uploadId } = await takeUpload(
      organisation.app,
      viewer,
      'a.md',
      Readable.from([Buffer.from(`sheet ${n}`)]),
    );
    const registering = registerDocument(
      organisation.app,
      viewer,
      {
        typeId,
        folderId: organisation.folders.get('1') ?? '',
        title: `${marked ? 'undo' : 'keep'} ${n}`,
        metadata: { line: lines[(n * 7) % 20] ?? '' },
        uploadId,
      },
      null,
    );
    if (marked) await expect(registering).rejects.toThrow('undone');
    else await registering;
  };
  let next = 0;
  await Promise.all(
    Array.from({ length: 32 }, async () => {
      while (next < 240) await one(next++);
    }),
  );
  await rows(owner, 'drop trigger undo_marked on revisions');
  await owner.destroy();
  const scopes = await rows<{ scope: string; last: number; n: number; most: number }>(
    organisation.app.db,
    `select c.scope, c.last, count(distinct n.counter)::int as n, max(n.counter) as most
     from counters c left join numbers n on n.scope = c.scope where c.scope like 'SCO-%' group by c.scope, c.last`,
  );
  expect(scopes.filter((s) => s.n > 0)).toHaveLength(20);
  for (const { last, n, most } of scopes) expect([n, most ?? 0]).toEqual([last, last]);
  expect(scopes.reduce((sum, s) => sum + s.n, 0)).toBe(160);
}, 300_000);
