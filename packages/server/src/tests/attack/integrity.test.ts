// Files and trail altered behind the application's back: reported, withheld, and repaired.
import { readdirSync, readFileSync, rmSync, statSync, utimesSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { Readable, Writable } from 'node:stream';
import { createVerifier, type SignedHead } from '@kanonos/core';
import { strToU8, zipSync } from 'fflate';
import { beforeAll, describe, expect, test } from 'vitest';
import { verifierTools } from '../../../../../tools/lib/verifierTools.ts';
import { takeUpload } from '../../features/content/uploads.ts';
import { desk } from '../../features/desk/service.ts';
import { runImport } from '../../features/imports/running.ts';
import {
  addFiles,
  addImport,
  importDetail,
  setMapping,
  startImport,
  tryImport,
} from '../../features/imports/service.ts';
import { readingTask, signReading } from '../../features/reading/service.ts';
import { preflightFor } from '../../features/release/preflight.ts';
import { runDueWork } from '../../features/release/runDueWork.ts';
import { release } from '../../features/release/service.ts';
import { reinstate, reinstatementFor, withdraw } from '../../features/release/withdraw.ts';
import { changeType, typeDetail } from '../../features/rules/types.ts';
import { checkContents, setOrphansAside, tellIncidents } from '../../features/system/contentChecks.ts';
import { checkContent, systemStatus } from '../../features/system/service.ts';
import { headsFile, signHead } from '../../features/trail/heads.ts';
import { exportTrail } from '../../features/trail/service.ts';
import { connect, firstRow, rows } from '../../platform/db/connect.ts';
import { codeOf, cookieOf, PASSWORD } from '../organisation.ts';
import { withOrganisation } from '../withOrganisation.ts';

const organisation = withOrganisation();
let base: string;
beforeAll(async () => {
  base = await organisation.listen();
});

const contentOf = async (number: string) =>
  (await firstRow<{ sha256: string; file: string }>(
    organisation.app.db,
    `select f.sha256, f.id as file from version_files f join revisions r on r.latest_version_id = f.version_id join documents d on d.id = r.document_id
     where d.number = :number`,
    { number },
  )) ?? { sha256: '', file: '' };
/** Other bytes of the same length, as somebody who can write to the disk puts them there. */
const alter = (hash: string, more: { sameTime?: boolean } = {}) => {
  const path = organisation.app.content.pathOf(hash);
  const before = statSync(path);
  const bytes = readFileSync(path);
  bytes[0] = (bytes[0] ?? 0) ^ 1;
  writeFileSync(path, bytes);
  if (more.sameTime) utimesSync(path, before.atime, before.mtime);
  else utimesSync(path, new Date(), new Date(Date.now() + 5000));
};
const incidents = async () => {
  await organisation.app.content.settled();
  return (await systemStatus(organisation.app)).incidents;
};
const attention = async (name: string) =>
  (await desk(organisation.app, await organisation.as(name))).attention
    .filter((one) => one.kind === 'content')
    .map((one) => one.text);

describe('27: bytes that were altered', () => {
  test('are handed out no more, the signatures over them are altered, and an incident is on two Desks', async () => {
    const { number } = await organisation.register('author');
    await organisation.toInForce(number);
    const { sha256: hash, file } = await contentOf(number);
    const cookie = await cookieOf(base, 'reader');
    const get = () => fetch(`${base}/api/files/${file}`, { headers: { cookie } });
    expect((await get()).status).toBe(200);
    alter(hash);
    const answer = await get();
    expect(answer.status).toBe(410);
    expect(JSON.stringify(await answer.json())).toContain('content_altered');
    const states = (await organisation.page('controller', number)).rounds[0]?.steps.flatMap((step) =>
      step.assignments.map((one) => one.signature?.state).filter(Boolean),
    );
    expect(states).toEqual(['altered', 'altered']);
    expect(await incidents()).toEqual([
      expect.objectContaining({
        sha256: hash,
        what: 'altered',
        foundBy: 'opening',
        places: [expect.objectContaining({ number })],
      }),
    ]);
    expect(await attention('admin')).toEqual([expect.stringContaining('1 stored file failed')]);
    expect(await attention('controller')).toEqual([expect.stringContaining(number)]);
    expect(await attention('reader')).toEqual([]);
    expect(await tellIncidents(organisation.app)).toBe(1);
    expect(await tellIncidents(organisation.app)).toBe(0);
    const told = await rows<{ name: string }>(
      organisation.app.db,
      `select p.sign_in_name as name from mails m join people p on p.id = m.person_id where m.kind = 'security' and m.subject like '%altered%' order by 1`,
    );
    expect(told.map((one) => one.name)).toEqual(['admin', 'controller']);
    // The same bytes filed once more put it right.
    await organisation.register('author2', { text: `${await restored(hash)}` });
    expect(await incidents()).toEqual([]);
    expect((await get()).status).toBe(200);
  });
  /** The bytes as they were before `alter`. */
  const restored = async (hash: string) => {
    const bytes = readFileSync(organisation.app.content.pathOf(hash));
    bytes[0] = (bytes[0] ?? 0) ^ 1;
    return String(bytes);
  };

  test('are neither signed nor released, also when size and time of the file are as before', async () => {
    const { number } = await organisation.register('author');
    await organisation.submitAndReview(number);
    const { sha256: hash } = await contentOf(number);
    alter(hash, { sameTime: true });
    expect(await codeOf(organisation.decideAs('owner', number))).toBe('content_altered');
    alter(hash, { sameTime: true });
    await organisation.decideAs('owner', number);
    await organisation.decideAs('authority', number);
    alter(hash, { sameTime: true });
    const controller = await organisation.as('controller');
    const { lines } = await preflightFor(organisation.app, controller, number);
    expect(JSON.stringify(lines.filter((line) => line.blocks))).toContain('content_altered');
    expect(
      await codeOf(release(organisation.app, controller, number, { seen: '*', on: null, name: null, password: null })),
    ).toBe('preflight_blocked');
    alter(hash, { sameTime: true });
    expect(await checkContent(organisation.app, hash)).toEqual({ finding: 'intact' });
    expect(await incidents()).toEqual([]);
    await release(organisation.app, controller, number, { seen: '*', on: null, name: null, password: null });
    expect((await organisation.page('reader', number)).revision.state).toBe('in force');
  });

  test('are found at night both ways: altered and missing ones, and bytes that no row knows', async () => {
    const one = await contentOf((await organisation.register('author')).number);
    const two = await contentOf((await organisation.register('author')).number);
    await rows(organisation.app.db, 'update contents set checked_on = null');
    alter(one.sha256, { sameTime: true });
    rmSync(organisation.app.content.pathOf(two.sha256));
    const { checked } = await checkContents(organisation.app);
    expect(checked).toBeGreaterThan(2);
    expect((await incidents()).map((it) => [it.sha256, it.what, it.foundBy]).sort()).toEqual(
      [
        [one.sha256, 'altered', 'nightly check'],
        [two.sha256, 'missing', 'nightly check'],
      ].sort(),
    );
    // Read again only after a month.
    expect((await checkContents(organisation.app)).checked).toBe(0);
    organisation.clock.now = new Date(organisation.clock.now.getTime() + 31 * 86_400_000);
    expect((await checkContents(organisation.app)).checked).toBe(checked);
    organisation.clock.now = new Date(organisation.clock.now.getTime() - 31 * 86_400_000);
  });

  test('40: a refused upload leaves nothing for ever', async () => {
    const author = await organisation.as('author');
    const large = Readable.from([Buffer.alloc(9 * 1_048_576)]);
    expect(await codeOf(takeUpload(organisation.app, author, 'large.bin', large))).toBe('file_too_large');
    expect(await codeOf(takeUpload(organisation.app, author, 'empty.txt', Readable.from([Buffer.alloc(0)])))).not.toBe(
      'done',
    );
    const refusedOne = await codeOf(
      takeUpload(organisation.app, author, 'run.pdf', Readable.from([Buffer.from('MZ this is no PDF')])),
    );
    expect(refusedOne).not.toBe('done');
    await setOrphansAside(organisation.app, 0);
    const known = new Set(
      (await rows<{ sha256: string }>(organisation.app.db, 'select sha256 from contents')).map((row) => row.sha256),
    );
    for await (const hashes of organisation.app.content.list())
      for (const hash of hashes) expect(known.has(hash)).toBe(true);
    await organisation.app.content.sweep(-1000);
    expect(await organisation.app.content.leaving()).toEqual([]);
  });
});

describe('37: what is stored', () => {
  test('is readable by the server alone', async () => {
    const { sha256: hash } = await contentOf((await organisation.register('author')).number);
    const path = organisation.app.content.pathOf(hash);
    expect((statSync(path).mode & 0o777).toString(8)).toBe('600');
    for (const up of ['..', '../..', '../../..'])
      expect((statSync(join(path, up)).mode & 0o777).toString(8)).toBe('700');
    await signHead(organisation.app);
    expect((statSync(headsFile(organisation.app)).mode & 0o777).toString(8)).toBe('600');
    const { startMailStandIn } = await import('../../platform/mail/standIn.ts');
    const { createMailSender } = await import('../../platform/mail/sender.ts');
    const standIn = await startMailStandIn(organisation.dataDir, 0);
    const sender = createMailSender({ ...organisation.app.config, smtpUrl: `smtp://127.0.0.1:${standIn.port}` });
    await sender.send({ id: 'x', to: 'a@a.example', subject: 'x', text: 'x', html: 'x' } as never);
    const mails = join(organisation.dataDir, 'mail');
    expect((statSync(mails).mode & 0o777).toString(8)).toBe('700');
    for (const name of readdirSync(mails)) expect((statSync(join(mails, name)).mode & 0o777).toString(8)).toBe('600');
    await standIn.stop();
  });
});

describe('29: the end of the trail', () => {
  const verdictWith = async (heads: SignedHead[]) => {
    const verifier = createVerifier(verifierTools, { heads });
    const pieces: string[] = [];
    await exportTrail(
      organisation.app,
      new Writable({
        write: (chunk, _encoding, done) => {
          pieces.push(String(chunk));
          done();
        },
      }),
    );
    for (const line of pieces.join('').split('\n')) if (!verifier.line(line)) break;
    return verifier.verdict();
  };
  const kept = () =>
    readFileSync(headsFile(organisation.app), 'utf8')
      .trim()
      .split('\n')
      .map((line) => JSON.parse(line) as SignedHead);

  test('is covered by heads outside the database: a cut trail is reported with its missing events', async () => {
    const owner = connect(organisation.ownerUrl, 1);
    await organisation.register('author');
    await signHead(organisation.app);
    const heads = kept();
    const { size } = heads.at(-1) ?? { size: 0 };
    expect(size).toBe((await firstRow<{ n: number }>(organisation.app.db, 'select max(seq)::int as n from events'))?.n);
    // Nothing new, no head; something new, one more.
    expect(await signHead(organisation.app)).toBeUndefined();
    expect(await verdictWith(heads)).toMatchObject({ kind: 'intact', upTo: size });
    await rows(owner, 'alter table events disable trigger event_guard');
    const cut = await rows(owner, 'delete from events where seq > :from returning *', { from: size - 2 });
    await rows(owner, 'create temp table cut_heads as select * from heads where size > :from', { from: size - 2 });
    await rows(owner, 'delete from heads where size > :from', { from: size - 2 });
    expect(cut).toHaveLength(2);
    const verdict = await verdictWith(heads.slice(-1));
    expect(verdict).toMatchObject({ kind: 'broken', reason: expect.stringContaining(`covers ${size} events`) });
    expect(verdict).toMatchObject({ reason: expect.stringContaining(`has ${size - 2}`) });
    expect((await verdictWith(heads)).kind).toBe('broken');
    // A head that nobody signed with the organisation's key proves nothing.
    const forged = heads.map((head) => ({ ...head, size: head.size + 100 }));
    expect((await verdictWith(forged)).kind).toBe('broken');
    for (const row of cut)
      await rows(owner, `insert into events select * from jsonb_populate_record(null::events, :row::jsonb)`, {
        row: JSON.stringify(row),
      });
    await rows(owner, 'insert into heads select * from cut_heads');
    await rows(owner, 'alter table events enable trigger event_guard');
    await owner.destroy();
    expect(await verdictWith(heads)).toMatchObject({ kind: 'intact' });
  });

  test('and the application’s own role can alter neither events nor heads', async () => {
    for (const statement of [
      `update events set actor = 'x'`,
      'delete from events',
      'truncate events',
      `update heads set root = 'x'`,
      'delete from heads',
      `update signatures set printed_name = 'x'`,
      'delete from signatures',
      'update signing_records set text = text',
    ])
      expect([
        statement,
        await rows(organisation.app.db, statement).then(
          () => 'done',
          (error: Error) => error.constructor.name,
        ),
      ]).not.toEqual([statement, 'done']);
    expect(await rows(organisation.app.db, `select to_regclass('tree_state') as it`)).toEqual([{ it: null }]);
  });
});

describe('12: documents that were imported', () => {
  test('have a signing record, so that they are read and signed, withdrawn and reinstated', async () => {
    const controller = await organisation.as('controller');
    const typeId = organisation.types.get('TWO') ?? '';
    const { rule, rowVersion } = await typeDetail(organisation.app, typeId);
    await changeType(organisation.app, await organisation.as('admin'), typeId, {
      rule: { ...rule, takeOver: true },
      reason: 'legacy documents',
      rowVersion,
      from: null,
      fill: [],
    });
    const send = async (name: string, bytes: string | Uint8Array) =>
      (await takeUpload(organisation.app, controller, name, Readable.from([Buffer.from(bytes as Uint8Array)]))).id;
    const list =
      'Number;Title;Type;Rev;State;In force from;File\r\nTST-TWO-0041;Grip test;TWO;2;in force;01.03.2020;b.md';
    const { id } = await addImport(organisation.app, controller, await send('old.csv', list));
    const detail = await importDetail(organisation.app, controller, id);
    await setMapping(organisation.app, controller, id, {
      mapping: { ...detail.mapping, folder: 'Area one', owner: 'Owner' },
      rowVersion: detail.rowVersion,
    });
    await addFiles(organisation.app, controller, id, [
      { uploadId: await send('files.zip', zipSync({ 'b.md': strToU8('# grip') })), path: '' },
    ]);
    const tried = await tryImport(organisation.app, controller, id);
    const faults = await rows(organisation.app.db, 'select * from import_lines where import_id = :id', { id });
    expect(tried, JSON.stringify(faults)).toMatchObject({ ready: 1 });
    await startImport(organisation.app, controller, id, 'the cupboard');
    expect(await runImport(organisation.app, id)).toBe('done');
    const number = 'TST-TWO-0041';
    const readAndSign = async () => {
      await organisation.requireReading(number, ['reader']);
      await runDueWork(organisation.app);
      const reading = await firstRow<{ id: string }>(
        organisation.app.db,
        `select a.id from reading_assignments a join documents d on d.id = a.document_id where d.number = :number and a.state = 'open'`,
        { number },
      );
      const reader = await organisation.as('reader');
      const { digest } = await readingTask(organisation.app, reader, reading?.id ?? '');
      await organisation.openFiles('reader', number);
      await signReading(organisation.app, reader, reading?.id ?? '', {
        name: 'reader',
        password: PASSWORD,
        digest,
        remark: '',
      });
      return (await readingTask(organisation.app, reader, reading?.id ?? '')).signature?.state;
    };
    expect(await readAndSign()).toBe('intact');
    await withdraw(organisation.app, controller, number, {
      reason: 'for a while',
      name: 'controller',
      password: PASSWORD,
    } as never);
    const { signing } = await reinstatementFor(organisation.app, controller, number);
    await organisation.openFiles('controller', number);
    await reinstate(organisation.app, controller, number, {
      reason: 'needed again',
      name: 'controller',
      password: PASSWORD,
      digest: signing.digest,
    } as never);
    expect((await organisation.page('reader', number)).revision.state).toBe('in force');
  });
});
