import { describe, expect, test } from 'vitest';
import { correctMetadata } from '../features/authoring/metadata.ts';
import { checkIn, checkOut, discardCheckout, makeNewest } from '../features/authoring/service.ts';
import { previewRegistration, registerDocument } from '../features/registration/service.ts';
import { rows } from '../platform/db/connect.ts';
import { codeOf } from './organisation.ts';
import { withOrganisation } from './withOrganisation.ts';

const organisation = withOrganisation();

describe('registering', () => {
  test('32 clients at once take every number once and leave no gap', async () => {
    const made = await Promise.all(
      Array.from({ length: 32 }, (_, i) =>
        organisation.register(i % 2 ? 'author' : 'author2', { type: 'TWO', title: `Number ${i}` }),
      ),
    );
    const numbers = made.map((d) => d.number).sort();
    expect(numbers).toEqual(Array.from({ length: 32 }, (_, i) => `TST-TWO-${String(i + 1).padStart(4, '0')}`));
  });

  test('a registering that fails takes no number', async () => {
    const before = await rows<{ last: number }>(
      organisation.app.db,
      `select last from counters where scope = 'TST-TWO-#'`,
    );
    const input = {
      typeId: organisation.types.get('TWO') ?? '',
      folderId: organisation.folders.get('1') ?? '',
      title: 'x',
      metadata: { unknown: 'x' },
      uploadId: await organisation.upload('author', 'x'),
    };
    expect(await codeOf(registerDocument(organisation.app, await organisation.as('author'), input, null))).toBe(
      'field_unknown',
    );
    expect(await rows(organisation.app.db, `select last from counters where scope = 'TST-TWO-#'`)).toEqual(before);
  });

  test('the preview shows the next number, label and file name without taking anything', async () => {
    const { number } = await organisation.register('author');
    const shown = await previewRegistration(organisation.app, await organisation.as('author'), {
      typeId: organisation.types.get('PRO') ?? '',
      folderId: organisation.folders.get('1') ?? '',
      title: 'Slip / force',
      metadata: {},
      extension: 'docx',
      number: null,
      label: null,
    });
    const next = `TST-PRO-${String(Number(number.slice(-4)) + 1).padStart(4, '0')}`;
    expect(shown).toMatchObject({
      number: next,
      label: 'A',
      fileName: `${next}_A_Slip-force.docx`,
      missing: [],
      refusals: [],
    });
    expect((await organisation.register('author')).number).toBe(next);
  });

  test('the same request with one key gives one document, another request with it is refused', async () => {
    const viewer = await organisation.as('author');
    const input = {
      typeId: organisation.types.get('PRO') ?? '',
      folderId: organisation.folders.get('1') ?? '',
      title: 'Once',
      metadata: {},
      uploadId: await organisation.upload('author', 'once'),
    };
    const [one, two] = await Promise.all([
      registerDocument(organisation.app, viewer, input, 'key-1'),
      registerDocument(organisation.app, viewer, input, 'key-1'),
    ]);
    expect(one.number).toBe(two.number);
    expect(await codeOf(registerDocument(organisation.app, viewer, { ...input, title: 'Twice' }, 'key-1'))).toBe(
      'key_used_otherwise',
    );
  });

  test('an outside number is kept as given, must fit its pattern, be no organisation number, and is taken once', async () => {
    const viewer = await organisation.as('author');
    const register = async (number: string, label: string | null = 'Issue 1') =>
      codeOf(
        registerDocument(
          organisation.app,
          viewer,
          {
            typeId: organisation.types.get('SUP') ?? '',
            folderId: organisation.folders.get('1') ?? '',
            title: 'Certificate',
            metadata: {},
            uploadId: await organisation.upload('author', 'cert'),
            summary: '',
            ownerId: null,
            number,
            label,
            keywords: [],
            note: '',
          },
          null,
        ),
      );
    expect(await register('BRH  26-0388')).toBe('done');
    expect(await register('brh 26-0388')).toBe('external_number_pattern');
    expect(await register('BRH 26-0388')).toBe('number_taken');
    expect(await register('TST-PRO-0001')).toBe('external_number_pattern');
    expect(await register('XYZ 1', null)).toBe('label_given_by_supplier');
  });

  test('who may not author in a folder may not register there, and a folder that is not seen does not exist', async () => {
    expect(await codeOf(organisation.register('reader'))).toBe('right_missing');
    expect(await codeOf(organisation.register('author', { folder: 'closed' }))).toBe('not_found');
  });
});

describe('check-out and check-in', () => {
  test('two people at once: one wins, the other learns who', async () => {
    const { id } = await organisation.register('author');
    const body = { note: '', expectedBack: null };
    const [a, b] = await Promise.allSettled([
      checkOut(organisation.app, await organisation.as('author'), id, { ...body, seen: '*' }),
      checkOut(organisation.app, await organisation.as('author2'), id, { ...body, seen: '*' }),
    ]);
    const lost = [a, b].find((r) => r.status === 'rejected') as PromiseRejectedResult;
    const winner = a.status === 'fulfilled' ? 'Author' : 'Author2';
    expect([a, b].filter((r) => r.status === 'fulfilled')).toHaveLength(1);
    expect(lost.reason.refusals[0]).toMatchObject({ code: 'checked_out', params: { who: winner } });
    expect((await organisation.page('controller', id)).checkout?.person.name).toBe(winner);
  });

  test('checking in makes the next version, and identical bytes are asked about', async () => {
    const { id } = await organisation.register('author', { text: 'first' });
    const author = await organisation.as('author');
    await checkOut(organisation.app, author, id, { seen: '*', note: '', expectedBack: null });
    const same = { uploadId: await organisation.upload('author', 'first'), note: 'n', sameContentMeant: false };
    expect(await codeOf(checkIn(organisation.app, author, id, { ...same, seen: '*' }))).toBe('same_content');
    expect(await codeOf(checkIn(organisation.app, await organisation.as('author2'), id, { ...same, seen: '*' }))).toBe(
      'checked_out',
    );
    expect(
      await checkIn(organisation.app, author, id, {
        seen: '*',
        uploadId: await organisation.upload('author', 'second'),
        note: 'changed',
        title: 'Better title',
        metadata: { limit: '5 kN' },
        sameContentMeant: false,
      }),
    ).toEqual({ version: 2 });
    const page = await organisation.page('author', id);
    expect(page).toMatchObject({
      checkout: null,
      revision: { title: 'Better title', versions: 2 },
      metadata: { limit: '5 kN' },
    });
    expect(page.versions.map((v) => [v.n, v.note])).toEqual([
      [2, 'changed'],
      [1, ''],
    ]);
  });

  test('a check-out can be given up without a trace in content', async () => {
    const { id } = await organisation.register('author');
    const author = await organisation.as('author');
    await checkOut(organisation.app, author, id, { seen: '*', note: '', expectedBack: null });
    await discardCheckout(organisation.app, author, id, { seen: '*' });
    expect(await organisation.page('author', id)).toMatchObject({ checkout: null, revision: { versions: 1 } });
    expect(await codeOf(discardCheckout(organisation.app, author, id, { seen: '*' }))).toBe('not_checked_out');
  });

  test('an older version is made the newest as a new version', async () => {
    const { id } = await organisation.register('author', { text: 'one' });
    const author = await organisation.as('author');
    await checkOut(organisation.app, author, id, { seen: '*', note: '', expectedBack: null });
    await checkIn(organisation.app, author, id, {
      seen: '*',
      uploadId: await organisation.upload('author', 'two'),
      note: 'two',
      sameContentMeant: false,
    });
    const first = (await organisation.page('author', id)).versions.find((v) => v.n === 1);
    expect(await makeNewest(organisation.app, author, id, first?.id ?? '', { note: '', seen: '*' })).toEqual({
      version: 3,
    });
    const [newest] = (await organisation.page('author', id)).versions;
    expect(newest?.files[0]?.sha256).toBe(first?.files[0]?.sha256);
  });

  test('document fields change with a reason after release, signed ones do not, and changes by somebody else are not overwritten', async () => {
    const { id, number } = await organisation.register('author');
    await organisation.toInForce(number);
    const controller = await organisation.as('controller');
    const page = await organisation.page('controller', id);
    const base = {
      title: page.revision.title,
      summary: '',
      metadata: {},
      keywords: ['new'],
      ownerId: organisation.ids.owner ?? '',
      reviewOn: null,
      reason: 'moved',
      rowVersion: page.rowVersion,
      revisionRowVersion: page.revision.rowVersion,
    };
    expect(await codeOf(correctMetadata(organisation.app, controller, id, { ...base, reason: '' }))).toBe(
      'reason_missing',
    );
    expect(await codeOf(correctMetadata(organisation.app, controller, id, { ...base, title: 'Other' }))).toBe(
      'wrong_state',
    );
    expect(await codeOf(correctMetadata(organisation.app, controller, id, base))).toBe('done');
    expect(await codeOf(correctMetadata(organisation.app, controller, id, { ...base, keywords: ['again'] }))).toBe(
      'changed_meanwhile',
    );
  });
});

describe('the department of a document', () => {
  const unit = (key: string) => organisation.units.get(key) ?? '';
  const departmentOf = async (id: string) => (await organisation.page('controller', id)).department?.name ?? null;

  test('is that of the owner unless another one is chosen at registration', async () => {
    const { id } = await organisation.register('author');
    const chosen = await organisation.register('author', { department: 'eng' });
    expect([await departmentOf(id), await departmentOf(chosen.id)]).toEqual(['Operations', 'Engineering']);
    await expect(organisation.register('author', { department: 'authors' })).rejects.toMatchObject({
      refusals: [{ code: 'entry_unknown', params: { field: 'Department' } }],
    });
  });

  test('is corrected with a reason, kept when left out, and recorded with both names', async () => {
    const { id, number } = await organisation.register('author');
    await organisation.toInForce(number);
    const correct = (change: object) =>
      organisation.correct('controller', id, { reason: 'The line is run by others now', ...change });
    await correct({ departmentId: unit('eng') });
    expect(await departmentOf(id)).toBe('Engineering');
    await correct({ keywords: ['moved'] });
    expect(await departmentOf(id)).toBe('Engineering');
    const [event] = await rows<{ text: string }>(
      organisation.app.db,
      `select text from events where kind = 'metadata.corrected' and text like :number order by seq`,
      { number: `%${number}%` },
    );
    expect(JSON.parse(event?.text ?? '{}').payload).toMatchObject({
      before: { department: 'Operations' },
      after: { department: 'Engineering' },
    });
    await correct({ departmentId: null });
    expect(await departmentOf(id)).toBeNull();
    expect(await codeOf(correct({ departmentId: unit('authors') }))).toBe('entry_unknown');
  });
});

describe('the database itself refuses', () => {
  const refusal = (sql: string) =>
    organisation.app.db.raw(sql).then(
      () => 'done',
      (error: { constraint?: string; code?: string }) => error.constraint ?? error.code,
    );
  test('a second revision in work, a second check-out, a state that no command leads to, a changed version, an overlap of periods', async () => {
    const { id, number } = await organisation.register('author');
    await organisation.toInForce(number);
    const revision = `(select id from revisions where document_id = '${id}')`;
    const insert = (state: string, ordinal: number) =>
      `insert into revisions (id, document_id, ordinal, label, change_kind, title, state, created_at, created_by) values (gen_random_uuid(), '${id}', ${ordinal}, 'X${ordinal}', 'minor', 'x', '${state}', now(), '${organisation.ids.author}')`;
    expect(await refusal(insert('draft', 8))).toBe('done');
    expect(await refusal(insert('draft', 9))).toBe('one_revision_in_work');
    expect(await refusal(insert('in force', 10))).toBe('one_revision_in_force');
    expect(
      await refusal(`update revisions set state = 'draft' where document_id = '${id}' and state = 'in force'`),
    ).toBe('state_moves');
    expect(
      await refusal(`update revisions set title = 'changed' where document_id = '${id}' and state = 'in force'`),
    ).toBe('released_is_frozen');
    expect(await refusal(`update versions set note = 'x'`)).toBe('version_immutable');
    expect(
      await refusal(
        `insert into periods (id, document_id, revision_id, label, from_at) values (gen_random_uuid(), '${id}', (select id from revisions where document_id = '${id}' limit 1), 'A', '2030-01-01')`,
      ),
    ).toBe('periods_do_not_overlap');
    expect(revision).toContain(id);
  });

  test('any change of the trail, and a gap in it, also for the owner of the database', async () => {
    expect(await refusal(`update events set kind = 'x'`)).toBe('42501');
    expect(await refusal('delete from events')).toBe('42501');
    expect(await refusal('truncate events')).toBe('42501');
    expect(
      await refusal(
        `insert into events (seq, at, actor, kind, text, hash, prev) values (999999, now(), 'x', 'x', '{}', 'a', 'b')`,
      ),
    ).toBe('trail_gap_free');
    expect(await refusal('create table x (y int)')).toBe('42501');
    const { connect } = await import('../platform/db/connect.ts');
    const owner = connect(organisation.ownerUrl, 1);
    const asOwner = (sql: string) =>
      owner.raw(sql).then(
        () => 'done',
        (error: { constraint?: string }) => error.constraint,
      );
    expect(await asOwner(`update events set kind = 'x' where seq = 1`)).toBe('trail_append_only');
    expect(await asOwner('truncate events')).toBe('trail_append_only');
    await owner.destroy();
  });

  test('a signature and a signing record never change', async () => {
    const { id, number } = await organisation.register('author');
    await organisation.toInForce(number);
    expect(
      await refusal(
        `update signatures set meaning = 'x' where revision_id in (select id from revisions where document_id = '${id}')`,
      ),
    ).toBe('signature_immutable');
    expect(await refusal(`update signing_records set text = '{}'`)).toBe('record_immutable');
  });
});

test('the table of moves is the same in the core and in the database', async () => {
  const { canMove, REVISION_STATES } = await import('@kanonos/core');
  const { id } = await organisation.register('author');
  const { connect } = await import('../platform/db/connect.ts');
  const owner = connect(organisation.ownerUrl, 1);
  for (const from of REVISION_STATES) {
    for (const to of REVISION_STATES) {
      if (from === to) continue;
      const outcome = await owner
        .transaction(async (trx) => {
          await trx.raw('alter table revisions disable trigger revision_guard');
          await trx.raw(
            `update revisions set state = ?, planned_on = ${from === 'scheduled' ? `'2030-01-01'` : 'null'} where document_id = ?`,
            [from, id],
          );
          await trx.raw('alter table revisions enable trigger revision_guard');
          const result = await trx
            .raw(
              `update revisions set state = ?, planned_on = ${to === 'scheduled' ? `'2030-01-01'` : 'null'} where document_id = ?`,
              [to, id],
            )
            .then(
              () => true,
              () => false,
            );
          throw Object.assign(new Error('undo'), { result });
        })
        .catch((error: { result?: boolean }) => error.result);
      expect(outcome, `${from} → ${to}`).toBe(canMove(from, to));
    }
  }
  await owner.destroy();
});
