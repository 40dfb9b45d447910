import { execFile } from 'node:child_process';
import { mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { request } from 'node:http';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { Readable } from 'node:stream';
import { promisify } from 'node:util';
import { afterAll, beforeAll, describe, expect, test } from 'vitest';
import { checkIn, takeOverCheckout } from '../features/authoring/service.ts';
import { takeUpload } from '../features/content/uploads.ts';
import { recall, submit as submitForReview } from '../features/rounds/service.ts';
import { addressOnDrive } from '../features/webdav/address.ts';
import { applyDriveDue, driveFiles, takeDriveFile } from '../features/webdav/driveFiles.ts';
import { endProgramPassword, makeProgramPassword, programPasswords } from '../features/webdav/passwords.ts';
import { rows } from '../platform/db/connect.ts';
import { codeOf, openOrganisation, type TestOrganisation } from './organisation.ts';

const run = promisify(execFile);
let organisation: TestOrganisation;
let base: string;
const passwords: Record<string, string> = {};
beforeAll(async () => {
  organisation = await openOrganisation();
  base = `${await organisation.listen()}/webdav`;
  for (const name of ['author', 'author2', 'reader', 'reviewer', 'stranger'])
    passwords[name] = (await makeProgramPassword(organisation.app, await organisation.as(name), 'Test')).password;
});
afterAll(() => organisation.close());

const signInName = async (name: string) => (await organisation.as(name)).signInName;
type Sent = { body?: string | Uint8Array; headers?: Record<string, string> };
/** Sends a request as a desk program does. */
const send = async (person: string, method: string, path: string, { body, headers }: Sent = {}) => {
  const authorization = `Basic ${Buffer.from(`${await signInName(person)}:${passwords[person]}`).toString('base64')}`;
  const response = await fetch(`${base}${path.split('/').map(encodeURIComponent).join('/')}`, {
    method,
    headers: { authorization, ...headers },
    ...(body === undefined ? {} : { body: body as BodyInit }),
  });
  return { status: response.status, text: await response.text(), headers: response.headers };
};
const LOCK = `<?xml version="1.0"?><D:lockinfo xmlns:D="DAV:"><D:lockscope><D:exclusive/></D:lockscope><D:locktype><D:write/></D:locktype></D:lockinfo>`;
const lock = async (person: string, path: string) => {
  const answer = await send(person, 'LOCK', path, { body: LOCK, headers: { timeout: 'Second-300', depth: '0' } });
  return { status: answer.status, text: answer.text, token: answer.headers.get('lock-token') ?? '' };
};
const within = (token: string) => ({ if: `(${token})` });
const nameOf = (number: string, title = 'Slip force') => `${number}_A_${title.replaceAll(' ', '-')}.md`;
const made = async (title = 'Slip force') => {
  const { number } = await organisation.register('author', { title, text: 'first words' });
  return { number, path: `/Area one/${nameOf(number, title)}` };
};
const versions = async (number: string) =>
  rows<{ n: number; note: string }>(
    organisation.app.db,
    'select v.n, v.note from versions v join revisions r on r.id = v.revision_id join documents d on d.id = r.document_id where d.number = :number order by v.n',
    { number },
  );
const isOut = async (number: string) => (await organisation.page('author', number)).checkout !== null;
/** As when half a minute has passed. */
const rest = async () => {
  organisation.clock.now = new Date(organisation.clock.now.getTime() + 31_000);
  await applyDriveDue(organisation.app);
};

describe('signing in', () => {
  test('takes a program’s password alone, and no more once that is ended', async () => {
    expect((await fetch(`${base}/`, { method: 'PROPFIND', headers: { depth: '0' } })).status).toBe(401);
    const viewer = await organisation.as('reader');
    const { password } = await makeProgramPassword(organisation.app, viewer, 'Other program');
    const ask = async (secret: string) =>
      (
        await fetch(`${base}/`, {
          method: 'PROPFIND',
          headers: {
            depth: '0',
            authorization: `Basic ${Buffer.from(`${viewer.signInName}:${secret}`).toString('base64')}`,
          },
        })
      ).status;
    expect(await ask(password)).toBe(207);
    expect(await ask('correct horse battery')).toBe(401);
    const kept = (await programPasswords(organisation.app, viewer)).passwords.find(
      (one) => one.name === 'Other program',
    );
    expect(kept?.usedAt).not.toBeNull();
    await endProgramPassword(organisation.app, viewer, kept?.id ?? '');
    expect(await ask(password)).toBe(401);
  });
});

describe('the filing plan', () => {
  test('shows folders, with documents by rule-made names, as far as rights allow', async () => {
    const { number, path } = await made();
    const listed = await send('author', 'PROPFIND', '/Area one', { headers: { depth: '1' } });
    expect(listed.status).toBe(207);
    expect(listed.text).toContain(`/webdav/Area%20one/${nameOf(number)}`);
    expect((await send('author', 'GET', path)).text).toBe('first words');
    // A draft is nothing that a reader sees.
    expect((await send('reader', 'PROPFIND', '/Area one', { headers: { depth: '1' } })).text).not.toContain(number);
    expect((await send('reader', 'GET', path)).status).toBe(404);
  });

  test('has documents assigned for review, as long as the assignment is open, read-only', async () => {
    const requests = await made('Asked for');
    expect((await send('reviewer', 'GET', requests.path)).status).toBe(404);
    const author = await organisation.as('author');
    await submitForReview(organisation.app, author, requests.number, {
      seen: '*',
      message: '',
      chosen: [organisation.ids.reviewer ?? ''],
    });
    expect((await send('reviewer', 'GET', requests.path)).text).toBe('first words');
    expect((await send('reviewer', 'PROPFIND', '/Area one', { headers: { depth: '1' } })).text).toContain(
      requests.number,
    );
    expect((await send('reviewer', 'PUT', requests.path, { body: 'changed' })).status).toBe(403);
    expect((await send('stranger', 'GET', requests.path)).status).toBe(404);
    await recall(organisation.app, author, requests.number, { reason: 'Not yet', seen: '*' });
    expect((await send('reviewer', 'GET', requests.path)).status).toBe(404);
  });

  test('what is in force is read-only', async () => {
    const { number, path } = await made();
    await organisation.toInForce(number);
    expect((await send('reader', 'GET', path)).text).toBe('first words');
    expect((await lock('author', path)).status).toBe(403);
    expect((await send('author', 'PUT', path, { body: 'x' })).status).toBe(403);
    expect((await send('author', 'DELETE', path)).status).toBe(403);
    expect((await send('author', 'MOVE', path, { headers: { destination: `${base}/Area%20two/x.md` } })).status).toBe(
      403,
    );
  });

  test('equal names are distinguished by their numbers', async () => {
    await rows(organisation.app.db, `update types set naming_rule = '{title}.{ext}' where code = 'TWO'`);
    const numbers = [];
    for (let i = 0; i < 2; i++)
      numbers.push((await organisation.register('author', { type: 'TWO', title: 'Same', folder: '2' })).number);
    const { text } = await send('author', 'PROPFIND', '/Area two', { headers: { depth: '1' } });
    for (const number of numbers) expect(text).toContain(`Same%20${number}.md`);
  });
});

describe('a lock', () => {
  test('is a check-out, and the saved file becomes one version when it ends', async () => {
    const { number, path } = await made();
    const { token, status } = await lock('author', path);
    expect(status).toBe(200);
    expect(await isOut(number)).toBe(true);
    const other = await lock('author2', path);
    expect([other.status, other.text.includes((await organisation.as('author')).name)]).toEqual([423, true]);
    expect((await send('author2', 'PUT', path, { body: 'mine' })).status).toBe(423);
    expect((await send('author', 'PUT', path, { body: 'no token' })).status).toBe(423);
    for (const words of ['second words', 'third words'])
      expect((await send('author', 'PUT', path, { body: words, headers: within(token) })).status).toBe(204);
    // Others read what is filed until it is given back.
    expect((await send('author', 'GET', path)).text).toBe('third words');
    expect((await send('author2', 'GET', path)).text).toBe('first words');
    expect((await send('author', 'UNLOCK', path, { headers: { 'lock-token': token } })).status).toBe(204);
    expect(await versions(number)).toEqual([
      { n: 1, note: expect.anything() },
      { n: 2, note: 'Saved on the network drive' },
    ]);
    expect(await isOut(number)).toBe(false);
    expect((await send('author2', 'GET', path)).text).toBe('third words');
  });

  test('ends without a trace when nothing was saved, or the same', async () => {
    const { number, path } = await made();
    for (const body of [undefined, 'first words']) {
      const { token } = await lock('author', path);
      if (body) await send('author', 'PUT', path, { body, headers: within(token) });
      expect((await send('author', 'UNLOCK', path, { headers: { 'lock-token': token } })).status).toBe(204);
    }
    expect(await versions(number)).toHaveLength(1);
    expect(await isOut(number)).toBe(false);
  });

  test('that expires keeps the check-out and the saved file, until its owner checks in on the page', async () => {
    const { number, path } = await made();
    const { token } = await lock('author', path);
    await send('author', 'PUT', path, { body: 'saved before the program broke', headers: within(token) });
    organisation.clock.now = new Date(organisation.clock.now.getTime() + 3_600_000);
    expect(await isOut(number)).toBe(true);
    expect((await send('author2', 'PUT', path, { body: 'x' })).status).toBe(423);
    expect((await send('author', 'GET', path)).text).toBe('saved before the program broke');
    await organisation.checkIn('author', number, { uploadId: null, note: 'Given back on the page' });
    expect((await send('author2', 'GET', path)).text).toBe('saved before the program broke');
    expect(await versions(number)).toHaveLength(2);
  });

  test('of a holder whose check-out is taken over keeps the saved file as a supporting file', async () => {
    const { number, path } = await made();
    const { token } = await lock('author', path);
    await send('author', 'PUT', path, { body: 'lost words', headers: within(token) });
    await takeOverCheckout(organisation.app, await organisation.as('admin'), number, {
      reason: 'Away',
      seen: '*',
    }).catch(async () =>
      takeOverCheckout(organisation.app, await organisation.as('controller'), number, { reason: 'Away', seen: '*' }),
    );
    const kept = await rows<{ note: string; sha256: string }>(
      organisation.app.db,
      'select a.note, a.sha256 from supporting_files a join documents d on d.id = a.document_id where d.number = :number',
      { number },
    );
    expect(kept).toHaveLength(1);
    expect(readFileSync(organisation.app.content.pathOf(kept[0]?.sha256 ?? ''), 'utf8')).toBe('lost words');
    expect(await versions(number)).toHaveLength(1);
  });

  test('under a check-out of the page belongs to it, and checks the saved file in', async () => {
    const { number, path } = await made();
    await organisation.checkOut('author', number);
    const { token } = await lock('author', path);
    await send('author', 'UNLOCK', path, { headers: { 'lock-token': token } });
    expect(await isOut(number)).toBe(true);
    expect((await send('author', 'PUT', path, { body: 'without a lock' })).status).toBe(204);
    expect(await versions(number)).toHaveLength(1);
    const again = await lock('author', path);
    await send('author', 'UNLOCK', path, { headers: { 'lock-token': again.token } });
    expect(await versions(number)).toHaveLength(2);
    expect(await isOut(number)).toBe(false);
  });
});

describe('an upload in progress', () => {
  /** Sends the first half of a body; the answer comes once the other half is sent too. */
  const halfway = async (person: string, path: string, token: string, halves: [string, string]) => {
    const url = new URL(`${base}${path.split('/').map(encodeURIComponent).join('/')}`);
    const sending = request(url, {
      method: 'PUT',
      headers: {
        ...within(token),
        authorization: `Basic ${Buffer.from(`${await signInName(person)}:${passwords[person]}`).toString('base64')}`,
      },
    });
    const answer = new Promise<{ status: number; text: string }>((resolve, reject) => {
      sending.on('error', reject);
      sending.on('response', async (response) => {
        let text = '';
        for await (const piece of response) text += piece;
        resolve({ status: response.statusCode ?? 0, text });
      });
    });
    sending.write(halves[0]);
    await new Promise((resolve) => setTimeout(resolve, 150));
    return async () => {
      sending.end(halves[1]);
      return answer;
    };
  };
  const drafts = (number: string) =>
    rows<{ name: string }>(
      organisation.app.db,
      'select u.name from working_copies k join uploads u on u.id = k.upload_id join checkouts c on c.id = k.checkout_id join documents d on d.id = c.document_id where d.number = :number',
      { number },
    );

  test('when the check-out is taken over is refused, and the file saved before becomes a supporting file', async () => {
    const { number, path } = await made();
    const { token } = await lock('author', path);
    await send('author', 'PUT', path, { body: 'saved in time', headers: within(token) });
    const finish = await halfway('author', path, token, ['saved ', 'too late']);
    await takeOverCheckout(organisation.app, await organisation.as('controller'), number, {
      reason: 'Away',
      seen: '*',
    });
    const answer = await finish();
    expect(answer.status).toBe(423);
    const page = await organisation.page('controller', number);
    expect(page.supportingFiles).toHaveLength(1);
    const [aside] = await rows<{ sha256: string }>(
      organisation.app.db,
      'select a.sha256 from supporting_files a join documents d on d.id = a.document_id where d.number = :number',
      { number },
    );
    expect(readFileSync(organisation.app.content.pathOf(aside?.sha256 ?? ''), 'utf8')).toBe('saved in time');
    // Nothing of the late one hangs on the check-out that has ended, nor on the new one.
    expect((await drafts(number)).length).toBeLessThanOrEqual(1);
    const holder = await organisation.as('controller');
    const { id } = await takeUpload(
      organisation.app,
      holder,
      'a.md',
      Readable.from([Buffer.from('by the new holder')]),
    );
    await checkIn(organisation.app, holder, number, { seen: '*', uploadId: id, note: 'Goes on' });
    expect(await versions(number)).toHaveLength(2);
  });

  test('when the document is checked in on the page makes no second version', async () => {
    const { number, path } = await made();
    const { token } = await lock('author', path);
    await send('author', 'PUT', path, { body: 'first half', headers: within(token) });
    const finish = await halfway('author', path, token, ['second ', 'half']);
    await organisation.checkIn('author', number, { uploadId: null, note: 'On the page' });
    await finish();
    expect((await versions(number)).filter((version) => version.note === 'On the page')).toHaveLength(1);
    expect(await drafts(number)).toHaveLength(1);
  });

  test('ended by the program and checked in on the page at the same instant: one version, never two', async () => {
    for (let round = 0; round < 6; round++) {
      const { number, path } = await made(`At once ${round}`);
      const { token } = await lock('author', path);
      await send('author', 'PUT', path, { body: `saved in round ${round}`, headers: within(token) });
      const onPage = organisation.checkIn('author', number, { uploadId: null, note: 'On the page' });
      await Promise.allSettled([onPage, send('author', 'UNLOCK', path, { headers: { 'lock-token': token } })]);
      expect(await versions(number), `round ${round}`).toHaveLength(2);
      expect(await isOut(number)).toBe(false);
      expect((await send('author2', 'GET', path)).text).toBe(`saved in round ${round}`);
    }
  });
});

test('saving without a lock is check-out, version and check-in in one', async () => {
  const { number, path } = await made();
  expect((await send('author', 'PUT', path, { body: '' })).status).toBe(204);
  expect((await send('author', 'PUT', path, { body: 'at once' })).status).toBe(204);
  expect((await versions(number)).map((version) => version.n)).toEqual([1, 2]);
  expect(await isOut(number)).toBe(false);
  expect((await send('reader', 'PUT', path, { body: 'x' })).status).toBe(403);
});

test('saving by a temporary file and renaming makes one version, and no temporary file a document', async () => {
  const { number, path } = await made();
  const folder = path.slice(0, path.lastIndexOf('/'));
  const to = (name: string) => ({
    destination: `${base}${`${folder}/${name}`.split('/').map(encodeURIComponent).join('/')}`,
  });
  const { token } = await lock('author', path);
  await send('author', 'PUT', `${folder}/~WRD0001.tmp`, { body: 'renamed words' });
  expect((await send('author', 'MOVE', path, { headers: { ...to('~WRL0002.tmp'), ...within(token) } })).status).toBe(
    201,
  );
  expect((await send('author', 'GET', path)).status).toBe(404);
  const place = await send('author', 'MOVE', `${folder}/~WRD0001.tmp`, {
    headers: {
      ...to(path.split('/').at(-1) ?? ''),
      if: `<${to(path.split('/').at(-1) ?? '').destination}> (${token})`,
      overwrite: 'F',
    },
  });
  expect(place.status).toBe(204);
  await send('author', 'DELETE', `${folder}/~WRL0002.tmp`);
  await send('author', 'UNLOCK', path, { headers: { 'lock-token': token } });
  expect(await versions(number)).toHaveLength(2);
  expect((await send('author2', 'GET', path)).text).toBe('renamed words');
  await rest();
  expect((await send('author', 'PROPFIND', folder, { headers: { depth: '1' } })).text).not.toMatch(/WR[DL]/);
});

describe('a name that is not known in a folder', () => {
  test('is its maker’s private file, and a draft half a minute after it was written last', async () => {
    const path = '/Area one/Notes on the drive.md';
    expect((await send('author', 'PUT', path, { body: '' })).status).toBe(201);
    expect((await send('author', 'PUT', path, { body: 'what was seen' })).status).toBe(204);
    expect((await send('author2', 'GET', path)).status).toBe(404);
    await applyDriveDue(organisation.app);
    expect((await send('author', 'PROPFIND', path, { headers: { depth: '0' } })).text).toContain('Notes%20on');
    await rest();
    const [draft] = await rows<{ number: string; title: string }>(
      organisation.app.db,
      `select d.number, r.title from documents d join revisions r on r.document_id = d.id where r.title = 'Notes on the drive'`,
    );
    expect(draft?.number).toMatch(/^TST-/);
    // The name by which it was saved keeps answering to its maker, and saving there is saving the document.
    expect((await send('author', 'GET', path)).text).toBe('what was seen');
    expect((await send('author', 'PUT', path, { body: 'what was seen later' })).status).toBe(204);
    expect(await versions(draft?.number ?? '')).toHaveLength(2);
    await rest();
    expect(await versions(draft?.number ?? '')).toHaveLength(2);
  });

  test('that looks temporary, was deleted or was never written becomes nothing', async () => {
    const before = await rows<{ n: number }>(organisation.app.db, 'select count(*)::int as n from documents');
    await send('author', 'PUT', '/Area one/~$lock.md', { body: 'x' });
    await send('author', 'PUT', '/Area one/gone.md', { body: 'x' });
    await send('author', 'DELETE', '/Area one/gone.md');
    await send('author', 'PUT', '/Area one/empty.md', { body: '' });
    await rest();
    expect(await rows<{ n: number }>(organisation.app.db, 'select count(*)::int as n from documents')).toEqual(before);
  });

  test('of which no type is known waits with the reason, and is taken to register it by hand', async () => {
    await send('author', 'PUT', '/Area one/Below/Loose sheet.md', { body: 'loose' });
    await rest();
    const { files } = await driveFiles(organisation.app, await organisation.as('author'));
    expect(files).toMatchObject([
      { name: 'Loose sheet.md', folder: { path: 'Area one / Below' }, why: expect.stringMatching(/type/i) },
    ]);
    expect((await driveFiles(organisation.app, await organisation.as('author2'))).files).toEqual([]);
    expect(await codeOf(takeDriveFile(organisation.app, await organisation.as('author2'), files[0]?.id ?? ''))).toBe(
      'not_found',
    );
  });
});

test('the address of a document is that at which it is found, with what opens it by a press', async () => {
  const { number, path } = await made();
  const { address, openers } = await addressOnDrive(organisation.app, await organisation.as('author'), number);
  expect(new URL(address).pathname).toBe(`/webdav${path.split('/').map(encodeURIComponent).join('/')}`);
  expect(openers).toEqual([]);
});

test('malicious paths, bodies and addresses are refused', async () => {
  const statuses = async (...requests: [string, string, Sent?][]) => {
    const found = [];
    for (const [method, path, sent] of requests) found.push((await send('author', method, path, sent)).status);
    return found;
  };
  const bomb =
    '<!DOCTYPE x [<!ENTITY a "aaaa"><!ENTITY b "&a;&a;">]><D:propfind xmlns:D="DAV:"><D:prop>&b;</D:prop></D:propfind>';
  expect(
    await statuses(
      ['PROPFIND', '/Area one', { body: bomb, headers: { depth: '0' } }],
      ['PROPFIND', '/Area one', { headers: { depth: 'infinity' } }],
      ['PUT', '/Area one/\u0007.md', { body: 'x' }],
      ['PUT', '/x.md', { body: 'x' }],
      ['MKCOL', '/New area'],
      ['COPY', '/Area one', { headers: { destination: 'http://elsewhere.invalid/webdav/x' } }],
      ['PUT', '/Nowhere/x.md', { body: 'x' }],
    ),
  ).toEqual([400, 403, 400, 403, 403, 502, 409]);
});

/** Passed and failed of one suite of litmus, in a folder of drive files. */
const litmus = async (suite: string) => {
  const { stdout } = await run(
    'litmus',
    [`${base.replace('127.0.0.1', 'localhost')}/Area%20one/`, await signInName('author'), passwords.author ?? ''],
    {
      env: { ...process.env, TESTS: suite },
      timeout: 120_000,
      cwd: mkdtempSync(join(tmpdir(), 'litmus-')),
    },
  ).catch((error: { stdout: string }) => error);
  return stdout;
};

describe('the suites of litmus', () => {
  for (const suite of ['basic', 'copymove', 'props', 'locks', 'http'])
    test(`${suite} passes in a folder of drive files`, async () => {
      const output = await litmus(suite);
      expect(output.split('\n').filter((line) => /FAIL/.test(line))).toEqual([]);
      expect(output).toMatch(/of \d+ tests run: \d+ passed, 0 failed/);
    }, 150_000);
});

test('cadaver walks check-out, saving and check-in', async () => {
  const { number, path } = await made('Walked by a client');
  const dir = mkdtempSync(join(tmpdir(), 'cadaver-'));
  const { port } = new URL(base);
  writeFileSync(
    join(dir, '.netrc'),
    `machine localhost\nlogin ${await signInName('author')}\npassword ${passwords.author}\n`,
    { mode: 0o600 },
  );
  writeFileSync(join(dir, 'new.md'), 'words from a desk program');
  const name = path.split('/').at(-1) ?? '';
  const script = [
    `cd "Area one"`,
    `lock ${name}`,
    `get ${name} old.md`,
    `put new.md ${name}`,
    `unlock ${name}`,
    'quit',
  ].join('\n');
  writeFileSync(join(dir, 'script'), `${script}\n`);
  const { stdout } = await run('sh', ['-c', `cadaver http://localhost:${port}/webdav/ < script`], {
    cwd: dir,
    env: { ...process.env, HOME: dir },
    timeout: 60_000,
  });
  expect(stdout).not.toMatch(/failed/i);
  expect(readFileSync(join(dir, 'old.md'), 'utf8')).toBe('first words');
  expect(await versions(number)).toHaveLength(2);
  expect((await send('author2', 'GET', path)).text).toBe('words from a desk program');
  rmSync(dir, { recursive: true });
}, 180_000);
