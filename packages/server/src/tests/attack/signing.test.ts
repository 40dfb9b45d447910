// Signing under attack: without credentials, with tries beside each other, over unseen files, with altered rows.
import fc from 'fast-check';
import pg from 'pg';
import { afterAll, beforeAll, describe, expect, test } from 'vitest';
import { verifyRecords } from '../../../../../tools/verify-records.ts';
import { changePerson, personDetail } from '../../features/people/service.ts';
import { readers, readingTask, signReading } from '../../features/reading/service.ts';
import { preflightFor } from '../../features/release/preflight.ts';
import { release, reopen } from '../../features/release/service.ts';
import { reinstate, reinstatementFor, withdraw } from '../../features/release/withdraw.ts';
import { decide, recall } from '../../features/rounds/service.ts';
import { changed, connect, firstRow, rows } from '../../platform/db/connect.ts';
import { codeOf, openOrganisation, PASSWORD, type TestOrganisation } from '../organisation.ts';

let organisation: TestOrganisation;
/** Runs between the check of a password and the transaction that signs. */
let between: (() => Promise<unknown>) | undefined;
beforeAll(async () => {
  organisation = await openOrganisation();
  organisation.app.checkPassword = async (password, hash) => {
    const then = between;
    between = undefined;
    await then?.();
    return hash !== null && password === PASSWORD;
  };
});
afterAll(() => organisation.close());

const countSignatures = async (number: string) =>
  (
    await firstRow<{ n: number }>(
      organisation.app.db,
      `select count(*)::int as n from signatures s join revisions r on r.id = s.revision_id join documents d on d.id = r.document_id where d.number = :number`,
      { number },
    )
  )?.n ?? 0;

const memo = async () => {
  const { number } = await organisation.register('author', { type: 'MEM' });
  await changed(
    organisation.app.db,
    `update revisions set metadata = '{"held":"2026-11-25"}' where document_id = (select id from documents where number = :number)`,
    { number },
  );
  await organisation.openFiles('controller', number);
  return number;
};

describe('1: no signature without credentials over what was seen', () => {
  test('a release that turns out to be signed only under the lock is refused without a password', async () => {
    const number = await memo();
    const controller = await organisation.as('controller');
    expect(await codeOf(release(organisation.app, controller, number, { seen: '*' }))).toBe('signing_needs_password');
    expect(await countSignatures(number)).toBe(0);
    const { signing } = await preflightFor(organisation.app, controller, number);
    const seen = { name: 'controller', password: PASSWORD, digest: signing?.digest ?? '' };
    expect(
      await codeOf(release(organisation.app, controller, number, { seen: '*', ...seen, digest: 'f'.repeat(64) })),
    ).toBe('record_changed');
    expect(await codeOf(release(organisation.app, controller, number, { seen: '*', ...seen, digest: null }))).toBe(
      'record_changed',
    );
    expect(await codeOf(release(organisation.app, controller, number, { seen: '*', ...seen, password: 'wrong' }))).toBe(
      'signing_wrong',
    );
    expect(await countSignatures(number)).toBe(0);
    expect(await codeOf(release(organisation.app, controller, number, { ...seen, seen: '*' }))).toBe('done');
    expect(await countSignatures(number)).toBe(1);
  });

  /** What may happen to a document between the check of the password and the signing. */
  const CHANGES: Record<string, (number: string) => Promise<unknown>> = {
    nothing: async () => undefined,
    'its title changes': (number) =>
      changed(
        organisation.app.db,
        `update revisions set title = title || '!' where document_id = (select id from documents where number = :number) and state not in ('in force', 'superseded', 'withdrawn')`,
        { number },
      ),
    'it is reopened': async (number) =>
      codeOf(reopen(organisation.app, await organisation.as('controller'), number, { reason: 'x', seen: '*' })),
    'it is recalled': async (number) =>
      codeOf(recall(organisation.app, await organisation.as('author'), number, { reason: 'x', seen: '*' })),
    'it is checked out': async (number) => codeOf(organisation.checkOut('author', number)),
    'it is withdrawn': async (number) =>
      codeOf(
        withdraw(organisation.app, await organisation.as('controller'), number, { seen: '*', on: null, reason: 'x' }),
      ),
    'another one releases it': async (number) => {
      const { signing } = await preflightFor(organisation.app, await organisation.as('controller'), number).catch(
        () => ({
          signing: null,
        }),
      );
      return codeOf(
        release(organisation.app, await organisation.as('controller'), number, {
          ...(signing ? { name: 'controller', password: PASSWORD, digest: signing.digest } : {}),
          seen: '*',
        }),
      );
    },
  };

  /** Every command that signs: prepared with what its signer sees, ready to be given. */
  const COMMANDS: Record<string, () => Promise<{ number: string; give: () => Promise<unknown>; digest: string }>> = {
    'release without a route': async () => {
      const number = await memo();
      const controller = await organisation.as('controller');
      const digest = (await preflightFor(organisation.app, controller, number)).signing?.digest ?? '';
      return {
        number,
        digest,
        give: () =>
          release(organisation.app, controller, number, { seen: '*', name: 'controller', password: PASSWORD, digest }),
      };
    },
    approve: async () => {
      const { number } = await organisation.register('author');
      await organisation.submitAndReview(number);
      await organisation.openFiles('owner', number);
      const page = await organisation.page('controller', number);
      const id = page.rounds[0]?.steps[1]?.assignments[0]?.id ?? '';
      const digest = page.rounds[0]?.digest ?? '';
      const owner = await organisation.as('owner');
      return {
        number,
        digest,
        give: () =>
          decide(organisation.app, owner, id, {
            decision: 'approve',
            comment: '',
            name: 'owner',
            password: PASSWORD,
            digest,
            version: 1,
          }),
      };
    },
    'sign a reading': async () => {
      const { number } = await organisation.register('author');
      await organisation.requireReading(number, ['reader']);
      await organisation.toInForce(number);
      await organisation.openFiles('reader', number);
      const reader = await organisation.as('reader');
      const [row] = (await readers(organisation.app, await organisation.as('controller'), number)).readers;
      const { digest } = await readingTask(organisation.app, reader, row?.assignmentId ?? '');
      return {
        number,
        digest,
        give: () =>
          signReading(organisation.app, reader, row?.assignmentId ?? '', {
            name: 'reader',
            password: PASSWORD,
            digest,
            remark: '',
          }),
      };
    },
    reinstate: async () => {
      const { number } = await organisation.register('author');
      await organisation.toInForce(number);
      const controller = await organisation.as('controller');
      await withdraw(organisation.app, controller, number, { seen: '*', on: null, reason: 'x' });
      await organisation.openFiles('controller', number);
      const digest = (await reinstatementFor(organisation.app, controller, number)).signing.digest;
      return {
        number,
        digest,
        give: () =>
          reinstate(organisation.app, controller, number, {
            seen: '*',
            reason: 'x',
            name: 'controller',
            password: PASSWORD,
            digest,
          }),
      };
    },
  };

  test('whatever happens in between, a signature binds the record that its signer saw, or there is none', async () => {
    let signed = 0;
    await fc.assert(
      fc.asyncProperty(
        fc.constantFrom(...Object.keys(COMMANDS)),
        fc.constantFrom(...Object.keys(CHANGES)),
        async (command, change) => {
          const { number, give, digest } = (await COMMANDS[command]?.()) ?? {
            number: '',
            give: async () => {},
            digest: '',
          };
          const before = await countSignatures(number);
          between = () => CHANGES[change]?.(number) ?? Promise.resolve();
          const code = await codeOf(give());
          between = undefined;
          const made = await rows<{ digest: string; person_id: string }>(
            organisation.app.db,
            `select s.digest, s.person_id from signatures s join revisions r on r.id = s.revision_id join documents d on d.id = r.document_id where d.number = :number order by s.at`,
            { number },
          );
          if (code === 'done') {
            signed++;
            expect(made.some((one) => one.digest === digest)).toBe(true);
            expect(made.length).toBeGreaterThan(before);
          }
          // Nobody signs unseen content, whatever the sequence of commands.
          const frozen = await rows<{ digest: string }>(
            organisation.app.db,
            `select distinct s.digest from signatures s join revisions r on r.id = s.revision_id join documents d on d.id = r.document_id where d.number = :number and s.void_at is null`,
            { number },
          );
          const records = await rows<{ digest: string }>(organisation.app.db, 'select digest from signing_records');
          for (const one of frozen) expect(records.map((record) => record.digest)).toContain(one.digest);
        },
      ),
      { numRuns: 40, seed: 20261128 },
    );
    expect(signed).toBeGreaterThan(5);
  }, 300_000);
});

describe('2 and 31: guessing', () => {
  test('of sixty wrong passwords in the same moment five are judged, and then the right one is refused, too', async () => {
    const { number } = await organisation.register('author', { owner: 'author2' });
    await organisation.submitAndReview(number);
    await organisation.openFiles('author2', number);
    const page = await organisation.page('controller', number);
    const id = page.rounds[0]?.steps[1]?.assignments[0]?.id ?? '';
    const viewer = await organisation.as('author2');
    const attempt = (password: string) =>
      codeOf(
        decide(organisation.app, viewer, id, {
          decision: 'approve',
          comment: '',
          name: 'author2',
          password,
          digest: page.rounds[0]?.digest ?? null,
          version: 1,
        }),
      );
    const codes = await Promise.all(Array.from({ length: 60 }, (_, i) => attempt(`guess ${i}`)));
    expect(codes.filter((code) => code === 'signing_wrong')).toHaveLength(5);
    expect(codes.filter((code) => code === 'signing_locked')).toHaveLength(55);
    expect(await attempt(PASSWORD)).toBe('signing_locked');
    organisation.clock.now = new Date(organisation.clock.now.getTime() + 16 * 60_000);
    expect(await attempt(PASSWORD)).toBe('done');
  });
});

describe('7: every file that a signature covers was opened by its signer', () => {
  test('an approval is refused with the names of unopened files, and counts what is on record', async () => {
    const { number } = await organisation.register('author');
    await organisation.submitAndReview(number);
    const page = await organisation.page('controller', number);
    const id = page.rounds[0]?.steps[1]?.assignments[0]?.id ?? '';
    const owner = await organisation.as('owner');
    const give = () =>
      decide(organisation.app, owner, id, {
        decision: 'approve',
        comment: '',
        name: 'owner',
        password: PASSWORD,
        digest: page.rounds[0]?.digest ?? null,
        version: 1,
      });
    expect(await codeOf(give())).toBe('files_not_opened');
    await organisation.openFiles('author', number);
    expect(await codeOf(give())).toBe('files_not_opened');
    await organisation.openFiles('owner', number);
    expect(await codeOf(give())).toBe('done');
    expect(
      await rows(
        organisation.app.db,
        `select 1 from events where kind = 'signing.refused' and text like '%files_not_opened%'`,
      ),
    ).toHaveLength(2);
  });
});

describe('28: rows that are altered by the owner of the database', () => {
  const stateOf = async (number: string) =>
    (await organisation.page('controller', number)).rounds[0]?.steps
      .flatMap((s) => s.assignments.map((a) => a.signature?.state))
      .filter(Boolean);
  const verify = async () => {
    const db = new pg.Client({ connectionString: organisation.ownerUrl });
    await db.connect();
    try {
      return await verifyRecords(db);
    } finally {
      await db.end();
    }
  };

  test('name, meaning, instant and signer of a signature, and a reading that nobody signed, are reported', async () => {
    const { number, id } = await organisation.register('author');
    await organisation.requireReading(number, ['reader']);
    await organisation.toInForce(number);
    expect(await stateOf(number)).toEqual(['intact', 'intact']);
    expect((await verify()).faults).toEqual([]);
    const owner = connect(organisation.ownerUrl, 1);
    await rows(owner, 'alter table signatures disable trigger signature_guard');
    const alter = (set: string, by: object = {}) =>
      rows(
        owner,
        `update signatures set ${set} where id = (select s.id from signatures s join revisions r on r.id = s.revision_id where r.document_id = :id order by s.at limit 1)`,
        { id, ...by },
      );
    const before = await firstRow<{ printed_name: string; meaning: string; at: Date; person_id: string }>(
      owner,
      'select printed_name, meaning, at, person_id from signatures s join revisions r on r.id = s.revision_id where r.document_id = :id order by s.at limit 1',
      { id },
    );
    for (const [set, back] of [
      [`printed_name = 'Mara Quill'`, { value: before?.printed_name, column: 'printed_name' }],
      [`meaning = 'read'`, { value: before?.meaning, column: 'meaning' }],
      [`at = at - interval '3 days'`, { value: before?.at, column: 'at' }],
      [`person_id = '${organisation.ids.stranger}'`, { value: before?.person_id, column: 'person_id' }],
    ] as const) {
      await alter(set);
      expect([set, await stateOf(number)]).toEqual([set, expect.arrayContaining(['altered'])]);
      expect((await verify()).faults.length, set).toBeGreaterThan(0);
      await alter(`${back.column} = :value`, { value: back.value });
      expect(await stateOf(number)).toEqual(['intact', 'intact']);
    }
    await rows(owner, 'alter table signatures enable trigger signature_guard');
    // Compliance counts signatures, not columns.
    await rows(owner, `update reading_assignments set state = 'signed', closed_at = now() where document_id = :id`, {
      id,
    });
    const { compliance } = await readers(organisation.app, await organisation.as('controller'), number);
    expect(compliance).toMatchObject({ done: 0, owed: 1 });
    expect((await verify()).faults).toEqual([expect.stringContaining('has not signed')]);
    await rows(owner, `update reading_assignments set state = 'open', closed_at = null where document_id = :id`, {
      id,
    });
    await owner.destroy();
  });
});

describe('30: the name that is printed on signatures', () => {
  test('is changed by somebody else who keeps people, and old signatures keep the old one', async () => {
    const { number } = await organisation.register('author');
    await organisation.submitAndReview(number);
    await organisation.decideAs('owner', number);
    const admin = await organisation.as('admin');
    const owner = await personDetail(organisation.app, organisation.ids.owner ?? '');
    await changePerson(organisation.app, admin, owner.id, {
      name: 'Owner Married',
      email: owner.email,
      organisationRights: [],
      rowVersion: owner.rowVersion,
    });
    const printed = (await organisation.page('controller', number)).rounds[0]?.steps[1]?.assignments[0]?.signature;
    expect(printed).toMatchObject({ printedName: 'Owner', state: 'intact' });
    const self = await personDetail(organisation.app, admin.id);
    const rename = () =>
      changePerson(organisation.app, admin, admin.id, {
        name: 'Mara Quill',
        email: self.email,
        organisationRights: self.organisationRights,
        rowVersion: self.rowVersion,
      });
    await changed(
      organisation.app.db,
      `update people set organisation_rights = array_append(organisation_rights, 'people') where id = :id`,
      { id: organisation.ids.controller },
    );
    expect(await codeOf(rename())).toBe('own_name');
  });
});
