import { Readable } from 'node:stream';
import { api } from '@kanonos/contract';
import { strFromU8, unzipSync } from 'fflate';
import { describe, expect, test } from 'vitest';
import { checkOut } from '../features/authoring/index.ts';
import { checkOutMany, copyMany, idsFound, submitMany } from '../features/bulk/commands.ts';
import { queueDownloadPackage } from '../features/bulk/downloadPackages.ts';
import { applyBulk, tryBulk } from '../features/bulk/service.ts';
import { takeUpload } from '../features/content/uploads.ts';
import { removeFolder } from '../features/filing/service.ts';
import { addShortcuts, removeShortcut } from '../features/filing/shortcuts.ts';
import { facetsOf, registerPage } from '../features/find/service.ts';
import { registerDocument } from '../features/registration/service.ts';
import { rows } from '../platform/db/connect.ts';
import { newId } from '../platform/db/ids.ts';
import { codeOf, cookieOf } from './organisation.ts';
import { withOrganisation } from './withOrganisation.ts';

const organisation = withOrganisation();

const folder = (key: string) => organisation.folders.get(key) ?? '';
const inFolder = async (person: string, key: string, reach: 'here' | 'below' = 'below') => {
  const query = api.find.register.query.parse({ folder: folder(key), reach, limit: 200 });
  const numbers = (await registerPage(organisation.app, await organisation.as(person), query)).rows.map(
    (row) => row.number,
  );
  expect((await facetsOf(organisation.app, await organisation.as(person), query)).total).toBe(numbers.length);
  return numbers;
};

test('a shortcut shows a document in a further folder, gives no right, and goes with its folder', async () => {
  const { id, number } = await organisation.register('author');
  const add = (person: string, key: string, ids = [id]) =>
    organisation.as(person).then((viewer) => addShortcuts(organisation.app, viewer, { ids, folderId: folder(key) }));
  expect(await inFolder('author', '2')).not.toContain(number);
  expect((await add('author', '2')).added).toBe(1);
  expect((await add('author', '2')).added).toBe(0);
  expect(await inFolder('author', '2')).toContain(number);
  expect(await inFolder('author', '2', 'here')).toContain(number);
  // Never released: for readers it is not there, in the second folder neither.
  expect(await inFolder('reader', '2')).not.toContain(number);
  expect((await organisation.page('author', number)).shortcuts.map((one) => one.path)).toEqual([['Area two']]);
  expect((await add('author', '1')).refused).toHaveLength(1);
  expect(await codeOf(add('reader', '2'))).toBe('right_missing');
  expect(await codeOf(add('author', 'closed'))).toBe('not_found');
  const hidden = await organisation.register('author2');
  await rows(
    organisation.app.db,
    `insert into grants (id, document_id, subject_kind, subject_id, rights, withheld) values (gen_random_uuid(), :id, 'person', :person, '{}', true)`,
    { id: hidden.id, person: organisation.ids.author },
  );
  expect((await add('author', '2', [hidden.id])).added).toBe(0);
  await removeShortcut(organisation.app, await organisation.as('author2'), { documentId: id, folderId: folder('2') });
  expect(await inFolder('author', '2')).not.toContain(number);
  await add('author', '1/a');
  await removeFolder(organisation.app, await organisation.as('controller'), folder('1/a'), 'not needed');
  expect((await organisation.page('author', number)).shortcuts).toEqual([]);
});

test('a moved document takes over the values of its new folder, where nobody set them by hand', async () => {
  await rows(organisation.app.db, `update types set fields = :fields::jsonb where code = 'TWO'`, {
    fields: JSON.stringify([
      { key: 'client', label: 'Client', kind: 'text', mandatory: true, level: 'document', default: { from: 'folder' } },
    ]),
  });
  await rows(organisation.app.db, 'update folders set metadata = :metadata::jsonb where id = :id', {
    id: folder('1'),
    metadata: JSON.stringify({ client: 'Old' }),
  });
  await rows(organisation.app.db, 'update folders set metadata = :metadata::jsonb where id = :id', {
    id: folder('2'),
    metadata: JSON.stringify({ client: 'New' }),
  });
  const make = async (client: string | null) =>
    organisation.registerAs('author', {
      typeId: organisation.types.get('TWO') ?? '',
      folderId: folder('1'),
      title: 'x',
      metadata: { client },
      uploadId: (
        await takeUpload(organisation.app, await organisation.as('author'), 'x.md', Readable.from([Buffer.from('x')]))
      ).id,
    });
  const [inherited, own, none] = [await make('Old'), await make('By hand'), await make(null)];
  const find = async (q: string) =>
    (
      await registerPage(
        organisation.app,
        await organisation.as('author'),
        api.find.register.query.parse({ q, limit: 200 }),
      )
    ).rows.map((row) => row.number);
  expect(await find('missing:mandatory')).toContain(none.number);
  expect(await find('missing:client')).not.toContain(own.number);
  const change = { folderId: folder('2') };
  const ids = [inherited.id, own.id, none.id];
  const trial = await tryBulk(organisation.app, await organisation.as('controller'), { ids, filter: null, change });
  expect(trial.sample.map((one) => one.differences.map((d) => `${d.what}: ${d.after}`).sort())).toEqual([
    ['Client: New', 'Folder: Area two'],
    ['Folder: Area two'],
    ['Client: New', 'Folder: Area two'],
  ]);
  await applyBulk(organisation.app, await organisation.as('controller'), newId(), {
    ids,
    change,
    reason: 'filed wrongly',
  });
  const clients = await Promise.all(ids.map(async (id) => (await organisation.page('author', id)).metadata.client));
  expect(clients).toEqual(['New', 'By hand', 'New']);
});

test('copies take metadata and files and begin anew; drafts are submitted each by its route; failed ones are named', async () => {
  const first = await organisation.register('author', { title: 'Model' });
  await organisation.toInForce(first.number);
  const outside = await organisation.register('author', { type: 'MEM' });
  const copied = await copyMany(organisation.app, await organisation.as('author2'), {
    ids: [first.id, newId()],
    folderId: null,
  });
  expect(copied.done).toHaveLength(1);
  expect(copied.refused[0]).toMatchObject({ number: '' });
  const made = copied.done[0]?.made ?? '';
  const [page, model] = [await organisation.page('author2', made), await organisation.page('author2', first.number)];
  expect(page).toMatchObject({ revision: { title: 'Model', label: 'A', state: 'draft' }, owner: { name: 'Author2' } });
  expect(page.versions[0]?.files[0]?.sha256).toBe(model.versions[0]?.files[0]?.sha256);
  const sent = await submitMany(organisation.app, await organisation.as('author2'), {
    ids: [page.id, outside.id],
    message: '',
    chosen: [organisation.ids.reviewer ?? ''],
  });
  expect([sent.done.map((one) => one.number), sent.refused.map((one) => one.number)]).toEqual([
    [made],
    [outside.number],
  ]);
  expect((await organisation.page('author2', made)).revision.state).toBe('in review');
});

test('a download package holds the downloadable files, under rule-made names, each recorded, and lists what was left out', async () => {
  const base = await organisation.listen();
  const [a, b] = [
    await organisation.register('author', { title: 'One' }),
    await organisation.register('author', { title: 'Two' }),
  ];
  await organisation.toInForce(a.number);
  await organisation.toInForce(b.number);
  await rows(organisation.app.db, `update documents set confidentiality = 'restricted' where id = :id`, { id: b.id });
  const draft = await organisation.register('author');
  const { id } = await queueDownloadPackage(organisation.app, await organisation.as('reader'), {
    ids: [a.id, b.id, draft.id],
    filter: null,
    content: 'released',
  });
  const fetchAs = async (person: string) =>
    fetch(`${base}/api/download-packages/${id}`, { headers: { cookie: await cookieOf(base, person) } });
  expect((await fetchAs('author')).status).toBe(404);
  const files = unzipSync(new Uint8Array(await (await fetchAs('reader')).arrayBuffer()));
  expect(Object.keys(files)).toEqual([`${a.number}_A_One.md`, 'contents.csv']);
  const list = strFromU8(files['contents.csv'] ?? new Uint8Array());
  expect(list).toContain(`${b.number};Two;A;in force;;;`);
  expect(list).not.toContain(draft.number);
  const [usage] = await rows<{ n: number }>(
    organisation.app.db,
    `select count(*)::int as n from usage where person_id = :person and action = 'downloaded'`,
    { person: organisation.ids.reader },
  );
  expect(usage?.n).toBe(1);
});

describe('checking out many', () => {
  const unzipped = async (person: string, ids: string[]) => {
    const base = await organisation.listen();
    const viewer = await organisation.as(person);
    const { id } = await queueDownloadPackage(organisation.app, viewer, { ids, filter: null, content: 'work' });
    const answer = await fetch(`${base}/api/download-packages/${id}`, {
      headers: { cookie: await cookieOf(base, person) },
    });
    return Object.keys(unzipSync(new Uint8Array(await answer.arrayBuffer())));
  };

  test('each is checked out as if alone, those that cannot be are named, and their originals come in one package', async () => {
    const [a, b] = [
      await organisation.register('author', { title: 'Three' }),
      await organisation.register('author', { title: 'Four' }),
    ];
    const first = await checkOutMany(organisation.app, await organisation.as('author2'), {
      ids: [b.id],
      note: '',
      expectedBack: null,
    });
    expect(first.done).toHaveLength(1);
    const { done, refused } = await checkOutMany(organisation.app, await organisation.as('author'), {
      ids: [a.id, b.id, newId()],
      note: 'Yearly round',
      expectedBack: '2026-12-11',
    });
    expect(done.map((one) => one.number)).toEqual([a.number]);
    expect(refused.map((one) => one.number)).toEqual([b.number, '']);
    expect((await organisation.page('author', a.id)).checkout).toMatchObject({ note: 'Yearly round', mine: true });
    expect(await unzipped('author', [a.id])).toEqual([`${a.number}_A_Three.md`, 'contents.csv']);
  });

  test('every original of a document is handed out, and each is on record', async () => {
    const author = await organisation.as('author');
    const upload = async (text: string) =>
      (await takeUpload(organisation.app, author, `${text}.md`, Readable.from([Buffer.from(`# ${text}`)]))).id;
    const { id } = await registerDocument(
      organisation.app,
      author,
      {
        typeId: organisation.types.get('PRO') ?? '',
        folderId: folder('1'),
        title: 'Two sheets',
        uploadId: await upload('left'),
        more: [{ uploadId: await upload('right') }],
      },
      null,
    );
    const { fileIds } = await checkOut(organisation.app, author, id, { seen: '*', note: '', expectedBack: null });
    expect(fileIds).toHaveLength(2);
    const [usage] = await rows<{ n: number }>(
      organisation.app.db,
      `select count(*)::int as n from usage where document_id = :id and action = 'handed out'`,
      { id },
    );
    expect(usage?.n).toBe(2);
    expect(await unzipped('author', [id])).toHaveLength(3);
    // A reader sees no work: nothing of it is in a package.
    expect(await unzipped('reader', [id])).toEqual(['contents.csv']);
  });

  test('a whole search gives its documents, no more than one may see', async () => {
    const { id, number } = await organisation.register('author', { title: 'Found by its word zirconium' });
    const filter = api.bulk.ids.body.parse({
      filter: { q: 'zirconium', revisionScope: 'newest', reach: 'everywhere' },
    });
    expect(await idsFound(organisation.app, await organisation.as('author'), filter)).toEqual({ ids: [id] });
    expect(await codeOf(idsFound(organisation.app, await organisation.as('reader'), filter))).toBe('bulk_nothing');
    expect(number).toMatch(/^TST-PRO/);
  });
});
