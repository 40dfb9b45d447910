import type { AnswerOf, api, BodyOf, ChangeRequest } from '@kanonos/contract';
import { decideRequestAnswer, hasRight, type Right, requestNumber, STATE_AFTER } from '@kanonos/core';
import { documentAddress } from '../../platform/addresses.ts';
import type { App, UnitOfWork } from '../../platform/app.ts';
import type { Db } from '../../platform/db/connect.ts';
import { newId } from '../../platform/db/ids.ts';
import { assertAllowed, refused } from '../../platform/refused.ts';
import { actorOf, type HandlerOf, rightsOnMany, toPlace, type Viewer } from '../access/index.ts';
import { getStored } from '../content/index.ts';
import { lockDocument, type Opened, openDocument, runCommand, subjectOf } from '../documents/index.ts';
import { notify } from '../mailing/index.ts';
import type { RevisionRow } from '../revisions/index.ts';
import * as store from './storeRequests.ts';
import { nameAffected, noteToAnswerWith } from './under.ts';

const REQUESTS = '/changes?show=requests';

/** Whoever releases a document, and its owner, answer what is asked about it. */
const answers = (viewer: Viewer, row: Pick<store.RequestRow, 'owner_id'>, rights: ReadonlySet<Right>): boolean =>
  row.owner_id === viewer.id || hasRight(rights, 'release');

const rightsOn = async (db: Db, viewer: Viewer, found: readonly store.RequestRow[]) => {
  const places = found.map((row) => toPlace({ ...row, id: row.document_id }));
  return rightsOnMany(db, viewer, places);
};
const NONE: ReadonlySet<Right> = new Set();

const toRequest = (row: store.RequestRow, viewer: Viewer, mayAnswer: boolean): ChangeRequest => ({
  id: row.id,
  number: row.number,
  document: { id: row.document_id, number: row.document_number, title: row.title },
  label: row.label,
  place: row.place,
  what: row.what,
  proposal: row.proposal,
  fileName: row.file_name,
  record: row.record_id,
  by: { id: row.by_id, name: row.by_name },
  at: row.at.toISOString(),
  state: row.state,
  answer: row.answer,
  into: row.into,
  answeredBy: row.answered_by,
  answeredAt: row.answered_at?.toISOString() ?? null,
  mayAnswer: mayAnswer && row.state === 'open',
  mine: row.by_id === viewer.id,
});

/** What a viewer sent, and what they answer. */
export const changeRequests = async (app: App, viewer: Viewer): Promise<AnswerOf<typeof api.changeRequests.list>> => {
  const found = await store.listRequests(app.db);
  const rights = await rightsOn(app.db, viewer, found);
  return {
    requests: found.flatMap((row) => {
      const mayAnswer = answers(viewer, row, rights.get(row.document_id) ?? NONE);
      return mayAnswer || row.by_id === viewer.id ? [toRequest(row, viewer, mayAnswer)] : [];
    }),
  };
};

/** The open requests that a viewer answers, the oldest first, for the Desk. */
export const openRequestsFor = async (app: App, viewer: Viewer): Promise<store.RequestRow[]> => {
  const found = await store.listOpenRequests(app.db);
  if (found.length === 0) return [];
  const rights = await rightsOn(app.db, viewer, found);
  return found.filter((row) => answers(viewer, row, rights.get(row.document_id) ?? NONE));
};

/** The revision that a reader suggests a change of: what is in force, or else what is in work. */
export const ensureMaySuggest = ({ rights, inForce, work: inWork }: Opened): RevisionRow => {
  const revision = inForce && rights.has('read') ? inForce : inWork;
  if (!revision || (revision !== inForce && !rights.has('read work')))
    throw refused('right_missing', { right: 'read' });
  return revision;
};

type Suggested = { place: string; what: string; proposal: string; file?: { name: string; sha256: string } | undefined };

/** Sends a request about the revision that one reads, under the lock of its document. */
export const suggestIn = async (
  app: App,
  work: UnitOfWork,
  viewer: Viewer,
  opened: Opened,
  { place, what, proposal, file }: Suggested,
): Promise<{ id: string; number: string }> => {
  const { document } = opened;
  const revision = ensureMaySuggest(opened);
  const year = Number(work.day.slice(0, 4));
  const n = await store.nextOfYear(work.trx, year);
  const [id, number] = [newId(), requestNumber(year, n)];
  await store.insertRequest(work.trx, {
    id,
    year,
    n,
    number,
    documentId: document.id,
    revisionId: revision.id,
    place,
    what,
    proposal,
    fileName: file?.name ?? null,
    sha256: file?.sha256 ?? null,
    by: viewer.id,
    now: work.now,
  });
  work.record({
    kind: 'change-request.sent',
    subject: subjectOf(document, revision),
    payload: { number, place, what, file: file?.sha256 ?? null },
  });
  if (document.owner_id !== viewer.id)
    await notify(app, work, [document.owner_id], {
      kind: 'task',
      about: document.id,
      subject: `A change of ${document.number} is suggested`,
      lead: `${viewer.name} suggests a change of ${revision.title}${place ? ` (${place})` : ''}.`,
      quote: what,
      link: { path: REQUESTS, label: 'Open the request' },
    });
  return { id, number };
};

export const suggestChange: HandlerOf<typeof api.changeRequests.suggest> = (app, viewer, ref, input) =>
  runCommand(app, viewer, { document: ref }, async (work, opened) => {
    ensureMaySuggest(opened);
    const file = input.uploadId ? await getStored(app, work.trx, viewer, input.uploadId) : undefined;
    return suggestIn(app, work, viewer, opened, { ...input, file });
  });

/** Whether a viewer answers a request. */
export const answersRequest = async (app: App, viewer: Viewer, id: string): Promise<boolean> => {
  const row = await store.findRequest(app.db, id);
  if (!row) return false;
  return answers(viewer, row, (await rightsOn(app.db, viewer, [row])).get(row.document_id) ?? NONE);
};

type Answer = BodyOf<typeof api.changeRequests.answer>;

/** What an answer leads to: the note that the request becomes a part of, or the request that it is merged into. */
const goalOf = async (work: UnitOfWork, viewer: Viewer, request: store.RequestRow, { answer, into }: Answer) => {
  const other = answer === 'merge' && into ? await store.findRequestByNumber(work.trx, into) : undefined;
  if (answer === 'merge' && into && !other) throw refused('request_merge_other', { number: into });
  assertAllowed(
    decideRequestAnswer(
      { ...request, documentId: request.document_id },
      answer,
      other && { ...other, documentId: other.document_id },
    ),
  );
  return {
    other,
    note: answer === 'note' ? await noteToAnswerWith(work, viewer, into) : undefined,
  };
};

/** Rejects a request with a reason, merges it into another one, or puts it on a change note; whoever sent it is told. */
export const answerRequest = async (app: App, viewer: Viewer, id: string, body: Answer): Promise<void> =>
  app.command(actorOf(viewer), async (work) => {
    const named = await store.findRequest(work.trx, id);
    if (!named) throw refused('not_found');
    // Under the document's lock two people do not answer it at once.
    await lockDocument(work.trx, named.document_id);
    const request = await store.findRequest(work.trx, id);
    const { document, rights } = await openDocument(work.trx, viewer, named.document_id, work.day);
    if (!request) throw refused('not_found');
    if (!answers(viewer, request, rights)) throw refused('right_missing', { right: 'release' });
    if (body.answer === 'reject' && !body.words) throw refused('reason_missing');
    const { other, note } = await goalOf(work, viewer, request, body);
    if (note) await nameAffected(work, viewer, note, document, request.what);
    await store.updateAnswered(work.trx, {
      id,
      state: STATE_AFTER[body.answer],
      answer: body.words,
      noteId: note?.id ?? null,
      mergedInto: other?.id ?? null,
      by: viewer.id,
      now: work.now,
    });
    const into = note?.number ?? other?.number ?? null;
    work.record({
      kind: 'change-request.answered',
      subject: subjectOf(document),
      payload: { number: request.number, answer: body.answer, words: body.words, into },
    });
    if (request.by_id === viewer.id) return;
    const became = { reject: 'was rejected', merge: `was merged into ${into}`, note: `is part of ${into}` }[
      body.answer
    ];
    await notify(app, work, [request.by_id], {
      kind: 'task',
      about: document.id,
      subject: `Your suggestion ${request.number} ${became}`,
      lead: `${viewer.name} has answered what you suggested for ${document.number}.`,
      quote: body.words || request.what,
      link: { path: documentAddress(document.number), label: 'Open the document' },
    });
  });

/** The file that came with a request, for whoever sent it and whoever answers it. */
export const requestFile = async (app: App, viewer: Viewer, id: string) => {
  const row = await store.findRequest(app.db, id);
  if (!row?.sha256) throw refused('not_found');
  const rights = await rightsOn(app.db, viewer, [row]);
  if (row.by_id !== viewer.id && !answers(viewer, row, rights.get(row.document_id) ?? NONE)) throw refused('not_found');
  const content = await store.findContent(app.db, row.sha256);
  if (!content || !(await app.content.has(row.sha256))) throw refused('content_missing', { name: row.file_name ?? '' });
  return { ...content, name: row.file_name ?? row.number, as: 'download' as const };
};
