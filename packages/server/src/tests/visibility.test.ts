import {
  type AccessEntry,
  CONFIDENTIALITIES,
  type Confidentiality,
  DEFAULT_CONFIDENTIALITY,
  explainRights,
  hasRight,
  isReleased,
  type RevisionState,
  RIGHTS,
  type Right,
  withoutForbidden,
} from '@kanonos/core';
import fc from 'fast-check';
import { afterAll, beforeAll, expect, test } from 'vitest';
import { type Viewer, viewerOf } from '../features/access/index.ts';
import { extractText } from '../features/content/index.ts';
import { lookAt } from '../features/documents/files.ts';
import { suggestKeywords } from '../features/documents/keywords.ts';
import { registerFile } from '../features/find/registerFile.ts';
import { facetsOf, find, registerPage } from '../features/find/service.ts';
import { notify } from '../features/mailing/service.ts';
import { preview } from '../features/page/service.ts';
import { history } from '../features/trail/service.ts';
import { smallOfRevision } from '../features/viewing/small.ts';
import { SYSTEM_CLOCK } from '../platform/app.ts';
import { connect, type Db, rows } from '../platform/db/connect.ts';
import { newId } from '../platform/db/ids.ts';
import type { ListFile } from '../platform/http/sendTable.ts';
import { codeOf, openOrganisation, type TestOrganisation } from './organisation.ts';

/**
 * Whatever shows a document or what is in it (lists, counts, exported lists, search, passages, previews, small pictures, files,
 * keywords, history, mails)
 * is held against the core's rule, on generated entries of folders and documents, owners and levels of confidentiality.
 */

let organisation: TestOrganisation;
let owner: Db;
type Made = {
  id: string;
  number: string;
  /** Only in its title, only in its content, and its keyword. */
  word: string;
  inside: string;
  keyword: string;
  revisions: { id: string; state: RevisionState; fileId: string }[];
};
const made: Made[] = [];
const PEOPLE = ['reader', 'author2', 'stranger', 'authority2', 'reviewer'] as const;
const FOLDERS = ['1', '1/a', '2', 'closed'] as const;
const PARENT: Record<string, string | null> = { '1': null, '1/a': '1', '2': null, closed: null };
const KINDS: readonly ('draft' | 'in force' | 'in force, next in draft')[] = [
  'draft',
  'in force',
  'in force, next in draft',
  'draft',
  'in force',
  'in force, next in draft',
];

beforeAll(async () => {
  organisation = await openOrganisation();
  owner = connect(organisation.ownerUrl, 2);
  for (const [i, kind] of KINDS.entries()) {
    const [word, inside, keyword] = [`Titleword${i}x`, `insideword${i}x`, `keyword${i}x`];
    const { id, number } = await organisation.register('author', { title: `${word} document`, text: `# On ${inside}` });
    if (kind !== 'draft') await organisation.toInForce(number);
    if (kind === 'in force, next in draft') await organisation.revise('author', number);
    await rows(owner, 'update documents set keywords = array[:keyword] where id = :id', { keyword, id });
    const files = await rows<{ revision_id: string; state: RevisionState; file_id: string; sha256: string }>(
      owner,
      `select r.id as revision_id, r.state, f.id as file_id, f.sha256 from revisions r join version_files f on f.version_id = r.latest_version_id
       where r.document_id = :id order by r.ordinal desc`,
      { id },
    );
    for (const { sha256 } of files) await extractText(organisation.app, sha256);
    made.push({
      id,
      number,
      word,
      inside,
      keyword,
      revisions: files.map((file) => ({ id: file.revision_id, state: file.state, fileId: file.file_id })),
    });
  }
}, 300_000);
afterAll(async () => {
  await owner.destroy();
  await organisation.close();
});

type Subject = 'all' | (typeof PEOPLE)[number] | 'eng' | 'ops' | 'ta';
type Entry = { subject: Subject; rights: Right[]; withheld: boolean };
type World = {
  folders: Record<string, Entry[]>;
  documents: { folder: (typeof FOLDERS)[number]; own: Entry[]; owner: string; level: Confidentiality }[];
};

const entry: fc.Arbitrary<Entry> = fc
  .record({
    subject: fc.constantFrom<Subject>('all', ...PEOPLE, 'eng', 'ops', 'ta'),
    rights: fc.subarray([...RIGHTS], { minLength: 1, maxLength: 3 }),
    withheld: fc.boolean(),
  })
  .map((one) => (PEOPLE.includes(one.subject as never) ? one : { ...one, withheld: false }))
  .map((one) => (one.withheld ? { ...one, rights: [] } : one));
const entries = fc.uniqueArray(entry, { maxLength: 3, selector: (one) => one.subject });
const world: fc.Arbitrary<World> = fc.record({
  folders: fc.record(Object.fromEntries(FOLDERS.map((folder) => [folder, entries]))),
  documents: fc.array(
    fc.record({
      folder: fc.constantFrom(...FOLDERS),
      own: fc.oneof({ weight: 3, arbitrary: fc.constant<Entry[]>([]) }, { weight: 1, arbitrary: entries }),
      owner: fc.constantFrom('author', ...PEOPLE),
      level: fc.constantFrom(...CONFIDENTIALITIES),
    }),
    { minLength: KINDS.length, maxLength: KINDS.length },
  ),
});

const subjectOf = (subject: Subject): { kind: 'all' | 'person' | 'unit'; id: string | null } =>
  subject === 'all'
    ? { kind: 'all', id: null }
    : PEOPLE.includes(subject as never)
      ? { kind: 'person', id: organisation.ids[subject] ?? '' }
      : { kind: 'unit', id: organisation.units.get(subject) ?? '' };

const layOut = async (given: World): Promise<void> => {
  await rows(owner, 'delete from grants');
  const insert = (place: { folder?: string; document?: string }, one: Entry) => {
    const { kind, id } = subjectOf(one.subject);
    return rows(
      owner,
      'insert into grants (id, folder_id, document_id, subject_kind, subject_id, rights, withheld) values (:row, :folder, :document, :kind, :id, :rights::text[], :withheld)',
      {
        row: newId(),
        folder: place.folder ?? null,
        document: place.document ?? null,
        kind,
        id,
        rights: one.rights,
        withheld: one.withheld,
      },
    );
  };
  for (const [folder, list] of Object.entries(given.folders))
    for (const one of list) await insert({ folder: organisation.folders.get(folder) ?? '' }, one);
  for (const [i, document] of given.documents.entries()) {
    const id = made[i]?.id ?? '';
    await rows(
      owner,
      'update documents set folder_id = :folder, owner_id = :owner, confidentiality = :level where id = :id',
      {
        folder: organisation.folders.get(document.folder) ?? '',
        owner: organisation.ids[document.owner] ?? '',
        level: document.level,
        id,
      },
    );
    for (const one of document.own) await insert({ document: id }, one);
  }
};

/** The rights of a person on a document by the core alone, from what was generated, and whether it is withheld from them. */
const accessBy = (given: World, i: number, viewer: Viewer): { rights: Set<Right>; withheld: boolean } => {
  const document = given.documents[i];
  if (!document) return { rights: new Set(), withheld: false };
  const toEntries = (list: readonly Entry[] = []): AccessEntry[] =>
    list.map((one) => ({
      subject: subjectOf(one.subject) as AccessEntry['subject'],
      rights: one.rights,
      withheld: one.withheld,
    }));
  const places = [{ name: 'document', entries: toEntries(document.own) }];
  for (let at: string | null = document.folder; at; at = PARENT[at] ?? null)
    places.push({ name: at, entries: toEntries(given.folders[at]) });
  const { rights, reasons } = explainRights(
    { personId: viewer.id, unitIds: viewer.unitIds, isOutside: viewer.outside },
    places,
    {
      isOwner: organisation.ids[document.owner] === viewer.id,
      assignedInStep: false,
      assigneeMayCheckIn: false,
      assignedToRead: false,
    },
  );
  return {
    rights: withoutForbidden(rights, DEFAULT_CONFIDENTIALITY[document.level], viewer.outside),
    withheld: rights.size === 0 && reasons.some((reason) => reason.withheld),
  };
};

/** The numbers in a list that leaves as a file. */
const numbersIn = async ({ pieces }: ListFile): Promise<unknown[]> => {
  const numbers: unknown[] = [];
  for await (const rows of pieces) numbers.push(...rows.map(([number]) => number));
  return numbers.sort();
};

/** Who of all people gets a mail about a document. */
const mailedAbout = async ({ id, number }: Made): Promise<string[]> => {
  const { app, ids } = organisation;
  await rows(owner, 'delete from mails');
  await app.command(SYSTEM_CLOCK, (work) =>
    notify(
      app,
      work,
      PEOPLE.map((person) => ids[person] ?? ''),
      { kind: 'comment', about: id, subject: number, lead: 'A comment.', link: { path: '/', label: 'Open my Desk' } },
    ),
  );
  const mails = await rows<{ name: string }>(
    owner,
    'select p.sign_in_name as name from mails m join people p on p.id = m.person_id',
  );
  return mails.map(({ name }) => name).sort();
};

/** What of a document a person sees, by the core: the revision that lists show, and whether its content may be read. */
const sightOf = (rights: ReadonlySet<Right>, one: Made) => {
  const [newest] = one.revisions;
  const released = one.revisions.find((revision) => isReleased(revision.state));
  const shown = hasRight(rights, 'read work') ? newest : hasRight(rights, 'see') ? released : undefined;
  const mayRead = (state: RevisionState) =>
    hasRight(rights, state === 'in force' ? 'read' : isReleased(state) ? 'read past' : 'read work');
  return { shown, reads: shown !== undefined && mayRead(shown.state), mayRead };
};

test('every surface shows a person what the rule of the core allows', async () => {
  await fc.assert(
    fc.asyncProperty(world, async (given) => {
      await layOut(given);
      const { app } = organisation;
      for (const [i, one] of made.entries()) {
        const mayKnow = [];
        for (const person of PEOPLE) {
          const viewer = await viewerOf(app.db, organisation.ids[person] ?? '', '2026-11-25');
          if (!accessBy(given, i, viewer).withheld) mayKnow.push(person);
        }
        expect([one.number, 'mailed', await mailedAbout(one)]).toEqual([one.number, 'mailed', mayKnow.sort()]);
      }
      for (const person of PEOPLE) {
        const viewer = await viewerOf(app.db, organisation.ids[person] ?? '', '2026-11-25');
        const sights = made.map((one, i) => ({ one, ...sightOf(accessBy(given, i, viewer).rights, one) }));
        const seen = sights.filter((sight) => sight.shown);
        const numbers = seen.map((sight) => sight.one.number).sort();
        const base = { q: '', reach: 'everywhere' as const, revisionScope: 'newest' as const };
        const filter = { sort: 'number' as const, order: 'asc' as const, limit: 50 };

        const listed = (await registerPage(app, viewer, { ...base, ...filter })).rows.map((row) => row.number).sort();
        expect([person, 'register', listed]).toEqual([person, 'register', numbers]);
        const exported = await registerFile(app, viewer, {
          ...base,
          sort: 'number',
          order: 'asc',
          format: 'csv',
          columns: '',
        });
        expect([person, 'exported list', await numbersIn(exported)]).toEqual([person, 'exported list', numbers]);
        expect([person, 'count', (await facetsOf(app, viewer, base)).total]).toEqual([person, 'count', numbers.length]);
        const inForce = (await registerPage(app, viewer, { ...base, ...filter, revisionScope: 'in force' })).rows;
        expect([person, 'in force', inForce.map((row) => row.number).sort()]).toEqual([
          person,
          'in force',
          sights
            .filter(({ one, shown }) => shown && one.revisions.some((revision) => revision.state === 'in force'))
            .map(({ one }) => one.number)
            .sort(),
        ]);
        const words = (await suggestKeywords(app, viewer, 'keyword')).keywords.map((one) => one.word).sort();
        expect([person, 'keywords', words]).toEqual([person, 'keywords', seen.map(({ one }) => one.keyword).sort()]);

        for (const { one, shown, reads, mayRead } of sights) {
          const at = `${person} ${one.number}`;
          const byNumber = await find(app, viewer, one.number, 10);
          expect([at, 'number', byNumber.goTo === one.number]).toEqual([at, 'number', shown !== undefined]);
          const byTitle = await find(app, viewer, one.word, 10);
          expect([at, 'title', byTitle.hits.length > 0]).toEqual([at, 'title', shown !== undefined]);
          const byContent = await find(app, viewer, one.inside, 10);
          expect([at, 'passage', byContent.hits.length > 0]).toEqual([at, 'passage', reads]);
          const counted = (await facetsOf(app, viewer, { ...base, q: one.inside })).total;
          expect([at, 'count of passages', counted]).toEqual([at, 'count of passages', reads ? 1 : 0]);

          const page = await codeOf(organisation.page(person, one.number));
          expect([at, 'page', page === 'not_found']).toEqual([at, 'page', shown === undefined]);
          expect([at, 'preview', (await codeOf(preview(app, viewer, one.number, undefined))) === 'not_found']).toEqual([
            at,
            'preview',
            shown === undefined,
          ]);
          expect([at, 'history', (await codeOf(history(app, viewer, one.number))) === 'not_found']).toEqual([
            at,
            'history',
            shown === undefined,
          ]);
          for (const revision of one.revisions) {
            const opens = await codeOf(lookAt(app, viewer, revision.fileId));
            const may = shown !== undefined && mayRead(revision.state);
            expect([at, revision.state, opens !== 'not_found' && opens !== 'right_missing']).toEqual([
              at,
              revision.state,
              may,
            ]);
            const small = await codeOf(smallOfRevision(app, viewer, one.number, revision.id));
            if (!may)
              expect([at, 'small picture', ['not_found', 'right_missing'].includes(small)]).toEqual([
                at,
                'small picture',
                true,
              ]);
          }
        }
      }
    }),
    { numRuns: 4, seed: 20261128, endOnFailure: true },
  );
}, 900_000);
