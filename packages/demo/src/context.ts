import { Readable } from 'node:stream';
import { type App, page, recordUsage, rounds, takeText, takeUpload, type Viewer } from '@kanonos/server';
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
  const view = await page.documentPage(c.app, await c.as('ines.varga'), ref, { rev: 'work' });
  const step = view.rounds[0]?.steps.find((s) => s.state === 'open');
  const assignment = step?.assignments.find((a) => a.state === 'open' && (!who || a.person.id === idOf(c.ids, who)));
  if (!step || !assignment) throw new Error(`${ref}: nobody is asked`);
  const [name] = [...c.ids].find(([, id]) => id === assignment.person.id) ?? [''];
  const viewer = await c.as(name);
  const version = view.revision.versions;
  for (const { id: fileId } of view.versions[0]?.files ?? [])
    await recordUsage(c.app, {
      personId: viewer.id,
      documentId: view.id,
      revisionId: view.revision.id,
      version,
      fileId,
      action: 'opened',
    });
  const positive = step.kind === 'approval' ? 'approve' : words ? 'with comments' : 'no objection';
  await rounds.decide(c.app, viewer, assignment.id, {
    decision: decision === 'reject' ? 'reject' : positive,
    comment: words,
    name,
    password: DEMO_PASSWORD,
    digest: view.rounds[0]?.digest ?? null,
    version,
  });
};
