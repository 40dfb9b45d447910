import { Readable } from 'node:stream';
import { afterAll, beforeAll, expect, test } from 'vitest';
import { layOut, listBlueprints, listProjects, saveBlueprint, tryLayOut } from '../features/blueprints/service.ts';
import { takeUpload } from '../features/content/index.ts';
import { addFolder, filingPlan } from '../features/filing/service.ts';
import { rows } from '../platform/db/connect.ts';
import { codeOf, openOrganisation, type TestOrganisation } from './organisation.ts';

let organisation: TestOrganisation;
let id = '';
const OUTLINE = [
  '{client} | client={client}',
  '  {project}',
  '    + PRO Plan of {project}',
  '    Drawings',
  '    Acceptance',
].join('\n');
const blueprint = (more: Partial<Parameters<typeof saveBlueprint>[2]> = {}) => ({
  id: null,
  name: 'Ropeway line',
  folderId: organisation.folders.get('1') ?? '',
  outline: OUTLINE,
  lookup: null,
  retired: false,
  rowVersion: 0,
  reason: 'Projects look alike',
  ...more,
});
const names = async () =>
  (await filingPlan(organisation.app, await organisation.as('admin'))).folders.map((folder) => folder.name);

beforeAll(async () => {
  organisation = await openOrganisation();
});
afterAll(() => organisation.close());

test('a blueprint is defined by its outline; an unreadable line is refused with its number', async () => {
  const admin = await organisation.as('admin');
  expect(await codeOf(saveBlueprint(organisation.app, admin, blueprint({ outline: 'a\n  + XXX Something' })))).toBe(
    'blueprint_type_unknown',
  );
  expect(await codeOf(saveBlueprint(organisation.app, admin, blueprint({ outline: '+ PRO x' })))).toBe(
    'outline_starter_alone',
  );
  ({ id } = await saveBlueprint(organisation.app, admin, blueprint()));
  expect(await codeOf(saveBlueprint(organisation.app, admin, blueprint()))).toBe('blueprint_name_taken');
  const { blueprints } = await listBlueprints(organisation.app, await organisation.as('controller'));
  expect(blueprints).toMatchObject([{ name: 'Ropeway line', placeholders: ['client', 'project'], folder: 'Area one' }]);
  expect((await listBlueprints(organisation.app, await organisation.as('author'))).blueprints).toEqual([]);
});

test('laid out twice for one client, its folder is used again and the first documents are numbered', async () => {
  const controller = await organisation.as('controller');
  const tried = await tryLayOut(organisation.app, controller, id, { client: 'Oberlauf', project: 'Lake line' });
  expect(tried.folders.map((folder) => [folder.depth, folder.name, folder.isNew])).toEqual([
    [0, 'Oberlauf', true],
    [1, 'Lake line', true],
    [2, 'Drawings', true],
    [2, 'Acceptance', true],
  ]);
  const first = await layOut(organisation.app, controller, id, [{ client: 'Oberlauf', project: 'Lake line' }]);
  expect(first).toMatchObject({ folders: 4, documents: ['TST-PRO-0001'] });
  const second = await layOut(organisation.app, controller, id, [{ client: 'OBERLAUF', project: 'Ridge line' }]);
  expect(second).toMatchObject({ folders: 3, documents: ['TST-PRO-0002'] });
  expect((await names()).filter((name) => name.toLowerCase() === 'oberlauf')).toHaveLength(1);
  const page = await organisation.page('controller', 'TST-PRO-0002');
  expect(page.folder.path).toEqual(['Area one', 'Oberlauf', 'Ridge line']);
  expect(page.revision).toMatchObject({ title: 'Plan of Ridge line', state: 'draft' });
  const folder = (await filingPlan(organisation.app, controller)).folders.find((one) => one.name === 'Lake line');
  expect(folder?.effective).toEqual({ client: 'Oberlauf' });
  // The same once more makes nothing.
  expect(await layOut(organisation.app, controller, id, [{ client: 'Oberlauf', project: 'lake LINE' }])).toMatchObject({
    folders: 0,
    documents: [],
  });
});

test('many at once come all or none', async () => {
  const controller = await organisation.as('controller');
  const before = (await names()).length;
  const some = [
    { client: 'Fjell', project: 'One' },
    { client: 'Fjell', project: '' },
  ];
  expect(await codeOf(layOut(organisation.app, controller, id, some))).toBe('placeholder_missing');
  expect((await names()).length).toBe(before);
  const all = await layOut(organisation.app, controller, id, [
    { client: 'Fjell', project: 'One' },
    { client: 'Fjell', project: 'Two' },
  ]);
  expect(all).toMatchObject({ folders: 7, documents: ['TST-PRO-0003', 'TST-PRO-0004'] });
  expect(
    await codeOf(layOut(organisation.app, await organisation.as('author'), id, [{ client: 'a', project: 'b' }])),
  ).toBe('right_missing');
  expect(
    await codeOf(layOut(organisation.app, await organisation.as('stranger'), id, [{ client: 'a', project: 'b' }])),
  ).toBe('right_missing');
});

test('a changed blueprint shows each project what it lacks, and laying out again adds that alone', async () => {
  const admin = await organisation.as('admin');
  const controller = await organisation.as('controller');
  await saveBlueprint(
    organisation.app,
    admin,
    blueprint({ id, rowVersion: 1, outline: `${OUTLINE}\n    Handover`, reason: 'Handover was missing' }),
  );
  expect(await codeOf(saveBlueprint(organisation.app, admin, blueprint({ id, rowVersion: 1 })))).toBe(
    'changed_meanwhile',
  );
  const { projects } = await listProjects(organisation.app, controller, id);
  expect(projects).toHaveLength(4);
  expect(projects.every((project) => project.lacks.join() === 'Handover')).toBe(true);
  const one = projects.find((project) => project.values.project === 'Two');
  expect(await layOut(organisation.app, controller, id, [one?.values ?? {}])).toMatchObject({
    folders: 1,
    documents: [],
  });
});

test('a first document begins from a file of the blueprint, and the file stays when the blueprint is changed', async () => {
  const admin = await organisation.as('admin');
  const controller = await organisation.as('controller');
  const upload = await takeUpload(
    organisation.app,
    admin,
    'check list.csv',
    Readable.from([Buffer.from('a;b\n1;2\n')]),
  );
  const withFile = blueprint({
    name: 'With a form',
    outline: 'Overhaul {year}\n  + PRO (check list.csv) Check list {year}',
  });
  expect(await codeOf(saveBlueprint(organisation.app, admin, withFile))).toBe('blueprint_template_unknown');
  const { id: made } = await saveBlueprint(organisation.app, admin, {
    ...withFile,
    files: [{ name: 'check list.csv', uploadId: upload.id }],
  });
  await saveBlueprint(organisation.app, admin, {
    ...withFile,
    id: made,
    rowVersion: 1,
    name: 'With a form of its own',
    files: [{ name: 'check list.csv', uploadId: null }],
  });
  const { blueprints } = await listBlueprints(organisation.app, controller);
  expect(blueprints.find((one) => one.id === made)).toMatchObject({ files: ['check list.csv'], rowVersion: 2 });
  const { documents } = await layOut(organisation.app, controller, made, [{ year: '2026' }]);
  const [file] = await rows<{ name: string; sha256: string }>(
    organisation.app.db,
    `select f.name, f.sha256 from version_files f join versions v on v.id = f.version_id
     join revisions r on r.id = v.revision_id join documents d on d.id = r.document_id where d.number = :number`,
    { number: documents[0] ?? '' },
  );
  expect(file?.sha256).toBe(upload.sha256);
  expect(file?.name).toMatch(/\.csv$/);
  const without = saveBlueprint(organisation.app, admin, { ...withFile, id: made, rowVersion: 2, files: [] });
  expect(await codeOf(without)).toBe('blueprint_template_unknown');
});

test('a change of the plan that is rolled back leaves no trace in what rights are judged by', async () => {
  const controller = await organisation.as('controller');
  // Rolled back after the plan was read inside: the next change has the same version of the plan.
  await layOut(organisation.app, controller, id, [
    { client: 'Gone', project: 'Gone' },
    { client: '', project: '' },
  ]).catch(() => {});
  const { id: kept } = await addFolder(organisation.app, controller, {
    parentId: organisation.folders.get('1') ?? '',
    name: 'Kept',
    code: null,
  });
  const seen = (await filingPlan(organisation.app, controller)).folders;
  expect(seen.find((folder) => folder.id === kept)?.mayManage).toBe(true);
  expect(seen.some((folder) => folder.name === 'Gone')).toBe(false);
  expect(await rows(organisation.app.db, `select 1 from folders where name = 'Gone'`)).toEqual([]);
  expect((await organisation.verdict()).kind).toBe('intact');
});
