// npm run fuzz -- [--minutes N] [--seed N]: asks every operation of the description (OpenAPI) for what nobody would ask in earnest. No
// answer may be a fault of the server (5xx), none may be late, the process may not end, and the trail stays intact.
import { ENDPOINTS, toOpenApi } from '@kanonos/contract';
import { makeProgramPassword } from '../packages/server/src/features/webdav/passwords.ts';
import { rows } from '../packages/server/src/platform/db/connect.ts';
import { cookieOf, openOrganisation, type TestOrganisation } from '../packages/server/src/tests/organisation.ts';

const option = (name: string, otherwise: number): number => {
  const at = process.argv.indexOf(`--${name}`);
  const value = at > 0 ? Number(process.argv[at + 1]) : otherwise;
  if (!Number.isFinite(value)) throw new Error(`--${name} wants a number`);
  return value;
};

const OVERDUE_MS = 25_000;
const PEOPLE = ['author', 'controller', 'admin', 'reader', 'stranger'];
/** Ends the session that asks; it is taken up again, but that costs a whole sign-in. */
const RARELY = new Set(['signOut', 'signOutEverywhere', 'changePassword']);

type Schema = {
  type?: string | string[];
  properties?: Record<string, Schema>;
  required?: string[];
  items?: Schema;
  enum?: unknown[];
  const?: unknown;
  anyOf?: Schema[];
  oneOf?: Schema[];
  allOf?: Schema[];
  additionalProperties?: Schema | boolean;
  format?: string;
  minimum?: number;
  maximum?: number;
  $ref?: string;
};
type Request = { method: string; path: string; body?: string; headers?: Record<string, string> };

/** Numbers from a seed, the same on every machine (mulberry32). */
const randomFrom = (seed: number) => {
  let state = seed >>> 0;
  const next = () => {
    state = (state + 0x6d2b79f5) >>> 0;
    let t = state;
    t = Math.imul(t ^ (t >>> 15), t | 1);
    t ^= t + Math.imul(t ^ (t >>> 7), t | 61);
    return ((t ^ (t >>> 14)) >>> 0) / 4_294_967_296;
  };
  return {
    next,
    chance: (share: number) => next() < share,
    pick: <T>(list: readonly T[]): T => list[Math.floor(next() * list.length)] as T,
  };
};

const TEXTS = [
  '',
  'a',
  'A plain title',
  '\ud800',
  'half \udfff',
  'nul \u0000',
  '\uffff',
  '\u202e right to left',
  "' or 1=1 --",
  '%_\\',
  '../../../etc/passwd',
  '=1+1',
  '<script>',
  '{{x}}',
  'x'.repeat(300),
  'ü'.repeat(5000),
  '𝒳'.repeat(100),
  '2026-11-25',
  '2026-02-30',
  '9999-12-31',
  '-0001-01-01',
  '2026-11-25T09:00:00Z',
  '+275760-09-13T00:00:00.001Z',
  'NaN',
  '1e400',
  '((((((((((((((((((((',
  'title:"a',
  '[a](',
  '*a **a ',
];
const NUMBERS = [0, 1, -1, 2, 2_147_483_647, 2_147_483_648, -2_147_483_649, 1e15, 1e300, 0.5, 9_007_199_254_740_992];

/** Requests that once brought the server down or were answered with 500. */
const FIXED: Request[] = [
  {
    method: 'POST',
    path: '/api/uploads',
    headers: { 'content-type': 'multipart/form-data; boundary=B' },
    body: '--B\r\nContent-Disposition: form-data; name="file"; filename="a.txt"\r\n\r\nabc',
  },
  { method: 'POST', path: '/api/reading-text', body: JSON.stringify({ text: '[a]('.repeat(20_000) }) },
  { method: 'POST', path: '/api/reading-text', body: JSON.stringify({ text: '*a **a '.repeat(20_000) }) },
  {
    method: 'POST',
    path: '/api/profile/absences',
    body: '{"from":"2026-11-25","to":"2026-11-26","deputyId":"\\ud800"}',
  },
  { method: 'PATCH', path: '/api/profile', body: '{"mailMode":"daily","rowVersion":2147483648}' },
  { method: 'GET', path: '/api/imports/00000000-0000-7000-8000-000000000001/lines?after=2147483648' },
  ...['foo', 'http://', 'null', 'http:///', 'http://127.0.0.1.evil.example'].map((origin) => ({
    method: 'DELETE',
    path: '/api/session',
    headers: { origin },
  })),
  { method: 'GET', path: '/assets/nothing.js' },
  { method: 'POST', path: '/api/session', body: `{"name":${'['.repeat(20_000)}${']'.repeat(20_000)}}` },
  {
    method: 'PROPFIND',
    path: '/webdav/Area%20one',
    headers: { depth: '1' },
    body: `<propfind xmlns="DAV:"><prop>${Array.from({ length: 60_000 }, (_, i) => `<a${i}/>`).join('')}</prop></propfind>`,
  },
  {
    method: 'PROPFIND',
    path: '/webdav/',
    headers: { depth: '0' },
    body: '<propfind xmlns="DAV:"><prop><a>&#0;</a></prop></propfind>',
  },
  {
    method: 'PROPPATCH',
    path: '/webdav/',
    body: '<propertyupdate xmlns="DAV:"><set><prop><a>\uffff</a></prop></set></propertyupdate>',
  },
];

const main = async (): Promise<number> => {
  const seed = option('seed', Date.now() % 1_000_000_000);
  const until = Date.now() + option('minutes', 3) * 60_000;
  const random = randomFrom(seed);
  process.stdout.write(`Seed ${seed}. The same requests again: npm run fuzz -- --seed ${seed}\n`);
  const failures: string[] = [];
  process.on('uncaughtException', (error) => failures.push(`an exception that nobody handled: ${error.stack}`));
  process.on('unhandledRejection', (error) =>
    failures.push(`a rejection that nobody handled: ${(error as Error)?.stack}`),
  );

  const organisation = await openOrganisation();
  const base = await organisation.listen();
  const ids = await furnish(organisation);
  const numbers = (await rows<{ number: string }>(organisation.app.db, 'select number from documents')).map(
    (row) => row.number,
  );
  const cookies: Record<string, string> = {};
  const signInAll = async () => {
    // Whoever was deactivated, locked or given another password by a request before is as before.
    await rows(
      organisation.app.db,
      `update people set state = 'active', signing_locked_until = null, signing_wrong = 0 where sign_in_name = any(:names::text[])`,
      { names: PEOPLE },
    ).catch(() => []);
    for (const name of PEOPLE) cookies[name] = await cookieOf(base, name);
  };
  await signInAll();
  const { password } = await makeProgramPassword(organisation.app, await organisation.as('author'), 'fuzz');
  const basic = `Basic ${Buffer.from(`author:${password}`).toString('base64')}`;

  let asked = 0;
  const statuses = new Map<number, number>();
  const ask = async (who: string, request: Request): Promise<void> => {
    asked++;
    const headers: Record<string, string> = {
      ...(request.path.startsWith('/webdav') ? { authorization: basic } : { cookie: cookies[who] ?? '' }),
      ...(request.body === undefined ? {} : { 'content-type': 'application/json' }),
      ...request.headers,
    };
    const began = performance.now();
    let said = '';
    try {
      const answer = await fetch(base + request.path, {
        method: request.method,
        headers,
        redirect: 'manual',
        signal: AbortSignal.timeout(OVERDUE_MS),
        ...(request.body === undefined ? {} : { body: request.body }),
      });
      const text = await answer.text();
      statuses.set(answer.status, (statuses.get(answer.status) ?? 0) + 1);
      if (answer.status >= 500 && answer.status !== 507) said = `${answer.status} ${text.slice(0, 400)}`;
      else if (answer.status >= 400 && answer.headers.get('content-type')?.includes('problem')) JSON.parse(text);
      if (answer.status === 401 && !request.path.startsWith('/webdav')) await signInAll();
    } catch (error) {
      said = `${(error as Error).name}: ${(error as Error).message} after ${Math.round(performance.now() - began)} ms`;
    }
    if (said)
      failures.push(
        `${said}\n  as ${who}: ${request.method} ${request.path.slice(0, 300)}\n  ${JSON.stringify(request.body ?? '').slice(0, 600)}`,
      );
  };

  for (const request of FIXED) await ask('author', request);
  await signInAll();

  const description = toOpenApi(ENDPOINTS) as unknown as {
    paths: Record<
      string,
      Record<
        string,
        {
          operationId: string;
          parameters?: { name: string; in: string; schema: Schema }[];
          requestBody?: { content: Record<string, { schema: Schema }> };
        }
      >
    >;
    components?: { schemas?: Record<string, Schema> };
  };
  const operations = Object.entries(description.paths).flatMap(([path, methods]) =>
    Object.entries(methods).map(([method, operation]) => ({ path, method: method.toUpperCase(), ...operation })),
  );

  /** A value of a schema, mostly; wrong in one place of many. */
  const make = (given: Schema, depth = 0): unknown => {
    const schema = given.$ref ? (description.components?.schemas?.[given.$ref.split('/').at(-1) ?? ''] ?? {}) : given;
    if (random.chance(0.06)) return makeWrong(depth);
    if (schema.const !== undefined) return schema.const;
    if (schema.enum) return random.pick(schema.enum);
    const choice = schema.anyOf ?? schema.oneOf;
    if (choice) return make(random.pick(choice), depth);
    if (schema.allOf) return Object.assign({}, ...schema.allOf.map((one) => make(one, depth)));
    switch (Array.isArray(schema.type) ? random.pick(schema.type) : schema.type) {
      case 'object': {
        const made: Record<string, unknown> = {};
        for (const [key, inner] of Object.entries(schema.properties ?? {}))
          if (random.chance(schema.required?.includes(key) ? 0.98 : 0.5)) made[key] = make(inner, depth + 1);
        if (typeof schema.additionalProperties === 'object')
          for (let i = 0; i < 2; i++) made[random.pick(TEXTS)] = make(schema.additionalProperties, depth + 1);
        if (random.chance(0.03)) made[random.pick(['constructor', 'hasOwnProperty', 'toString'])] = random.pick(TEXTS);
        return made;
      }
      case 'array':
        return depth > 6
          ? []
          : Array.from({ length: Math.floor(random.next() * 3) }, () => make(schema.items ?? {}, depth + 1));
      case 'string':
        if (schema.format === 'uuid') return random.pick(ids);
        if (schema.format === 'date') return random.pick(['2026-11-25', '2026-12-31', '2027-02-28']);
        return random.chance(0.3) ? random.pick(ids) : random.chance(0.2) ? random.pick(numbers) : random.pick(TEXTS);
      case 'integer':
      case 'number':
        return random.chance(0.7) ? Math.floor(random.next() * 4) : random.pick(NUMBERS);
      case 'boolean':
        return random.chance(0.5);
      case 'null':
        return null;
      default:
        return makeWrong(depth);
    }
  };
  const makeWrong = (depth: number): unknown =>
    random.pick<() => unknown>([
      () => null,
      () => random.pick(TEXTS),
      () => random.pick(NUMBERS),
      () => random.pick(ids),
      () => random.chance(0.5),
      () => [],
      () => (depth > 3 ? {} : { [random.pick(TEXTS)]: makeWrong(depth + 1) }),
      () => Array.from({ length: 3 }, () => (depth > 3 ? 0 : makeWrong(depth + 1))),
    ])();
  const inPath = (value: unknown) => encodeURIComponent(String(value).toWellFormed()) || 'x';

  while (Date.now() < until && failures.length < 20) {
    const operation = random.pick(operations);
    if (RARELY.has(operation.operationId) && !random.chance(0.02)) continue;
    const query = new URLSearchParams();
    let path = operation.path;
    for (const parameter of operation.parameters ?? []) {
      const value =
        parameter.in === 'path' && random.chance(0.7)
          ? random.pick(parameter.name === 'document' ? [...numbers, ...ids] : ids)
          : make(parameter.schema);
      if (parameter.in === 'path') path = path.replace(`{${parameter.name}}`, inPath(value));
      else if (random.chance(0.5)) query.append(parameter.name, String(value).toWellFormed());
    }
    const schema = operation.requestBody?.content['application/json']?.schema;
    await ask(random.pick(PEOPLE), {
      method: operation.method,
      path: query.size ? `${path}?${query}` : path,
      ...(schema ? { body: random.chance(0.02) ? random.pick(TEXTS) : JSON.stringify(make(schema)) } : {}),
    });
  }

  const verdict = await organisation.verdict();
  if (verdict.kind !== 'intact') failures.push(`the trail is ${JSON.stringify(verdict)}`);
  const alive = await fetch(`${base}/api/health`);
  if (alive.status !== 200) failures.push(`health answers ${alive.status} in the end`);
  await organisation.close();
  for (const failure of failures) process.stdout.write(`\nFAILED ${failure}\n`);
  process.stdout.write(
    `\n${asked} requests to ${operations.length} operations, ${failures.length} failed; seed ${seed}\n`,
  );
  return failures.length === 0 ? 0 : 1;
};

/** Documents in every state, so that there is something to be broken; every id that an answer could name. */
const furnish = async (organisation: TestOrganisation): Promise<string[]> => {
  for (let i = 0; i < 3; i++) await organisation.register('author', { title: `Draft ${i}` });
  const { number: sent } = await organisation.register('author', { title: 'In review' });
  await organisation.submitAndReview(sent);
  const { number: held } = await organisation.register('author', { title: 'In force' });
  await organisation.toInForce(held);
  await organisation.register('author', { type: 'MEM', title: 'A memo' });
  const found = await Promise.all(
    [
      'documents',
      'revisions',
      'versions',
      'version_files',
      'people',
      'folders',
      'types',
      'units',
      'assignments',
      'steps',
      'runs',
      'signatures',
      'uploads',
    ].map((table) => rows<{ id: string }>(organisation.app.db, `select id from ${table} limit 12`)),
  );
  return [...found.flat().map((row) => row.id), '00000000-0000-7000-8000-000000000001'];
};

main().then(
  (code) => process.exit(code),
  (error: Error) => {
    process.stderr.write(`${error.stack}\n`);
    process.exit(2);
  },
);
