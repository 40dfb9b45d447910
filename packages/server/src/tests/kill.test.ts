import { spawnSync } from 'node:child_process';
import { mkdirSync, readdirSync, utimesSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { Readable } from 'node:stream';
import { strToU8, zipSync } from 'fflate';
import { afterAll, beforeAll, expect, test } from 'vitest';
import { takeUpload } from '../features/content/uploads.ts';
import { addFiles, addImport, importDetail, setMapping, startImport, tryImport } from '../features/imports/service.ts';
import { changeType, typeDetail } from '../features/rules/types.ts';
import { askFor } from '../features/viewing/asking.ts';
import { migrate } from '../migrate.ts';
import { rows } from '../platform/db/connect.ts';
import { cookieOf, openOrganisation, PASSWORD, type TestOrganisation } from './organisation.ts';
import { buildServer, type Running, runServer } from './program.ts';

const KILLS = 20;
let organisation: TestOrganisation;
let program: string;

beforeAll(async () => {
  organisation = await openOrganisation();
  program = await buildServer('kill');
}, 300_000);
afterAll(() => organisation.close());

let running: Running | undefined;
const startServer = async (port: number, more: Record<string, string> = {}): Promise<string> => {
  running = await runServer(program, organisation, port, more);
  return running.base;
};
const killServer = () => running?.kill();

test(`killing the server ${KILLS} times during check-ins and releases loses nothing that was answered and leaves no half command`, async () => {
  const cookies: Record<string, string> = {};
  // Below the ports that the system gives to outgoing connections.
  let port = 20_000 + (process.pid % 12_000);
  let base = await startServer(port);
  for (const name of ['author', 'controller']) {
    cookies[name] = await cookieOf(base, name);
  }
  const post = async (as: string, path: string, body: unknown) => {
    const answer = await fetch(base + path, {
      method: 'POST',
      headers: { cookie: cookies[as] ?? '', 'content-type': 'application/json' },
      body: JSON.stringify(body),
    });
    return { status: answer.status, body: (await answer.json()) as Record<string, unknown> };
  };
  const upload = async (text: string) => {
    const form = new FormData();
    form.append('file', new Blob([text]), 'text.txt');
    const answer = await fetch(`${base}/api/uploads`, {
      method: 'POST',
      headers: { cookie: cookies.author ?? '' },
      body: form,
    });
    return ((await answer.json()) as { id: string }).id;
  };
  const answered = { checkedIn: new Map<string, number>(), released: new Set<string>() };
  /** One passage: registers a memo, checks it out and in, releases it; stops where the server went away. */
  const passage = async (n: number) => {
    const registered = await post('author', '/api/documents', {
      typeId: organisation.types.get('MEM'),
      folderId: organisation.folders.get('1'),
      title: `Memo ${n}`,
      metadata: { held: '2026-11-25' },
      uploadId: await upload(`first ${n}`),
    });
    const id = String(registered.body.id);
    await post('author', `/api/documents/${id}/check-out`, { seen: '*' });
    const version = await post('author', `/api/documents/${id}/check-in`, {
      seen: '*',
      uploadId: await upload(`second ${n} ${'x'.repeat(200_000)}`),
      note: 'second',
    });
    if (version.status === 200) answered.checkedIn.set(id, Number(version.body.version));
    const released = await post('controller', `/api/documents/${id}/release`, {
      seen: '*',
      name: 'controller',
      password: PASSWORD,
    });
    if (released.status === 200) answered.released.add(id);
  };
  for (let kill = 0; kill < KILLS; kill++) {
    const passages = Promise.allSettled(Array.from({ length: 4 }, (_, i) => passage(kill * 10 + i)));
    await new Promise((resolve) => setTimeout(resolve, 40 + ((kill * 37) % 400)));
    killServer();
    await passages;
    base = await startServer(++port);
  }
  killServer();

  for (const [id, version] of answered.checkedIn) {
    const [row] = await rows<{ n: number }>(
      organisation.app.db,
      'select max(v.n)::int as n from versions v join revisions r on r.id = v.revision_id where r.document_id = :id',
      { id },
    );
    expect(row?.n, 'an answered check-in is there').toBe(version);
  }
  for (const id of answered.released) {
    const [row] = await rows<{ state: string }>(
      organisation.app.db,
      'select state from revisions where document_id = :id',
      {
        id,
      },
    );
    expect(row?.state, 'an answered release is there').toBe('in force');
  }
  const halves = await rows<{ what: string }>(
    organisation.app.db,
    `select 'document without revision' as what from documents d where not exists (select 1 from revisions r where r.document_id = d.id)
     union all select 'revision whose version is missing' from revisions r where not exists (select 1 from versions v where v.id = r.latest_version_id and v.n = r.version_count)
     union all select 'in force without period' from revisions r where r.state = 'in force' and not exists (select 1 from periods p where p.revision_id = r.id and p.to_at is null)
     union all select 'in force without signature' from revisions r where r.state = 'in force' and not exists (select 1 from signatures s where s.revision_id = r.id)
     union all select 'number without document' from numbers n where not exists (select 1 from documents d where d.id = n.document_id)
     union all select 'command without event' from documents d where not exists (select 1 from events e where e.document_id = d.id and e.kind = 'document.registered')
     union all select 'list column behind' from documents d join revisions r on r.id = d.newest_revision_id where r.state <> d.newest_state`,
  );
  expect(halves).toEqual([]);
  for (const { sha256 } of await rows<{ sha256: string }>(organisation.app.db, 'select sha256 from contents'))
    expect(await organisation.app.content.has(sha256)).toBe(true);
  const [counter] = await rows<{ last: number; n: number }>(
    organisation.app.db,
    `select c.last, (select count(*)::int from numbers where scope = c.scope) as n from counters c where c.scope = 'TST-MEM-#'`,
  );
  expect(counter?.last, 'no gap').toBe(counter?.n);
  expect((await organisation.verdict()).kind).toBe('intact');
}, 900_000);

test(`killing the server ${KILLS} times during an import and while files arrive ends the same: every line and every file once`, async () => {
  const controller = await organisation.as('controller');
  const type = organisation.types.get('TWO') ?? '';
  const { rule, rowVersion } = await typeDetail(organisation.app, type);
  await changeType(organisation.app, await organisation.as('admin'), type, {
    rule: { ...rule, takeOver: true },
    reason: 'legacy documents',
    rowVersion,
    from: null,
    fill: [],
  });
  const LINES = 300;
  const lines = Array.from(
    { length: LINES },
    (_, i) => `TST-TWO-${String(i + 1).padStart(4, '0')};Old ${i};TWO;1;in force;01.01.2020;f${i % 5}.md`,
  );
  const send = async (name: string, bytes: string | Uint8Array) =>
    (await takeUpload(organisation.app, controller, name, Readable.from([Buffer.from(bytes as Uint8Array)]))).id;
  const head = 'Number;Title;Type;Rev;State;In force from;File';
  const { id } = await addImport(organisation.app, controller, await send('old.csv', [head, ...lines].join('\r\n')));
  const detail = await importDetail(organisation.app, controller, id);
  await setMapping(organisation.app, controller, id, {
    mapping: { ...detail.mapping, folder: 'Area one', owner: 'Owner' },
    rowVersion: detail.rowVersion,
  });
  const files = Object.fromEntries(Array.from({ length: 5 }, (_, i) => [`f${i}.md`, strToU8(`# ${i}`)]));
  await addFiles(organisation.app, controller, id, [{ uploadId: await send('files.zip', zipSync(files)), path: '' }]);
  expect(await tryImport(organisation.app, controller, id)).toMatchObject({ ready: LINES });
  await startImport(organisation.app, controller, id, 'the cupboard');
  const ARRIVING = 40;
  const intake = organisation.app.config.intakeDir;
  mkdirSync(intake, { recursive: true });
  let port = 20_000 + ((process.pid * 7) % 12_000);
  for (let kill = 0; kill < KILLS; kill++) {
    for (let i = kill * 2; i < Math.min(ARRIVING, kill * 2 + 2); i++) {
      const at = join(intake, `incomingFile ${i}.md`);
      writeFileSync(at, `# incoming file ${i}`);
      utimesSync(at, new Date(Date.now() - 5000), new Date(Date.now() - 5000));
    }
    await startServer(++port, { JOBS: 'here', INTAKE_DIR: intake });
    await new Promise((resolve) => setTimeout(resolve, 100 + ((kill * 137) % 900)));
    killServer();
  }
  await startServer(++port, { JOBS: 'here', INTAKE_DIR: intake });
  await expect
    .poll(async () => (await importDetail(organisation.app, controller, id)).state, { timeout: 240_000, interval: 300 })
    .toBe('done');
  await expect.poll(() => readdirSync(intake).length, { timeout: 20_000 }).toBe(0);
  killServer();
  const [sum] = await rows<{ lines: number; documents: number; numbers: number; periods: number }>(
    organisation.app.db,
    `select count(*)::int as lines, count(distinct l.document_id)::int as documents, count(distinct d.number)::int as numbers,
       (select count(*)::int from periods p join import_lines m on m.document_id = p.document_id where m.import_id = :id) as periods
     from import_lines l join documents d on d.id = l.document_id where l.import_id = :id and l.state = 'done'`,
    { id },
  );
  expect(sum).toEqual({ lines: LINES, documents: LINES, numbers: LINES, periods: LINES });
  const incomingFiles = await rows<{ path: string; sha256: string }>(
    organisation.app.db,
    'select path, sha256 from incoming_files',
  );
  expect(new Set(incomingFiles.map((one) => one.path)).size).toBe(ARRIVING);
  expect(incomingFiles).toHaveLength(ARRIVING);
  for (const { sha256 } of incomingFiles) expect(await organisation.app.content.has(sha256)).toBe(true);
  expect((await organisation.verdict()).kind).toBe('intact');
}, 900_000);

test('killing the server while pages are made: they are made after the next start, once each, and nothing of the office program stays', async () => {
  const author = await organisation.as('author');
  const hashes: string[] = [];
  for (let i = 0; i < 6; i++) {
    const upload = await takeUpload(
      organisation.app,
      author,
      `letter ${i}.rtf`,
      Readable.from([Buffer.from(`{\\rtf1\\ansi Letter number ${i}\\par}`)]),
    );
    hashes.push(upload.sha256);
    await askFor(organisation.app, upload.sha256, 'pages');
  }
  const states = () =>
    rows<{ state: string; tries: number; result_sha256: string | null }>(
      organisation.app.db,
      `select state, tries, result_sha256 from renditions where sha256 = any(:hashes::text[]) and kind = 'pages'`,
      { hashes },
    );
  let port = 20_000 + ((process.pid * 13) % 12_000);
  for (const after of [150, 700, 1300]) {
    await startServer(++port, { JOBS: 'here' });
    await new Promise((resolve) => setTimeout(resolve, after));
    killServer();
  }
  await startServer(++port, { JOBS: 'here' });
  await expect
    .poll(async () => (await states()).map((one) => one.state), { timeout: 240_000, interval: 300 })
    .toEqual(hashes.map(() => 'done'));
  killServer();
  const made = await states();
  expect(new Set(made.map((one) => one.tries))).toEqual(new Set([1]));
  for (const { result_sha256 } of made) expect(await organisation.app.content.has(result_sha256 ?? '')).toBe(true);
  const converting = () => spawnSync('pgrep', ['-f', `kanonos-pages-.*--convert-to`]).stdout.toString().trim();
  await expect.poll(converting, { timeout: 120_000, interval: 500 }).toBe('');
}, 900_000);

test('two servers that migrate an empty database at once both succeed and make one schema', async () => {
  const { connect } = await import('../platform/db/connect.ts');
  const base = process.env.KANONOS_TEST_DATABASE ?? '';
  const admin = connect(base, 1);
  const name = `m${process.pid}`;
  await admin.raw(`create database ${name}`);
  const url = base.replace(/\/[^/]*$/, `/${name}`);
  const password = process.env.KANONOS_TEST_APP_PASSWORD ?? '';
  await Promise.all([migrate(url, password), migrate(url, password)]);
  const db = connect(url, 1);
  const [row] = await rows<{ n: number }>(db, 'select count(*)::int as n from knex_migrations');
  expect(row?.n).toBe(readdirSync(new URL('../migrations', import.meta.url)).length);
  await db.destroy();
  await admin.raw(`drop database ${name} with (force)`);
  await admin.destroy();
});
