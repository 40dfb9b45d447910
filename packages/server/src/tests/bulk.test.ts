import { BULK_AT_ONCE, type BulkChange } from '@kanonos/contract';
import { afterAll, beforeAll, expect, test } from 'vitest';
import { applyBulk, myBulk, tryBulk, undoBulk } from '../features/bulk/service.ts';
import { removeDocument, removedDocuments, restore } from '../features/documents/removing.ts';
import { find, registerPage } from '../features/find/service.ts';
import { changeType, typeDetail } from '../features/rules/types.ts';
import { rows } from '../platform/db/connect.ts';
import { newId } from '../platform/db/ids.ts';
import { codeOf, openOrganisation, type TestOrganisation } from './organisation.ts';

let organisation: TestOrganisation;
const docs: { id: string; number: string }[] = [];
const FILTER = { revisionScope: 'newest' as const, q: '', reach: 'below' as const };

beforeAll(async () => {
  organisation = await openOrganisation();
  const typeId = organisation.types.get('PRO') ?? '';
  const { rule, rowVersion } = await typeDetail(organisation.app, typeId);
  const documentFields = { kind: 'text' as const, mandatory: false, level: 'document' as const };
  await changeType(organisation.app, await organisation.as('admin'), typeId, {
    rule: {
      ...rule,
      fields: [
        ...rule.fields,
        { key: 'client', label: 'Client', ...documentFields },
        { key: 'tag', label: 'Tag', ...documentFields, unique: true },
      ],
    },
    reason: 'for the test',
    rowVersion,
    from: null,
    fill: [],
  });
  for (let i = 0; i < 6; i++)
    docs.push(
      await organisation
        .register('author', { title: `Document ${i}`, folder: i < 4 ? '1' : 'closed' })
        .catch(() => organisation.register('controller', { title: `Document ${i}`, folder: 'closed' })),
    );
  docs.push(await organisation.register('author', { type: 'TWO', title: 'Without that field' }));
});
afterAll(() => organisation.close());

const idAt = (i: number) => docs[i]?.id ?? '';
const ids = (...at: number[]) => at.map(idAt);
const trial = async (who: string, picked: string[] | null, change: BulkChange) =>
  tryBulk(organisation.app, await organisation.as(who), { ids: picked, filter: picked ? null : FILTER, change });
const apply = async (who: string, picked: string[], change: BulkChange, id = newId()) => ({
  id,
  ...(await applyBulk(organisation.app, await organisation.as(who), id, { ids: picked, change, reason: 'told so' })),
});
const metadataOf = async (i: number) => (await organisation.page('controller', idAt(i))).metadata;
const events = async (kind: string) =>
  (
    await rows<{ n: number }>(organisation.app.db, `select count(*)::int as n from events where kind = :kind`, { kind })
  )[0]?.n;

test('a trial lists the differences by document and those left unchanged, and changes nothing', async () => {
  const tried = await trial('controller', null, { metadata: { client: 'Oberlauf' } });
  expect(tried.total).toBe(7);
  expect(tried.ids).toHaveLength(6);
  expect(tried.refused).toMatchObject([{ number: docs[6]?.number, reasons: ['This type has no field “client”.'] }]);
  expect(tried.sample[0]).toMatchObject({ differences: [{ what: 'Client', before: '–', after: 'Oberlauf' }] });
  expect((await metadataOf(0)).client).toBeUndefined();
});

test('invisible documents are left out, and unchangeable ones are named', async () => {
  const author = await trial('author', ids(0, 1, 4, 5), { metadata: { client: 'x' } });
  expect(author.total).toBe(2);
  const stranger = await trial('reader', ids(0, 1), { metadata: { client: 'x' } });
  expect(stranger).toMatchObject({ total: 0, refused: [], ids: [] });
});

test('each changed document has its own event and the same document is changed once however often it is sent', async () => {
  const first = await apply('controller', ids(0, 1, 6), { metadata: { client: 'Oberlauf' } });
  expect(first).toMatchObject({ changed: 2, refused: [{ number: docs[6]?.number }] });
  expect((await apply('controller', ids(0, 1), { metadata: { client: 'Oberlauf' } }, first.id)).changed).toBe(0);
  expect(await events('metadata.changed-in-bulk')).toBe(2);
  expect((await metadataOf(1)).client).toBe('Oberlauf');
  // The new words are found at once.
  const found = await find(organisation.app, await organisation.as('controller'), 'Oberlauf', 10);
  expect(found.hits.map((hit) => hit.number).sort()).toEqual([docs[0]?.number, docs[1]?.number].sort());
});

test('undone, everything is as before; documents changed again stay and are named', async () => {
  const change = await apply('controller', ids(0, 1, 2), {
    addKeywords: ['winter'],
    ownerId: organisation.ids.author ?? '',
  });
  await apply('controller', ids(1), { metadata: { client: 'Fjell' } });
  const undone = await undoBulk(organisation.app, await organisation.as('controller'), change.id);
  expect(undone).toMatchObject({ undone: 2, left: 0, kept: [{ number: docs[1]?.number }] });
  expect((await organisation.page('controller', idAt(0))).keywords).toEqual([]);
  expect((await organisation.page('controller', idAt(0))).owner.name).toBe('Owner');
  expect(await organisation.page('controller', idAt(1))).toMatchObject({
    keywords: ['winter'],
    metadata: { client: 'Fjell' },
  });
  expect(await codeOf(undoBulk(organisation.app, await organisation.as('author'), change.id))).toBe('not_found');
  const mine = await myBulk(organisation.app, await organisation.as('controller'));
  expect(mine.changes.find((one) => one.id === change.id)).toMatchObject({ documents: 3, undone: 3 });
});

test('moving asks for author where it goes, and rights follow the folder from then on', async () => {
  const tried = await trial('author', ids(3), { folderId: organisation.folders.get('closed') ?? '' }).catch(
    (error) => error.refusals[0].code,
  );
  expect(tried).toBe('not_found');
  await apply('controller', ids(3), { folderId: organisation.folders.get('closed') ?? '' });
  expect(await codeOf(organisation.page('author', idAt(3)))).toBe('not_found');
  expect((await organisation.page('controller', idAt(3))).folder.name).toBe('Closed');
});

test('a value that must be unique is not given to many, an unknown owner not taken, and nothing is no change', async () => {
  expect((await trial('controller', ids(0, 1), { metadata: { tag: 'T' } })).refusedCount).toBe(2);
  expect(await codeOf(trial('controller', ids(0), { ownerId: newId() }))).toBe('not_found');
  expect(await codeOf(trial('controller', ids(0), {}))).toBe('bulk_nothing');
});

test('two changes of the same documents at once wait for each other and both are kept', async () => {
  const both = await Promise.all([
    apply('controller', ids(0, 1, 2), { addKeywords: ['one'] }),
    apply('controller', ids(2, 1, 0), { addKeywords: ['two'] }),
  ]);
  expect(both.map((one) => one.changed)).toEqual([3, 3]);
  expect((await organisation.page('controller', idAt(1))).keywords.filter((word) => word !== 'winter').sort()).toEqual([
    'one',
    'two',
  ]);
});

test('a document that never was in force is removed and comes back as it was; its number stays taken', async () => {
  const { id, number } = await organisation.register('author', { title: 'A mistake' });
  expect(
    await codeOf(removeDocument(organisation.app, await organisation.as('author'), id, { reason: 'twice', seen: '*' })),
  ).toBe('right_missing');
  await removeDocument(organisation.app, await organisation.as('controller'), id, {
    reason: 'Registered twice',
    seen: '*',
  });
  const listed = await registerPage(organisation.app, await organisation.as('controller'), {
    ...FILTER,
    sort: 'number',
    order: 'asc',
    limit: 200,
  });
  expect(listed.rows.some((row) => row.number === number)).toBe(false);
  expect(await codeOf(organisation.page('author', id))).toBe('not_found');
  expect((await organisation.page('controller', id)).removedAt).not.toBeNull();
  expect((await removedDocuments(organisation.app, await organisation.as('controller'))).documents).toMatchObject([
    { number, reason: 'Registered twice', by: 'Controller' },
  ]);
  expect((await removedDocuments(organisation.app, await organisation.as('author'))).documents).toEqual([]);
  expect((await organisation.register('author')).number).not.toBe(number);
  await restore(organisation.app, await organisation.as('controller'), id, { reason: 'It is needed', seen: '*' });
  expect((await organisation.page('author', id)).revision.state).toBe('draft');
});

test('documents that were in force, are checked out or in a round are not removed', async () => {
  const { id } = await organisation.register('author');
  await organisation.toInForce(id);
  expect(
    await codeOf(
      removeDocument(organisation.app, await organisation.as('controller'), id, { reason: 'no', seen: '*' }),
    ),
  ).toBe('was_in_force');
  expect(
    await codeOf(restore(organisation.app, await organisation.as('controller'), id, { reason: 'no', seen: '*' })),
  ).toBe('not_removed');
});

test('more documents than one call takes are changed and undone part by part, and the trail verifies', async () => {
  const many = [];
  for (let i = 0; i < BULK_AT_ONCE + 20; i += 30)
    many.push(
      ...(await Promise.all(
        Array.from({ length: 30 }, (_, k) => organisation.register('author', { title: `Many ${i + k}` })),
      )),
    );
  const tried = await trial(
    'controller',
    many.map((one) => one.id),
    { addKeywords: ['many'] },
  );
  const id = newId();
  for (let at = 0; at < tried.ids.length; at += BULK_AT_ONCE)
    await apply('controller', tried.ids.slice(at, at + BULK_AT_ONCE), { addKeywords: ['many'] }, id);
  const first = await undoBulk(organisation.app, await organisation.as('controller'), id);
  expect(first).toMatchObject({ undone: BULK_AT_ONCE, left: many.length - BULK_AT_ONCE });
  expect((await undoBulk(organisation.app, await organisation.as('controller'), id)).left).toBe(0);
  expect((await organisation.verdict()).kind).toBe('intact');
});
