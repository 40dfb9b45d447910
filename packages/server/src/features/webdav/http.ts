import { type IfList, ifHolds, lockSeconds, parseIf, type ResourceState, tokensOf } from '@kanonos/core';
import type { NextFunction, Request, RequestHandler, Response } from 'express';
import { ipKeyGenerator, rateLimit } from 'express-rate-limit';
import type { App } from '../../platform/app.ts';
import { sendBytes, sendContent } from '../../platform/http/sendContent.ts';
import type { Viewer } from '../access/index.ts';
import { actorOf } from '../access/index.ts';
import { handOut } from '../documents/index.ts';
import { etagOf } from './content.ts';
import { becomeDraft } from './driveFiles.ts';
import { giveLock, locksOver, lockXml, readWish } from './locks.ts';
import { viewerOfProgram } from './passwords.ts';
import { propfind, proppatch, readAsked } from './properties.ts';
import * as store from './store.ts';
import { isCollection, openTree, type Place, type Tree } from './tree.ts';
import { toWebdavError, WebdavError } from './webdavError.ts';
import { copy, giveBack, makeFolder, move, put, remove } from './writing.ts';
import { cleanXml, escapeXml } from './xml.ts';

const BASE = '/webdav';
const ALLOWED = 'OPTIONS, GET, HEAD, PUT, DELETE, PROPFIND, PROPPATCH, MKCOL, COPY, MOVE, LOCK, UNLOCK';
const MOST_BODY = 1_000_000;
const TRIES_PER_MINUTE = 30;

/** The account that a program names, as a digest: its failures are counted apart from everyone else's. */
const accountOf = (app: App, request: Request): string => {
  const encoded = /^Basic ([\w+/=-]+)$/i.exec(request.get('authorization') ?? '')?.[1] ?? '';
  const name = Buffer.from(encoded, 'base64').toString('utf8').split(':')[0] ?? '';
  return app.secrets.nameDigest(name.trim());
};

/** Everything that the handling of one request needs. */
type Asking = {
  app: App;
  viewer: Viewer;
  tree: Tree;
  place: Place;
  tokens: ReadonlySet<string>;
  request: Request;
  response: Response;
};

/** The segments of a path below the root of the tree. */
const pathOf = (raw: string): string[] => {
  if (raw.includes('#')) throw new WebdavError(400, 'Addresses must not contain a fragment.');
  try {
    const path = (raw.split('?')[0] ?? '')
      .split('/')
      .filter((part) => part !== '')
      .map((part) => decodeURIComponent(part).normalize('NFC'));
    if (path.some((name) => name === '.' || name === '..' || /[\p{Cc}/]/u.test(name) || name.length > 250))
      throw new Error();
    return path;
  } catch {
    throw new WebdavError(400, 'The address is not well-formed.');
  }
};

/** The path that a header names by a whole address or by its path; another server's is not ours to reach. */
const pathOfAddress = (request: Request, address: string): string[] => {
  const url = URL.parse(address, `http://${request.headers.host}`);
  if (!url) throw new WebdavError(400, 'The address is not well-formed.');
  if (url.host !== request.headers.host || !`${url.pathname}/`.startsWith(`${BASE}/`))
    throw new WebdavError(502, 'The destination is on another server.');
  return pathOf(url.pathname.slice(BASE.length));
};

const readText = async (request: Request): Promise<string> => {
  const parts: Buffer[] = [];
  let size = 0;
  for await (const part of request as AsyncIterable<Buffer>) {
    size += part.length;
    if (size > MOST_BODY) throw new WebdavError(413, 'The body is too large.');
    parts.push(part);
  }
  return Buffer.concat(parts).toString('utf8');
};

const depthOf = (request: Request, allowed: readonly string[]): string => {
  const depth = String(request.headers.depth ?? 'infinity').toLowerCase();
  if (!['0', '1', 'infinity'].includes(depth) || !allowed.includes(depth))
    throw new WebdavError(
      depth === 'infinity' ? 403 : 400,
      `Depth is ${allowed.join(' or ')} here.`,
      'propfind-finite-depth',
    );
  return depth;
};

/** Refuses with 412 where the conditions of the request do not hold (RFC 4918 10.4, RFC 9110 13.1). */
const ensureConditions = async (app: App, request: Request, tree: Tree, place: Place, lists: readonly IfList[]) => {
  const { node } = place;
  const etag = node && etagOf(node);
  const [match, noneMatch] = [request.headers['if-match'], request.headers['if-none-match']];
  const named = (header: string) => header.split(',').some((one) => one.trim() === '*' || one.trim() === etag);
  if ((match && (!node || !named(match))) || (noneMatch && node && named(noneMatch) && request.method !== 'GET'))
    throw new WebdavError(412, 'Somebody changed it in the meantime.');
  if (lists.length === 0) return;
  const states = new Map<string | undefined, ResourceState>();
  for (const resource of new Set(lists.map((list) => list.resource))) {
    const about =
      resource === undefined ? place : await tree.find(pathOfAddress(request, resource)).catch(() => undefined);
    const tag = about?.node && etagOf(about.node);
    const tokens = new Set(about ? (await locksOver(app, about)).map((lock) => lock.token) : []);
    states.set(resource, { tokens, ...(tag ? { etag: tag } : {}) });
  }
  if (!ifHolds(lists, (resource) => states.get(resource) ?? { tokens: new Set() }))
    throw new WebdavError(412, 'The conditions of the request are not met.');
};

const sendXml = (response: Response, status: number, xml: string) =>
  void response.status(status).type('application/xml; charset=utf-8').send(cleanXml(xml));

const METHODS: Record<string, (asking: Asking) => Promise<void>> = {
  GET: (asking) => sendFile(asking),
  HEAD: (asking) => sendFile(asking),
  PROPFIND: async ({ app, viewer, tree, place, request, response }) => {
    const deep = depthOf(request, ['0', '1']) === '1';
    const wantedProperties = readAsked(await readText(request));
    sendXml(response, 207, await propfind(app, viewer, tree, place, { wantedProperties, deep, base: BASE }));
  },
  PROPPATCH: async ({ app, viewer, place, tokens, request, response }) => {
    const body = await readText(request);
    sendXml(response, 207, await proppatch(app, viewer, place, { body, base: BASE, tokens }));
  },
  PUT: async ({ app, viewer, place, tokens, request, response }) => {
    if (request.headers['content-range']) throw new WebdavError(400, 'Send the whole file; ranges are not supported.');
    const made = await put(app, viewer, place, request, tokens);
    response.status(made ? 201 : 204).end();
  },
  MKCOL: async ({ app, viewer, place, tokens, request, response }) => {
    if ((await readText(request)) !== '') throw new WebdavError(415, 'A request for a new folder has no body.');
    await makeFolder(app, viewer, place, tokens);
    response.status(201).end();
  },
  DELETE: async ({ app, viewer, place, tokens, request, response }) => {
    if (place.node && isCollection(place.node)) depthOf(request, ['infinity']);
    await remove(app, viewer, place, tokens);
    response.status(204).end();
  },
  COPY: async (asking) => {
    const { app, viewer, place, tokens, request, response } = asking;
    const to = await goalOf(asking);
    const deep = depthOf(request, ['0', 'infinity']) === 'infinity';
    const made = await copy(app, viewer, place, to, { overwrite: overwrites(request), deep, tokens });
    response.status(made ? 201 : 204).end();
  },
  MOVE: async (asking) => {
    const { app, viewer, place, tokens, request, response } = asking;
    const made = await move(app, viewer, place, await goalOf(asking), { overwrite: overwrites(request), tokens });
    response.status(made ? 201 : 204).end();
  },
  LOCK: async ({ app, viewer, place, tokens, request, response }) => {
    const body = await readText(request);
    const href = `${BASE}/${place.path.map(encodeURIComponent).join('/')}`;
    const answer = (status: number, lock: store.LockRow) =>
      sendXml(
        response,
        status,
        `<?xml version="1.0" encoding="utf-8"?>\n<D:prop xmlns:D="DAV:"><D:lockdiscovery>${lockXml(lock, href, app.clock())}</D:lockdiscovery></D:prop>`,
      );
    if (body.trim() === '') return answer(200, await refresh(app, viewer, place, tokens, request));
    const depth = depthOf(request, ['0', 'infinity']);
    const wish = { ...readWish(body), deep: depth === 'infinity', timeout: request.get('timeout') };
    const { lock, made } = await giveLock(app, viewer, place, wish, tokens);
    response.setHeader('Lock-Token', `<${lock.token}>`);
    answer(made ? 201 : 200, lock);
  },
  UNLOCK: async ({ app, viewer, place, request, response }) => {
    const token = /^<([^<>]+)>$/.exec(request.get('lock-token') ?? '')?.[1];
    if (!token) throw new WebdavError(400, 'UNLOCK needs a Lock-Token header.');
    const lock = (await locksOver(app, place)).find((one) => one.token === token);
    if (!lock) throw new WebdavError(409, 'There is no such lock.', 'lock-token-matches-request-uri');
    if (lock.person_id !== viewer.id) throw new WebdavError(403, 'The lock belongs to somebody else.');
    const { node } = place;
    if (node?.kind === 'document') await giveBack(app, viewer, node, lock.checkout_id === node.checkout?.id);
    await app.command(actorOf(viewer), ({ trx }) => store.deleteLock(trx, token));
    if (node?.kind === 'drive') await becomeDraft(app, node.row.id);
    response.status(204).end();
  },
};

const goalOf = async ({ tree, request }: Asking): Promise<Place> => {
  const destination = request.get('destination');
  if (!destination) throw new WebdavError(400, 'Destination says where to.');
  return tree.find(pathOfAddress(request, destination));
};
const overwrites = (request: Request) => request.get('overwrite')?.toUpperCase() !== 'F';

/** Gives a lock more time (RFC 4918 9.10.2): the one over this place whose token was handed in. */
const refresh = async (app: App, viewer: Viewer, place: Place, tokens: ReadonlySet<string>, request: Request) => {
  const lock = (await locksOver(app, place)).find((one) => tokens.has(one.token) && one.person_id === viewer.id);
  if (!lock) throw new WebdavError(412, 'You have no lock there.', 'lock-token-matches-request-uri');
  const seconds = lockSeconds(request.get('timeout') ?? `Second-${lock.seconds}`);
  const until = new Date(app.clock().getTime() + seconds * 1000);
  await store.refreshLock(app.db, { token: lock.token, seconds, until });
  return { ...lock, seconds, until };
};

const sendFile = async ({ app, viewer, tree, place, request, response }: Asking): Promise<void> => {
  const { node } = place;
  if (!node || (node.kind === 'document' && node.away))
    throw new WebdavError(404, 'Nothing was found at this address.');
  response.setHeader('Cache-Control', 'private, no-cache');
  if (isCollection(node)) {
    const names = (await tree.children(node)).map((one) => `${one.name}${isCollection(one.node) ? '/' : ''}`);
    response
      .type('text/plain; charset=utf-8')
      .send(`${['Kanonos', ...place.path].join(' / ')}\n\n${names.join('\n')}\n`);
    return;
  }
  const [etag, name] = [etagOf(node) ?? '', place.path.at(-1) ?? ''];
  const mine = node.kind === 'document' && node.checkout?.person_id === viewer.id ? node.checkout : undefined;
  const own = node.kind === 'drive' ? node.row : mine?.sha256 ? mine : undefined;
  if (own || node.kind !== 'document') {
    if (!own?.sha256) {
      response.setHeader('ETag', etag);
      return void response.status(200).type('application/octet-stream').setHeader('Content-Length', 0).end();
    }
    const { sha256, size, media_type: mediaType } = own;
    return sendContent(app, request, response, {
      sha256,
      size: size ?? 0,
      mediaType: mediaType ?? '',
      name,
      as: 'download',
      etag,
    });
  }
  const { file, filled } = await handOut(app, viewer, node.file.file_id, 'download');
  const about = { mediaType: file.media_type, name, as: 'download' as const, etag };
  if (filled) sendBytes(response, filled, about);
  else await sendContent(app, request, response, { ...about, sha256: file.sha256, size: file.size });
};

/** Our documents to desk programs by WebDAV, classes 1 and 2 (RFC 4918): the filing plan as folders, a lock as a check-out. */
export const createWebdav = (app: App): RequestHandler[] => {
  const slow = rateLimit({
    windowMs: 60_000,
    limit: Math.max(TRIES_PER_MINUTE, app.config.signInsPerMinute),
    // Per account and address: one program with a wrong password keeps nobody else out. Each try is counted before it is judged.
    keyGenerator: (request) => `${ipKeyGenerator(request.ip ?? '')} ${accountOf(app, request)}`,
    // Only wrong passwords count; programs ask first without one.
    skip: (request) => request.headers.authorization === undefined,
    skipSuccessfulRequests: true,
    requestWasSuccessful: (_request, response) => response.statusCode !== 401,
    handler: (_q, response) =>
      void response.status(429).type('text/plain').send('Too many failed attempts. Wait a minute and try again.'),
  });
  const handle = async (request: Request, response: Response, _next: NextFunction) => {
    try {
      await answer(app, request, response);
    } catch (error) {
      const zone = (await app.organisation().catch(() => undefined))?.zone;
      const known = toWebdavError(error, zone);
      if (!known) app.log.error({ err: error }, 'unexpected');
      if (response.headersSent) return void response.destroy();
      const { status, message, condition } = known ?? new WebdavError(500, 'Something went wrong in Kanonos.');
      if (!request.complete) response.setHeader('Connection', 'close');
      if (condition)
        return sendXml(
          response,
          status,
          `<?xml version="1.0" encoding="utf-8"?>\n<D:error xmlns:D="DAV:"><D:${condition}/><k:says xmlns:k="urn:kanonos:drive">${escapeXml(message)}</k:says></D:error>`,
        );
      response.status(status).type('text/plain; charset=utf-8').send(message);
    }
  };
  return [slow, handle];
};

const answer = async (app: App, request: Request, response: Response): Promise<void> => {
  response.setHeader('DAV', '1, 2');
  response.setHeader('MS-Author-Via', 'DAV');
  if (request.method === 'OPTIONS') return void response.setHeader('Allow', ALLOWED).status(200).end();
  const viewer = await viewerOfProgram(app, request.get('authorization'));
  if (!viewer) {
    response.setHeader(
      'WWW-Authenticate',
      'Basic realm="Kanonos, with an application password from your profile", charset="UTF-8"',
    );
    throw new WebdavError(
      401,
      'Sign in with your sign-in name and an application password, which you create in your profile.',
    );
  }
  const method = METHODS[request.method];
  if (!method) {
    response.setHeader('Allow', ALLOWED);
    throw new WebdavError(405, `${request.method} is not supported.`);
  }
  const path = pathOf(request.url);
  const tree = await openTree(app, viewer);
  const place = await tree.find(path);
  const header = request.get('if');
  const lists = header === undefined ? [] : parseIf(header);
  if (!lists) throw new WebdavError(400, 'The If header is not well-formed.');
  if (!(request.method === 'LOCK' && lists.length > 0)) await ensureConditions(app, request, tree, place, lists);
  await method({ app, viewer, tree, place, tokens: tokensOf(lists), request, response });
};
