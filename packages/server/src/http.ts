import { existsSync } from 'node:fs';
import { createRequire } from 'node:module';
import { dirname, join } from 'node:path';
import { api, ENDPOINTS, toOpenApi } from '@kanonos/contract';
import type { OrganisationRight } from '@kanonos/core';
import compression from 'compression';
import express, { type Express, type Request } from 'express';
import { ipKeyGenerator, rateLimit } from 'express-rate-limit';
import expressStaticGzip from 'express-static-gzip';
import helmet from 'helmet';
import { pinoHttp } from 'pino-http';
import type { Viewer } from './features/access/index.ts';
import { viewerOfToken } from './features/session/index.ts';
import { COOKIE } from './features/session/routes.ts';
import { createWebdav } from './features/webdav/index.ts';
import type { App } from './platform/app.ts';
import { newId } from './platform/db/ids.ts';
import { limitBodies } from './platform/http/limits.ts';
import { createMount } from './platform/http/mount.ts';
import { problemHandler } from './platform/http/problem.ts';
import { refused } from './platform/refused.ts';
import { mountAll } from './routes.ts';

/** The HTTP application: API under /api, the built web around it. */
export const createHttp = (app: App): Express => {
  const server = express();
  server.disable('x-powered-by');
  server.set('etag', false);
  server.set('query parser', 'simple');
  // The proxies trusted for the client's address: without it everyone behind a proxy would share one address, and its limits.
  server.set('trust proxy', app.config.trustProxy);
  server.use(limitBodies());
  server.use(
    pinoHttp({
      logger: app.log,
      genReqId: () => newId(),
      customLogLevel: (_request, response, error) => (error || response.statusCode >= 500 ? 'error' : 'debug'),
      serializers: {
        req: (r: { method: string; url: string }) => ({ method: r.method, url: r.url?.split('?')[0] }),
        res: (r: { statusCode: number }) => ({ status: r.statusCode }),
      },
    }),
  );
  server.use(securityHeaders(app));
  server.use('/webdav', ...createWebdav(app));

  const api = express.Router({ mergeParams: true });
  api.use(originCheck(app));
  api.use(
    compression({
      threshold: 1024,
      // Answers alone: bytes of files are sent as they lie, also in part.
      filter: (_request, response) => String(response.getHeader('content-type') ?? '').startsWith('application/json'),
    }),
  );
  api.use(express.json({ limit: '2mb', strict: true }));
  api.use('/session', ...signInLimits(app));
  const openapi = toOpenApi(ENDPOINTS);
  api.get('/openapi.json', (_request, response) => void response.json(openapi));
  mountDocs(api);
  const mount = createMount<Viewer>(api, {
    checkAnswers: app.config.checkAnswers,
    identify: async (request) => {
      const token = cookieOf(request, COOKIE);
      return token ? viewerOfToken(app, token) : undefined;
    },
    ensureMayChange: (viewer, { id, method }) => {
      if (viewer.seenBy && method !== 'GET' && !ENDS_SEEING_AS.has(id))
        throw refused('seeing_as_read_only', { person: viewer.name });
    },
    may: (viewer, right) => viewer.organisationRights.has(right as OrganisationRight),
  });
  mountAll(app, mount, () => health(app));
  api.use((request, _response, next) => {
    const known = ENDPOINTS.some((endpoint) =>
      new RegExp(`^${endpoint.path.replace(/:\w+/g, '[^/]+')}$`).test(`/api${request.path}`),
    );
    next(known ? refused('method_unknown', { method: request.method }) : refused('not_found'));
  });
  server.use('/api', api);
  mountWeb(app, server);
  server.use(problemHandler(app.log, async () => (await app.organisation()).zone));
  return server;
};

/** What who sees the application as somebody else may do besides looking. */
const ENDS_SEEING_AS: ReadonlySet<string> = new Set([api.rights.stopSeeingAs.id, api.session.signOut.id]);

/** The content security policy of this server's pages (CSP Level 3). */
const securityHeaders = (app: App) =>
  helmet({
    contentSecurityPolicy: {
      useDefaults: false,
      directives: {
        defaultSrc: ["'none'"],
        scriptSrc: ["'self'"],
        styleSrc: ["'self'", "'unsafe-inline'"],
        imgSrc: ["'self'", 'data:', 'blob:'],
        fontSrc: ["'self'"],
        connectSrc: ["'self'", 'blob:', 'data:'],
        mediaSrc: ["'self'"],
        workerSrc: ["'self'", 'blob:'],
        frameSrc: ["'self'"],
        formAction: ["'self'"],
        baseUri: ["'none'"],
        frameAncestors: ["'none'"],
      },
    },
    strictTransportSecurity: app.config.publicUrl.startsWith('https:'),
    crossOriginResourcePolicy: { policy: 'same-origin' },
    referrerPolicy: { policy: 'same-origin' },
  });

/** How often one may try to sign in. */
const signInLimits = (app: App) => {
  // A password costs the server 20 MB and some time: tries are bounded per account and address, and, more widely, per address,
  // besides the slowing down per name.
  const signIns = (limit: number, keyOf: (request: Request) => string) =>
    rateLimit({
      windowMs: 60_000,
      limit,
      skip: (request) => request.method !== 'POST',
      keyGenerator: keyOf,
      standardHeaders: true,
      legacyHeaders: false,
      handler: (_q, _s, next) => next(refused('sign_in_slowed', { seconds: 60 })),
    });
  const addressOf = (request: Request) => ipKeyGenerator(request.ip ?? '');
  return [
    signIns(app.config.signInsPerMinute * 10, addressOf),
    signIns(app.config.signInsPerMinute, (request) => {
      const { name } = (request.body ?? {}) as { name?: unknown };
      return `${addressOf(request)} ${typeof name === 'string' ? app.secrets.nameDigest(name.trim()) : ''}`;
    }),
  ];
};

const health = async (app: App) => {
  const state = async (check: Promise<unknown>) =>
    check.then(
      () => 'works',
      () => 'is not responding',
    );
  const [database, content] = [await state(app.db.raw('select 1')), await state(app.content.check())];
  return { ok: database === 'works' && content === 'works', database, content, jobs: app.jobs.state() };
};

/** Writes from another origin are refused: cookies alone must not be enough (OWASP ASVS 4.2.2). */
const originCheck = (app: App) => (request: Request, _response: express.Response, next: express.NextFunction) => {
  const origin = request.headers.origin;
  const site = request.headers['sec-fetch-site'];
  const writes = !['GET', 'HEAD', 'OPTIONS'].includes(request.method);
  const own =
    origin === undefined ||
    origin === new URL(app.config.publicUrl).origin ||
    // A malformed address is no origin.
    (URL.canParse(origin) && new URL(origin).host !== '' && new URL(origin).host === request.headers.host);
  if (writes && (!own || site === 'cross-site')) return next(refused('origin_refused'));
  next();
};

const cookieOf = (request: Request, name: string): string | undefined => {
  for (const part of (request.headers.cookie ?? '').split(';')) {
    const [key, value] = part.trim().split('=');
    if (key === name && value && value.length < 200) return decodeURIComponent(value);
  }
  return undefined;
};

/** A readable page of the description, from files that ship with the application. */
const mountDocs = (api: express.Router) => {
  const dir = dirname(createRequire(import.meta.url).resolve('swagger-ui-dist/package.json'));
  api.get('/docs', (_request, response) => {
    response
      .type('html')
      .send(
        `<!doctype html><html lang="en"><head><meta charset="utf-8"><title>Kanonos API</title><link rel="stylesheet" href="/api/docs/files/swagger-ui.css"></head><body><div id="page"></div><script src="/api/docs/files/swagger-ui-bundle.js"></script><script src="/api/docs/start.js"></script></body></html>`,
      );
  });
  api.get('/docs/start.js', (_request, response) => {
    response
      .type('js')
      .send(
        `SwaggerUIBundle({ url: '/api/openapi.json', dom_id: '#page', deepLinking: true, supportedSubmitMethods: [] });`,
      );
  });
  api.use('/docs/files', express.static(dir, { index: false }));
};

const mountWeb = (app: App, server: Express) => {
  const dir = app.config.webDir;
  if (!dir || !existsSync(join(dir, 'index.html'))) return;
  server.use(
    '/assets',
    // Their compressed forms were made by the build; a browser gets the smallest one that it reads.
    expressStaticGzip(join(dir, 'assets'), {
      enableBrotli: true,
      index: false,
      orderPreference: ['br', 'gz'],
      serveStatic: { immutable: true, maxAge: '1y', fallthrough: false },
    }),
  );
  server.use(express.static(dir, { index: false }));
  server.get('/*path', (request, response, next) => {
    if (!request.accepts('html')) return next(refused('not_found'));
    response.setHeader('Cache-Control', 'no-cache');
    response.sendFile(join(dir, 'index.html'));
  });
  server.get('/', (_request, response) => {
    response.setHeader('Cache-Control', 'no-cache');
    response.sendFile(join(dir, 'index.html'));
  });
};
