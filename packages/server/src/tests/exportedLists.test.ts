import { mkdtempSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import ExcelJS from 'exceljs';
import { afterAll, beforeAll, expect, test } from 'vitest';
import { readTable } from '../platform/tables/readTable.ts';
import { cookieOf, openOrganisation, type TestOrganisation } from './organisation.ts';

// Lists as files for spreadsheets: whole, with the columns that are shown, read back with the reader of tables.

let organisation: TestOrganisation;
let base: string;
const cookies: Record<string, string> = {};
const COUNT = 230;

beforeAll(async () => {
  organisation = await openOrganisation();
  base = await organisation.listen();
  for (const name of ['author', 'admin', 'reader']) cookies[name] = await cookieOf(base, name);
  for (let i = 0; i < COUNT; i++) await organisation.register('author', { title: `Export ${i}`, text: '# Text' });
}, 300_000);
afterAll(() => organisation.close());

const get = (as: string, path: string) => fetch(base + path, { headers: { cookie: cookies[as] ?? '' } });

const readBack = async (response: Response) => {
  expect(response.status).toBe(200);
  const name = /filename\*=UTF-8''([^;]+)/.exec(response.headers.get('content-disposition') ?? '')?.[1] ?? 'x.csv';
  const path = join(mkdtempSync(join(tmpdir(), 'kanonos-list-')), decodeURIComponent(name));
  writeFileSync(path, Buffer.from(await response.arrayBuffer()));
  return { name: decodeURIComponent(name), path, table: await readTable(path, path) };
};

test.each(['csv', 'xlsx'])('the register leaves whole as %s, with its columns in their order', async (format) => {
  const response = await get(
    'author',
    `/api/register/file?format=${format}&columns=owner,changed,where&q=title:Export`,
  );
  const { name, table } = await readBack(response);
  expect(name).toMatch(new RegExp(`^Register \\d{4}-\\d\\d-\\d\\d\\.${format}$`));
  expect(table.headings).toEqual(['Number', 'Revision', 'Title', 'Owner', 'Changed', 'Status']);
  expect(table.rows).toHaveLength(COUNT);
  expect(new Set(table.rows.map(([number]) => number)).size).toBe(COUNT);
  expect(table.rows.map(([number]) => number)).toEqual(table.rows.map(([number]) => number).sort());
});

test('a day is a date of the workbook, not a text', async () => {
  const { path } = await readBack(await get('author', '/api/register/file?format=xlsx&columns=changed'));
  const workbook = new ExcelJS.Workbook();
  await workbook.xlsx.readFile(path);
  const sheet = workbook.worksheets[0];
  expect(sheet?.getCell('D2').value).toBeInstanceOf(Date);
  expect(sheet?.getCell('A2').value).toBeTypeOf('string');
});

test('a list contains no more than its reader sees', async () => {
  const response = await get('reader', '/api/register/file?format=csv');
  expect((await response.text()).trim().split('\r\n')).toHaveLength(1);
});

test('a column that there is not is refused before a byte is sent', async () => {
  const response = await get('author', '/api/register/file?format=csv&columns=owner,colour');
  expect([response.status, ((await response.json()) as { detail: string }).detail]).toEqual([
    422,
    expect.stringContaining('colour is no column'),
  ]);
  expect((await get('author', '/api/register/file?format=pdf')).status).toBe(422);
  expect((await get('author', '/api/register/file?format=csv&q=owner:')).status).toBe(422);
});

test('the audit trail leaves by its filter, for who may audit', async () => {
  expect((await get('author', '/api/trail/file?format=csv')).status).toBe(403);
  const { table } = await readBack(await get('admin', '/api/trail/file?format=csv&kind=document.registered'));
  expect(table.headings.slice(0, 4)).toEqual(['Event', 'Day', 'Time', 'Person']);
  expect(table.rows.length).toBeGreaterThanOrEqual(COUNT);
  expect(new Set(table.rows.map((row) => row[6]))).toEqual(new Set(['document.registered']));
});

const write = (body: unknown) =>
  fetch(`${base}/api/tables`, {
    method: 'POST',
    headers: { cookie: cookies.reader ?? '', 'content-type': 'application/json' },
    body: JSON.stringify(body),
  });

test('a list of the browser becomes a workbook, and a formula in it stays a text', async () => {
  const { path } = await readBack(
    await write({
      name: 'Team: reading',
      headings: ['Person', 'Done'],
      rows: [
        ['=1+1', 3],
        [null, 0.5],
      ],
    }),
  );
  const workbook = new ExcelJS.Workbook();
  await workbook.xlsx.readFile(path);
  const sheet = workbook.worksheets[0];
  expect([sheet?.name, sheet?.getCell('A2').value, sheet?.getCell('B2').value, sheet?.getCell('B3').value]).toEqual([
    'Team  reading',
    '=1+1',
    3,
    0.5,
  ]);
  expect((await write({ name: '', headings: [], rows: [] })).status).toBe(422);
});
