import { Readable } from 'node:stream';
import { ENDPOINTS, type Endpoint } from '@kanonos/contract';
import { hasRight, RIGHTS, type Right } from '@kanonos/core';
import { beforeAll, describe, expect, test } from 'vitest';
import { extractText } from '../features/content/text.ts';
import { takeUpload } from '../features/content/uploads.ts';
import { notify } from '../features/mailing/service.ts';
import { registerDocument } from '../features/registration/service.ts';
import { askFor } from '../features/viewing/asking.ts';
import { makeWaiting } from '../features/viewing/making.ts';
import { SYSTEM_CLOCK } from '../platform/app.ts';
import { rows } from '../platform/db/connect.ts';
import { cookieOf, READ_AND_SIGN, type TestOrganisation } from './organisation.ts';
import { withOrganisation } from './withOrganisation.ts';

/** What each command on a document asks for, on one that is in work and on one that is in force. */
const TABLE: Record<
  string,
  { inWork: Right; inForce: Right; or?: Right; body?: (organisation: TestOrganisation) => unknown }
> = {
  document: { inWork: 'read work', inForce: 'see' },
  preview: { inWork: 'read work', inForce: 'see' },
  history: { inWork: 'read work', inForce: 'see' },
  setFavourite: { inWork: 'read work', inForce: 'see', body: () => ({ favourite: true }) },
  usage: { inWork: 'manage', inForce: 'manage' },
  comments: { inWork: 'read work', inForce: 'see' },
  readers: { inWork: 'read work', inForce: 'see' },
  preflight: { inWork: 'release', inForce: 'release' },
  checkOut: { inWork: 'author', inForce: 'author', body: () => ({}) },
  checkIn: { inWork: 'author', inForce: 'author', body: () => ({ uploadId: null, note: 'x' }) },
  takeOverCheckOut: { inWork: 'manage', inForce: 'manage', body: () => ({ reason: 'x' }) },
  // Who may see and not read finds no version to compare.
  citations: { inWork: 'read work', inForce: 'read' },
  addressOnDrive: { inWork: 'read work', inForce: 'read' },
  comparedSides: { inWork: 'read work', inForce: 'see' },
  addSupportingFile: { inWork: 'author', inForce: 'author', body: () => ({ uploadId: NOBODY, note: 'x' }) },
  discardCheckOut: { inWork: 'author', inForce: 'author', body: () => ({}) },
  makeNewest: { inWork: 'author', inForce: 'author', body: () => ({}) },
  correctMetadata: {
    inWork: 'author',
    inForce: 'manage',
    body: (organisation) => ({
      title: 'A procedure',
      summary: '',
      metadata: {},
      keywords: ['changed'],
      ownerId: organisation.ids.owner,
      reviewOn: null,
      reason: 'x',
      rowVersion: 999,
      revisionRowVersion: 999,
    }),
  },
  startAdHocRound: {
    inWork: 'read work',
    inForce: 'read',
    body: (organisation) => ({
      name: 'x',
      steps: [{ name: 'x', kind: 'review', people: [organisation.ids.reader] }],
    }),
  },
  planAdHocRound: {
    inWork: 'read work',
    inForce: 'read',
    body: (organisation) => ({
      name: 'x',
      on: '2099-01-01',
      steps: [{ name: 'x', kind: 'review', people: [organisation.ids.reader] }],
    }),
  },
  plannedRounds: { inWork: 'read work', inForce: 'see' },
  adHocRoutes: { inWork: 'read work', inForce: 'read' },
  toSignOutsideRound: { inWork: 'read work', inForce: 'read' },
  signOutsideRound: { inWork: 'read work', inForce: 'read', body: () => ({ meaning: 'x', digest: 'x' }) },
  setOwnState: { inWork: 'read work', inForce: 'read work', body: () => ({ state: null }) },
  formForChange: { inWork: 'read work', inForce: 'see' },
  signedOutside: { inWork: 'read work', inForce: 'see' },
  bringSignedOutside: { inWork: 'author', inForce: 'author', or: 'release', body: () => ({ uploadId: NOBODY }) },
  sendToBeSignedOutside: {
    inWork: 'author',
    inForce: 'author',
    or: 'release',
    body: () => ({ signers: [{ name: 'x', mail: 'x@test.example' }] }),
  },
  suggestChange: { inWork: 'read work', inForce: 'read', body: () => ({ what: 'x' }) },
  ordersOfDocument: { inWork: 'read work', inForce: 'see' },
  // Neither of the two documents is a change note: whoever has the right is told so.
  openChangeNotes: { inWork: 'author', inForce: 'author' },
  changeNote: { inWork: 'read work', inForce: 'read' },
  proposedForChangeNote: { inWork: 'read work', inForce: 'read' },
  addAffectedDocuments: { inWork: 'author', inForce: 'author', or: 'release', body: () => ({ numbers: ['X'] }) },
  changeAffectedDocument: { inWork: 'author', inForce: 'author', or: 'release', body: () => ({ what: 'x' }) },
  removeAffectedDocument: { inWork: 'author', inForce: 'author', or: 'release' },
  addChangeTask: {
    inWork: 'author',
    inForce: 'author',
    or: 'release',
    body: () => ({ what: 'x', assigneeId: NOBODY }),
  },
  changeChangeTask: {
    inWork: 'author',
    inForce: 'author',
    or: 'release',
    body: () => ({ what: 'x', assigneeId: NOBODY }),
  },
  dropChangeTask: { inWork: 'author', inForce: 'author', or: 'release', body: () => ({ reason: 'x' }) },
  closeChangeNote: { inWork: 'author', inForce: 'author', or: 'release', body: () => ({ result: 'x' }) },
  addComment: { inWork: 'comment', inForce: 'comment', body: () => ({ text: 'x', revisionId: NOBODY }) },
  readAnnotations: { inWork: 'comment', inForce: 'comment', body: () => ({ uploadId: NOBODY }) },
  filePlaces: { inWork: 'read work', inForce: 'read' },
  revisionSmallPicture: { inWork: 'read work', inForce: 'read' },
  links: { inWork: 'read work', inForce: 'see' },
  documentGrants: { inWork: 'manage', inForce: 'manage' },
  setDocumentGrants: {
    inWork: 'manage',
    inForce: 'manage',
    body: () => ({ grants: [], tag: 'x', reason: 'x' }),
  },
  rightHolders: { inWork: 'read work', inForce: 'see' },
  explainRights: { inWork: 'read work', inForce: 'see' },
  submissionRoute: { inWork: 'read work', inForce: 'read work' },
  addLink: {
    inWork: 'author',
    inForce: 'author',
    body: () => ({ kind: 'refers to', goal: { to: 'web', address: 'https://a.example' } }),
  },
  submit: { inWork: 'author', inForce: 'author', body: () => ({}) },
  // An author's command and a controller's.
  recall: { inWork: 'author', inForce: 'author', or: 'release', body: () => ({ reason: 'x' }) },
  revise: { inWork: 'author', inForce: 'author', body: () => ({ changeKind: 'minor', reason: 'x' }) },
  abandon: { inWork: 'author', inForce: 'author', body: () => ({ reason: 'x' }) },
  release: { inWork: 'release', inForce: 'release', body: () => ({}) },
  moveDay: { inWork: 'release', inForce: 'release', body: () => ({ on: null, reason: 'x' }) },
  reopen: { inWork: 'release', inForce: 'release', body: () => ({ reason: 'x' }) },
  withdraw: { inWork: 'release', inForce: 'release', body: () => ({ reason: 'x' }) },
  putOnHold: { inWork: 'release', inForce: 'release', body: () => ({ reason: 'x' }) },
  liftHold: { inWork: 'release', inForce: 'release', body: () => ({ reason: 'x' }) },
  cancelWithdrawal: { inWork: 'release', inForce: 'release', body: () => ({ reason: 'x' }) },
  review: { inWork: 'release', inForce: 'release' },
  confirmReview: {
    inWork: 'release',
    inForce: 'release',
    body: () => ({ due: '2026-12-01', password: 'x', digest: 'x' }),
  },
  answerReview: {
    inWork: 'release',
    inForce: 'release',
    body: () => ({ due: '2026-12-01', outcome: 'minor change', comment: 'x' }),
  },
  postponeReview: {
    inWork: 'release',
    inForce: 'release',
    body: () => ({ due: '2026-12-01', to: '2099-01-01', reason: 'x' }),
  },
  reinstatement: { inWork: 'release', inForce: 'release' },
  reinstate: { inWork: 'release', inForce: 'release', body: () => ({ reason: 'x', password: 'x', digest: 'x' }) },
  setRequirement: {
    inWork: 'manage',
    inForce: 'manage',
    body: () => ({ ...READ_AND_SIGN, reason: 'x', rowVersion: 999 }),
  },
};

/**
 * Commands whose right depends on more than the document (who wrote a comment, who started a round), and those that take it out of everyone
 * else's sight. Tested with their features.
 */
const ELSEWHERE = [
  'lastingFile',
  'resolveComment',
  'endLink',
  'removeVersion',
  'replyToComment',
  'workingText',
  'saveWorkingText',
  'reopenComment',
  'assignComment',
  'withdrawComment',
  'doneChangeTask',
  'remindApprovers',
  'removeDocument',
  'restoreDocument',
  'renumberDocument',
  'renameFile',
  'replaceContent',
  'checkSource',
];

const NOBODY = '00000000-0000-7000-8000-000000000001';
const KINDS: (Right | 'nothing' | 'withheld')[] = ['nothing', 'withheld', ...RIGHTS];
/** One person for each right: each holds exactly that right on the two documents, and no membership that gives more. */
const PERSON: Record<string, string> = {
  nothing: 'stranger',
  withheld: 'controller',
  see: 'reader',
  read: 'reader2',
  'read past': 'reviewer',
  'read work': 'authority',
  download: 'authority2',
  print: 'printer',
  comment: 'author',
  author: 'author2',
  release: 'releaser',
  manage: 'manager',
};

const organisation = withOrganisation();
let base: string;
const cookies: Record<string, string> = {};

beforeAll(async () => {
  base = await organisation.listen();
  for (const name of ['printer', 'releaser', 'manager']) {
    organisation.ids[name] = crypto.randomUUID();
    await rows(
      organisation.app.db,
      `insert into people (id, sign_in_name, name, email, from_day, state, password_hash)
       select :id, :name, :name, :name || '@test.example', '2026-01-01', 'active', password_hash from people where sign_in_name = 'reader'`,
      { id: organisation.ids[name], name },
    );
  }
  for (const person of Object.values(PERSON)) {
    cookies[person] = await cookieOf(base, person);
  }
}, 300_000);

/** Grants each kind of person its one right on a document of a folder where nobody has any. */
const grantLadder = async (documentId: string) => {
  await rows(organisation.app.db, 'update documents set folder_id = :folder where id = :documentId', {
    documentId,
    folder: organisation.folders.get('closed'),
  });
  for (const kind of KINDS.filter((k) => k !== 'nothing'))
    await rows(
      organisation.app.db,
      `insert into grants (id, document_id, subject_kind, subject_id, rights, withheld)
       values (gen_random_uuid(), :documentId, 'person', :person, :rights::text[], :withheld)`,
      {
        documentId,
        person: organisation.ids[PERSON[kind] ?? ''],
        rights: kind === 'withheld' ? [] : [kind],
        withheld: kind === 'withheld',
      },
    );
};

const ofDocuments = ENDPOINTS.filter((e) => e.path.includes(':document') && !ELSEWHERE.includes(e.id));

const statusFor = async (endpoint: Endpoint, person: string, document: { id: string; number: string }) => {
  const given = TABLE[endpoint.id]?.body?.(organisation);
  const sees = 'shape' in endpoint.body && 'seen' in (endpoint.body.shape as object);
  const body = given && sees ? { seen: '*', ...(given as object) } : given;
  const [version] = await rows<{ id: string }>(
    organisation.app.db,
    'select v.id from versions v join revisions r on r.id = v.revision_id where r.document_id = :id',
    { id: document.id },
  );
  const path = endpoint.path
    .replace(':document', endpoint.id === 'preview' ? document.id : document.number)
    .replace(':version', version?.id ?? '')
    .replace(/:\w+/g, NOBODY);
  const answer = await fetch(base + path, {
    method: endpoint.method,
    headers: { cookie: cookies[person] ?? '', ...(body ? { 'content-type': 'application/json' } : {}) },
    ...(body ? { body: JSON.stringify(body) } : {}),
  });
  const code = answer.headers.get('content-type')?.includes('problem')
    ? ((await answer.json()) as { code: string }).code
    : '';
  if (code === 'input_invalid' || code === 'body_malformed') return 'malformed';
  return code === 'right_missing'
    ? 'refused'
    : code === 'not_found'
      ? 'unseen'
      : answer.status >= 500
        ? 'failed'
        : 'let in';
};

const expected = (kind: (typeof KINDS)[number], needed: (Right | undefined)[], toBeSeen: Right) => {
  const has = (right: Right | undefined) =>
    right !== undefined && kind !== 'nothing' && kind !== 'withheld' && hasRight(new Set([kind]), right);
  return !has(toBeSeen) ? 'unseen' : needed.some(has) ? 'let in' : 'refused';
};

test('the table names every command on a document', () => {
  expect(Object.keys(TABLE).sort()).toEqual(ofDocuments.map((e) => e.id).sort());
});

describe.each([
  ['in work', 'inWork', 'read work'],
  ['in force', 'inForce', 'see'],
] as const)('a document %s', (_, column, toBeSeen) => {
  // From those who may least to those who may most, and each command on a document of its own: a command that is done changes it.
  test.each(ofDocuments.map((e) => [e.id, e] as const))('%s', async (id, endpoint) => {
    const document = await organisation.register('author');
    if (column === 'inForce') await organisation.toInForce(document.number);
    await grantLadder(document.id);
    const found: [string, string][] = [];
    const wanted: [string, string][] = [];
    for (const kind of KINDS) {
      found.push([kind, await statusFor(endpoint, PERSON[kind] ?? '', document)]);
      wanted.push([kind, expected(kind, [TABLE[id]?.[column], TABLE[id]?.or], toBeSeen)]);
    }
    expect(found).toEqual(wanted);
  });
});

describe('single things of a document by their own address', () => {
  const get = async (person: string, path: string) =>
    (await fetch(base + path, { headers: { cookie: cookies[person] ?? '' } })).status;

  test('a file in force is opened with read and downloaded with download', async () => {
    const document = await organisation.register('author');
    await organisation.toInForce(document.number);
    await grantLadder(document.id);
    const [file] = await rows<{ id: string }>(
      organisation.app.db,
      'select f.id from version_files f join versions v on v.id = f.version_id join revisions r on r.id = v.revision_id where r.document_id = :id',
      { id: document.id },
    );
    const found: unknown[] = [];
    const wanted: unknown[] = [];
    for (const kind of KINDS) {
      const has = (right: Right) => kind !== 'nothing' && kind !== 'withheld' && hasRight(new Set([kind]), right);
      const person = PERSON[kind] ?? '';
      found.push([
        kind,
        await get(person, `/api/files/${file?.id}`),
        await get(person, `/api/files/${file?.id}?as=download`),
      ]);
      const unseen = has('see') ? 403 : 404;
      wanted.push([kind, has('read') ? 200 : unseen, has('download') ? 200 : unseen]);
    }
    expect(found).toEqual(wanted);
  });

  test('a task is opened by nobody but who is asked, and a reading by nobody but its reader', async () => {
    const document = await organisation.register('author');
    await organisation.submitAndReview(document.number);
    const [task] = await rows<{ id: string }>(
      organisation.app.db,
      `select a.id from assignments a join steps s on s.id = a.step_id join rounds r on r.id = s.round_id where r.document_id = :id and a.state = 'open'`,
      { id: document.id },
    );
    for (const kind of KINDS)
      expect([kind, await get(PERSON[kind] ?? '', `/api/tasks/${task?.id}`)]).toEqual([kind, 404]);
    for (const kind of KINDS)
      expect([kind, await get(PERSON[kind] ?? '', `/api/readings/${task?.id}`)]).toEqual([kind, 404]);
  });

  test('a folder takes a registration from authors alone', async () => {
    const upload = async (person: string) => {
      const form = new FormData();
      form.append('file', new Blob(['# Text']), 'text.md');
      const answer = await fetch(`${base}/api/uploads`, {
        method: 'POST',
        headers: { cookie: cookies[person] ?? '' },
        body: form,
      });
      return ((await answer.json()) as { id: string }).id;
    };
    const registers = async (person: string, folder: string) => {
      const answer = await fetch(`${base}/api/documents`, {
        method: 'POST',
        headers: { cookie: cookies[person] ?? '', 'content-type': 'application/json' },
        body: JSON.stringify({
          typeId: organisation.types.get('PRO'),
          folderId: organisation.folders.get(folder),
          title: 'Registered',
          uploadId: await upload(person),
        }),
      });
      return answer.status;
    };
    expect(await registers('author', '1')).toBe(200);
    expect(await registers('reader', '1')).toBe(403);
    expect(await registers('author', 'closed')).toBe(404);
    expect(await registers('controller', 'closed')).toBe(200);
  });
});

/** Answers about a document beside its own page: each row by the right that it takes in work, and in force. */
describe.each([
  ['in work', { seen: 'read work', content: 'read work' }],
  ['in force', { seen: 'see', content: 'read' }],
] as const)('passages, counts, mails and small pictures of a document %s', (column, needs) => {
  const word = column === 'in work' ? 'quagga' : 'okapi';
  let document: { id: string; number: string };
  let file: string;
  beforeAll(async () => {
    const author = await organisation.as('author');
    const drawing = `<svg xmlns="http://www.w3.org/2000/svg" width="40" height="40"><text y="9">The ${word} rests.</text></svg>`;
    const upload = await takeUpload(organisation.app, author, 'drawing.svg', Readable.from([Buffer.from(drawing)]));
    document = await registerDocument(
      organisation.app,
      author,
      {
        typeId: organisation.types.get('PRO') ?? '',
        folderId: organisation.folders.get('1') ?? '',
        title: `Plain title ${column}`,
        metadata: {},
        uploadId: upload.id,
        summary: '',
        ownerId: organisation.ids.owner ?? null,
        number: null,
        label: null,
        keywords: [],
        note: '',
      },
      null,
    );
    if (column === 'in force') await organisation.toInForce(document.number);
    const [row] = await rows<{ id: string; sha256: string }>(
      organisation.app.db,
      'select f.id, f.sha256 from version_files f join versions v on v.id = f.version_id join revisions r on r.id = v.revision_id where r.document_id = :id',
      { id: document.id },
    );
    file = row?.id ?? '';
    await extractText(organisation.app, row?.sha256 ?? '');
    await askFor(organisation.app, row?.sha256 ?? '', 'small');
    await makeWaiting(organisation.app, 'small');
    await grantLadder(document.id);
    await rows(organisation.app.db, 'update access_version set n = n + 1');
  }, 180_000);

  const has = (kind: (typeof KINDS)[number], right: Right) =>
    kind !== 'nothing' && kind !== 'withheld' && hasRight(new Set([kind]), right);
  const json = async (person: string, path: string) =>
    (await (await fetch(base + path, { headers: { cookie: cookies[person] ?? '' } })).json()) as Record<string, never>;
  /** One row of the table for each kind of person: what was found, beside what its right gives. */
  const table = async (needed: Right, look: (person: string) => Promise<boolean>) => {
    const found: unknown[] = [];
    for (const kind of KINDS) found.push([kind, await look(PERSON[kind] ?? '')]);
    expect(found).toEqual(KINDS.map((kind) => [kind, has(kind, needed)]));
  };

  test('a word of its text finds it, with its passage, for who may read it', () =>
    table(needs.content, async (person) => {
      const { hits } = (await json(person, `/api/find?q=${word}`)) as unknown as { hits: { number: string }[] };
      expect(JSON.stringify(hits).includes(word)).toBe(hits.length > 0);
      return hits.some((hit) => hit.number === document.number);
    }));

  test('a word of its text counts it in the register and its facets for who may read it', () =>
    table(needs.content, async (person) => {
      const listed = (await json(person, `/api/register?q=${word}&revisionScope=newest`)) as unknown as {
        rows: unknown[];
      };
      const facets = (await json(person, `/api/register/facets?q=${word}&revisionScope=newest`)) as unknown as {
        total: number;
      };
      expect(facets.total).toBe(listed.rows.length);
      return facets.total > 0;
    }));

  test('its number counts it for who may see it', () =>
    table(needs.seen, async (person) => {
      const q = encodeURIComponent(`number:${document.number}`);
      const facets = (await json(person, `/api/register/facets?q=${q}&revisionScope=newest`)) as unknown as {
        total: number;
      };
      return facets.total > 0;
    }));

  test.each(['', '/small.png'])('its file and its small picture (%s) are shown to who may read it', (which) =>
    table(needs.content, async (person) => {
      const answer = await fetch(`${base}/api/files/${file}${which}`, { headers: { cookie: cookies[person] ?? '' } });
      await answer.body?.cancel();
      return answer.status === 200;
    }),
  );

  test('mails about it reach everybody but those from whom it is withheld', async () => {
    const told = KINDS.map((kind) => organisation.ids[PERSON[kind] ?? ''] ?? '');
    await organisation.app.command(SYSTEM_CLOCK, (work) =>
      notify(organisation.app, work, told, {
        kind: 'comment',
        about: document.id,
        subject: `Told of ${document.number}`,
        lead: 'Something was said.',
        link: { path: '/', label: 'Open my Desk' },
      }),
    );
    const mails = await rows<{ name: string }>(
      organisation.app.db,
      'select p.sign_in_name as name from mails m join people p on p.id = m.person_id where m.subject = :subject',
      { subject: `Told of ${document.number}` },
    );
    expect(mails.map((mail) => mail.name).sort()).toEqual(
      KINDS.filter((kind) => kind !== 'withheld')
        .map((kind) => PERSON[kind])
        .sort(),
    );
  });
});
