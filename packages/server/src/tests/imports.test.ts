import { Readable } from 'node:stream';
import ExcelJS from 'exceljs';
import { strToU8, zipSync } from 'fflate';
import { afterAll, beforeAll, expect, test } from 'vitest';
import { takeUpload } from '../features/content/uploads.ts';
import { handOut } from '../features/documents/files.ts';
import { find } from '../features/find/service.ts';
import { runImport } from '../features/imports/running.ts';
import {
  addFiles,
  addImport,
  correctLine,
  importDetail,
  importLines,
  refusedCsv,
  setMapping,
  startImport,
  stopImport,
  tryImport,
} from '../features/imports/service.ts';
import { confirmTakenOver, unverifiedDocuments } from '../features/imports/unverified.ts';
import { changeType, typeDetail } from '../features/rules/types.ts';
import { rows } from '../platform/db/connect.ts';
import { codeOf, openOrganisation, type TestOrganisation } from './organisation.ts';

let organisation: TestOrganisation;
beforeAll(async () => {
  organisation = await openOrganisation();
  for (const code of ['PRO', 'TWO', 'SUP']) {
    const id = organisation.types.get(code) ?? '';
    const { rule, rowVersion } = await typeDetail(organisation.app, id);
    await changeType(organisation.app, await organisation.as('admin'), id, {
      rule: { ...rule, takeOver: true },
      reason: 'legacy documents',
      rowVersion,
      from: null,
      fill: [],
    });
  }
});
afterAll(() => organisation.close());

const send = async (name: string, bytes: Buffer | Uint8Array | string) =>
  (
    await takeUpload(
      organisation.app,
      await organisation.as('controller'),
      name,
      Readable.from([Buffer.from(bytes as Uint8Array)]),
    )
  ).id;
const HEAD = 'Number;Title;Type;Rev;State;In force from;Until;File;Signed by;Limit';
const lay = async (lines: string[], files: Record<string, string> = {}, head = HEAD) => {
  const viewer = await organisation.as('controller');
  const { id } = await addImport(organisation.app, viewer, await send('stock.csv', [head, ...lines].join('\r\n')));
  const detail = await importDetail(organisation.app, viewer, id);
  await setMapping(organisation.app, viewer, id, {
    mapping: { ...detail.mapping, folder: 'Area one / Below', owner: 'Owner' },
    rowVersion: detail.rowVersion,
  });
  const names = Object.keys(files);
  if (names.length)
    await addZip(id, zipSync(Object.fromEntries(names.map((name) => [name, strToU8(files[name] ?? '')]))));
  return id;
};
const addZip = async (id: string, zip: Uint8Array) =>
  addFiles(organisation.app, await organisation.as('controller'), id, [
    { uploadId: await send('files.zip', zip), path: '' },
  ]);
const judge = async (id: string) => tryImport(organisation.app, await organisation.as('controller'), id);
const run = async (id: string) => {
  await startImport(organisation.app, await organisation.as('controller'), id, 'From the old cupboard');
  return runImport(organisation.app, id);
};

test('legacy documents are imported with their numbers, labels, days and signers, found, and marked as not yet verified', async () => {
  const id = await lay(
    [
      'TST-PRO-0041;Grip test;PRO;B;in force;01.03.2020;;b.md;Mara Quill, Lin Sato;12 kN',
      'TST-PRO-0041;Grip test of old;PRO;A;replaced;01.03.2018;;old/a.md;Mara Quill;',
      'TST-PRO-0007;Rope splice;PRO;A;withdrawn;2010-01-05;2015-01-05;c.md;;',
      'ABC 77;Casting;SUP;Issue 3;valid;2019-01-01;;d.md;;',
    ],
    { 'b.md': '# grip b', 'old/a.md': '# grip a', 'c.md': '# splice', 'd.md': '# casting' },
  );
  const detail = await importDetail(organisation.app, await organisation.as('controller'), id);
  expect(detail.mapping.columns).toEqual([
    'number',
    'title',
    'type',
    'label',
    'state',
    'from',
    'to',
    'file',
    'signers',
    'field:limit',
  ]);
  expect(await judge(id)).toMatchObject({ lines: 4, ready: 4, refused: 0 });
  expect((await importDetail(organisation.app, await organisation.as('controller'), id)).begins).toEqual([
    { scope: 'TST-PRO-#', last: 41 },
  ]);
  expect(await run(id)).toBe('done');
  const page = await organisation.page('controller', 'TST-PRO-0041');
  expect(page).toMatchObject({ number: 'TST-PRO-0041', inForce: { label: 'B' }, metadata: { limit: '12 kN' } });
  expect(page.unverifiedSince).not.toBeNull();
  expect(page.revisions.map((r) => [r.label, r.state])).toEqual([
    ['B', 'in force'],
    ['A', 'superseded'],
  ]);
  expect((await organisation.page('controller', 'TST-PRO-0007')).revision.state).toBe('withdrawn');
  expect((await organisation.page('controller', 'ABC 77')).revision.label).toBe('Issue 3');
  // The counter continues after the imported numbers.
  expect((await organisation.register('author')).number).toBe('TST-PRO-0042');
  // In force on a past day, by the given days (local days of the organisation).
  const periods = await rows<{ label: string; from_at: Date; to_at: Date | null }>(
    organisation.app.db,
    `select p.label, from_at, to_at from periods p join documents d on d.id = p.document_id where d.number = 'TST-PRO-0041' order by from_at`,
  );
  expect(periods.map((p) => [p.label, p.from_at.toISOString(), p.to_at?.toISOString()])).toEqual([
    ['A', '2018-02-28T23:00:00.000Z', '2020-02-29T23:00:00.000Z'],
    ['B', '2020-02-29T23:00:00.000Z', undefined],
  ]);
  const [told] = await rows<{ imported: { signers: string[] } }>(
    organisation.app.db,
    `select imported from revisions r join documents d on d.id = r.document_id where d.number = 'TST-PRO-0041' and r.label = 'B'`,
  );
  expect(told?.imported.signers).toEqual(['Mara Quill', 'Lin Sato']);
  const hits = await find(organisation.app, await organisation.as('reader'), 'grip', 10);
  expect(hits.hits.map((hit) => hit.number)).toEqual(['TST-PRO-0041']);
  const file = page.versions[0]?.files[0];
  expect((await handOut(organisation.app, await organisation.as('controller'), file?.id ?? '', 'download')).name).toBe(
    'TST-PRO-0041_B_Grip-test.md',
  );
  expect((await organisation.verdict()).kind).toBe('intact');
});

test('imported documents are on a list until somebody who manages them has verified them', async () => {
  const open = await unverifiedDocuments(organisation.app, await organisation.as('controller'));
  expect(open.documents.map((one) => one.number).sort()).toEqual(['ABC 77', 'TST-PRO-0007', 'TST-PRO-0041']);
  expect((await unverifiedDocuments(organisation.app, await organisation.as('author'))).total).toBe(0);
  const ids = open.documents.map((one) => one.id);
  expect(await confirmTakenOver(organisation.app, await organisation.as('author'), ids)).toEqual({ confirmed: 0 });
  expect(await confirmTakenOver(organisation.app, await organisation.as('controller'), ids.slice(0, 2))).toEqual({
    confirmed: 2,
  });
  expect((await unverifiedDocuments(organisation.app, await organisation.as('controller'))).total).toBe(1);
});

test('faults are named line by line, kept out with the rest of their document, and given back to be mended', async () => {
  const id = await lay(
    [
      'TST-PRO-0003;Good;PRO;A;in force;01.03.2020;;x.md;;',
      'TST-PRO-3;Too short;PRO;A;in force;01.03.2020;;x.md;;',
      'TST-PRO-9999;Above;PRO;A;in force;01.03.2020;;x.md;;',
      'TST-PRO-0004;No file;PRO;A;in force;01.03.2020;;missing.md;;',
      'TST-PRO-0041;There already;PRO;A;in force;01.03.2020;;x.md;;',
      'TST-MEM-001;Not allowed;MEM;1;in force;01.03.2020;;x.md;;',
      '=HYPERLINK("x");Formula;PRO;A;in force;01.03.2020;;x.md;;',
    ],
    { 'x.md': '# x' },
  );
  expect(await judge(id)).toMatchObject({ ready: 1, refused: 6 });
  const { lines } = await importLines(organisation.app, await organisation.as('controller'), id, {
    state: 'refused',
    after: 0,
    limit: 100,
  });
  expect(lines.map((line) => [line.line, line.reasons[0]])).toEqual([
    [3, expect.stringContaining('The number TST-PRO-3 does not match')],
    [4, expect.stringContaining('TST-PRO-9999 is above 42')],
    [5, 'missing.md is not among the uploaded files.'],
    [6, 'TST-PRO-0041 is already taken.'],
    [7, expect.stringContaining('Type MEM does not allow legacy import')],
    [8, expect.stringContaining('matches no numbering rule')],
  ]);
  const csv = await refusedCsv(organisation.app, await organisation.as('controller'), id);
  expect(csv.split('\r\n')[0]).toContain('line,reason,Number');
  expect(csv).toContain(`'=HYPERLINK`);
  expect(await run(id)).toBe('done');
  // Corrected, the same file is read again by the columns set before.
  const mended = csv.replace('TST-PRO-9999', 'TST-PRO-0005').replace('missing.md', 'x.md');
  const again = await addImport(
    organisation.app,
    await organisation.as('controller'),
    await send('mended.csv', mended),
  );
  const detail = await importDetail(organisation.app, await organisation.as('controller'), again.id);
  expect(detail.mapping.columns.slice(0, 4)).toEqual([null, null, 'number', 'title']);
  expect(await codeOf(importDetail(organisation.app, await organisation.as('author'), id))).toBe('not_found');
});

test('a spreadsheet is read with its days; formulas give their stored value and are never run', async () => {
  const workbook = new ExcelJS.Workbook();
  const sheet = workbook.addWorksheet('Stock');
  sheet.addRow(['Number', 'Title', 'Rev', 'In force from', 'File']);
  sheet.addRow([
    { formula: '"TST-PRO-"&"0006"', result: 'TST-PRO-0006' },
    'From a sheet',
    'A',
    new Date('2021-05-04T00:00:00Z'),
    'x.md',
  ]);
  const { id, note } = await addImport(
    organisation.app,
    await organisation.as('controller'),
    await send('stock.xlsx', Buffer.from(await workbook.xlsx.writeBuffer())),
  );
  expect(note).toContain('1 formulas');
  const { lines } = await importLines(organisation.app, await organisation.as('controller'), id, {
    state: 'all',
    after: 0,
    limit: 10,
  });
  expect(lines[0]?.cells).toEqual(['TST-PRO-0006', 'From a sheet', 'A', '2021-05-04', 'x.md']);
});

test('bad files are refused as a whole: another kind, too many columns, another encoding, a zip that leads out or explodes', async () => {
  const controller = await organisation.as('controller');
  const lay_ = async (name: string, bytes: Buffer | string) =>
    addImport(organisation.app, controller, await send(name, bytes));
  expect(
    await codeOf(
      lay_(
        'wide.csv',
        Array.from({ length: 1000 }, (_, i) => `c${i}`)
          .join(';')
          .concat('\nx'),
      ),
    ),
  ).toBe('table_too_wide');
  expect(await codeOf(lay_('empty.csv', 'Number;Title\n'))).toBe('table_empty');
  const latin = await lay_('latin.csv', Buffer.from('Number;Title\nTST-PRO-0001;Prüfung\n', 'latin1'));
  expect(latin.note).toContain('Windows-1252');
  expect(
    (await importLines(organisation.app, controller, latin.id, { state: 'all', after: 0, limit: 1 })).lines[0]
      ?.cells[1],
  ).toBe('Prüfung');
  expect(await codeOf(addImport(organisation.app, await organisation.as('author'), await send('x.csv', 'a\nb')))).toBe(
    'right_missing',
  );
  const evil = Buffer.from(zipSync({ 'aa/evil.md': strToU8('x') }));
  for (let at = evil.indexOf('aa/evil.md'); at >= 0; at = evil.indexOf('aa/evil.md', at + 1))
    evil.write('../evil.md', at);
  expect(await codeOf(addZip(latin.id, evil))).toBe('zip_path');
  const bomb = zipSync({ 'bomb.md': new Uint8Array(6_000_000) }, { level: 9 });
  expect(await codeOf(addZip(latin.id, bomb))).toBe('zip_bomb');
  expect(await codeOf(addZip(latin.id, zipSync({ a: strToU8('a') }).slice(0, 40)))).toMatch(/zip_unreadable|file_/);
});

const many = (from: number, count: number) =>
  Array.from(
    { length: count },
    (_, i) => `TST-TWO-${String(from + i).padStart(4, '0')};Many ${i};TWO;1;in force;01.01.2020;;f${i % 7}.md;;`,
  );
const filesOf7 = Object.fromEntries(Array.from({ length: 7 }, (_, i) => [`f${i}.md`, `# file ${i}`]));

test('stopped it goes on later, and two workers at once take no line twice', async () => {
  const id = await lay(many(1, 120), filesOf7);
  await judge(id);
  await startImport(organisation.app, await organisation.as('controller'), id, 'many');
  expect(await runImport(organisation.app, id, 0)).toBe('continues');
  await stopImport(organisation.app, await organisation.as('controller'), id);
  expect(await runImport(organisation.app, id)).toBe('stopped');
  await startImport(organisation.app, await organisation.as('controller'), id, 'go on');
  const both = await Promise.all([runImport(organisation.app, id), runImport(organisation.app, id)]);
  expect(both).toContain('done');
  const [sum] = await rows<{ n: number; d: number }>(
    organisation.app.db,
    `select count(*)::int as n, count(distinct document_id)::int as d from import_lines where import_id = :id and state = 'done'`,
    { id },
  );
  expect(sum).toEqual({ n: 120, d: 120 });
  expect(await rows(organisation.app.db, `select 1 from documents where number like 'TST-TWO-%'`)).toHaveLength(120);
  expect((await organisation.verdict()).kind).toBe('intact');
});

test('broken off at random instants it ends the same: every line once, every document whole', async () => {
  const id = await lay(many(201, 80), filesOf7);
  // Numbers above the counter come in no more; that counter began with the import before.
  expect(await judge(id)).toMatchObject({ ready: 0, refused: 80 });
  await rows(organisation.app.db, `update counters set last = 400 where scope = 'TST-TWO-#'`);
  expect(await judge(id)).toMatchObject({ ready: 80 });
  await startImport(organisation.app, await organisation.as('controller'), id, 'broken');
  for (let kill = 0; kill < 20; kill++) {
    const working = runImport(organisation.app, id).catch((error: Error) => error.message);
    await new Promise((resolve) => setTimeout(resolve, 5 + ((kill * 37) % 60)));
    // Every connection that writes for the import breaks, as when the server is killed.
    await rows(
      organisation.app.db,
      `select pg_terminate_backend(pid) from pg_stat_activity where datname = current_database() and pid <> pg_backend_pid() and query ilike '%import%' or query ilike '%jsonb_to_recordset%' and pid <> pg_backend_pid() and datname = current_database()`,
    ).catch(() => {});
    await working;
  }
  expect(await runImport(organisation.app, id)).toMatch(/done|stopped/);
  const found = await rows<{ number: string; periods: number; files: number }>(
    organisation.app.db,
    `select d.number, (select count(*)::int from periods p where p.document_id = d.id) as periods,
       (select count(*)::int from revisions r join version_files f on f.version_id = r.latest_version_id where r.document_id = d.id) as files
     from documents d join import_lines l on l.document_id = d.id where l.import_id = :id`,
    { id },
  );
  expect(found).toHaveLength(80);
  expect(new Set(found.map((one) => one.number)).size).toBe(80);
  expect(found.every((one) => one.periods === 1 && one.files === 1)).toBe(true);
  expect((await organisation.verdict()).kind).toBe('intact');
}, 180_000);

test('two imports of the same numbers at once: each number comes in once, the other import says so by line', async () => {
  await rows(organisation.app.db, `update counters set last = 600 where scope = 'TST-TWO-#'`);
  const [a, b] = [await lay(many(500, 40), filesOf7), await lay(many(520, 40), filesOf7)];
  expect(await judge(a)).toMatchObject({ ready: 40 });
  expect(await judge(b)).toMatchObject({ ready: 40 });
  const controller = await organisation.as('controller');
  await startImport(organisation.app, controller, a, 'one');
  await startImport(organisation.app, controller, b, 'two');
  await Promise.all([runImport(organisation.app, a), runImport(organisation.app, b)]);
  const counts = await rows<{ n: number; d: number }>(
    organisation.app.db,
    `select count(*)::int as n, count(distinct number)::int as d from documents where number between 'TST-TWO-0500' and 'TST-TWO-0559'`,
  );
  expect(counts).toEqual([{ n: 60, d: 60 }]);
  const states = await rows<{ state: string; n: number }>(
    organisation.app.db,
    `select state, count(*)::int as n from import_lines where import_id = any(:ids::uuid[]) group by 1 order by 1`,
    { ids: [a, b] },
  );
  expect(states).toEqual([
    { state: 'done', n: 60 },
    { state: 'refused', n: 20 },
  ]);
});

test('an unknown word is answered with the most likely intended one', async () => {
  const id = await lay(['TST-PRO-0003;x;PROO;A;in force;01.01.2020;;f-1.md;;'], { 'f1.md': '# x' });
  await judge(id);
  const { lines } = await importLines(organisation.app, await organisation.as('controller'), id, {
    state: 'all',
    after: 0,
    limit: 1,
  });
  expect(lines[0]?.reasons.join(' ')).toContain('did you mean PRO?');
});

test('files of a folder are found by the paths that a list gives them, and two of one name are not mixed up', async () => {
  const at = (number: string, file: string) =>
    `TST-PRO-${number};By path;PRO;A;withdrawn;2010-01-05;2015-01-05;${file};;`;
  const id = await lay([
    at('0021', 'Q:\\old\\ropes\\report.md'),
    at('0022', 'cabins/report.md'),
    at('0023', 'report.md'),
  ]);
  const viewer = await organisation.as('controller');
  const sent = async (path: string, text: string) => ({ uploadId: await send('report.md', text), path });
  const files = [await sent('old/ropes/report.md', '# ropes'), await sent('old/cabins/report.md', '# cabins')];
  expect(await addFiles(organisation.app, viewer, id, files)).toMatchObject({ files: 2 });
  expect(await judge(id)).toMatchObject({ ready: 2, refused: 1 });
  const { lines } = await importLines(organisation.app, viewer, id, { state: 'refused', after: 0, limit: 10 });
  expect(lines[0]?.reasons[0]).toContain('“old/cabins/report.md”, “old/ropes/report.md”');
  await run(id);
  const shaOf = async (number: string) => (await organisation.page('controller', number)).versions[0]?.files[0];
  expect((await shaOf('TST-PRO-0021'))?.name).toBe('report.md');
  expect((await shaOf('TST-PRO-0021'))?.sha256).not.toBe((await shaOf('TST-PRO-0022'))?.sha256);
});

test('a line is corrected on the spot, checked again, and its correction is on record', async () => {
  const controller = await organisation.as('controller');
  const id = await lay([';Without a number;PRO;A;in force;01.03.2020;;n.md;;'], { 'n.md': '# text' });
  await judge(id);
  const query = { state: 'refused' as const, after: 0, limit: 100 };
  const [line] = (await importLines(organisation.app, controller, id, query)).lines;
  expect(line?.state).toBe('refused');
  const { reasons } = await importDetail(organisation.app, controller, id);
  const byReason = (reason: string) => importLines(organisation.app, controller, id, { ...query, reason });
  expect((await byReason(reasons[0]?.code ?? '')).lines).toHaveLength(1);
  expect((await byReason('title_missing')).lines).toHaveLength(0);

  const seen = line?.cells ?? [];
  const cells = ['TST-PRO-0033', ...seen.slice(1)];
  const correct = (to: string[], before: string[]) =>
    correctLine(organisation.app, controller, id, line?.line ?? 0, { cells: to, seen: before });
  expect(await codeOf(correct(seen, seen))).toBe('nothing_changed');
  await correct(cells, seen);
  expect(await codeOf(correct(cells, seen))).toBe('changed_meanwhile');
  await judge(id);
  const [after] = (await importLines(organisation.app, controller, id, { ...query, state: 'all' })).lines;
  expect([after?.state, after?.reasons]).toEqual(['ready', []]);
  const [event] = await rows<{ text: string }>(
    organisation.app.db,
    `select text from events where kind = 'import.line-corrected' order by seq desc limit 1`,
  );
  expect(JSON.parse(event?.text ?? '{}').payload).toEqual({
    import: id,
    line: line?.line,
    changes: [{ column: 'Number', before: '', after: 'TST-PRO-0033' }],
  });
});
