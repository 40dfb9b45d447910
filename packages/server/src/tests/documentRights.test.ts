import { beforeAll, describe, expect, test } from 'vitest';
import { documentGrants, explainRights, rightHolders, setDocumentGrants } from '../features/rights/service.ts';
import { rows } from '../platform/db/connect.ts';
import { codeOf, cookieOf } from './organisation.ts';
import { withOrganisation } from './withOrganisation.ts';

// Rights on one document beside those of its folders, what they give and why, and seeing the application as somebody.

const organisation = withOrganisation();
let base: string;
beforeAll(async () => {
  base = await organisation.listen();
}, 180_000);

const app = () => organisation.app;
const as = (name: string) => organisation.as(name);
const id = (name: string) => organisation.ids[name] ?? '';
const person = (name: string) => ({ kind: 'person' as const, id: id(name) });
const inClosed = async () => {
  const document = await organisation.register('author', { owner: 'owner' });
  await organisation.toInForce(document.number);
  await rows(organisation.app.db, 'update documents set folder_id = :folder where id = :id', {
    folder: organisation.folders.get('closed'),
    id: document.id,
  });
  return document;
};

describe('rights on one document', () => {
  test('give a person one document of a folder that stays closed, and are taken away again', async () => {
    const { number } = await inClosed();
    expect(await codeOf(organisation.page('stranger', number))).toBe('not_found');
    const { tag, own } = await documentGrants(app(), await as('owner'), number);
    expect(own).toEqual([]);
    await setDocumentGrants(app(), await as('owner'), number, {
      grants: [{ subject: person('stranger'), rights: ['read', 'download'], withheld: false }],
      tag,
      reason: 'audit',
    });
    expect((await organisation.page('stranger', number)).number).toBe(number);
    const after = await documentGrants(app(), await as('owner'), number);
    expect(after.own.map(({ subject, rights }) => [subject.id, rights])).toEqual([
      [id('stranger'), ['read', 'download']],
    ]);
    await setDocumentGrants(app(), await as('owner'), number, { grants: [], tag: after.tag, reason: 'audit is over' });
    expect(await codeOf(organisation.page('stranger', number))).toBe('not_found');
    const events = await rows<{ text: string }>(
      organisation.app.db,
      `select text from events where kind = 'document.rights-changed' order by seq`,
    );
    expect(events.map(({ text }) => JSON.parse(text).payload.reason)).toEqual(['audit', 'audit is over']);
  });

  test('are not overwritten unseen, and refuse what changes nothing or names nobody', async () => {
    const { number } = await inClosed();
    const grant = { subject: person('reader'), rights: ['read' as const], withheld: false };
    const set = async (tag: string, grants: (typeof grant)[]) =>
      codeOf(setDocumentGrants(app(), await as('owner'), number, { grants, tag, reason: 'x' }));
    const { tag } = await documentGrants(app(), await as('owner'), number);
    expect(await set(tag, [])).toBe('nothing_changed');
    expect(await set(tag, [{ ...grant, subject: { kind: 'person', id: crypto.randomUUID() } }])).toBe('not_found');
    await setDocumentGrants(app(), await as('owner'), number, { grants: [grant], tag, reason: 'x' });
    expect(await set(tag, [])).toBe('changed_meanwhile');
  });

  test('are changed by who manages the document or administers, by nobody else', async () => {
    const { number } = await organisation.register('author', { owner: 'owner' });
    await organisation.toInForce(number);
    expect(await codeOf(documentGrants(app(), await as('reader'), number))).toBe('right_missing');
    expect(await codeOf(documentGrants(app(), await as('owner'), number))).toBe('done');
  });
});

describe('who may do what, and why', () => {
  test('names every entry that counts, ownership, and what is withheld by name', async () => {
    const { number } = await inClosed();
    const { tag } = await documentGrants(app(), await as('owner'), number);
    await setDocumentGrants(app(), await as('owner'), number, {
      grants: [
        { subject: person('reader'), rights: ['read'], withheld: false },
        { subject: person('author2'), rights: [], withheld: true },
      ],
      tag,
      reason: 'x',
    });
    const explain = async (name: string) => explainRights(app(), await as('owner'), number, id(name));
    expect(await explain('owner')).toMatchObject({
      rights: expect.arrayContaining(['manage', 'author', 'see']),
      reasons: expect.arrayContaining([expect.objectContaining({ why: 'owner', rights: ['manage'] })]),
    });
    expect(await explain('reader')).toMatchObject({
      rights: ['see', 'read'],
      reasons: [{ why: 'entry', folder: null, rights: ['read'], withheld: false }],
    });
    expect(await explain('author2')).toMatchObject({ rights: [], reasons: [{ why: 'entry', withheld: true }] });
  });

  test('is told to everybody of themselves, of others to who manages or audits', async () => {
    const { number } = await organisation.register('author', { owner: 'owner' });
    await organisation.toInForce(number);
    const self = await explainRights(app(), await as('reader'), number);
    expect([self.person.id, self.mayAskOthers, self.mayChange]).toEqual([id('reader'), false, false]);
    expect(self.rights).toContain('read');
    expect(await codeOf(explainRights(app(), await as('reader'), number, id('owner')))).toBe('right_missing');
  });

  test('names who has a right, the owner first', async () => {
    const { number } = await inClosed();
    const { tag } = await documentGrants(app(), await as('owner'), number);
    await setDocumentGrants(app(), await as('owner'), number, {
      grants: [{ subject: person('author2'), rights: ['author'], withheld: false }],
      tag,
      reason: 'x',
    });
    const { holders } = await rightHolders(app(), await as('author2'), number, 'author');
    const names = await rows<{ id: string; name: string }>(organisation.app.db, 'select id, name from people');
    const nameOf = (who: string) => names.find((one) => one.id === id(who))?.name;
    expect(holders[0]).toBe(nameOf('owner'));
    expect(holders).toContain(nameOf('author2'));
    expect((await rightHolders(app(), await as('author2'), number, 'release')).holders).not.toContain(nameOf('owner'));
  });
});

describe('seeing as somebody', () => {
  const call = async (cookie: string, method: string, path: string, body?: unknown) => {
    const answer = await fetch(base + path, {
      method,
      headers: { cookie, ...(body ? { 'content-type': 'application/json' } : {}) },
      ...(body ? { body: JSON.stringify(body) } : {}),
    });
    return { status: answer.status, body: (await answer.json()) as Record<string, never> & { code?: string } };
  };

  test('shows what that person sees, changes nothing, is on record and ends', async () => {
    const cookie = await cookieOf(base, 'admin');
    const { number } = await organisation.register('author', { owner: 'owner' });
    await organisation.toInForce(number);
    const seen = await call(cookie, 'POST', '/api/session/see-as', {
      personId: id('reader'),
      reason: 'A support call',
    });
    expect(seen.status).toBe(200);
    const { body: me } = await call(cookie, 'GET', '/api/session');
    expect([me.id, me.seenBy, me.organisationRights]).toEqual([id('reader'), expect.any(String), []]);
    expect((await call(cookie, 'GET', '/api/trail')).status).toBe(403);
    const refused = await call(cookie, 'POST', `/api/documents/${number}/check-out`, { seen: '*' });
    expect([refused.status, refused.body.code]).toEqual([403, 'seeing_as_read_only']);

    const page = await organisation.page('reader', number);
    const file = page.versions[0]?.files[0]?.id ?? '';
    await (await fetch(`${base}/api/files/${file}`, { headers: { cookie } })).arrayBuffer();
    const [use] = await rows<{ person_id: string }>(
      organisation.app.db,
      'select person_id from usage where file_id = :file order by id desc limit 1',
      { file },
    );
    expect(use?.person_id).toBe(id('admin'));

    expect((await call(cookie, 'DELETE', '/api/session/see-as')).status).toBe(200);
    expect((await call(cookie, 'GET', '/api/session')).body.id).toBe(id('admin'));
    const events = await rows<{ text: string }>(
      organisation.app.db,
      `select text from events where kind like 'seeing-as.%' order by seq`,
    );
    expect(
      events.map(({ text }) => JSON.parse(text)).map(({ kind, actor, payload }) => [kind, actor, payload]),
    ).toEqual([
      ['seeing-as.started', 'admin', { reason: 'A support call' }],
      ['seeing-as.ended', 'admin', {}],
    ]);
  });

  test('is for administrators alone, and not of oneself', async () => {
    const [reader, admin] = [await cookieOf(base, 'reader'), await cookieOf(base, 'admin')];
    const see = (cookie: string, who: string) =>
      call(cookie, 'POST', '/api/session/see-as', { personId: id(who), reason: 'x' });
    expect((await see(reader, 'author')).status).toBe(403);
    expect((await see(admin, 'admin')).body.code).toBe('seeing_as_oneself');
  });
});
