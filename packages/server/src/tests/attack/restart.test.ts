// What ends while work is under way: the database below the server, and the server below a program that saves.
import { mkdtempSync, readFileSync, rmSync } from 'node:fs';
import { request } from 'node:http';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { setTimeout as sleep } from 'node:timers/promises';
import { afterAll, beforeAll, describe, expect, test } from 'vitest';
import { openCluster, ownerUrl } from '../../../../../tools/lib/cluster.mjs';
import { makeProgramPassword } from '../../features/webdav/passwords.ts';
import { connect, rows } from '../../platform/db/connect.ts';
import { cookieOf, openOrganisation, type TestOrganisation } from '../organisation.ts';
import { buildServer, type Running, runServer } from '../program.ts';

let program: string;
beforeAll(async () => {
  program = await buildServer('restart');
}, 300_000);

describe('24: a restart of PostgreSQL', () => {
  const dir = mkdtempSync(join(tmpdir(), 'kanonos-cluster-'));
  const outer = { ...process.env };
  let cluster: Awaited<ReturnType<typeof openCluster>>;
  let organisation: TestOrganisation;
  let server: Running | undefined;
  const port = 21_000 + (process.pid % 9_000);
  beforeAll(async () => {
    cluster = await openCluster(dir, { fast: true, port: 55_200 });
    process.env.KANONOS_TEST_DATABASE = ownerUrl(cluster, 'postgres');
    process.env.KANONOS_TEST_APP_PASSWORD = cluster.app;
    organisation = await openOrganisation();
    server = await runServer(program, organisation, port, { JOBS: 'here' });
  }, 300_000);
  afterAll(async () => {
    server?.kill();
    await organisation.close().catch(() => {});
    Object.assign(process.env, outer);
    cluster.stop();
    rmSync(cluster.place, { recursive: true, force: true });
    rmSync(dir, { recursive: true, force: true });
  });
  const health = async () =>
    (await fetch(`${server?.base}/api/health`, { signal: AbortSignal.timeout(15_000) }).catch(() => undefined))?.status;
  const start = async () => {
    for (let tries = 0; ; tries++)
      try {
        cluster = await openCluster(dir, { fast: true, port: cluster.port });
        return;
      } catch (error) {
        // What is left of a killed one holds its memory for a moment.
        if (tries > 20) throw error;
        await sleep(500);
      }
  };
  const end = {
    killed: () =>
      process.kill(Number(readFileSync(join(cluster.place, 'postmaster.pid'), 'utf8').split('\n')[0]), 'SIGKILL'),
    'stopped cleanly': () => void cluster.stop(),
  };
  const fileText = async (words: string): Promise<string | undefined> => {
    const cookie = await cookieOf(server?.base ?? '', 'author');
    const form = new FormData();
    form.append('file', new Blob([words]), 'text.txt');
    const answer = await fetch(`${server?.base}/api/uploads`, { method: 'POST', headers: { cookie }, body: form });
    const { id } = (await answer.json()) as { id: string };
    const db = connect(organisation.appUrl, 1);
    try {
      for (let tries = 0; tries < 100; tries++) {
        const [row] = await rows<{ text_state: string }>(
          db,
          'select c.text_state from uploads u join contents c on c.sha256 = u.sha256 where u.id = :id',
          { id },
        );
        if (row?.text_state === 'done') return 'done';
        await sleep(300);
      }
      return 'waits';
    } finally {
      await db.destroy();
    }
  };

  test.each([
    'killed',
    'stopped cleanly',
    'stopped cleanly',
    'stopped cleanly',
    'killed',
    'stopped cleanly',
    'stopped cleanly',
    'stopped cleanly',
  ] as const)(
    '%s: the server says 503 meanwhile, goes on, and does its background work',
    async (how) => {
      expect(await health()).toBe(200);
      end[how]();
      await expect.poll(health, { timeout: 30_000, interval: 200 }).toBe(503);
      // Work that falls due while nothing answers.
      await sleep(1500);
      expect((await fetch(`${server?.base}/api/health/live`)).status).toBe(200);
      await start();
      await expect.poll(health, { timeout: 60_000, interval: 300 }).toBe(200);
      expect(server?.process.exitCode).toBeNull();
      expect(server?.process.signalCode).toBeNull();
      expect(await fileText(`words ${how} ${performance.now()}`)).toBe('done');
    },
    600_000,
  );
});

describe('39: the server is killed while a program saves without a lock', () => {
  let organisation: TestOrganisation;
  let server: Running | undefined;
  beforeAll(async () => {
    organisation = await openOrganisation();
  }, 300_000);
  afterAll(async () => {
    server?.kill();
    await organisation.close();
  });

  test('the document is checked out to nobody, and every confirmed command is there', async () => {
    const { password } = await makeProgramPassword(organisation.app, await organisation.as('author'), 'desk');
    const authorization = `Basic ${Buffer.from(`author:${password}`).toString('base64')}`;
    const { number, id } = await organisation.register('author', { title: 'Saved by a program', text: '# first' });
    let port = 30_500 + (process.pid % 2_000);
    server = await runServer(program, organisation, port);
    const listing = await (
      await fetch(`${server.base}/webdav/Area%20one`, { method: 'PROPFIND', headers: { authorization, depth: '1' } })
    ).text();
    const href =
      [...listing.matchAll(/<D:href>([^<]*)<\/D:href>/g)]
        .map((match) => match[1] ?? '')
        .find((it) => it.includes(number)) ?? '';
    expect(href).toBeTruthy();
    let answered = 0;
    for (let kill = 0; kill < 16; kill++) {
      const running = server;
      const saved = new Promise<number>((resolve) => {
        const put = request(`${running.base}${href}`, { method: 'PUT', headers: { authorization } }, (answer) => {
          answer.resume();
          resolve(answer.statusCode ?? 0);
        });
        put.on('error', () => resolve(0));
        put.write(`# saved ${kill}\n${'x'.repeat(100_000)}`);
        // The last piece leaves while the server is about to be killed.
        setTimeout(() => put.end('end'), 20);
      });
      await sleep(15 + kill * 6);
      running.kill();
      const status = await saved;
      if (status >= 200 && status < 300) answered++;
      const checkouts = await rows(organisation.app.db, 'select 1 from checkouts where document_id = :id', { id });
      expect([kill, status, checkouts.length]).toEqual([kill, status, 0]);
      server = await runServer(program, organisation, ++port);
    }
    const page = await organisation.page('author', number);
    expect(page.checkout).toBeNull();
    expect(page.revision.versions).toBeGreaterThanOrEqual(1 + Math.min(answered, 1));
    // The next one saves as if nothing had been.
    const put = await fetch(`${server.base}${href}`, { method: 'PUT', headers: { authorization }, body: '# at last' });
    expect(put.status).toBe(204);
  }, 900_000);
});
