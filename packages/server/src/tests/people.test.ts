import { describe, expect, test } from 'vitest';
import { explain, listScope } from '../features/access/service.ts';
import { addComment, listComments } from '../features/comments/service.ts';
import { counts, desk, submittedByMe } from '../features/desk/service.ts';
import { facetsOf, find, registerPage } from '../features/find/service.ts';
import { notify, sendMail, sendSummaries } from '../features/mailing/service.ts';
import {
  addUnit,
  deactivate,
  endMembership,
  listPeople,
  personDetail,
  setMembership,
} from '../features/people/service.ts';
import { absences, addAbsence, endAbsence } from '../features/session/absences.ts';
import { changePassword, changeProfile, me } from '../features/session/service.ts';
import { trailPage } from '../features/trail/service.ts';
import { SYSTEM_CLOCK } from '../platform/app.ts';
import { passwordWeakness } from '../platform/auth/passwords.ts';
import { changed, firstRow, rows } from '../platform/db/connect.ts';
import { newId } from '../platform/db/ids.ts';
import { codeOf, PASSWORD } from './organisation.ts';
import { withOrganisation } from './withOrganisation.ts';

const organisation = withOrganisation();

describe('memberships are dated', () => {
  test('a new department ends the one before on the day before', async () => {
    const admin = await organisation.as('admin');
    const detail = await setMembership(organisation.app, admin, organisation.ids.stranger ?? '', {
      kind: 'department',
      refId: organisation.units.get('ops') ?? '',
      from: '2026-12-01',
    });
    const departments = detail.memberships.filter((m) => m.kind === 'department');
    expect(departments.map((m) => [m.name, m.from, m.to])).toEqual([
      ['Operations', '2026-12-01', null],
      ['Engineering', '2026-01-01', '2026-11-30'],
    ]);
  });

  test('nobody can be above themselves, however long the chain', async () => {
    const admin = await organisation.as('admin');
    const above = (person: string, supervisor: string) =>
      codeOf(
        setMembership(organisation.app, admin, organisation.ids[person] ?? '', {
          kind: 'supervisor',
          refId: organisation.ids[supervisor] ?? '',
          from: '2026-11-25',
        }),
      );
    expect(await above('author', 'author')).toBe('supervisor_circle');
    expect(await above('owner', 'reader')).toBe('supervisor_circle');
    expect(await above('owner', 'controller')).toBe('done');
    expect(await above('controller', 'reader2')).toBe('supervisor_circle');
  });

  test('a role is held once at a time, and can be ended on a day', async () => {
    const admin = await organisation.as('admin');
    const role = { kind: 'role' as const, refId: organisation.units.get('ta') ?? '', from: '2026-11-25' };
    const detail = await setMembership(organisation.app, admin, organisation.ids.reviewer ?? '', role);
    expect(await codeOf(setMembership(organisation.app, admin, organisation.ids.reviewer ?? '', role))).toBe(
      'membership_overlaps',
    );
    const id = detail.memberships.find((m) => m.kind === 'role')?.id ?? '';
    expect(
      await codeOf(endMembership(organisation.app, admin, organisation.ids.reviewer ?? '', id, '2026-11-01')),
    ).toBe('absence_days');
    await endMembership(organisation.app, admin, organisation.ids.reviewer ?? '', id, '2026-11-25');
    expect(
      (await personDetail(organisation.app, organisation.ids.reviewer ?? '')).memberships.find((m) => m.id === id)?.to,
    ).toBe('2026-11-25');
  });

  test('a membership of an unknown unit, or of another kind, is refused by name', async () => {
    const admin = await organisation.as('admin');
    const join = (kind: 'role' | 'group', refId: string) =>
      codeOf(
        setMembership(organisation.app, admin, organisation.ids.reviewer ?? '', { kind, refId, from: '2026-11-25' }),
      );
    expect(await join('group', organisation.units.get('ta') ?? '')).toBe('unit_unknown');
    expect(await join('role', newId())).toBe('unit_unknown');
    await addUnit(organisation.app, admin, { kind: 'site', code: 'N', name: 'North' });
    expect(await codeOf(addUnit(organisation.app, admin, { kind: 'site', code: 'N', name: 'North again' }))).toBe(
      'changed_meanwhile',
    );
  });
});

test('who leaves loses sessions and memberships, not the name; and nobody deactivates themselves', async () => {
  const admin = await organisation.as('admin');
  expect(await codeOf(deactivate(organisation.app, admin, organisation.ids.admin ?? '', 'x'))).toBe('own_account');
  const gone = await deactivate(organisation.app, admin, organisation.ids.author2 ?? '', 'left the organisation');
  expect(gone).toMatchObject({ state: 'deactivated', until: '2026-11-25', signInName: 'author2' });
  expect(gone.memberships.every((m) => m.to !== null)).toBe(true);
  expect(await codeOf(deactivate(organisation.app, admin, organisation.ids.author2 ?? '', 'again'))).toBe(
    'person_inactive',
  );
});

test('mail addresses are shown to who keeps people only', async () => {
  const [asAdmin, asReader] = [
    await listPeople(organisation.app, await organisation.as('admin'), { find: 'read', state: 'active' }),
    await listPeople(organisation.app, await organisation.as('reader'), { find: 'read', state: 'active' }),
  ];
  expect(asAdmin.map((p) => p.email)).toContain('reader@test.example');
  expect(asReader.map((p) => p.email)).toEqual(asReader.map(() => ''));
});

test('people are found by what they belong to today, too', async () => {
  const found = async (find: string) =>
    (await listPeople(organisation.app, await organisation.as('admin'), { find, state: 'active' })).map(
      (p) => p.signInName,
    );
  const authorities = await found('technical auth');
  expect(authorities).toContain('authority');
  expect(authorities).not.toContain('reader');
  expect(await found('%')).toEqual([]);
});

describe('the own profile', () => {
  test('is changed with the row version that was seen', async () => {
    const reader = await organisation.as('reader');
    const before = await me(organisation.app, reader.id);
    const after = await changeProfile(organisation.app, reader, {
      mailMode: 'daily',
      rowVersion: before.rowVersion,
    });
    // The name that is printed on signatures is kept by who keeps people.
    expect(after).toMatchObject({ name: before.name, mailMode: 'daily' });
    expect(
      await codeOf(changeProfile(organisation.app, reader, { mailMode: 'daily', rowVersion: before.rowVersion })),
    ).toBe('changed_meanwhile');
  });

  test('a password is changed with the present one only', async () => {
    const viewer = await organisation.as('reader2');
    expect(
      await codeOf(changePassword(organisation.app, viewer, { present: 'wrong', next: 'seven quiet cabins' })),
    ).toBe('password_wrong');
    expect(await codeOf(changePassword(organisation.app, viewer, { present: PASSWORD, next: 'short' }))).toBe(
      'password_weak',
    );
    expect(
      await codeOf(changePassword(organisation.app, viewer, { present: PASSWORD, next: 'seven quiet cabins' })),
    ).toBe('done');
  });

  test.each([
    ['elevenchars', 'at least 12'],
    ['passwordpassword', 'easy to guess'],
    ['aaaaaaaaaaaaaaa', 'different characters'],
    ['lin.sato.2026', 'your name'],
  ])('the password %s is too weak: %s', (password, why) => {
    expect(passwordWeakness(password, ['Lin Sato', 'lin.sato'])).toContain(why);
  });

  test('an absence names a deputy, who is notified, and can be removed', async () => {
    const viewer = await organisation.as('authority');
    expect(
      await codeOf(addAbsence(organisation.app, viewer, { from: '2026-12-10', to: '2026-12-01', deputyId: null })),
    ).toBe('absence_days');
    expect(
      await codeOf(addAbsence(organisation.app, viewer, { from: '2026-12-01', to: '2026-12-10', deputyId: viewer.id })),
    ).toBe('deputy_self');
    const { id } = await addAbsence(organisation.app, viewer, {
      from: '2026-12-01',
      to: '2026-12-10',
      deputyId: organisation.ids.authority2 ?? null,
    });
    expect(
      (await absences(organisation.app, await organisation.as('authority2'))).standingInFor.map((s) => s.person.name),
    ).toEqual(['Authority']);
    await endAbsence(organisation.app, viewer, id);
    expect((await absences(organisation.app, viewer)).mine).toEqual([]);
  });
});

describe('mails come as their receiver wants them', () => {
  const message = {
    kind: 'test',
    subject: 'A <subject>',
    lead: 'Lead & more',
    quote: 'line one\nline two',
    lines: ['one'],
    link: { path: '/tasks/1', label: 'Open' },
  };
  const tell = (people: string[], always = false) =>
    organisation.app.command(SYSTEM_CLOCK, (work) =>
      notify(
        organisation.app,
        work,
        people.map((p) => organisation.ids[p] ?? ''),
        message,
        always,
      ),
    );
  const statesOf = async () =>
    (
      await rows<{ state: string }>(organisation.app.db, `select state from mails where kind = 'test' order by address`)
    ).map((m) => m.state);

  test('at once, held for the summary of the day, or not at all', async () => {
    await changed(organisation.app.db, `update people set mail_mode = 'daily' where id = :id`, {
      id: organisation.ids.owner,
    });
    await changed(organisation.app.db, `update people set mail_mode = 'desk only' where id = :id`, {
      id: organisation.ids.reviewer,
    });
    await tell(['author', 'owner', 'reviewer']);
    expect(await statesOf()).toEqual(['waiting', 'held for summary']);
    await tell(['reviewer'], true);
    expect(await statesOf()).toEqual(['waiting', 'held for summary', 'waiting']);
  });

  test('words are escaped in HTML and plain in text, and the link opens the task', async () => {
    const mail = await firstRow<{ html: string; text: string }>(
      organisation.app.db,
      `select html, text from mails where kind = 'test' limit 1`,
    );
    expect(mail?.html).toContain('Lead &#38; more');
    expect(mail?.html).toContain('http://127.0.0.1:4999/tasks/1');
    expect(mail?.text).toContain('> line one\n> line two');
  });

  test('one summary a day gathers the held mails, once', async () => {
    expect(await sendSummaries(organisation.app, SYSTEM_CLOCK)).toBeGreaterThan(0);
    const [summary] = await rows<{ text: string }>(
      organisation.app.db,
      `select text from mails where kind = 'summary' and address = 'owner@test.example'`,
    );
    expect(summary?.text).toContain('- A <subject>');
    expect(await sendSummaries(organisation.app, SYSTEM_CLOCK)).toBe(0);
  });

  test('an unreachable mail server leaves the mail to be sent later, with the reason', async () => {
    const mail = await firstRow<{ id: string }>(
      organisation.app.db,
      `select id from mails where kind = 'test' and state = 'waiting' limit 1`,
    );
    const broken = { send: async () => Promise.reject(new Error('connection refused')) };
    await sendMail(organisation.app, broken, mail?.id ?? '');
    expect(
      await firstRow(organisation.app.db, 'select state, error from mails where id = :id', { id: mail?.id }),
    ).toEqual({
      state: 'failed',
      error: 'connection refused',
    });
    await sendMail(organisation.app, { send: async () => {} }, mail?.id ?? '');
    expect(
      await firstRow(organisation.app.db, 'select state, error from mails where id = :id', { id: mail?.id }),
    ).toEqual({
      state: 'sent',
      error: null,
    });
  });
});

describe('the Desk', () => {
  test('shows each what waits for them, and the sender what waits for whom', async () => {
    const { number } = await organisation.register('author');
    await organisation.submit('author', number);
    const reviewer = await desk(organisation.app, await organisation.as('reviewer'));
    expect(reviewer.rows.map((r) => [r.kind, r.number, r.action, r.due])).toEqual([
      ['decide', number, 'Review', '2026-12-02'],
    ]);
    const [sent] = (await submittedByMe(organisation.app, await organisation.as('author'))).filter(
      (r) => r.number === number,
    );
    expect(sent).toMatchObject({
      step: 'Review',
      stepOf: '1 of 3',
      waiting: [{ person: 'Reviewer', due: '2026-12-02', overdue: false }],
      decisions: [],
    });
    expect(await counts(organisation.app, await organisation.as('reviewer'))).toMatchObject({
      desk: 1,
      overdue: 0,
      reading: 0,
    });
    expect((await desk(organisation.app, await organisation.as('reader'))).rows).toEqual([]);
  });

  test('a comment in review reaches the author by mail and is listed for who may see work', async () => {
    const page = await organisation.page(
      'controller',
      (await desk(organisation.app, await organisation.as('reviewer'))).rows[0]?.number ?? '',
    );
    await addComment(organisation.app, await organisation.as('reviewer'), page.id, {
      text: 'Figure 2?',
      blocking: false,
      quote: null,
      revisionId: page.revision.id,
    });
    const { comments } = await listComments(organisation.app, await organisation.as('author'), page.id);
    expect(comments.map((c) => [c.person.name, c.kind, c.mayResolve])).toEqual([['Reviewer', 'comment', true]]);
    expect(await codeOf(listComments(organisation.app, await organisation.as('reader'), page.id))).toBe('not_found');
  });
});

describe('finding', () => {
  test('facets count what the list shows, each dimension without its own pick', async () => {
    const author = await organisation.as('author');
    const base = { revisionScope: 'newest' as const, q: '', reach: 'everywhere' as const };
    await organisation.register('author', { type: 'TWO', title: 'Facet' });
    const all = await facetsOf(organisation.app, author, base);
    const list = await registerPage(organisation.app, author, { ...base, sort: 'number', order: 'asc', limit: 200 });
    expect(all.total).toBe(list.rows.length);
    expect(all.type.reduce((n, v) => n + v.count, 0)).toBe(all.total);
    const picked = await facetsOf(organisation.app, author, { ...base, type: 'TWO' });
    expect(picked.total).toBe(all.type.find((v) => v.value === 'TWO')?.count);
    expect(picked.type).toEqual(all.type);
  });

  test('a folder is searched alone or with its subfolders', async () => {
    const author = await organisation.as('author');
    await organisation.register('author', { folder: '1/a', title: 'Below only' });
    const inFolder = async (key: string, reach: 'here' | 'below') =>
      (
        await registerPage(organisation.app, author, {
          revisionScope: 'newest',
          q: 'title:below',
          folder: organisation.folders.get(key),
          reach,
          sort: 'number',
          order: 'asc',
          limit: 10,
        })
      ).rows.length;
    expect([
      await inFolder('1', 'here'),
      await inFolder('1', 'below'),
      await inFolder('1/a', 'here'),
      await inFolder('2', 'below'),
    ]).toEqual([0, 1, 1, 0]);
  });

  test('fields, phrases and not narrow down; a wrong grammar is refused with its place', async () => {
    const author = await organisation.as('author');
    await organisation.register('author', { title: 'Quokka overhaul', owner: 'author' });
    await organisation.register('author', { title: 'Quokka washing', owner: 'owner' });
    const hits = async (q: string) => (await find(organisation.app, author, q, 10)).hits.map((h) => h.title).sort();
    expect(await hits('quokka')).toEqual(['Quokka overhaul', 'Quokka washing']);
    expect(await hits('quokka not washing ')).toEqual(['Quokka overhaul']);
    expect(await hits('quokka owner:me')).toEqual(['Quokka overhaul']);
    expect(await hits('"quokka washing"')).toEqual(['Quokka washing']);
    expect(await hits('quok')).toHaveLength(2);
    expect(await codeOf(find(organisation.app, author, 'colour:red', 10))).toBe('search_field_unknown');
  });

  test('words of title and contents together find a document', async () => {
    const { extractText } = await import('../features/content/text.ts');
    await organisation.register('author', { title: 'Narwhal', text: 'the contents speak of xylophones' });
    for (const { sha256 } of await rows<{ sha256: string }>(
      organisation.app.db,
      `select sha256 from contents where text_state = 'waiting'`,
    ))
      await extractText(organisation.app, sha256);
    const found = await find(organisation.app, await organisation.as('author'), 'narwhal xylophone ', 10);
    expect(found.hits.map((h) => h.title)).toEqual(['Narwhal']);
    expect(found.hits[0]?.passage ?? '').toContain('⟦xylophones⟧');
  });
});

describe('rights', () => {
  test('are explained by their chain of reasons, and a withheld entry of the document beats everything', async () => {
    const { id } = await organisation.register('author', { owner: 'reader' });
    const document = await firstRow<{ folder_id: string; owner_id: string }>(
      organisation.app.db,
      'select folder_id, owner_id from documents where id = :id',
      { id },
    );
    const place = {
      id,
      folderId: document?.folder_id ?? '',
      ownerId: document?.owner_id ?? '',
      confidentiality: 'internal' as const,
    };
    const reader = await organisation.as('reader');
    expect(
      (await explain(organisation.app.db, reader, place, '2026-11-25')).reasons.map((r) => [r.place, r.subject]),
    ).toEqual([
      ['Area one', 'all'],
      ['document', 'owner'],
    ]);
    await rows(
      organisation.app.db,
      `insert into grants (id, document_id, subject_kind, subject_id, rights, withheld) values (:row, :id, 'person', :person, '{}', true)`,
      { row: newId(), id, person: reader.id },
    );
    expect((await explain(organisation.app.db, reader, place, '2026-11-25')).rights.size).toBe(0);
    expect(await codeOf(organisation.page('reader', id))).toBe('not_found');
    expect((await listScope(organisation.app.db, reader, '2026-11-25')).withheldDocuments).toEqual([id]);
  });

  test('a change of a folder’s entries counts at once, though the plan is kept in memory', async () => {
    const stranger = await organisation.as('stranger');
    expect((await listScope(organisation.app.db, stranger, '2026-11-25')).seeFolders).not.toContain(
      organisation.folders.get('closed'),
    );
    await rows(
      organisation.app.db,
      `insert into grants (id, folder_id, subject_kind, subject_id, rights) values (:row, :folder, 'person', :person, '{read}')`,
      { row: newId(), folder: organisation.folders.get('closed'), person: stranger.id },
    );
    expect((await listScope(organisation.app.db, stranger, '2026-11-25')).seeFolders).toContain(
      organisation.folders.get('closed'),
    );
  });
});

test('the audit trail is narrowed by person, document and kind, and pages backwards without a gap', async () => {
  const all = await trailPage(organisation.app, { limit: 20 });
  expect(all.rows.map((r) => r.seq)).toEqual(Array.from({ length: 20 }, (_, i) => all.total - i));
  const next = await trailPage(organisation.app, { limit: 20, before: all.next ?? undefined });
  expect(next.rows[0]?.seq).toBe(all.total - 20);
  const own = await trailPage(organisation.app, { limit: 200, person: 'author', kind: 'document.registered' });
  expect(new Set(own.rows.map((r) => `${r.actor} ${r.kind}`))).toEqual(new Set(['author document.registered']));
  expect(all.kinds).toContain('membership.started');
});
