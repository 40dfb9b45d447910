// The HTTP server under attack: broken forms, lying archives, slow bodies, readers who leave, characters that nothing can hold.

import { request as httpRequest } from 'node:http';
import { connect as connectSocket } from 'node:net';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { Readable, Writable } from 'node:stream';
import { toCsv } from '@kanonos/core';
import { strToU8, zipSync } from 'fflate';
import { afterAll, beforeAll, describe, expect, test } from 'vitest';
import { takeUpload } from '../../features/content/uploads.ts';
import { addFiles, addImport } from '../../features/imports/service.ts';
import { exportTrail } from '../../features/trail/service.ts';
import { makeProgramPassword } from '../../features/webdav/passwords.ts';
import { createHttp } from '../../http.ts';
import { readConfig } from '../../platform/config.ts';
import { rows } from '../../platform/db/connect.ts';
import { limitBodies, limitConnections } from '../../platform/http/limits.ts';
import { codeOf, cookieOf, openOrganisation, type TestOrganisation } from '../organisation.ts';

let organisation: TestOrganisation;
let base: string;
let cookie: string;
let unheard: unknown[] = [];
const hear = (error: unknown) => unheard.push(error);
beforeAll(async () => {
  organisation = await openOrganisation();
  base = await organisation.listen();
  cookie = await cookieOf(base, 'author');
  process.on('uncaughtException', hear);
  process.on('unhandledRejection', hear);
});
afterAll(async () => {
  process.off('uncaughtException', hear);
  process.off('unhandledRejection', hear);
  await organisation.close();
});
const alive = async () => (await fetch(`${base}/api/health`)).status;

describe('20: broken forms', () => {
  const send = (body: string) =>
    fetch(`${base}/api/uploads`, {
      method: 'POST',
      headers: { cookie, 'content-type': 'multipart/form-data; boundary=B' },
      body,
    });
  test('a form without its end, at any place, is a bad request and nothing more', async () => {
    const whole = '--B\r\nContent-Disposition: form-data; name="file"; filename="a.txt"\r\n\r\nabc\r\n--B--\r\n';
    unheard = [];
    for (let length = 0; length < whole.length - 4; length += 3) {
      const answer = await send(whole.slice(0, length));
      expect([length, [400, 422].includes(answer.status)]).toEqual([length, true]);
      await answer.body?.cancel();
    }
    expect((await send(whole)).status).toBe(200);
    expect(unheard).toEqual([]);
    expect(await alive()).toBe(200);
  });

  test('an aborted upload leaves nothing', async () => {
    unheard = [];
    const { port } = new URL(base);
    for (let i = 0; i < 5; i++)
      await new Promise<void>((resolve) => {
        const upload = httpRequest({
          port,
          method: 'POST',
          path: '/api/uploads',
          headers: { cookie, 'content-type': 'multipart/form-data; boundary=B' },
        });
        upload.on('error', () => resolve());
        upload.write('--B\r\nContent-Disposition: form-data; name="file"; filename="a.txt"\r\n\r\nabc');
        setTimeout(() => {
          upload.destroy();
          resolve();
        }, 50);
      });
    await expect.poll(alive).toBe(200);
    expect(unheard).toEqual([]);
  });
});

/** A zip of one stored file whose headers say that it holds so many bytes. */
const lyingZip = (size: number, content: Uint8Array): Buffer => {
  const zip = Buffer.from(zipSync({ 'a.txt': [content, { level: 9 }] }));
  for (let at = 0; at < zip.length - 4; at++) {
    if (zip.readUInt32LE(at) === 0x04034b50) zip.writeUInt32LE(size, at + 22);
    if (zip.readUInt32LE(at) === 0x02014b50) zip.writeUInt32LE(size, at + 24);
  }
  return zip;
};

describe('21: a zip whose sizes lie', () => {
  test('is refused as a whole, and the server goes on', async () => {
    unheard = [];
    const viewer = await organisation.as('controller');
    const manifest = await takeUpload(
      organisation.app,
      viewer,
      'list.csv',
      Readable.from([Buffer.from('number,title\nTST-PRO-0001,x\n')]),
    );
    const { id } = await addImport(organisation.app, viewer, manifest.id);
    const zip = await takeUpload(
      organisation.app,
      viewer,
      'files.zip',
      Readable.from([lyingZip(10, strToU8('a text that is longer than it says. '.repeat(100_000)))]),
    );
    expect(await codeOf(addFiles(organisation.app, viewer, id, [{ uploadId: zip.id, path: '' }]))).toBe('zip_bomb');
    expect(await rows(organisation.app.db, 'select 1 from import_files')).toEqual([]);
    expect(unheard).toEqual([]);
    expect(await alive()).toBe(200);
  });
});

describe('14: readers who leave', () => {
  test('an export of the trail ends when its reader leaves while it waits', async () => {
    for (let i = 0; i < 40; i++) await organisation.register('author');
    const slow = new Writable({ highWaterMark: 1, write: () => {} });
    const ended = exportTrail(organisation.app, slow).then(() => 'ended');
    setTimeout(() => slow.destroy(), 100);
    const timeout = new Promise((resolve) => setTimeout(() => resolve('hangs'), 5000));
    expect(await Promise.race([ended, timeout])).toBe('ended');
  });
});

describe('26: bodies held open', () => {
  test('one that does not go on is ended, one that goes on slowly is taken', async () => {
    const limits = { look: 50, whole: 400, window: 300, bytes: 10 };
    const express = (await import('express')).default;
    const server = express();
    server.use(limitBodies(limits));
    server.use(express.raw({ type: '*/*', limit: '10mb' }));
    server.post('/', (request, response) => void response.json({ bytes: (request.body as Buffer).length }));
    server.use(
      ((_error, _request, response, _next) => void response.status(408).end()) as import('express').ErrorRequestHandler,
    );
    const listening = server.listen(0, '127.0.0.1');
    await new Promise((resolve) => listening.once('listening', resolve));
    const { port } = listening.address() as { port: number };
    const drip = (type: string, piece: string, every: number, times: number) =>
      new Promise<string>((resolve) => {
        const socket = connectSocket(port, '127.0.0.1');
        let got = '';
        socket.on('data', (data) => {
          got += String(data);
        });
        socket.on('close', () => resolve(got.split('\r\n')[0] ?? ''));
        socket.on('error', () => {});
        socket.write(
          `POST / HTTP/1.1\r\nHost: x\r\nConnection: close\r\nContent-Type: ${type}\r\nContent-Length: ${piece.length * times}\r\n\r\n`,
        );
        let sent = 0;
        const timer = setInterval(() => {
          if (socket.destroyed || sent++ >= times) return clearInterval(timer);
          socket.write(piece);
        }, every);
      });
    expect(await drip('application/octet-stream', 'x', 200, 50)).toContain('408');
    expect(await drip('application/octet-stream', 'x'.repeat(50), 100, 15)).toContain('200');
    expect(await drip('application/json', 'x'.repeat(50), 100, 15)).toContain('408');
    listening.closeAllConnections();
    listening.close();
  }, 180_000);

  test('an address holds at most so many connections', async () => {
    const server = createHttp(organisation.app).listen(0, '127.0.0.1');
    limitConnections(server, 10);
    await new Promise((resolve) => server.once('listening', resolve));
    const { port } = server.address() as { port: number };
    const sockets = Array.from({ length: 40 }, () => connectSocket(port, '127.0.0.1'));
    let closed = 0;
    for (const socket of sockets) {
      socket.on('error', () => {});
      socket.on('close', () => closed++);
    }
    await expect.poll(() => closed).toBe(30);
    for (const socket of sockets) socket.destroy();
    await expect
      .poll(async () => (await fetch(`http://127.0.0.1:${port}/api/health/live`).catch(() => undefined))?.status)
      .toBe(200);
    server.closeAllConnections();
    server.close();
  });
});

describe('6: behind a proxy', () => {
  test('tries are counted per account and client, so that one keeps nobody else out', async () => {
    const config = { ...organisation.app.config, trustProxy: 1, signInsPerMinute: 3 };
    const server = createHttp({ ...organisation.app, config }).listen(0, '127.0.0.1');
    await new Promise((resolve) => server.once('listening', resolve));
    const { port } = server.address() as { port: number };
    const signIn = async (client: string, name: string) =>
      (
        await fetch(`http://127.0.0.1:${port}/api/session`, {
          method: 'POST',
          headers: { 'content-type': 'application/json', 'x-forwarded-for': client },
          body: JSON.stringify({ name, password: 'wrong' }),
        })
      ).headers.get('ratelimit-remaining');
    for (let i = 0; i < 6; i++) await signIn('203.0.113.7', 'unknown.one');
    expect(await signIn('203.0.113.7', 'unknown.one')).toBe('0');
    expect(await signIn('203.0.113.8', 'unknown.one')).not.toBe('0');
    expect(await signIn('203.0.113.7', 'unknown.two')).not.toBe('0');
    // A program with a wrong password locks neither another account nor another machine out.
    const { password } = await makeProgramPassword(organisation.app, await organisation.as('author'), 'x');
    const dav = async (client: string, name: string, secret: string) =>
      (
        await fetch(`http://127.0.0.1:${port}/webdav/`, {
          method: 'PROPFIND',
          headers: {
            depth: '0',
            'x-forwarded-for': client,
            authorization: `Basic ${Buffer.from(`${name}:${secret}`).toString('base64')}`,
          },
        })
      ).status;
    for (let i = 0; i < 40; i++) await dav('203.0.113.9', 'author2', 'wrong');
    expect(await dav('203.0.113.9', 'author2', 'wrong')).toBe(429);
    expect(await dav('203.0.113.9', 'author', password)).toBe(207);
    expect(await dav('203.0.113.10', 'author', password)).toBe(207);
    server.closeAllConnections();
    server.close();
  });

  test('whose word on addresses is believed is configured', () => {
    const of = (value: string) => readConfig({ DATABASE_URL: 'postgres://x', TRUST_PROXY: value }).trustProxy;
    expect([of('no'), of('1'), of('loopback'), of('10.0.0.0/8, 127.0.0.1')]).toEqual([
      false,
      1,
      'loopback',
      '10.0.0.0/8, 127.0.0.1',
    ]);
    expect(() => of('everybody!')).toThrow('TRUST_PROXY');
  });
});

describe('41: health', () => {
  test('answers 503 while the database is unreachable, and that the process is alive', async () => {
    const db = new Proxy(organisation.app.db, {
      get: (target, name) =>
        name === 'raw' ? () => Promise.reject(new Error('gone')) : Reflect.get(target, name, target),
    });
    const server = createHttp({ ...organisation.app, db }).listen(0, '127.0.0.1');
    await new Promise((resolve) => server.once('listening', resolve));
    const { port } = server.address() as { port: number };
    const answer = await fetch(`http://127.0.0.1:${port}/api/health`);
    expect(answer.status).toBe(503);
    expect(await answer.json()).toMatchObject({ ok: false, database: 'is not responding' });
    expect((await fetch(`http://127.0.0.1:${port}/api/health/live`)).status).toBe(200);
    server.closeAllConnections();
    server.close();
  });
});

describe('42: what gave a 500', () => {
  const ask = (path: string, init: RequestInit = {}) =>
    fetch(base + path, { ...init, headers: { cookie, ...init.headers } });
  const json = (body: string) => ({ method: 'POST', headers: { 'content-type': 'application/json' }, body });
  test('half characters in texts are refused by name', async () => {
    const answer = await ask(
      '/api/profile/absences',
      json('{"from":"2026-11-25","to":"2026-11-26","deputyId":"\\ud800"}'),
    );
    expect(answer.status).toBe(422);
    expect(JSON.stringify(await answer.json())).toContain('deputyId');
    for (const bad of ['"\\ud800"', '"a\\u0000b"', '"\\uffff"'])
      expect([
        bad,
        (
          await ask(
            '/api/registrations/preview',
            json(
              `{"typeId":"${organisation.types.get('PRO')}","folderId":"${organisation.folders.get('1')}","title":${bad}}`,
            ),
          )
        ).status,
      ]).toEqual([bad, 422]);
  });

  test('numbers beyond the database, origins that are none, files that are not there', async () => {
    expect(
      (await ask('/api/profile', { ...json('{"mailMode":"daily","rowVersion":2147483648}'), method: 'PATCH' })).status,
    ).toBe(422);
    expect((await ask('/api/imports/00000000-0000-7000-8000-000000000001/lines?after=2147483648')).status).toBe(422);
    for (const origin of [
      'foo',
      'http://',
      'http://127.0.0.1.evil.example',
      'null',
      `${base}.evil.example`,
      'http:///',
    ])
      expect([origin, (await ask('/api/session', { method: 'DELETE', headers: { origin } })).status]).toEqual([
        origin,
        403,
      ]);
    const deep = `${'['.repeat(10_000)}${']'.repeat(10_000)}`;
    expect((await ask('/api/session', json(`{"name":"x","password":"x","more":${deep}}`))).status).toBeLessThan(500);
  });

  test('a file of the built web that is not there is not found', async () => {
    const { mkdtempSync, mkdirSync, writeFileSync } = await import('node:fs');
    const dir = mkdtempSync(join(tmpdir(), 'kanonos-web-'));
    mkdirSync(`${dir}/assets`);
    writeFileSync(`${dir}/index.html`, '<!doctype html>');
    const server = createHttp({ ...organisation.app, config: { ...organisation.app.config, webDir: dir } }).listen(
      0,
      '127.0.0.1',
    );
    await new Promise((resolve) => server.once('listening', resolve));
    const { port } = server.address() as { port: number };
    for (const path of ['/assets/nothing.js', '/assets/.hidden'])
      expect([path, (await fetch(`http://127.0.0.1:${port}${path}`)).status]).toEqual([path, 404]);
    server.closeAllConnections();
    server.close();
  });
});

describe('WebDAV', () => {
  let authorization: string;
  beforeAll(async () => {
    const { password } = await makeProgramPassword(organisation.app, await organisation.as('author'), 'attack');
    authorization = `Basic ${Buffer.from(`author:${password}`).toString('base64')}`;
  });
  const dav = (method: string, path: string, body?: string, headers: Record<string, string> = {}) =>
    fetch(`${base}/webdav${path}`, {
      method,
      headers: { authorization, ...headers },
      ...(body === undefined ? {} : { body }),
    });
  const LOCK =
    '<D:lockinfo xmlns:D="DAV:"><D:lockscope><D:exclusive/></D:lockscope><D:locktype><D:write/></D:locktype></D:lockinfo>';
  const FOLDER = '/Area%20one';

  test('42: the same new name by eight at once is made once, and nobody gets a 500', async () => {
    const put = await Promise.all(
      Array.from({ length: 8 }, (_, i) =>
        dav('PUT', `${FOLDER}/~same.tmp`, `words ${i}`).then((answer) => answer.status),
      ),
    );
    expect(put.filter((status) => status === 201)).toHaveLength(1);
    expect(put.every((status) => [201, 204].includes(status))).toBe(true);
    const made = await Promise.all(
      Array.from({ length: 8 }, () => dav('MKCOL', `${FOLDER}/same`).then((answer) => answer.status)),
    );
    expect(made.filter((status) => status === 201)).toHaveLength(1);
    expect(made.every((status) => [201, 405].includes(status))).toBe(true);
  });

  test('16 and 33: of eight exclusive locks at once one holds', async () => {
    await dav('PUT', `${FOLDER}/~locked.tmp`, 'words');
    const locks = await Promise.all(
      Array.from({ length: 8 }, () => dav('LOCK', `${FOLDER}/~locked.tmp`, LOCK).then((answer) => answer.status)),
    );
    expect(locks.filter((status) => status === 200)).toHaveLength(1);
    expect(locks.filter((status) => status === 423)).toHaveLength(7);
  });

  test('25: sixty thousand names asked for, characters that XML cannot hold, and a missing file', async () => {
    const names = Array.from({ length: 60_000 }, (_, i) => `<a${i}/>`).join('');
    const began = performance.now();
    expect(
      (await dav('PROPFIND', FOLDER, `<propfind xmlns="DAV:"><prop>${names}</prop></propfind>`, { depth: '1' })).status,
    ).toBe(400);
    expect(performance.now() - began).toBeLessThan(10_000);
    expect(
      (await dav('PROPFIND', FOLDER, '<propfind xmlns="DAV:"><prop><a>&#0;</a></prop></propfind>', { depth: '0' }))
        .status,
    ).toBe(400);
    const { id } = await organisation.register('author', { title: 'In the folder', text: '# Words' });
    const [file] = await rows<{ sha256: string }>(
      organisation.app.db,
      'select f.sha256 from version_files f join versions v on v.id = f.version_id join revisions r on r.id = v.revision_id where r.document_id = :id',
      { id },
    );
    // A title from before such characters were refused, and bytes that are gone.
    await rows(organisation.app.db, `update revisions set title = 'Bad \uffff title' where document_id = :id`, { id });
    const { rmSync } = await import('node:fs');
    rmSync(organisation.app.content.pathOf(file?.sha256 ?? ''));
    const answer = await dav('PROPFIND', FOLDER, '', { depth: '1' });
    expect(answer.status).toBe(207);
    const xml = await answer.text();
    expect(xml).toContain('Bad');
    expect(xml).not.toContain('\uffff');
    const { DOMParser } = await import('@xmldom/xmldom');
    const faults: string[] = [];
    new DOMParser({
      errorHandler: (_level: string, message: string) => void faults.push(message),
    } as never).parseFromString(xml, 'text/xml');
    expect(faults).toEqual([]);
  });

  test('33: a document that may not be downloaded cannot be copied onto a draft of one’s own', async () => {
    const { id, number } = await organisation.register('author2', {
      title: 'Not to be taken',
      owner: 'owner',
      text: '# Secret words',
    });
    await organisation.toInForce(number, 'author2');
    const { number: own } = await organisation.register('author', { title: 'My own draft' });
    await rows(organisation.app.db, `update documents set confidentiality = 'restricted' where id = :id`, { id });
    await rows(organisation.app.db, `update organisation set confidentiality = '{"restricted":["download"]}'`);
    await rows(organisation.app.db, 'update access_version set n = n + 1');
    const listing = await (await dav('PROPFIND', FOLDER, '', { depth: '1' })).text();
    const hrefOf = (part: string) =>
      [...listing.matchAll(/<D:href>([^<]*)<\/D:href>/g)]
        .map((match) => match[1] ?? '')
        .find((href) => href.includes(part)) ?? '';
    const [from, to] = [hrefOf(number), hrefOf(own)];
    expect(from && to).toBeTruthy();
    const copied = await fetch(base + from, { method: 'COPY', headers: { authorization, destination: base + to } });
    expect(copied.status).toBe(403);
    expect((await fetch(base + from, { headers: { authorization } })).status).toBe(403);
  });
});

describe('36: tables that leave', () => {
  test('have no cell that a spreadsheet takes for a formula', () => {
    const csv = toCsv([['-1+cmd|x', '=1+1', '+2', '@x', '\t=1', '-12.5', '-x', 'plain', '  =1', '\r=1']]);
    for (const cell of csv.replace('\ufeff', '').trim().split(','))
      expect(cell.replace(/^"/, '')).not.toMatch(/^\s*([=+@]|-(?!\d+(\.\d+)?$))/);
    expect(csv).toContain('-12.5');
  });
});
