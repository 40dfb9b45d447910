import { api, ENDPOINTS, type Endpoint, PROBLEM_CODES, ProblemDocument, statusOf, toOpenApi } from '@kanonos/contract';
import { afterAll, beforeAll, describe, expect, test } from 'vitest';
import { cookieOf, openOrganisation, PASSWORD, READ_AND_SIGN, type TestOrganisation } from './organisation.ts';

let organisation: TestOrganisation;
let base: string;
const cookies: Record<string, string> = {};
const PEOPLE = ['controller', 'author', 'owner', 'reader', 'admin', 'stranger'];

beforeAll(async () => {
  organisation = await openOrganisation();
  base = await organisation.listen();
  for (const name of PEOPLE) {
    cookies[name] = await cookieOf(base, name);
  }
}, 300_000);
afterAll(() => organisation.close());

const ask = (
  path: string,
  options: {
    as?: string;
    method?: string;
    body?: unknown;
    raw?: string | Buffer;
    headers?: Record<string, string>;
  } = {},
) =>
  fetch(base + path, {
    method: options.method ?? 'GET',
    headers: {
      ...(options.as ? { cookie: cookies[options.as] ?? '' } : {}),
      ...(options.body !== undefined ? { 'content-type': 'application/json' } : {}),
      ...options.headers,
    },
    ...(options.body !== undefined
      ? { body: JSON.stringify(options.body) }
      : options.raw !== undefined
        ? { body: options.raw as string }
        : {}),
  });

const sendFile = (as: string, name: string, bytes: Buffer | string, field = 'file') => {
  const form = new FormData();
  form.append(field, new Blob([bytes as string]), name);
  return fetch(`${base}/api/uploads`, { method: 'POST', headers: { cookie: cookies[as] ?? '' }, body: form });
};

const NOWHERE = '00000000-0000-7000-8000-000000000001';
const fill = (endpoint: Endpoint) =>
  endpoint.path.replace(/:(\w+)/g, (_, name: string) =>
    name === 'document' ? 'TST-PRO-9999' : name === 'token' ? 'none' : NOWHERE,
  );

describe('what is sent over the wire', () => {
  test('answers are compressed from 1 kB on, small ones and the bytes of files are not', async () => {
    const encoded = async (path: string) => (await ask(path, { as: 'controller' })).headers.get('content-encoding');
    expect(await encoded('/api/openapi.json')).toMatch(/^(br|gzip|deflate)$/);
    expect(await encoded('/api/welcome')).toBeNull();
    const { number } = await organisation.register('author');
    const page = await organisation.page('controller', number);
    expect(await encoded(`/api/files/${page.versions[0]?.files[0]?.id}`)).toBeNull();
  });
});

describe('every endpoint × every kind of person', () => {
  test('nobody signed in gets 401 everywhere but at the open ones', async () => {
    for (const endpoint of ENDPOINTS) {
      const answer = await ask(fill(endpoint), {
        method: endpoint.method,
        ...(endpoint.method === 'GET' ? {} : { body: {} }),
      });
      if (endpoint.access === 'public') expect(answer.status, endpoint.id).not.toBe(401);
      else expect([endpoint.id, answer.status]).toEqual([endpoint.id, 401]);
    }
  });

  test('an organisation-wide right is checked before anything else', async () => {
    const has: Record<string, string[]> = {
      admin: ['administer', 'people', 'audit', 'security'],
      controller: ['audit'],
    };
    for (const name of PEOPLE) {
      for (const endpoint of ENDPOINTS.filter((e) => e.access !== 'public' && e.access !== 'signed in')) {
        const answer = await ask(fill(endpoint), {
          as: name,
          method: endpoint.method,
          ...(endpoint.method === 'GET' ? {} : { body: {} }),
        });
        const allowed = has[name]?.includes(endpoint.access) ?? false;
        expect([name, endpoint.id, answer.status === 403], `${name} ${endpoint.id}`).toEqual([
          name,
          endpoint.id,
          !allowed,
        ]);
        await answer.body?.cancel();
      }
    }
  });

  test('an invisible document answers like a missing one, at every address', async () => {
    const { number } = await organisation.register('author');
    for (const endpoint of ENDPOINTS.filter((e) => e.path.includes(':document') && !e.path.includes('preview'))) {
      const at = (target: string) =>
        ask(endpoint.path.replace(':document', target).replace(/:\w+/g, NOWHERE), {
          as: 'stranger',
          method: endpoint.method,
          ...(endpoint.method === 'GET' ? {} : { body: bodyFor(endpoint) }),
        });
      const [hidden, missing] = [await at(number), await at('TST-PRO-9999')];
      expect([endpoint.id, hidden.status]).toEqual([endpoint.id, missing.status]);
      expect(hidden.status, endpoint.id).toBe(404);
    }
  });
});

/** A body that is well-formed for an endpoint, so that the answer is about rights and not about form. */
const bodyFor = (endpoint: Endpoint): Record<string, unknown> => {
  const bodies: Record<string, unknown> = {
    checkIn: { uploadId: null, note: 'x' },
    addSupportingFile: { uploadId: '00000000-0000-7000-8000-000000000001', note: 'x' },
    correctMetadata: {
      title: 'x',
      summary: '',
      metadata: {},
      keywords: [],
      ownerId: NOWHERE,
      reviewOn: null,
      rowVersion: 1,
      revisionRowVersion: 1,
    },
    reinstate: { reason: 'x', password: 'x', digest: 'x' },
    confirmReview: { due: '2026-12-01', password: 'x', digest: 'x' },
    answerReview: { due: '2026-12-01', outcome: 'minor change', comment: 'x' },
    postponeReview: { due: '2026-12-01', to: '2099-01-01', reason: 'x' },
    setDocumentGrants: { grants: [], tag: 'x', reason: 'x' },
    startAdHocRound: { name: 'x', steps: [{ name: 'x', kind: 'review', people: [NOWHERE] }] },
    planAdHocRound: { name: 'x', on: '2099-01-01', steps: [{ name: 'x', kind: 'review', people: [NOWHERE] }] },
    signOutsideRound: { meaning: 'x', digest: 'x' },
    suggestChange: { what: 'x' },
    setOwnState: { state: null },
    bringSignedOutside: { uploadId: NOWHERE },
    sendToBeSignedOutside: { signers: [{ name: 'x', mail: 'x@test.example' }] },
    addAffectedDocuments: { numbers: ['X'] },
    changeAffectedDocument: { what: 'x' },
    addChangeTask: { what: 'x', assigneeId: NOWHERE },
    changeChangeTask: { what: 'x', assigneeId: NOWHERE },
    doneChangeTask: { result: 'x' },
    dropChangeTask: { reason: 'x' },
    closeChangeNote: { result: 'x' },
    setFavourite: { favourite: true },
    arrangeDesk: { cards: [], hidden: [] },
    orderFavourites: { documentIds: [] },
    saveWorkingText: { text: 'x', over: null },
    removeVersion: { reason: 'x' },
    addLink: { kind: 'refers to', goal: { to: 'web', address: 'https://a.example' } },
    replyToComment: { text: 'x' },
    reopenComment: { reason: 'x' },
    assignComment: { personId: null },
    readAnnotations: { uploadId: NOWHERE },
    addComment: { text: 'x', revisionId: NOWHERE },
    recall: { reason: 'x' },
    revise: { changeKind: 'minor', reason: 'x' },
    abandon: { reason: 'x' },
    takeOverCheckOut: { reason: 'x' },
    removeDocument: { reason: 'x' },
    restoreDocument: { reason: 'x' },
    renumberDocument: { number: null, reason: 'x' },
    renameFile: { name: 'x' },
    replaceContent: { from: 'x', note: 'x' },
    checkSource: { edition: '', isNewer: false },
    moveDay: { on: null, reason: 'x' },
    reopen: { reason: 'x' },
    withdraw: { reason: 'x' },
    putOnHold: { reason: 'x' },
    liftHold: { reason: 'x' },
    cancelWithdrawal: { reason: 'x' },
    setRequirement: { ...READ_AND_SIGN },
  };
  return withSeen(endpoint, (bodies[endpoint.id] ?? {}) as Record<string, unknown>);
};

/** The body of a program that saw no state of the document. */
const withSeen = (endpoint: Endpoint, body: unknown): Record<string, unknown> => ({
  ...('shape' in endpoint.body && 'seen' in (endpoint.body.shape as object) ? { seen: '*' } : {}),
  ...(body as object),
});

describe('the description', () => {
  test('names every endpoint with its problems, and every code has words and a status', () => {
    const description = toOpenApi(ENDPOINTS);
    const operations = Object.values(description.paths ?? {}).flatMap((path) => Object.values(path as object)) as {
      operationId: string;
      responses: object;
    }[];
    expect(operations.map((o) => o.operationId).sort()).toEqual(ENDPOINTS.map((e) => e.id).sort());
    for (const code of PROBLEM_CODES) expect(statusOf(code)).toBeGreaterThanOrEqual(400);
  });

  test('is what the server really answers, for every endpoint that can be asked without a command', async () => {
    const { number, id } = await organisation.register('author');
    await organisation.toInForce(number);
    const paths: Record<string, string> = {
      document: `/api/documents/${number}`,
      history: `/api/documents/${number}/history`,
      comments: `/api/documents/${number}/comments`,
      usage: `/api/documents/${number}/usage`,
      readers: `/api/documents/${number}/readers`,
      preview: `/api/register/preview/${id}`,
      person: `/api/people/${organisation.ids.author}`,
      pastAnswers: '/api/rounds/past-answers?by=step&key=none',
    };
    const called: string[] = [];
    for (const endpoint of ENDPOINTS.filter(
      (e) => e.method === 'GET' && !e.stream && (!e.path.includes(':') || paths[e.id]),
    )) {
      const path = (paths[endpoint.id] ?? endpoint.path) + (endpoint.id === 'find' ? '?q=procedure' : '');
      const answer = await ask(path, { as: 'admin' }).then((r) =>
        r.status === 404 || r.status === 403 ? ask(path, { as: 'controller' }) : r,
      );
      expect([endpoint.id, answer.status]).toEqual([endpoint.id, 200]);
      const parsed = endpoint.answer.safeParse(await answer.json());
      expect(parsed.success ? [] : parsed.error.issues, endpoint.id).toEqual([]);
      called.push(endpoint.id);
    }
    expect(called.length).toBeGreaterThan(18);
  });

  test('is what every command answers, from registering to the signed reading', async () => {
    const answers = async (as: string, endpoint: Endpoint, target: string, body: unknown) => {
      const answer = await ask(endpoint.path.replace(/:\w+/, target), {
        as,
        method: endpoint.method,
        ...(endpoint.method === 'GET' ? {} : { body: withSeen(endpoint, body) }),
      });
      const parsed = endpoint.answer.safeParse(await answer.json());
      expect([endpoint.id, answer.status, parsed.success]).toEqual([endpoint.id, 200, true]);
      return parsed.data as { number: string; digest: string; rows: { number: string; link: string; id: string }[] };
    };
    const { documents: d, tasks: t, reading: r } = api;
    const upload = (await (await sendFile('author', 'command.md', '# A command')).json()) as { id: string };
    const base = {
      typeId: organisation.types.get('PRO'),
      folderId: organisation.folders.get('1'),
      title: 'Walked over HTTP',
    };
    await answers('author', d.preview, '', base);
    const { number } = await answers('author', d.register, '', {
      ...base,
      uploadId: upload.id,
      ownerId: organisation.ids.owner,
    });
    await answers('author', d.checkOut, number, {});
    await answers('author', d.discardCheckout, number, {});
    await answers('controller', r.setRequirement, number, {
      ...bodyFor(r.setRequirement as Endpoint),
      everyone: false,
      personIds: [organisation.ids.reader],
      workingDays: 3,
    });
    await answers('author', d.submit, number, { chosen: [organisation.ids.stranger] });
    await answers('author', t.remind, number, {});
    for (const [person, decision] of [
      ['stranger', 'no objection'],
      ['owner', 'approve'],
      ['authority', 'approve'],
    ] as const) {
      cookies[person] ??=
        (await ask('/api/session', { method: 'POST', body: { name: person, password: PASSWORD } })).headers
          .get('set-cookie')
          ?.split(';')[0] ?? '';
      const { rows } = await answers(person, t.desk, '', undefined);
      const link =
        (rows as { number: string; link: string }[])
          .find((row) => row.number === number)
          ?.link.split('/')
          .at(-1) ?? '';
      const task = await answers(person, t.task, link, undefined);
      await organisation.openFiles(person, number);
      await answers(person, t.decide, link, {
        decision,
        name: person,
        password: PASSWORD,
        digest: task.digest,
        version: 1,
      });
    }
    await answers('controller', d.preflight, number, undefined);
    await answers('controller', d.release, number, { on: '2026-12-07' });
    await answers('controller', d.moveDay, number, { on: '2026-12-08', reason: 'later' });
    await answers('controller', d.release, number, {});
    const { rows } = await answers('reader', r.mine, '', undefined);
    const id = rows.find((row) => row.number === number)?.id ?? '';
    const task = await answers('reader', r.task, id, undefined);
    await organisation.openFiles('reader', number);
    await answers('reader', r.sign, id, { name: 'reader', password: PASSWORD, digest: task.digest });
    await answers('author', d.revise, number, { changeKind: 'minor', reason: 'because' });
    await answers('author', d.abandon, number, { reason: 'not now' });
    await answers('controller', d.withdraw, number, { reason: 'gone' });
    await organisation.openFiles('controller', number);
    const again = (await answers('controller', d.reinstatement, number, undefined)) as unknown as {
      signing: { digest: string };
    };
    await answers('controller', d.reinstate, number, {
      reason: 'back',
      name: 'controller',
      password: PASSWORD,
      digest: again.signing.digest,
    });
  });

  test('is served with a readable page', async () => {
    expect(((await (await ask('/api/openapi.json')).json()) as { openapi: string }).openapi).toBe('3.1.0');
    expect(await (await ask('/api/docs')).text()).toContain('swagger-ui');
    expect((await ask('/api/health')).status).toBe(200);
  });
});

describe('bad input gets a problem document that names the field, and never a 500', () => {
  const problem = async (answer: Response) => {
    const parsed = ProblemDocument.parse(await answer.json());
    expect(answer.headers.get('content-type')).toContain('application/problem+json');
    expect(answer.status).toBeLessThan(500);
    return parsed;
  };
  const registration = { typeId: NOWHERE, folderId: NOWHERE, title: 'x', uploadId: NOWHERE };

  test('malformed JSON, unknown fields, wrong types, missing ones', async () => {
    expect(
      (
        await problem(
          await ask('/api/documents', {
            as: 'author',
            method: 'POST',
            raw: '{"title": ',
            headers: { 'content-type': 'application/json' },
          }),
        )
      ).code,
    ).toBe('body_malformed');
    expect(
      (
        await problem(
          await ask('/api/documents', {
            as: 'author',
            method: 'POST',
            raw: 'a=b',
            headers: { 'content-type': 'application/x-www-form-urlencoded' },
          }),
        )
      ).code,
    ).toBe('media_type_refused');
    const fields = async (body: unknown) =>
      (await problem(await ask('/api/documents', { as: 'author', method: 'POST', body }))).refusals.map((r) => r.field);
    expect(await fields({ ...registration, colour: 'red' })).toEqual(['colour']);
    expect(await fields({ ...registration, title: 7, typeId: 'x' })).toEqual(
      expect.arrayContaining(['title', 'typeId']),
    );
    expect(await fields({ title: 'x' })).toEqual(expect.arrayContaining(['typeId', 'folderId', 'uploadId']));
    expect(await fields([])).not.toHaveLength(0);
    expect(await fields({ ...registration, title: '   ' })).toEqual(['title']);
  });

  test('a title of 10 MB, NUL bytes, lone surrogates, deep structures', async () => {
    expect(
      (
        await problem(
          await ask('/api/documents', {
            as: 'author',
            method: 'POST',
            body: { ...registration, title: 'x'.repeat(10_000_000) },
          }),
        )
      ).status,
    ).toBe(413);
    expect(
      (
        await problem(
          await ask('/api/documents', { as: 'author', method: 'POST', body: { ...registration, title: 'a\u0000b' } }),
        )
      ).refusals[0]?.field,
    ).toBe('title');
    expect(
      (
        await problem(
          await ask('/api/documents', {
            as: 'author',
            method: 'POST',
            body: { ...registration, metadata: { a: { b: 1 } } },
          }),
        )
      ).status,
    ).toBe(422);
    const deep = `${'['.repeat(100_000)}${']'.repeat(100_000)}`;
    expect(
      (
        await problem(
          await ask('/api/documents', {
            as: 'author',
            method: 'POST',
            raw: deep,
            headers: { 'content-type': 'application/json' },
          }),
        )
      ).status,
    ).toBeLessThan(500);
    for (const q of [
      '%00',
      '%ED%A0%80',
      '"open',
      'colour:red',
      "';drop table documents;--",
      '\\',
      '((((',
      ':*',
      '!!&&||',
      'a'.repeat(400),
    ]) {
      const answer = await ask(`/api/find?q=${/%/.test(q) ? q : encodeURIComponent(q)}`, { as: 'author' });
      expect(answer.status, q).toBeLessThan(500);
    }
    for (const path of [
      '/api/documents/%',
      '/api/documents/%00',
      `/api/documents/${'x'.repeat(2000)}`,
      '/api/register?after=xyz',
      '/api/register?limit=-1',
      '/api/register?on=2026-02-30',
      '/api/register?state=a~b~%00',
      '/api/register?folder=x',
      '/api/nothing',
      '/api/files/x',
    ]) {
      const answer = await ask(path, { as: 'author' });
      expect(answer.status, path).toBeGreaterThanOrEqual(400);
      expect(answer.status, path).toBeLessThan(500);
    }
    expect((await ask('/api/desk', { as: 'author', method: 'DELETE' })).status).toBe(405);
  });

  test('files: empty, too large, executable, of an unknown kind, without a name, in a broken form', async () => {
    const code = async (answer: Promise<Response>) => (await problem(await answer)).code;
    expect(await code(sendFile('author', 'a.txt', ''))).toBe('file_empty');
    expect(await code(sendFile('author', 'a.txt', Buffer.alloc(9 * 1024 * 1024, 'x')))).toBe('file_too_large');
    expect(await code(sendFile('author', 'setup.exe', 'MZ\u0090\u0000'))).toBe('file_executable');
    expect(await code(sendFile('author', 'innocent.pdf', Buffer.from([0x7f, 0x45, 0x4c, 0x46, 2, 1, 1, 0])))).toBe(
      'file_executable',
    );
    // Of an unknown kind it is no mistake: it is kept as it is.
    expect((await sendFile('author', 'song.bin', Buffer.from([0, 1, 2, 3, 0, 255, 254]))).status).toBe(200);
    expect(await code(sendFile('author', '..', 'text'))).toBe('file_name_invalid');
    expect(await code(ask('/api/uploads', { as: 'author', method: 'POST', body: {} }))).toBe('media_type_refused');
    expect(
      await code(
        ask('/api/uploads', {
          as: 'author',
          method: 'POST',
          raw: 'rubbish',
          headers: { 'content-type': 'multipart/form-data; boundary=x' },
        }),
      ),
    ).toMatch(/file_missing|body_malformed/);
    expect(await organisation.app.content.sweep(-1)).toBe(0);
  });

  test('a broken PDF or Word file is kept unchanged and is marked as not showable', async () => {
    for (const name of ['broken.pdf', 'broken.docx']) {
      const upload = (await (await sendFile('author', name, 'this is not what it says')).json()) as {
        warning: string;
        mediaType: string;
      };
      expect(upload).toMatchObject({ mediaType: 'application/octet-stream' });
      expect(upload.warning).toContain('cannot be displayed');
    }
  });

  test('names with ../ or of 300 characters lose their dangerous parts and keep their extension', async () => {
    const name = async (given: string) =>
      ((await (await sendFile('author', given, 'text')).json()) as { name: string }).name;
    expect(await name('../../etc/passwd.txt')).toBe('passwd.txt');
    expect(await name('C:\\temp\\a.txt')).toBe('a.txt');
    const long = await name(`${'x'.repeat(300)}.txt`);
    expect(long).toHaveLength(200);
    expect(long.endsWith('.txt')).toBe(true);
  });

  test('a write from another site is refused, and the answers have a strict policy', async () => {
    expect(
      (await ask('/api/session', { as: 'author', method: 'DELETE', headers: { origin: 'https://elsewhere.example' } }))
        .status,
    ).toBe(403);
    const answer = await ask('/api/desk', { as: 'author' });
    expect(answer.headers.get('content-security-policy')).toContain("script-src 'self'");
    expect(answer.headers.get('x-content-type-options')).toBe('nosniff');
  });
});

describe('files', () => {
  test('are handed out under their rule-made name, by range, from a sandbox, and the opening is recorded', async () => {
    const { number } = await organisation.register('author', { title: 'Handed out', text: 'abcdefghij' });
    await organisation.toInForce(number);
    const page = (await (await ask(`/api/documents/${number}`, { as: 'reader' })).json()) as {
      versions: { files: { id: string }[] }[];
    };
    const id = page.versions[0]?.files[0]?.id;
    const whole = await ask(`/api/files/${id}?as=download`, { as: 'reader' });
    expect(whole.headers.get('content-disposition')).toContain(
      `attachment; filename*=UTF-8''${number}_A_Handed-out.md`,
    );
    expect(whole.headers.get('content-security-policy')).toContain('sandbox');
    const part = await ask(`/api/files/${id}`, { as: 'reader', headers: { range: 'bytes=2-4' } });
    expect([part.status, await part.text()]).toEqual([206, 'cde']);
    const usage = (await (await ask(`/api/documents/${number}/usage`, { as: 'controller' })).json()) as {
      lines: { person: string; action: string }[];
    };
    expect(usage.lines.map((l) => `${l.person} ${l.action}`)).toEqual(
      expect.arrayContaining(['Reader downloaded', 'Reader opened']),
    );
    expect((await ask(`/api/documents/${number}/usage`, { as: 'reader' })).status).toBe(403);
  });
});

describe('signing in', () => {
  const signIn = (name: string, password: string) => ask('/api/session', { method: 'POST', body: { name, password } });
  test('wrong tries are slowed down and recorded in the trail, as a digest only where there is no such person', async () => {
    for (let i = 0; i < 3; i++) expect((await signIn('nobody.here', 'x')).status).toBe(401);
    const slowed = await signIn('nobody.here', 'x');
    expect([slowed.status, Number(slowed.headers.get('retry-after'))]).toEqual([429, 2]);
    const trail = (await (await ask('/api/trail?kind=sign-in.failed', { as: 'admin' })).json()) as {
      rows: { actor: string; event: { payload: object } }[];
    };
    expect(trail.rows[0]?.actor).toBe('system.sign-in');
    expect(JSON.stringify(trail.rows)).not.toContain('nobody.here');
  });

  test('a person entered by an administrator sets the first password by the link in the mail; a reset voids it', async () => {
    const { rows } = await import('../platform/db/connect.ts');
    const body = {
      signInName: 'new.person',
      name: 'New Person',
      email: 'new@test.example',
      from: '2026-11-25',
      departmentId: null,
      supervisorId: null,
    };
    const { id } = (await (await ask('/api/people', { as: 'admin', method: 'POST', body })).json()) as { id: string };
    expect(
      (await ask('/api/people', { as: 'admin', method: 'POST', body: { ...body, signInName: 'NEW.person' } })).status,
    ).toBe(409);
    // Only the mail that leaves has the secret of its link; who holds the keys beside the database can read it until then.
    const link = async () => {
      const [mail] = await rows<{ text: string; secret: string }>(
        organisation.app.db,
        `select text, secret from mails where address = 'new@test.example' and secret is not null order by created_at desc, id desc limit 1`,
      );
      const secret = organisation.app.secrets.reveal(mail?.secret ?? '');
      expect(mail?.text).not.toContain(secret);
      return secret;
    };
    const first = await link();
    const set = (token: string, password: string) =>
      ask(`/api/password-links/${token}`, { method: 'POST', body: { password } });
    expect((await set(first, 'short')).status).toBe(422);
    expect((await set(first, 'new.person 1234')).status).toBe(422);
    expect((await set(first, 'a quiet rope at dawn')).status).toBe(200);
    expect((await set(first, 'a quiet rope at dawn')).status).toBe(410);
    expect(
      (await ask(`/api/people/${id}/reset`, { as: 'admin', method: 'POST', body: { reason: 'lost phone' } })).status,
    ).toBe(200);
    const refused = await signIn('new.person', 'a quiet rope at dawn');
    expect(refused.status).toBe(401);
    expect((await set(await link(), 'another quiet rope')).status).toBe(200);
    await ask(`/api/people/${id}/deactivate`, { as: 'admin', method: 'POST', body: { reason: 'left' } });
    expect((await ask('/api/people', { as: 'admin', method: 'POST', body })).status).toBe(409);
  });

  test('a session ends with signing out, and an unknown cookie is nobody', async () => {
    const answer = await signIn('stranger', PASSWORD);
    const cookie = answer.headers.get('set-cookie') ?? '';
    expect(cookie).toContain('HttpOnly');
    expect(cookie).toContain('SameSite=Lax');
    const headers = { cookie: cookie.split(';')[0] ?? '' };
    expect((await ask('/api/session', { headers })).status).toBe(200);
    await ask('/api/session', { method: 'DELETE', headers });
    expect((await ask('/api/session', { headers })).status).toBe(401);
    expect((await ask('/api/session', { headers: { cookie: 'kanonos=made-up' } })).status).toBe(401);
  });
});
