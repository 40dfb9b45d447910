import { mkdtempSync, rmSync } from 'node:fs';
import type { Server } from 'node:http';
import type { AddressInfo } from 'node:net';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { Readable } from 'node:stream';
import type { api, BodyInOf, BodyOf } from '@kanonos/contract';
import { APPROVAL_BY_OWNER, approvalByUnit, createVerifier, REVIEW_BY_CHOSEN } from '@kanonos/core';
import knex from 'knex';
import { pino } from 'pino';
import { verifierTools } from '../../../../tools/lib/verifierTools.ts';
import { createKanonos } from '../createKanonos.ts';
import { type Viewer, viewerOf } from '../features/access/service.ts';
import { correctMetadata } from '../features/authoring/metadata.ts';
import { checkIn, checkOut } from '../features/authoring/service.ts';
import { takeUpload } from '../features/content/uploads.ts';
import { documentPage } from '../features/page/service.ts';
import { addPerson } from '../features/people/service.ts';
import { setRequirement } from '../features/reading/service.ts';
import { registerDocument } from '../features/registration/service.ts';
import { revise } from '../features/release/revise.ts';
import { release } from '../features/release/service.ts';
import { decide, submit } from '../features/rounds/service.ts';
import { finishOrganisation, type OrganisationDescription, seedOrganisation } from '../features/rules/organisation.ts';
import { exportTrail } from '../features/trail/service.ts';
import { recordUsage } from '../features/usage/service.ts';
import { createHttp } from '../http.ts';
import { migrate } from '../migrate.ts';
import type { App } from '../platform/app.ts';
import { hashPassword } from '../platform/auth/passwords.ts';
import { loadSecrets } from '../platform/auth/secrets.ts';
import { readConfig } from '../platform/config.ts';
import { createDiskStore } from '../platform/content/store.ts';
import { connect, rows } from '../platform/db/connect.ts';
import type { Jobs } from '../platform/jobs/jobs.ts';
import { createJobs } from '../platform/jobs/jobs.ts';

export const PASSWORD = 'correct horse battery';

/** A requirement to read and sign within three days, before it names anybody. */
export const READ_AND_SIGN: BodyOf<typeof api.reading.setRequirement> = {
  everyone: false,
  unitIds: [],
  personIds: [],
  exceptPersonIds: [],
  kind: 'read and sign',
  instructions: '',
  workingDays: 3,
  newJoinerDays: 3,
  perChange: {},
  beforeInForce: false,
  reason: '',
  rowVersion: null,
};

type Registering = Parameters<typeof registerDocument>[2];

/** A person in no unit, with no role, in nobody's charge. */
export const UNPLACED = {
  departmentId: null,
  supervisorId: null,
  roleIds: [],
  groupIds: [],
  siteId: null,
  outside: false,
};

/** What a test gives of a command's body; the rest is as usual. */
type Given<E> = Partial<BodyOf<E>>;

/** A small organisation of its own in a database of its own, on the real PostgreSQL of the tests. */
export type TestOrganisation = {
  app: App;
  clock: { now: Date };
  ids: Record<string, string>;
  folders: Map<string, string>;
  types: Map<string, string>;
  units: Map<string, string>;
  ownerUrl: string;
  appUrl: string;
  dataDir: string;
  as: (name: string) => Promise<Viewer>;
  register: (
    name: string,
    more?: Partial<{ title: string; type: string; text: string; owner: string; folder: string; department: string }>,
  ) => Promise<{ id: string; number: string }>;
  /** Adds a person who is in no unit; what is given besides the sign-in name is taken. */
  addPerson: (signInName: string, given?: Partial<Parameters<typeof addPerson>[2]>) => ReturnType<typeof addPerson>;
  /** Corrects the metadata of a document as it is now shown to the person. */
  correct: (
    name: string,
    ref: string,
    change: Partial<BodyInOf<typeof api.documents.correctMetadata>>,
  ) => ReturnType<typeof correctMetadata>;
  /** Registers what is given; what is left out is that of a procedure without content. */
  registerAs: (name: string, given?: Partial<Registering>) => ReturnType<typeof registerDocument>;
  /** Sends a text as a file; gives the id of the upload. */
  upload: (name: string, text: string, fileName?: string) => Promise<string>;
  checkOut: (name: string, ref: string, given?: Given<typeof api.documents.checkOut>) => Promise<unknown>;
  checkIn: (
    name: string,
    ref: string,
    given: Partial<BodyInOf<typeof api.documents.checkIn>>,
  ) => ReturnType<typeof checkIn>;
  /** Submits a draft, by default to the reviewer. */
  submit: (name: string, ref: string, given?: Given<typeof api.documents.submit>) => ReturnType<typeof submit>;
  release: (name: string, ref: string, given?: Given<typeof api.documents.release>) => ReturnType<typeof release>;
  /** Begins the next revision, by default a major one. */
  revise: (name: string, ref: string, given?: Given<typeof api.documents.revise>) => ReturnType<typeof revise>;
  page: (name: string, ref: string) => ReturnType<typeof documentPage>;
  submitAndReview: (ref: string, author?: string) => Promise<void>;
  decideAs: (
    name: string,
    ref: string,
    decision?: 'approve' | 'reject' | 'no objection' | 'with comments',
    words?: string,
  ) => Promise<unknown>;
  toInForce: (ref: string, author?: string) => Promise<void>;
  /** Asks persons to read and sign a document once it is in force. */
  requireReading: (ref: string, readers: readonly string[]) => Promise<void>;
  /** Opens every file of the revision that a person sees of a document, as signing demands. */
  openFiles: (name: string, ref: string) => Promise<void>;
  listen: () => Promise<string>;
  verdict: () => Promise<ReturnType<ReturnType<typeof createVerifier>['verdict']>>;
  close: () => Promise<void>;
};

const DESCRIPTION: OrganisationDescription = {
  name: 'Test organisation',
  code: 'TST',
  zone: 'Europe/Zurich',
  demoPassword: null,
  holidays: [],
  units: [
    { key: 'ops', kind: 'department', code: 'OPS', name: 'Operations' },
    { key: 'eng', kind: 'department', code: 'ENG', name: 'Engineering' },
    { key: 'ta', kind: 'role', code: 'TA', name: 'Technical authority' },
    { key: 'ctrl', kind: 'role', code: 'CTRL', name: 'Document controller' },
    { key: 'authors', kind: 'group', code: 'AUTH', name: 'Authors' },
  ],
  folders: [
    { key: '1', parent: null, name: 'Area one', code: '1' },
    { key: '1/a', parent: '1', name: 'Below' },
    { key: '2', parent: null, name: 'Area two', code: '2' },
    { key: 'closed', parent: null, name: 'Closed', code: '9' },
  ],
  types: [
    {
      code: 'PRO',
      name: 'Procedure',
      help: '',
      numbering: 'TST-{type}-{counter:4}',
      scheme: { kind: 'letters' },
      fields: [{ key: 'limit', label: 'Limit', kind: 'text', mandatory: false, level: 'revision' }],
      route: (unit) => ({
        name: 'review, owner, authority',
        steps: [
          REVIEW_BY_CHOSEN,
          { ...APPROVAL_BY_OWNER, name: 'Owner' },
          approvalByUnit('Authority', 'approved as authority', unit('ta')),
        ],
      }),
    },
    {
      code: 'TWO',
      name: 'Two at once',
      help: '',
      numbering: 'TST-{type}-{counter:4}',
      scheme: { kind: 'integers', first: 1 },
      fields: [],
      route: (unit) => ({
        name: 'both',
        steps: [
          {
            name: 'Both',
            kind: 'approval',
            meaning: 'approved',
            assignees: [{ by: 'unit', unitId: unit('ta') }],
            rule: { kind: 'all' },
            workingDays: 3,
            onReject: 'draft',
          },
        ],
      }),
    },
    {
      code: 'MEM',
      name: 'Memo',
      help: '',
      numbering: 'TST-{type}-{counter:3}',
      scheme: { kind: 'integers', first: 1 },
      fields: [{ key: 'held', label: 'Held on', kind: 'date', mandatory: true, level: 'revision' }],
      route: () => ({ name: '', steps: [] }),
      releaseWithoutRoute: true,
    },
    {
      code: 'SUP',
      name: 'Supplier',
      help: '',
      numbering: null,
      externalPattern: '[A-Z]{3} .{2,30}',
      scheme: { kind: 'own' },
      fields: [],
      route: () => ({ name: '', steps: [] }),
      releaseWithoutRoute: true,
    },
  ],
  grants: [
    ...['1', '2'].flatMap((folder) => [
      { folder, subject: 'all' as const, rights: ['read' as const, 'download' as const] },
      { folder, subject: { unit: 'ctrl' }, rights: ['release' as const, 'manage' as const] },
      { folder, subject: { unit: 'authors' }, rights: ['author' as const] },
    ]),
    { folder: 'closed', subject: { unit: 'ctrl' }, rights: ['manage', 'release'] },
  ],
  counters: [],
};

/** People of the test organisation: name, department, roles and groups, organisation-wide rights. */
const PEOPLE: [name: string, department: string, units: string[], rights: string[]][] = [
  ['controller', 'eng', ['ctrl'], ['audit']],
  ['author', 'eng', ['authors'], []],
  ['author2', 'eng', ['authors'], []],
  ['reviewer', 'eng', [], []],
  ['owner', 'ops', ['authors'], []],
  ['authority', 'eng', ['ta'], []],
  ['authority2', 'eng', ['ta'], []],
  ['reader', 'ops', [], []],
  ['reader2', 'ops', [], []],
  ['admin', 'eng', [], ['administer', 'people', 'audit', 'security']],
  ['stranger', 'eng', [], []],
];

/** Jobs that are kept and not run: what a service enqueues is looked at by name. */
const quietJobs = (): Jobs => ({
  enqueue: async () => {},
  enqueueMany: async () => {},
  workBatch: async () => {},
  work: async () => {},
  schedule: async () => {},
  start: async () => {},
  stop: async () => {},
  state: () => 'running',
});

let made = 0;

type Options = { realJobs?: boolean; realPasswords?: boolean };

/** The application on a database of its own without an organisation; `close` ends both. */
export const openApplication = async (options: Options = {}) => {
  const base = process.env.KANONOS_TEST_DATABASE;
  const appPassword = process.env.KANONOS_TEST_APP_PASSWORD;
  if (!base || !appPassword) throw new Error('run the integration tests with: npm run integration');
  const name = `t${process.pid}_${++made}_${Math.floor(performance.now())}`;
  const admin = knex({ client: 'pg', connection: base, pool: { min: 0, max: 1 } });
  await admin.raw(`create database ${name}`);
  const ownerUrl = base.replace(/\/[^/]*$/, `/${name}`);
  const appUrl = ownerUrl.replace(/\/\/[^@]*@/, `//kanonos_app:${appPassword}@`);
  await migrate(ownerUrl, appPassword);
  const dataDir = mkdtempSync(join(tmpdir(), 'kanonos-configuration-'));
  const config = readConfig({
    DATABASE_URL: appUrl,
    DATA_DIR: dataDir,
    INTAKE_DIR: join(dataDir, 'intake'),
    PORT: '4999',
    LOG_LEVEL: 'silent',
    CHECK_ANSWERS: 'yes',
    SIGN_INS_PER_MINUTE: '100000',
    UPLOAD_LIMIT_MB: '8',
  });
  const log = pino({ level: 'silent' });
  const clock = { now: new Date('2026-11-25T09:00:00Z') };
  const jobs = options.realJobs ? createJobs(appUrl, log) : quietJobs();
  const { checkPassword } = await import('../platform/auth/passwords.ts');
  const app = createKanonos({
    db: connect(appUrl, 24),
    config,
    log,
    clock: () => clock.now,
    secrets: loadSecrets(dataDir),
    content: createDiskStore(dataDir),
    jobs,
    checkPassword: options.realPasswords
      ? checkPassword
      : async (password, hash) => hash !== null && password === PASSWORD,
  });
  // A command that waits for a second connection can wait for ever where many act at once: told when the organisation is closed.
  const nested: string[] = [];
  app.db.on('query', (query: { __knexTxId?: string; sql: string }) => {
    if (app.isActing() && !query.__knexTxId) nested.push(query.sql);
  });
  let server: Server | undefined;
  return {
    app,
    clock,
    ownerUrl,
    appUrl,
    dataDir,
    listen: async () => {
      server = createHttp(app).listen(0, '127.0.0.1');
      await new Promise((resolve) => server?.once('listening', resolve));
      return `http://127.0.0.1:${(server.address() as AddressInfo).port}`;
    },
    close: async () => {
      server?.close();
      server?.closeAllConnections();
      await app.content.settled();
      await app.jobs.stop();
      await app.db.destroy();
      await admin.raw(`drop database ${name} with (force)`);
      await admin.destroy();
      rmSync(dataDir, { recursive: true, force: true });
      if (nested.length > 0)
        throw new Error(`queries beside the transaction of a command: ${[...new Set(nested)].slice(0, 5).join('\n')}`);
    },
  };
};

export const openOrganisation = async (options: Options = {}): Promise<TestOrganisation> => {
  const opened = await openApplication(options);
  const { app, clock, ownerUrl, appUrl, dataDir } = opened;
  const laid = await seedOrganisation(app, DESCRIPTION);
  const ids: Record<string, string> = {};
  const hash = await hashPassword(PASSWORD);
  const founder: Viewer = {
    id: '00000000-0000-7000-8000-000000000000',
    signInName: 'system.import',
    name: 'Import',
    email: '',
    outside: false,
    organisationRights: new Set(['people', 'administer']),
    unitIds: new Set(),
    session: undefined,
  };
  for (const [person, department, units, rights] of PEOPLE) {
    const { id } = await addPerson(app, founder, {
      signInName: person,
      name: person.charAt(0).toUpperCase() + person.slice(1),
      email: `${person}@test.example`,
      from: '2026-01-01',
      departmentId: laid.units.get(department) ?? null,
      supervisorId: person.startsWith('reader') ? (ids.owner ?? null) : null,
      roleIds: units.filter((u) => u !== 'authors').map((u) => laid.units.get(u) ?? ''),
      groupIds: units.filter((u) => u === 'authors').map((u) => laid.units.get(u) ?? ''),
      siteId: null,
      outside: false,
    });
    ids[person] = id;
    await rows(
      app.db,
      `update people set password_hash = :hash, state = 'active', organisation_rights = :rights::text[] where id = :id`,
      { hash, rights, id },
    );
  }
  await finishOrganisation(app);
  const as = (person: string) => viewerOf(app.db, ids[person] ?? '', clock.now.toISOString().slice(0, 10));
  const organisation: TestOrganisation = {
    app,
    clock,
    ids,
    folders: laid.folders,
    types: laid.types,
    units: laid.units,
    ownerUrl,
    appUrl,
    dataDir,
    as,
    register: async (person, more = {}) =>
      organisation.registerAs(person, {
        typeId: laid.types.get(more.type ?? 'PRO') ?? '',
        folderId: laid.folders.get(more.folder ?? '1') ?? '',
        ...(more.title ? { title: more.title } : {}),
        uploadId: await organisation.upload(person, more.text ?? `# Text ${Math.random()}`),
        ownerId: ids[more.owner ?? 'owner'] ?? null,
        departmentId: more.department ? (laid.units.get(more.department) ?? null) : null,
      }),
    addPerson: async (signInName, given = {}) =>
      addPerson(app, await as('admin'), {
        signInName,
        name: signInName,
        email: `${signInName}@test.example`,
        from: '2026-01-01',
        departmentId: null,
        supervisorId: null,
        roleIds: [],
        groupIds: [],
        siteId: null,
        outside: false,
        ...given,
      }),
    correct: async (person, ref, change) => {
      const page = await organisation.page(person, ref);
      return correctMetadata(app, await as(person), ref, {
        title: page.revision.title,
        summary: page.revision.summary,
        metadata: page.metadata,
        keywords: page.keywords,
        ownerId: page.owner.id,
        reviewOn: page.reviewOn,
        reason: 'because',
        rowVersion: page.rowVersion,
        revisionRowVersion: page.revision.rowVersion,
        ...change,
      });
    },
    registerAs: async (person, given = {}) =>
      registerDocument(
        app,
        await as(person),
        {
          typeId: laid.types.get('PRO') ?? '',
          folderId: laid.folders.get('1') ?? '',
          title: 'A procedure',
          metadata: {},
          uploadId: null,
          ...given,
        },
        null,
      ),
    upload: async (person, text, fileName = 'text.md') =>
      (await takeUpload(app, await as(person), fileName, Readable.from([Buffer.from(text)]))).id,
    checkOut: async (person, ref, given = {}) =>
      checkOut(app, await as(person), ref, { seen: '*', note: '', expectedBack: null, ...given }),
    checkIn: async (person, ref, given) =>
      checkIn(app, await as(person), ref, { seen: '*', uploadId: null, note: 'changed', ...given }),
    submit: async (person, ref, given = {}) =>
      submit(app, await as(person), ref, { seen: '*', message: '', chosen: [ids.reviewer ?? ''], ...given }),
    release: async (person, ref, given = {}) =>
      release(app, await as(person), ref, { seen: '*', on: null, name: null, password: null, ...given }),
    revise: async (person, ref, given = {}) =>
      revise(app, await as(person), ref, {
        seen: '*',
        changeKind: 'major',
        reason: 'next',
        summary: '',
        uploadId: null,
        label: null,
        changeNote: null,
        ...given,
      }),
    page: async (person, ref) => documentPage(app, await as(person), ref, { rev: 'work' }),
    submitAndReview: async (ref, author = 'author') => {
      await organisation.submit(author, ref);
      await organisation.decideAs('reviewer', ref, 'no objection');
    },
    decideAs: async (person, ref, decision = 'approve', words = '') => {
      const page = await organisation.page('controller', ref);
      await organisation.openFiles(person, ref);
      const assignment = page.rounds[0]?.steps
        .flatMap((s) => s.assignments)
        .find((a) => a.state === 'open' && a.person.id === ids[person]);
      return decide(app, await as(person), assignment?.id ?? '', {
        decision,
        comment: words,
        name: person,
        password: PASSWORD,
        digest: page.rounds[0]?.digest ?? null,
        version: page.revision.versions,
      });
    },
    requireReading: async (ref, readers) => {
      await setRequirement(app, await as('controller'), ref, {
        ...READ_AND_SIGN,
        personIds: readers.map((reader) => ids[reader] ?? reader),
      });
    },
    openFiles: async (person, ref) => {
      const files = await rows<{ document: string; revision: string; version: number; file: string }>(
        app.db,
        `select d.id as document, r.id as revision, r.version_count as version, f.id as file from documents d join revisions r on r.document_id = d.id
           join version_files f on f.version_id = r.latest_version_id where d.id::text = :ref or d.number = :ref`,
        { ref },
      );
      for (const { document, revision, version, file } of files)
        await recordUsage(app, {
          personId: ids[person] ?? '',
          documentId: document,
          revisionId: revision,
          version,
          fileId: file,
          action: 'opened',
        });
    },
    toInForce: async (ref, author = 'author') => {
      await organisation.submitAndReview(ref, author);
      await organisation.decideAs('owner', ref);
      await organisation.decideAs('authority', ref);
      await organisation.release('controller', ref);
    },
    listen: opened.listen,
    verdict: async () => {
      const verifier = createVerifier(verifierTools);
      const pieces: string[] = [];
      const { Writable } = await import('node:stream');
      await exportTrail(
        app,
        new Writable({
          write: (chunk, _encoding, done) => {
            pieces.push(String(chunk));
            done();
          },
        }),
      );
      for (const line of pieces.join('').split('\n')) verifier.line(line);
      return verifier.verdict();
    },
    close: opened.close,
  };
  return organisation;
};

/** The cookie of a person who signs in over HTTP with the password of all. */
export const cookieOf = async (base: string, name: string): Promise<string> => {
  const answer = await fetch(`${base}/api/session`, {
    method: 'POST',
    headers: { 'content-type': 'application/json' },
    body: JSON.stringify({ name, password: PASSWORD }),
  });
  return answer.headers.get('set-cookie')?.split(';')[0] ?? '';
};

/** The code of the first refusal of a command, or `done`. */
export const codeOf = (command: Promise<unknown>): Promise<string> =>
  command.then(
    () => 'done',
    (error: { refusals?: { code: string }[] }) => {
      if (!error.refusals) throw error;
      return error.refusals[0]?.code ?? '';
    },
  );
