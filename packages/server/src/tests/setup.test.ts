import { Readable } from 'node:stream';
import { afterAll, beforeAll, describe, expect, test } from 'vitest';
import { rightsOnFolders, type Viewer, viewerOf } from '../features/access/index.ts';
import { takeUpload } from '../features/content/index.ts';
import { addPerson, changePerson, personDetail } from '../features/people/service.ts';
import { registerDocument } from '../features/registration/index.ts';
import { listFolders, listTypes } from '../features/rules/index.ts';
import { me, setPasswordByLink } from '../features/session/service.ts';
import { STARTING_CONFIGURATIONS } from '../features/setup/configurations/index.ts';
import * as setup from '../features/setup/service.ts';
import { hashPassword } from '../platform/auth/passwords.ts';
import { firstRow, rows } from '../platform/db/connect.ts';
import { codeOf, cookieOf, openApplication, PASSWORD, UNPLACED } from './organisation.ts';

type Opened = Awaited<ReturnType<typeof openApplication>>;
const DAY = '2026-11-25';

/** An empty organisation as its first start makes it, and its administrator as a viewer. */
const openEmpty = async () => {
  const opened = await openApplication();
  const begun = await setup.beginEmpty(opened.app, 'Europe/Zurich');
  const founder = await firstRow<{ id: string }>(opened.app.db, 'select id from people');
  return { ...opened, begun, founder: () => viewerOf(opened.app.db, founder?.id ?? '', DAY) };
};

const codesOf = (id: string) =>
  STARTING_CONFIGURATIONS.find((one) => one.id === id)?.package.types.map(({ rule }) => rule.code) ?? [];
const doneOf = async (opened: Opened) =>
  (await setup.setupState(opened.app)).steps.filter(({ done }) => done).map(({ step }) => step);

describe('an empty organisation', () => {
  let opened: Awaited<ReturnType<typeof openEmpty>>;
  beforeAll(async () => {
    opened = await openEmpty();
  });
  afterAll(() => opened.close());

  test('has nobody but an administrator, whose one-time link sets the password and leads to the first steps', async () => {
    expect(opened.begun.signInName).toBe('administrator');
    const link = new URL(opened.begun.link);
    expect(link.searchParams.get('to')).toBe('/setup');
    const token = link.pathname.split('/').at(-1) ?? '';
    await setPasswordByLink(opened.app, token, 'lantern-of-the-harbour-7');
    expect(await codeOf(setPasswordByLink(opened.app, token, 'another-of-the-harbour-8'))).not.toBe('done');
    const shown = await me(opened.app, (await opened.founder()).id);
    expect(shown).toMatchObject({ outside: false, department: null, mayRegister: false });
    expect([...shown.organisationRights].sort()).toEqual(['administer', 'audit', 'people', 'security']);
  });

  test('offers six steps of which none is done, and is not begun twice', async () => {
    const state = await setup.setupState(opened.app);
    expect(state).toMatchObject({ isOpen: true, mail: { server: null } });
    expect(state.steps.map(({ step }) => step)).toEqual([
      'organisation',
      'administrator',
      'configuration',
      'people',
      'mail',
      'documents',
    ]);
    expect(await doneOf(opened)).toEqual([]);
    expect(await codeOf(setup.beginEmpty(opened.app, 'UTC'))).toBe('changed_meanwhile');
  });

  test('has steps that are done by what is done in them, and can be closed and opened again', async () => {
    const founder = await opened.founder();
    expect(await codeOf(setup.sendTestMail(opened.app, founder))).toBe('mail_address_missing');
    await changePerson(opened.app, founder, founder.id, {
      name: 'Ada Brook',
      email: 'ada@brook.example',
      organisationRights: [...founder.organisationRights],
      rowVersion: (await personDetail(opened.app, founder.id)).rowVersion,
    });
    expect(await setup.sendTestMail(opened.app, await opened.founder())).toEqual({ to: 'ada@brook.example' });
    expect(await doneOf(opened)).toEqual(['administrator']);
    await rows(opened.app.db, `update mails set state = 'sent' where kind = 'test'`);
    expect(await doneOf(opened)).toEqual(['administrator', 'mail']);
    await setup.closeSetup(opened.app, founder, false);
    expect((await setup.setupState(opened.app)).isOpen).toBe(false);
    await setup.closeSetup(opened.app, founder, true);
    expect((await setup.setupState(opened.app)).isOpen).toBe(true);
  });

  test('is set up by administrators alone', async () => {
    const { id } = await addPerson(opened.app, await opened.founder(), {
      signInName: 'nils.berg',
      name: 'Nils Berg',
      email: 'nils@brook.example',
      from: DAY,
      ...UNPLACED,
    });
    await rows(opened.app.db, `update people set password_hash = :hash, state = 'active' where id = :id`, {
      hash: await hashPassword(PASSWORD),
      id,
    });
    const base = await opened.listen();
    const cookie = await cookieOf(base, 'nils.berg');
    for (const path of ['/api/setup', '/api/setup/configurations', '/api/setup/holidays'])
      expect((await fetch(`${base}${path}`, { headers: { cookie } })).status, path).toBe(403);
  });
});

describe.each(STARTING_CONFIGURATIONS.map(({ id, name }) => [name, id]))('the configuration %s', (_, id) => {
  let opened: Awaited<ReturnType<typeof openEmpty>>;
  let founder: Viewer;
  beforeAll(async () => {
    opened = await openEmpty();
    await setup.applyStartingConfiguration(opened.app, await opened.founder(), {
      id,
      types: codesOf(id),
      join: ['role/CTRL', 'group/AUTH'],
    });
    founder = await opened.founder();
  });
  afterAll(() => opened.close());

  test('gives types, folders with rights, and the administrator a part in them', async () => {
    const types = await listTypes(opened.app.db);
    expect(types.map(({ code }) => code).sort()).toEqual([...codesOf(id)].sort());
    for (const { numbering_rule } of types) if (numbering_rule) expect(numbering_rule).toMatch(/^ORG-/);
    const rights = await rightsOnFolders(opened.app.db, founder);
    const folders = await listFolders(opened.app.db);
    expect(folders.length).toBeGreaterThan(3);
    const [area] = folders;
    expect(rights.get(area?.id ?? '')).toContain('author');
    expect(rights.get(area?.id ?? '')).toContain('release');
    expect(await doneOf(opened)).toEqual(['configuration']);
  });

  test('gives the members of its roles organisation-wide rights, from their first day to their last', async () => {
    const { id: personId } = await addPerson(opened.app, founder, {
      signInName: 'controller',
      name: 'Cora Trell',
      email: 'cora@brook.example',
      from: DAY,
      departmentId: null,
      supervisorId: null,
      roleIds: [
        (await firstRow<{ id: string }>(opened.app.db, `select id from units where kind = 'role' and code = 'CTRL'`))
          ?.id ?? '',
      ],
      groupIds: [],
      siteId: null,
      outside: false,
    });
    const rightsOn = async (day: string) =>
      [...(await viewerOf(opened.app.db, personId, day)).organisationRights].sort();
    expect(await rightsOn(DAY)).toEqual(['audit', 'people']);
    expect(await rightsOn('2026-11-24')).toEqual([]);
    await rows(opened.app.db, `update memberships set to_day = '2026-12-01' where person_id = :personId`, { personId });
    expect(await rightsOn('2026-12-02')).toEqual([]);
  });

  test('lets the administrator register the first document at once', async () => {
    const metadata: Record<string, string> = id === 'engineering' ? { project: 'P-001' } : {};
    const [type] = (await listTypes(opened.app.db)).filter(
      ({ fields, numbering_rule }) =>
        numbering_rule && fields.every((field) => !field.mandatory || field.key in metadata),
    );
    const folder = (await listFolders(opened.app.db)).find((one) => one.path.length === 2);
    const upload = await takeUpload(opened.app, founder, 'first.md', Readable.from([Buffer.from('# First words')]));
    const { number } = await registerDocument(
      opened.app,
      founder,
      { typeId: type?.id ?? '', folderId: folder?.id ?? '', title: 'First words', metadata, uploadId: upload.id },
      null,
    );
    expect(number).toBe(`ORG-${type?.code}-0001`);
    expect(await doneOf(opened)).toContain('documents');
  });

  test('taken over once more changes nothing and says so', async () => {
    const again = setup.applyStartingConfiguration(opened.app, founder, { id, types: codesOf(id), join: [] });
    expect(await codeOf(again)).toBe('nothing_changed');
  });
});

test('a trimmed configuration brings the chosen types alone, and a second one adds to it', async () => {
  const opened = await openEmpty();
  const founder = await opened.founder();
  const apply = (id: string, types: string[]) =>
    setup.applyStartingConfiguration(opened.app, founder, { id, types, join: [] });
  expect(await codeOf(apply('nothing', ['POL']))).toBe('not_found');
  expect(await codeOf(apply('quality', ['SOP']))).toBe('nothing_changed');
  expect((await apply('quality', ['POL', 'PRO'])).types).toBe(2);
  const { folders } = await apply('engineering', ['DWG']);
  expect(folders).toBe(5);
  expect((await listTypes(opened.app.db)).map(({ code }) => code).sort()).toEqual(['DWG', 'POL', 'PRO']);
  await opened.close();
});
