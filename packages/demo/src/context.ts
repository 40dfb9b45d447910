import { Readable } from 'node:stream';
import { type App, page, recordUsage, rounds, rows, takeText, takeUpload, type Viewer } from '@kanonos/server';
import type { DemoDocument } from './documents.ts';
import type { DemoFile } from './text/fileOf.ts';

export const DEMO_PASSWORD = 'ropeway-demo';
export type Clock = { now: Date };

/** What every part of the loader works with. */
export type Context = {
  app: App;
  fileOf: (document: DemoDocument, revision: number) => Promise<DemoFile>;
  clock: Clock;
  add: (when: number, run: () => Promise<void>) => void;
  as: (name: string) => Promise<Viewer>;
  at: (daysAgo: number, minute?: number) => number;
  ids: Map<string, string>;
  units: Map<string, string>;
  folders: Map<string, string>;
  types: Map<string, string>;
  day: string;
};

/** Stores a file as somebody sent it. */
export const upload = async (c: Context, viewer: Viewer, file: DemoFile): Promise<string> => {
  const taken = await takeUpload(c.app, viewer, file.name, Readable.from(file.bytes));
  await takeText(c.app, taken.sha256);
  return taken.id;
};

export const idOf = (ids: Map<string, string>, name: string): string => {
  const id = ids.get(name);
  if (!id) throw new Error(`the demo names ${name}, who is not in it`);
  return id;
};

/** The next open decision of a document is made by its assignee. */
export const decideNext = async (
  c: Context,
  ref: string,
  decision: 'positive' | 'reject',
  words = '',
  who?: string,
) => {
  const asked = (await askedIn(c, ref)).find((one) => !who || one.name === who);
  if (!asked) throw new Error(`${ref}: nobody is asked`);
  const viewer = await c.as(asked.name);
  const { documentId, revisionId, version } = asked;
  for (const fileId of asked.files)
    await recordUsage(c.app, { personId: viewer.id, documentId, revisionId, version, fileId, action: 'opened' });
  const positive = asked.kind === 'approval' ? 'approve' : words ? 'with comments' : 'no objection';
  await rounds.decide(c.app, viewer, asked.id, {
    decision: decision === 'reject' ? 'reject' : positive,
    comment: words,
    name: asked.name,
    password: DEMO_PASSWORD,
    digest: asked.digest,
    version,
  });
};

type Asked = {
  id: string;
  kind: string;
  name: string;
  documentId: string;
  revisionId: string;
  version: number;
  digest: string | null;
  files: string[];
};

/** Who is asked in the running round of a document, in order, and what they have before them: hundreds of pages would take a minute. */
const askedIn = (c: Context, ref: string) =>
  rows<Asked>(
    c.app.db,
    `select a.id, s.kind, p.sign_in_name as name, d.id as "documentId", r.id as "revisionId", r.version_count as version, g.digest,
       array(select f.id from version_files f where f.version_id = r.latest_version_id) as files
     from documents d join revisions r on r.id = d.newest_revision_id join rounds u on u.revision_id = r.id and u.state = 'running'
     left join signing_records g on g.id = u.record_id join steps s on s.round_id = u.id and s.state = 'open'
     join assignments a on a.step_id = s.id and a.state = 'open' join people p on p.id = a.person_id
     where d.number = :ref or d.id::text = :ref order by s.n, a.n`,
    { ref },
  );

/** Somebody opens all files of what is in force, as one must before one signs it. */
export const openAll = async (c: Context, ref: string, who: string) => {
  const view = await page.documentPage(c.app, await c.as(who), ref, {});
  for (const { id: fileId } of view.versions[0]?.files ?? [])
    await recordUsage(c.app, {
      personId: idOf(c.ids, who),
      documentId: view.id,
      revisionId: view.revision.id,
      version: view.revision.versions,
      fileId,
      action: 'opened',
    });
  return view;
};
