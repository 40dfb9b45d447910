import type { api, BodyOf } from '@kanonos/contract';
import { dayInWords, decideClosing, standingOf } from '@kanonos/core';
import { documentAddress } from '../../platform/addresses.ts';
import type { App, UnitOfWork } from '../../platform/app.ts';
import { newId } from '../../platform/db/ids.ts';
import { assertAllowed, refused } from '../../platform/refused.ts';
import { explain, type HandlerOf, toPlace, type Viewer, viewerOf } from '../access/index.ts';
import { addSupportingFile } from '../authoring/index.ts';
import { getStored } from '../content/index.ts';
import { ensureActive, type Opened, openDocument, runCommand, subjectOf } from '../documents/index.ts';
import { notify } from '../mailing/index.ts';
import { namesOf } from '../people/index.ts';
import { ensureNote, mayChange } from './service.ts';
import * as store from './store.ts';
import { listSendersOf } from './storeRequests.ts';

/** One command on an open note: under the lock of its document, so that what is closed stays so. */
const onNote = <T>(
  app: App,
  viewer: Viewer,
  ref: string,
  work: (work: UnitOfWork, opened: Opened) => Promise<T>,
  who: 'whoever may change it' | 'assignees, too' = 'whoever may change it',
): Promise<T> =>
  runCommand(app, viewer, { document: ref }, async (unit, opened) => {
    if (who === 'whoever may change it' && !mayChange(opened, viewer))
      throw refused('right_missing', { right: 'author' });
    ensureNote(opened);
    if (await store.findClosing(unit.trx, opened.document.id))
      throw refused('change_note_closed', { number: opened.document.number });
    return work(unit, opened);
  });

const addressOf = (number: string) => documentAddress(number, 'tab=change');

/** Names documents that a change affects; those that are named already stay as they are. */
export const addAffected = (
  app: App,
  viewer: Viewer,
  ref: string,
  { numbers, way, what }: BodyOf<typeof api.changes.addAffected>,
): Promise<{ added: number }> =>
  onNote(app, viewer, ref, async (work, { document }) => {
    const added: string[] = [];
    for (const number of new Set(numbers)) {
      const other = await openDocument(work.trx, viewer, number, work.day);
      if (other.document.id === document.id) throw refused('not_found');
      const given = { noteId: document.id, documentId: other.document.id, way, what, by: viewer.id, now: work.now };
      if ((await store.insertAffected(work.trx, given)) > 0) added.push(other.document.number);
    }
    if (added.length > 0)
      work.record({
        kind: 'change-note.documents-added',
        subject: subjectOf(document),
        payload: { numbers: added, way },
      });
    return { added: added.length };
  });

/** Says what changes in an affected document, or why nothing does. */
export const changeAffected = (
  app: App,
  viewer: Viewer,
  ref: string,
  affected: string,
  { what, noChangeReason }: BodyOf<typeof api.changes.changeAffected>,
): Promise<void> =>
  onNote(app, viewer, ref, async (work, { document }) => {
    const other = await openDocument(work.trx, viewer, affected, work.day);
    const given = { noteId: document.id, documentId: other.document.id, what, noChangeReason };
    if ((await store.updateAffected(work.trx, given)) === 0) throw refused('not_found');
    work.record({
      kind: 'change-note.document-changed',
      subject: subjectOf(document),
      payload: { number: other.document.number, what, noChangeReason },
    });
  });

/** Takes a document off the note: not while a revision of it is made under the note. */
export const removeAffected = (app: App, viewer: Viewer, ref: string, affected: string): Promise<void> =>
  onNote(app, viewer, ref, async (work, { document }) => {
    const row = (await store.listAffected(work.trx, document.id)).find((one) => one.document_id === affected);
    if (!row) throw refused('not_found');
    if (row.revision_id) throw refused('change_note_document_in_work', { number: row.number });
    await store.deleteAffected(work.trx, { noteId: document.id, documentId: affected });
    work.record({
      kind: 'change-note.document-removed',
      subject: subjectOf(document),
      payload: { number: row.number },
    });
  });

type TaskBody = BodyOf<typeof api.changes.addTask>;

/** The name of somebody who is to do a task: there, and able to read the note. */
const assigneeOf = async (work: UnitOfWork, { document, inForce }: Opened, personId: string): Promise<string> => {
  await ensureActive(work.trx, personId);
  const who = (await namesOf(work.trx, [personId])).get(personId)?.name ?? '';
  const { rights } = await explain(work.trx, await viewerOf(work.trx, personId, work.day), toPlace(document), work.day);
  if (!rights.has('read work') && !(inForce && rights.has('read'))) throw refused('task_not_readable', { who });
  return who;
};

const tellAssignee = async (app: App, work: UnitOfWork, viewer: Viewer, opened: Opened, body: TaskBody) => {
  if (body.assigneeId === viewer.id) return;
  const { document } = opened;
  await notify(app, work, [body.assigneeId], {
    kind: 'task',
    about: document.id,
    subject: `A task of ${document.number} is yours`,
    lead: `${viewer.name} asks you to do this${body.dueOn ? ` by ${dayInWords(body.dueOn)}` : ''} for ${document.newest_title}.`,
    quote: body.what,
    link: { path: addressOf(document.number), label: 'Open the change note' },
  });
};

/** Gives somebody a task that the change brings. */
export const addTask = (app: App, viewer: Viewer, ref: string, body: TaskBody): Promise<{ id: string }> =>
  onNote(app, viewer, ref, async (work, opened) => {
    const who = await assigneeOf(work, opened, body.assigneeId);
    const id = newId();
    const noteId = opened.document.id;
    const n = await store.insertTask(work.trx, { id, noteId, ...body, by: viewer.id, now: work.now });
    const { what, dueOn, before } = body;
    work.record({
      kind: 'change-note.task-added',
      subject: subjectOf(opened.document),
      payload: { n, what, who, dueOn, before },
    });
    await tellAssignee(app, work, viewer, opened, body);
    return { id };
  });

const openTask = async (work: UnitOfWork, { document }: Opened, id: string): Promise<store.TaskRow> => {
  const task = (await store.listTasks(work.trx, document.id)).find((one) => one.id === id);
  if (!task) throw refused('not_found');
  if (task.state !== 'open') throw refused('task_ended');
  return task;
};

export const changeTask = (app: App, viewer: Viewer, ref: string, id: string, body: TaskBody): Promise<void> =>
  onNote(app, viewer, ref, async (work, opened) => {
    const task = await openTask(work, opened, id);
    const who = await assigneeOf(work, opened, body.assigneeId);
    await store.updateTask(work.trx, { id, ...body });
    const { what, dueOn, before } = body;
    work.record({
      kind: 'change-note.task-changed',
      subject: subjectOf(opened.document),
      payload: { n: task.n, what, who, dueOn, before },
    });
    if (task.assignee_id !== body.assigneeId) await tellAssignee(app, work, viewer, opened, body);
  });

/** Reports a task as done; its files are kept beside the note. For whoever it is given to, and whoever may change the note. */
export const doneTask = (
  app: App,
  viewer: Viewer,
  ref: string,
  id: string,
  { result, uploadIds }: BodyOf<typeof api.changes.doneTask>,
): Promise<void> =>
  onNote(
    app,
    viewer,
    ref,
    async (work, opened) => {
      const task = await openTask(work, opened, id);
      if (task.assignee_id !== viewer.id && !mayChange(opened, viewer))
        throw refused('not_your_task', { who: task.assignee });
      const revision = opened.work ?? opened.inForce ?? opened.revisions[0];
      if (!revision) throw refused('not_found');
      const fileIds: string[] = [];
      const files: string[] = [];
      for (const uploadId of uploadIds) {
        const { sha256, name } = await getStored(app, work.trx, viewer, uploadId);
        const note = `Result of task ${task.n}`;
        fileIds.push(await addSupportingFile(work, opened, revision, { sha256, name, note, byId: viewer.id }));
        files.push(name);
      }
      await store.endTask(work.trx, { id, state: 'done', result, fileIds, by: viewer.id, now: work.now });
      work.record({
        kind: 'change-note.task-done',
        subject: subjectOf(opened.document),
        payload: { n: task.n, what: task.what, result, files },
      });
      const { document } = opened;
      if (document.owner_id !== viewer.id)
        await notify(app, work, [document.owner_id], {
          kind: 'task',
          about: document.id,
          subject: `Task ${task.n} of ${document.number} is done`,
          lead: `${viewer.name} has done: ${task.what}`,
          quote: result,
          link: { path: addressOf(document.number), label: 'Open the change note' },
        });
    },
    'assignees, too',
  );

export const dropTask = (
  app: App,
  viewer: Viewer,
  ref: string,
  id: string,
  { reason }: BodyOf<typeof api.changes.dropTask>,
): Promise<void> =>
  onNote(app, viewer, ref, async (work, opened) => {
    const task = await openTask(work, opened, id);
    const end = { id, state: 'dropped' as const, result: reason, fileIds: [], by: viewer.id, now: work.now };
    await store.endTask(work.trx, end);
    work.record({
      kind: 'change-note.task-dropped',
      subject: subjectOf(opened.document),
      payload: { n: task.n, what: task.what, reason },
    });
  });

/** Closes a note once it is agreed, its tasks are ended and every affected document is dealt with. */
export const closeNote: HandlerOf<typeof api.changes.close, void> = (app, viewer, ref, { result }) =>
  onNote(app, viewer, ref, async (work, { document }) => {
    const facts = await store.findFacts(work.trx, document.id);
    if (!facts) throw refused('not_found');
    const affected = (await store.listAffected(work.trx, document.id)).map((row) => ({
      number: row.number,
      standing: standingOf({ revisionState: row.state, noChangeReason: row.no_change_reason }),
    }));
    assertAllowed(decideClosing(facts, affected));
    await store.insertClosing(work.trx, { noteId: document.id, result, by: viewer.id, now: work.now });
    work.record({ kind: 'change-note.closed', subject: subjectOf(document), payload: { result } });
    const told = new Set([
      document.owner_id,
      ...(await store.listTasks(work.trx, document.id)).map((task) => task.assignee_id),
      ...(await listSendersOf(work.trx, document.id)),
    ]);
    told.delete(viewer.id);
    await notify(app, work, [...told], {
      kind: 'task',
      about: document.id,
      subject: `${document.number} is closed`,
      lead: `${viewer.name} has closed the change note ${document.newest_title}.`,
      quote: result,
      link: { path: addressOf(document.number), label: 'Open the change note' },
    });
  });
