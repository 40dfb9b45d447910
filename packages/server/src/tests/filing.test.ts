import type { api, BodyOf, Field } from '@kanonos/contract';
import { afterAll, beforeAll, expect, test } from 'vitest';
import { field } from '../../../core/src/testing/field.ts';
import { applyBulk } from '../features/bulk/service.ts';
import {
  addFolder,
  changeFolder,
  filingPlan,
  folderGrants,
  inheritedIn,
  removeFolder,
  setGrants,
} from '../features/filing/service.ts';
import { withdraw } from '../features/release/withdraw.ts';
import { changeType, typeDetail } from '../features/rules/types.ts';
import { rows } from '../platform/db/connect.ts';
import { newId } from '../platform/db/ids.ts';
import { codeOf, openOrganisation, type TestOrganisation } from './organisation.ts';

let organisation: TestOrganisation;

const setFields = async (code: string, fields: Field[], filing: string | null = null) => {
  const id = organisation.types.get(code) ?? '';
  const { rule, rowVersion } = await typeDetail(organisation.app, id);
  await changeType(organisation.app, await organisation.as('admin'), id, {
    rule: { ...rule, fields, filing },
    reason: 'for the test',
    rowVersion,
    from: null,
    fill: [],
  });
};
beforeAll(async () => {
  organisation = await openOrganisation();
  await setFields('PRO', [field('client', { default: { from: 'folder' } }), field('place')]);
});
afterAll(() => organisation.close());

const folderId = (key: string) => organisation.folders.get(key) ?? '';
const planOf = async (who: string) => (await filingPlan(organisation.app, await organisation.as(who))).folders;
const change = async (who: string, id: string, edit: Partial<BodyOf<typeof api.filing.change>>) => {
  const folder = (await planOf('admin')).find((one) => one.id === id);
  if (!folder) throw new Error('no such folder');
  const { parentId, name, code, metadata, departmentId, state, rowVersion } = folder;
  return changeFolder(organisation.app, await organisation.as(who), id, {
    ...{ parentId, name, code, metadata, departmentId, state, rowVersion },
    reason: 'as the test says',
    ...edit,
  });
};
const add = async (who: string, parentId: string | null, name: string, code: string | null = null) =>
  addFolder(organisation.app, await organisation.as(who), { parentId, name, code });

test('who manages a folder makes folders in it, an administrator makes areas; names are unique beside each other', async () => {
  const { id } = await add('controller', folderId('1'), 'Lake line');
  organisation.folders.set('lake', id);
  expect(await codeOf(add('controller', folderId('1'), ' lake  LINE '))).toBe('folder_name_taken');
  expect(await codeOf(add('author', folderId('1'), 'Mine'))).toBe('right_missing');
  expect(await codeOf(add('author', folderId('closed'), 'Mine'))).toBe('not_found');
  expect(await codeOf(add('controller', null, 'Area', '7'))).toBe('organisation_right_missing');
  const area = await add('admin', null, 'Projects', '7');
  organisation.folders.set('projects', area.id);
  expect(await codeOf(add('admin', null, 'More', '7'))).toBe('area_code_taken');
  expect(await codeOf(add('admin', null, 'More', 'a b'))).toBe('area_code_invalid');
  expect(await codeOf(add('admin', id, 'Deep', '8'))).toBe('area_code_invalid');
  // Nothing granted in the new area: nobody sees it but who administers the plan.
  expect((await planOf('controller')).some((one) => one.id === area.id)).toBe(false);
});

test('two who make the same folder at once end with one', async () => {
  const both = await Promise.allSettled([
    add('controller', folderId('1'), 'Twice'),
    add('controller', folderId('1'), 'twice'),
  ]);
  const made = await rows(organisation.app.db, `select 1 from folders where lower(name) = 'twice'`);
  expect(both.filter((one) => one.status === 'fulfilled')).toHaveLength(1);
  expect(made).toHaveLength(1);
});

test('a folder moves with all below it, never into itself, and rights follow its new place', async () => {
  const { id: inner } = await add('controller', folderId('lake'), 'Station');
  const { number } = await organisation.register('author', { folder: '1/a' });
  expect(await codeOf(change('controller', folderId('lake'), { parentId: inner }))).toBe('folder_in_itself');
  await change('controller', folderId('1/a'), { parentId: folderId('lake') });
  const plan = await planOf('controller');
  expect(plan.find((one) => one.id === folderId('1/a'))?.parentId).toBe(folderId('lake'));
  expect((await organisation.page('author', number)).folder.path).toEqual(['Area one', 'Lake line', 'Below']);
  await change('controller', folderId('1/a'), { parentId: folderId('closed') });
  expect(await codeOf(organisation.page('author', number))).toBe('not_found');
  expect((await organisation.page('controller', number)).folder.area).toBe('Closed');
  await change('controller', folderId('1/a'), { parentId: folderId('1') });
  const [row] = await rows<{ path: string[]; area_id: string }>(
    organisation.app.db,
    'select path, area_id from folders where id = :id',
    { id: folderId('1/a') },
  );
  expect(row).toEqual({ path: [folderId('1'), folderId('1/a')], area_id: folderId('1') });
});

test('documents begin with the values of their folder; inherited values follow it, values given by hand stay', async () => {
  await change('controller', folderId('lake'), { metadata: { client: 'Oberlauf' } });
  organisation.folders.set('lake', folderId('lake'));
  const first = await organisation.register('author', { folder: 'lake' });
  const second = await organisation.register('author', { folder: 'lake' });
  const metadata = (client: string) => ({ ids: [first.id], change: { metadata: { client } }, reason: 'x' });
  await applyBulk(organisation.app, await organisation.as('controller'), newId(), metadata('Oberlauf'));
  await applyBulk(organisation.app, await organisation.as('controller'), newId(), {
    ...metadata('By hand'),
    ids: [second.id],
  });
  const effect = await inheritedIn(organisation.app, await organisation.as('controller'), folderId('lake'), {
    parentId: folderId('1'),
    metadata: { client: 'Fjell' },
  });
  expect(effect).toEqual({ documents: 1, changes: [{ metadata: { client: 'Fjell' }, ids: [first.id] }] });
  expect(
    await codeOf(
      inheritedIn(organisation.app, await organisation.as('author'), folderId('lake'), {
        parentId: null,
        metadata: {},
      }),
    ),
  ).toBe('right_missing');
});

test('a folder in preparation is seen by those who may author in it only, with all that lies in it', async () => {
  const { number } = await organisation.register('author', { folder: 'lake' });
  await organisation.toInForce(number);
  expect((await organisation.page('reader', number)).number).toBe(number);
  await change('controller', folderId('lake'), { state: 'in preparation' });
  expect(await codeOf(organisation.page('reader', number))).toBe('not_found');
  expect((await organisation.page('author', number)).number).toBe(number);
  expect((await planOf('reader')).some((one) => one.id === folderId('lake'))).toBe(false);
  await change('controller', folderId('lake'), { state: 'open' });
  expect((await organisation.page('reader', number)).number).toBe(number);
});

test('a folder is closed when nothing is under way in it; then nothing in it changes but withdrawing, until it is reopened', async () => {
  const inForce = await organisation.register('author', { folder: 'lake' });
  await organisation.toInForce(inForce.number);
  const draft = await organisation.register('author', { folder: 'lake' });
  await organisation.submitAndReview(draft.number);
  expect(await codeOf(change('controller', folderId('lake'), { state: 'closed' }))).toBe('folder_has_work');
  await organisation.decideAs('owner', draft.number, 'reject', 'not yet');
  await change('controller', folderId('lake'), { state: 'closed' });
  expect(await codeOf(organisation.register('author', { folder: 'lake' }))).toBe('folder_shut');
  expect(await codeOf(organisation.submitAndReview(draft.number))).toBe('folder_shut');
  const bulk = await applyBulk(organisation.app, await organisation.as('controller'), newId(), {
    ids: [draft.id],
    change: { addKeywords: ['x'] },
    reason: 'x',
  });
  expect(bulk).toMatchObject({ changed: 0, refused: [{ number: draft.number }] });
  expect(await codeOf(change('controller', folderId('lake'), { metadata: { client: 'Overdue' } }))).toBe('folder_shut');
  expect((await organisation.page('reader', inForce.number)).number).toBe(inForce.number);
  await withdraw(organisation.app, await organisation.as('controller'), inForce.number, {
    seen: '*',
    on: null,
    reason: 'It is over',
  });
  expect(await codeOf(change('controller', folderId('lake'), { state: 'in preparation' }))).toBe('folder_state_move');
  await change('controller', folderId('lake'), { state: 'open' });
  await organisation.register('author', { folder: 'lake' });
});

test('rights on a folder: the nearest entry for a subject counts, withheld beats all, and it is on record', async () => {
  const give = async (who: string, grants: BodyOf<typeof api.filing.setGrants>['grants']) =>
    setGrants(organisation.app, await organisation.as(who), folderId('lake'), {
      grants,
      reason: 'the client asks',
      rowVersion: (await planOf('admin')).find((one) => one.id === folderId('lake'))?.rowVersion ?? 0,
    });
  const { number } = await organisation.register('author', { folder: 'lake' });
  await organisation.toInForce(number);
  const everyone = { subject: { kind: 'all' as const, id: null }, rights: ['see' as const], withheld: false };
  await give('controller', [
    everyone,
    { subject: { kind: 'person', id: organisation.ids.reader2 ?? '' }, rights: [], withheld: true },
  ]);
  expect((await organisation.page('reader', number)).rights).not.toContain('read');
  expect(await codeOf(organisation.page('reader2', number))).toBe('not_found');
  expect(await codeOf(give('author', [everyone]))).toBe('right_missing');
  expect(
    await codeOf(give('controller', [{ subject: { kind: 'unit', id: newId() }, rights: ['see'], withheld: false }])),
  ).toBe('not_found');
  const { own, above } = await folderGrants(organisation.app, await organisation.as('controller'), folderId('lake'));
  expect(own).toHaveLength(2);
  expect(above.map((one) => one.folder)).toEqual(['Area one']);
  const [event] = await rows<{ text: string }>(
    organisation.app.db,
    `select text from events where kind = 'folder.rights-changed' order by seq desc limit 1`,
  );
  expect(event?.text).toContain('the client asks');
  await give('controller', []);
  expect((await organisation.page('reader', number)).rights).toContain('read');
});

test('a type that is filed by rule makes the missing folders of its path, uses existing ones, and never makes a folder twice', async () => {
  await setFields('MEM', [field('client', { mandatory: true })], 'Area two / {field:client} / Memos');
  const viewer = await organisation.as('author');
  const { registerDocument, previewRegistration } = await import('../features/registration/service.ts');
  const { takeUpload } = await import('../features/content/uploads.ts');
  const { Readable } = await import('node:stream');
  const typeId = organisation.types.get('MEM') ?? '';
  const base = { typeId, folderId: null, title: 'A memo', number: null, label: null };
  const preview = await previewRegistration(organisation.app, viewer, {
    ...base,
    metadata: { client: 'Oberlauf' },
    extension: 'md',
  });
  expect(preview.folder).toEqual({ names: ['Area two', 'Oberlauf', 'Memos'], made: 2 });
  const missing = await previewRegistration(organisation.app, viewer, { ...base, metadata: {}, extension: 'md' });
  expect(missing.refusals.map((one) => one.code)).toEqual(['filing_needs_field_value']);
  const one = async (client: string) => {
    const upload = await takeUpload(
      organisation.app,
      viewer,
      'm.md',
      Readable.from([Buffer.from(`# ${Math.random()}`)]),
    );
    return registerDocument(
      organisation.app,
      viewer,
      { ...base, metadata: { client }, uploadId: upload.id, summary: '', ownerId: null, keywords: [], note: '' },
      null,
    );
  };
  const made = await Promise.all(['Oberlauf', 'OBERLAUF ', 'oberlauf', 'Fjell', 'Oberlauf', 'Fjell'].map(one));
  const paths = await Promise.all(
    made.map(async ({ number }) => (await organisation.page('author', number)).folder.path.join(' / ')),
  );
  expect(new Set(paths.map((path) => path.toLowerCase()))).toEqual(
    new Set(['area two / oberlauf / memos', 'area two / fjell / memos']),
  );
  expect(await rows(organisation.app.db, `select 1 from folders where name = 'Memos'`)).toHaveLength(2);
  expect(await codeOf(one(''))).toBe('filing_needs_field_value');
});

test('only an empty folder is removed', async () => {
  expect(await codeOf(removeFolder(organisation.app, await organisation.as('controller'), folderId('lake'), 'x'))).toBe(
    'folder_not_empty',
  );
  const { id } = await add('controller', folderId('1'), 'Short lived');
  await removeFolder(organisation.app, await organisation.as('controller'), id, 'a mistake');
  expect((await planOf('controller')).some((one) => one.id === id)).toBe(false);
  expect((await organisation.verdict()).kind).toBe('intact');
});
