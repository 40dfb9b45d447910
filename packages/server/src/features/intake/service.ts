import type { AnswerOf, api, IncomingFile } from '@kanonos/contract';
import { createRecogniser, type IntakeOrganisation, proposeFiling, readFileName } from '@kanonos/core';
import type { App, UnitOfWork } from '../../platform/app.ts';
import type { Db, Trx } from '../../platform/db/connect.ts';
import { newId } from '../../platform/db/ids.ts';
import { cleanName } from '../../platform/http/upload.ts';
import { refused } from '../../platform/refused.ts';
import { actorOf, rightsOnFolders, type Viewer } from '../access/index.ts';
import { rememberUpload } from '../content/index.ts';
import { matchNames } from '../documents/index.ts';
import { knownRules, listFolders, listTypes } from '../rules/index.ts';
import * as store from './store.ts';

/** Incoming files are for everyone who may register: not filed yet, they have no folder whose rights could apply. */
const mayFile = async (db: Db | Trx, viewer: Viewer): Promise<boolean> =>
  !viewer.outside && [...(await rightsOnFolders(db, viewer)).values()].some((given) => given.has('author'));

const ensureMayFile = async (db: Db | Trx, viewer: Viewer): Promise<void> => {
  if (!(await mayFile(db, viewer))) throw refused('right_missing', { right: 'author' });
};

/** How much waits, for the rail. */
export const countIncomingFiles = async (app: App, viewer: Viewer): Promise<number> =>
  (await mayFile(app.db, viewer)) ? store.countWaiting(app.db) : 0;

const baseOf = (path: string) => cleanName(path.split('/').at(-1));

/** Incoming files with proposals from the present knowledge; the text of a new file is added once read. */
export const listIncomingFiles = async (
  app: App,
  viewer: Viewer,
  aside: boolean,
): Promise<AnswerOf<typeof api.intake.list>> => {
  await ensureMayFile(app.db, viewer);
  const found = await store.listIncomingFiles(app.db, aside ? ['set aside'] : ['waiting', 'refused']);
  const rights = await rightsOnFolders(app.db, viewer);
  const recognise = createRecogniser(await knownRules(app.db));
  const organisation: IntakeOrganisation = {
    types: (await listTypes(app.db)).filter((type) => !type.retired),
    folders: (await listFolders(app.db))
      .filter((folder) => rights.get(folder.id)?.has('author'))
      .map((folder) => ({ id: folder.id, name: folder.name, path: folder.path_names })),
    typeOfNumber: (number) => {
      const reading = recognise(number);
      return reading.kind === 'read' ? reading.parts.type : undefined;
    },
  };
  const names = found.map((row) => readFileName(baseOf(row.path), recognise));
  const matches = await matchNames(
    app,
    viewer,
    found.map((row, i) => ({ name: baseOf(row.path), sha256: row.sha256 ?? '', number: names[i]?.number ?? null })),
  );
  return {
    folder: app.config.intakeDir,
    mailAddress: app.config.intakeMailAddress ?? null,
    waiting: await store.countWaiting(app.db),
    incomingFiles: found.map((row, i): IncomingFile => {
      const known = matches[i];
      const name = names[i] ?? { number: null, label: null, title: '', extension: '' };
      const proposal = proposeFiling(
        { folders: row.path.split('/').slice(0, -1), name, text: row.text ?? '' },
        organisation,
      );
      return {
        id: row.id,
        path: row.path,
        name: baseOf(row.path),
        size: row.size,
        mediaType: row.media_type ?? '',
        arrivedAt: row.arrived_at.toISOString(),
        state: row.state as IncomingFile['state'],
        why: row.why,
        by: row.by_name,
        read: row.text_state !== 'waiting',
        proposal: { ...proposal, metadata: { ...proposal.metadata } },
        known: known
          ? { number: known.number, title: known.title, by: known.by, mayCheckIn: known.may_check_in }
          : null,
      };
    }),
  };
};

const getIncomingFile = async (
  db: Db | Trx,
  viewer: Viewer,
  id: string,
  from: readonly store.IncomingFileRow['state'][],
) => {
  await ensureMayFile(db, viewer);
  const row = await store.findIncomingFile(db, id);
  if (!row) throw refused('not_found');
  if (!from.includes(row.state)) throw refused('incoming_file_gone', { name: baseOf(row.path) });
  return row;
};

/** What arrived, to be looked at before it is filed. */
export const lookAt = async (app: App, viewer: Viewer, id: string) => {
  const row = await getIncomingFile(app.db, viewer, id, ['waiting', 'set aside']);
  if (row.sha256 === null || !(await app.content.has(row.sha256)))
    throw refused('content_missing', { name: baseOf(row.path) });
  return { sha256: row.sha256, size: row.size, mediaType: row.media_type ?? '', name: baseOf(row.path) };
};

/** Its file as one that this viewer sent, to register it or check it in. */
export const takeIncomingFile = async (
  app: App,
  viewer: Viewer,
  id: string,
): Promise<AnswerOf<typeof api.intake.take>> => {
  const row = await getIncomingFile(app.db, viewer, id, ['waiting']);
  const upload = { id: newId(), sha256: row.sha256 ?? '', name: baseOf(row.path) };
  await app.command(actorOf(viewer), (work) => rememberUpload(work, viewer, upload));
  return { ...upload, size: row.size, mediaType: row.media_type ?? '', warning: null };
};

/** Ends the waiting in the transaction that files it: of two who file the same incoming file one wins. */
export const fileIncomingFile = async (
  work: UnitOfWork,
  viewer: Viewer,
  id: string,
  documentId: string,
): Promise<string> => {
  const row = await store.findIncomingFile(work.trx, id);
  if (!row) throw refused('not_found');
  const moved = await store.moveIncomingFile(work.trx, {
    id,
    from: ['waiting'],
    to: 'filed',
    why: null,
    documentId,
    personId: viewer.id,
    now: work.now,
  });
  if (moved === 0) throw refused('incoming_file_gone', { name: baseOf(row.path) });
  return row.path;
};

const move = (
  app: App,
  viewer: Viewer,
  id: string,
  to: 'set aside' | 'waiting',
  reason: string | null,
): Promise<void> =>
  app.command(actorOf(viewer), async (work) => {
    const aside = to === 'set aside';
    const from = aside ? (['waiting', 'refused'] as const) : (['set aside'] as const);
    const row = await getIncomingFile(work.trx, viewer, id, from);
    const moved = await store.moveIncomingFile(work.trx, {
      id,
      from,
      // What could not be read has no content to wait with.
      to: !aside && row.sha256 === null ? 'refused' : to,
      why: reason,
      documentId: null,
      personId: aside ? viewer.id : null,
      now: aside ? work.now : null,
    });
    if (moved === 0) throw refused('incoming_file_gone', { name: baseOf(row.path) });
    work.record({
      kind: aside ? 'incoming-file.set-aside' : 'incoming-file.restored',
      subject: {},
      payload: { path: row.path, ...(reason ? { reason } : {}) },
    });
  });

export const setAside = (app: App, viewer: Viewer, id: string, reason: string) =>
  move(app, viewer, id, 'set aside', reason);
export const putBack = (app: App, viewer: Viewer, id: string) => move(app, viewer, id, 'waiting', null);
