import type { Affected, AnswerOf, api, ChangeTask } from '@kanonos/contract';
import {
  type Command,
  dayOf,
  decideClosing,
  decideCommand,
  hasRight,
  isFolderShut,
  standingOf,
  stateTag,
} from '@kanonos/core';
import type { App } from '../../platform/app.ts';
import { refused } from '../../platform/refused.ts';
import { listScope, type Viewer } from '../access/index.ts';
import { lifecycle, type Opened, openDocument, openIfVisible, situationOf, taggedState } from '../documents/index.ts';
import { markOf } from '../revisions/index.ts';
import { policyOf } from '../rules/index.ts';
import * as store from './store.ts';
import { typesToMake } from './typesToMake.ts';

/** Refuses what is no change note. */
export const ensureNote = ({ document, type }: Pick<Opened, 'document' | 'type'>): void => {
  if (!policyOf(type).isChangeNote) throw refused('not_a_change_note', { number: document.number });
};

/** Whoever may write the note decides what it affects and who does what. */
export const mayChange = ({ document, rights }: Opened, viewer: Viewer): boolean =>
  (rights.has('author') || rights.has('release') || document.owner_id === viewer.id) &&
  !isFolderShut(document.folder_state);

/** Opens a note to be read: what is in work, or what is in force of it. */
export const openNote = async (app: App, viewer: Viewer, ref: string): Promise<Opened> => {
  const opened = await openDocument(app.db, viewer, ref, dayOf(app.clock(), (await app.organisation()).zone));
  if (!opened.rights.has('read work') && !(opened.inForce && opened.rights.has('read')))
    throw refused('right_missing', { right: 'read' });
  ensureNote(opened);
  return opened;
};

const toAffected = async (
  app: App,
  viewer: Viewer,
  row: store.AffectedRow,
  day: string,
): Promise<Affected | undefined> => {
  const opened = await openIfVisible(app.db, viewer, row.document_id, day);
  if (!opened) return undefined;
  const { document, inForce } = opened;
  const route = await lifecycle().routeSituation(app, app.db, opened, viewer, day);
  const situation = await situationOf(app.db, opened, viewer, route, (await app.organisation()).ownStates);
  const may = (command: Command) => decideCommand(command, situation).length === 0;
  const readsWork = opened.rights.has('read work');
  // Who may not see work learns where it stands, and not what it says.
  const isShown = row.revision_id !== null && (readsWork || row.state === 'in force' || row.state === 'superseded');
  return {
    id: document.id,
    number: document.number,
    title: (readsWork ? opened.revisions[0]?.title : inForce?.title) ?? document.newest_title,
    way: row.way,
    what: row.what,
    noChangeReason: row.no_change_reason,
    standing: standingOf({ revisionState: row.state, noChangeReason: row.no_change_reason }),
    inForce: inForce?.effective_from
      ? {
          label: inForce.label,
          since: inForce.effective_from.toISOString(),
          mark: markOf('in force', document.hold !== null),
        }
      : null,
    revision: isShown
      ? {
          label: row.label ?? '',
          state: row.state ?? 'draft',
          mark: markOf(row.state ?? 'draft', document.hold !== null),
          summary: row.summary ?? '',
          reason: row.reason ?? '',
          plannedOn: row.planned_on,
        }
      : null,
    stateTag: stateTag(taggedState(opened)),
    may: {
      revise: row.revision_id === null && may('revise'),
      submit: row.revision_id !== null && may('submit'),
      release: row.revision_id !== null && may('release'),
    },
  };
};

const toTask = (row: store.TaskRow, viewer: Viewer, day: string): ChangeTask => ({
  id: row.id,
  n: row.n,
  what: row.what,
  assignee: { id: row.assignee_id, name: row.assignee },
  dueOn: row.due_on,
  overdue: row.state === 'open' && row.due_on !== null && row.due_on < day,
  before: row.before,
  state: row.state,
  result: row.result,
  files: row.files,
  endedBy: row.ended_by,
  endedAt: row.ended_at?.toISOString() ?? null,
  mine: row.assignee_id === viewer.id,
});

/** What a note affects, with where each document stands, its tasks, and what is open before it can be closed. */
export const changeNote = async (app: App, viewer: Viewer, ref: string): Promise<AnswerOf<typeof api.changes.note>> => {
  const opened = await openNote(app, viewer, ref);
  const day = dayOf(app.clock(), (await app.organisation()).zone);
  const { id } = opened.document;
  const listed = await store.listAffected(app.db, id);
  const affected: Affected[] = [];
  for (const row of listed) {
    const one = await toAffected(app, viewer, row, day);
    if (one) affected.push(one);
  }
  const facts = await store.findFacts(app.db, id);
  if (!facts) throw refused('not_found');
  const closing = await store.findClosing(app.db, id);
  const standings = listed.map((row) => ({
    // A document that the viewer may not see is not named, though it keeps the note open.
    number: affected.some((one) => one.id === row.document_id) ? row.number : '…',
    standing: standingOf({ revisionState: row.state, noChangeReason: row.no_change_reason }),
  }));
  return {
    affected,
    hidden: listed.length - affected.length,
    tasks: (await store.listTasks(app.db, id)).map((row) => toTask(row, viewer, day)),
    isAgreed: facts.isAgreed,
    closed: closing ? { at: closing.at.toISOString(), by: closing.by, result: closing.result } : null,
    open: facts.isClosed ? [] : decideClosing(facts, standings),
    mayChange: !facts.isClosed && mayChange(opened, viewer),
  };
};

/** The change notes that a viewer may see. */
export const changeNotes = async (app: App, viewer: Viewer): Promise<AnswerOf<typeof api.changes.list>> => {
  const day = dayOf(app.clock(), (await app.organisation()).zone);
  const found = await store.listNotes(app.db, await listScope(app.db, viewer, day), day);
  return {
    notes: found.map((row) => ({
      id: row.id,
      number: row.number,
      title: row.title,
      mark: markOf(row.state, false),
      isClosed: row.is_closed,
      owner: row.owner,
      createdAt: row.created_at.toISOString(),
      documents: { all: row.documents, done: row.documents_done },
      tasks: { all: row.tasks, done: row.tasks_done, overdue: row.tasks_overdue },
      nextDue: row.next_due,
    })),
  };
};

/** The open notes under which a revision of a document can begin. */
export const openChangeNotes = async (
  app: App,
  viewer: Viewer,
  ref: string,
): Promise<AnswerOf<typeof api.changes.open>> => {
  const day = dayOf(app.clock(), (await app.organisation()).zone);
  const opened = await openDocument(app.db, viewer, ref, day);
  if (!hasRight(opened.rights, 'author')) throw refused('right_missing', { right: 'author' });
  const scope = await listScope(app.db, viewer, day);
  const { changeNote: use } = policyOf(opened.type);
  return {
    use,
    notes:
      use === 'never'
        ? []
        : (await store.listOpenFor(app.db, scope, opened.document.id)).map(({ names_it: namesIt, ...row }) => ({
            ...row,
            namesIt,
          })),
    types: use === 'never' ? [] : await typesToMake(app, viewer, opened),
  };
};

/** The notes on a document, for its page. */
export const notesOn = async (app: App, viewer: Viewer, documentId: string, day: string) =>
  (await store.listNotesOn(app.db, documentId, await listScope(app.db, viewer, day))).map(
    ({ is_closed: isClosed, ...row }) => ({ ...row, isClosed }),
  );
