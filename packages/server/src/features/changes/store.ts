import type { AffectedWay, ChangeNoteFacts, RevisionState, TaskLimit, TaskState } from '@kanonos/core';
import { changed, type Db, firstRow, rows, type Trx } from '../../platform/db/connect.ts';
import { type ListScope, SEES, SEES_WORK } from '../access/index.ts';

/** A note as far as `d` may be seen: its work, or what was released of it. */
const VISIBLE = `d.removed_at is null and (${SEES_WORK} or (${SEES} and d.public_revision_id is not null))`;
const IS_NOTE = `(t.policy->>'isChangeNote')::boolean`;
/** The newest revision of a document under its note that was not abandoned. */
const UNDER = `select r.* from revisions r where r.change_note_id = a.note_id and r.document_id = a.document_id and r.state <> 'abandoned' order by r.ordinal desc limit 1`;
const AGREED = `exists (select 1 from revisions n where n.document_id = d.id and n.state in ('in force', 'superseded'))`;

export type NoteRow = {
  id: string;
  number: string;
  title: string;
  state: RevisionState;
  owner: string;
  created_at: Date;
  is_closed: boolean;
  documents: number;
  documents_done: number;
  tasks: number;
  tasks_done: number;
  tasks_overdue: number;
  next_due: string | null;
};

/** The change notes that may be seen, the open ones first, the newest first. */
export const listNotes = (db: Db, scope: ListScope, day: string) =>
  rows<NoteRow>(
    db,
    `select d.id, d.number, case when ${SEES_WORK} then d.newest_title else d.public_title end as title,
       case when ${SEES_WORK} then d.newest_state else d.public_state end as state, p.name as owner, d.registered_at as created_at, c.note_id is not null as is_closed,
       a.documents, a.documents_done, k.tasks, k.tasks_done, k.tasks_overdue, k.next_due
     from documents d join types t on t.id = d.type_id and ${IS_NOTE} join people p on p.id = d.owner_id left join change_note_closings c on c.note_id = d.id
     cross join lateral (
       select count(*)::int as documents, (count(*) filter (where u.state in ('in force', 'superseded', 'withdrawn') or (u.id is null and a.no_change_reason is not null)))::int as documents_done
       from change_note_documents a left join lateral (${UNDER}) u on true where a.note_id = d.id) a
     cross join lateral (
       select (count(*) filter (where state <> 'dropped'))::int as tasks, (count(*) filter (where state = 'done'))::int as tasks_done,
         (count(*) filter (where state = 'open' and due_on < :day))::int as tasks_overdue, min(due_on) filter (where state = 'open') as next_due
       from change_note_tasks where note_id = d.id) k
     where ${VISIBLE} order by is_closed, d.registered_at desc, d.number limit 1000`,
    { ...scope, day },
  );

/** The notes that are not closed, those that name a document first. */
export const listOpenFor = (db: Db, scope: ListScope, documentId: string) =>
  rows<{ number: string; title: string; names_it: boolean }>(
    db,
    `select d.number, case when ${SEES_WORK} then d.newest_title else d.public_title end as title,
       exists (select 1 from change_note_documents a where a.note_id = d.id and a.document_id = :documentId) as names_it
     from documents d join types t on t.id = d.type_id and ${IS_NOTE}
     where ${VISIBLE} and d.id <> :documentId and not exists (select 1 from change_note_closings c where c.note_id = d.id)
       and coalesce(d.public_state, d.newest_state) <> 'withdrawn'
     order by names_it desc, d.registered_at desc limit 200`,
    { ...scope, documentId },
  );

/** The folder of the newest document of a type. */
export const findLastFolder = async (db: Db, typeId: string): Promise<string | undefined> =>
  (
    await firstRow<{ folder_id: string }>(
      db,
      'select folder_id from documents where type_id = :typeId and removed_at is null order by registered_at desc limit 1',
      { typeId },
    )
  )?.folder_id;

/** Keeps a note from being closed until the command ends: what begins under it waits for a closing that is under way. */
export const keepOpen = (trx: Trx, noteId: string) =>
  rows(trx, 'select 1 from documents where id = :noteId for share', { noteId });

/** A note as the rules of the core see it. */
export const findFacts = async (db: Db | Trx, noteId: string): Promise<ChangeNoteFacts | undefined> => {
  const found = await firstRow<{ number: string; is_agreed: boolean; is_closed: boolean }>(
    db,
    `select d.number, ${AGREED} as is_agreed, c.note_id is not null as is_closed from documents d left join change_note_closings c on c.note_id = d.id where d.id = :noteId`,
    { noteId },
  );
  if (!found) return undefined;
  return {
    number: found.number,
    isAgreed: found.is_agreed,
    isClosed: found.is_closed,
    tasks: (await listTasks(db, noteId)).map(({ before, state }) => ({ before, state })),
  };
};

export type AffectedRow = {
  document_id: string;
  number: string;
  way: AffectedWay;
  what: string;
  no_change_reason: string | null;
  revision_id: string | null;
  label: string | null;
  state: RevisionState | null;
  summary: string | null;
  reason: string | null;
  planned_on: string | null;
};
export const listAffected = (db: Db | Trx, noteId: string) =>
  rows<AffectedRow>(
    db,
    `select a.document_id, d.number, a.way, a.what, a.no_change_reason, u.id as revision_id, u.label, u.state, u.summary, u.reason, u.planned_on
     from change_note_documents a join documents d on d.id = a.document_id left join lateral (${UNDER}) u on true
     where a.note_id = :noteId order by a.added_at, d.number`,
    { noteId },
  );

export const insertAffected = (
  trx: Trx,
  a: { noteId: string; documentId: string; way: AffectedWay; what: string; by: string; now: Date },
) =>
  changed(
    trx,
    `insert into change_note_documents (note_id, document_id, way, what, added_by, added_at) values (:noteId, :documentId, :way, :what, :by, :now) on conflict do nothing`,
    a,
  );
export const updateAffected = (
  trx: Trx,
  a: { noteId: string; documentId: string; what: string; noChangeReason: string | null },
) =>
  changed(
    trx,
    'update change_note_documents set what = :what, no_change_reason = :noChangeReason where note_id = :noteId and document_id = :documentId',
    a,
  );
export const deleteAffected = (trx: Trx, a: { noteId: string; documentId: string }) =>
  changed(trx, 'delete from change_note_documents where note_id = :noteId and document_id = :documentId', a);

export type TaskRow = {
  id: string;
  n: number;
  what: string;
  assignee_id: string;
  assignee: string;
  due_on: string | null;
  before: TaskLimit;
  state: TaskState;
  result: string;
  files: { id: string; name: string }[];
  ended_by: string | null;
  ended_at: Date | null;
};
export const listTasks = (db: Db | Trx, noteId: string) =>
  rows<TaskRow>(
    db,
    `select k.id, k.n, k.what, k.assignee_id, p.name as assignee, k.due_on, k.before, k.state, k.result, e.name as ended_by, k.ended_at,
       coalesce((select jsonb_agg(jsonb_build_object('id', f.id, 'name', f.name) order by f.name) from supporting_files f where f.id = any(k.file_ids)), '[]') as files
     from change_note_tasks k join people p on p.id = k.assignee_id left join people e on e.id = k.ended_by where k.note_id = :noteId order by k.n`,
    { noteId },
  );
export const insertTask = async (
  trx: Trx,
  task: {
    id: string;
    noteId: string;
    what: string;
    assigneeId: string;
    dueOn: string | null;
    before: TaskLimit;
    by: string;
    now: Date;
  },
): Promise<number> =>
  (
    await firstRow<{ n: number }>(
      trx,
      `insert into change_note_tasks (id, note_id, n, what, assignee_id, due_on, before, created_by, created_at)
       select :id, :noteId, coalesce(max(n), 0) + 1, :what, :assigneeId, :dueOn::date, :before, :by, :now from change_note_tasks where note_id = :noteId returning n`,
      task,
    )
  )?.n ?? 0;
export const updateTask = (
  trx: Trx,
  task: { id: string; what: string; assigneeId: string; dueOn: string | null; before: TaskLimit },
) =>
  changed(
    trx,
    'update change_note_tasks set what = :what, assignee_id = :assigneeId, due_on = :dueOn::date, before = :before where id = :id',
    task,
  );
export const endTask = (
  trx: Trx,
  task: { id: string; state: TaskState; result: string; fileIds: string[]; by: string; now: Date },
) =>
  changed(
    trx,
    'update change_note_tasks set state = :state, result = :result, file_ids = :fileIds::uuid[], ended_by = :by, ended_at = :now where id = :id',
    task,
  );

/** Open tasks of a person, by change_note_tasks_open. */
export const listTasksOf = (db: Db, personId: string) =>
  rows<{
    id: string;
    note_id: string;
    number: string;
    title: string;
    label: string;
    state: RevisionState;
    what: string;
    due_on: string | null;
  }>(
    db,
    `select k.id, k.note_id, d.number, d.newest_title as title, d.newest_label as label, d.newest_state as state, k.what, k.due_on
     from change_note_tasks k join documents d on d.id = k.note_id and d.removed_at is null where k.assignee_id = :personId and k.state = 'open' order by k.due_on nulls last, d.number, k.n`,
    { personId },
  );

export const findClosing = (db: Db | Trx, noteId: string) =>
  firstRow<{ result: string; by: string; at: Date }>(
    db,
    'select c.result, p.name as by, c.at from change_note_closings c join people p on p.id = c.by_id where c.note_id = :noteId',
    { noteId },
  );
export const insertClosing = (trx: Trx, closing: { noteId: string; result: string; by: string; now: Date }) =>
  rows(
    trx,
    'insert into change_note_closings (note_id, result, by_id, at) values (:noteId, :result, :by, :now)',
    closing,
  );

/** The notes that name a document, and those that its revisions were made under. */
export const listNotesOn = (db: Db, documentId: string, scope: ListScope) =>
  rows<{ number: string; title: string; is_closed: boolean }>(
    db,
    `select d.number, case when ${SEES_WORK} then d.newest_title else d.public_title end as title, c.note_id is not null as is_closed
     from documents d left join change_note_closings c on c.note_id = d.id
     where ${VISIBLE} and d.id in (select note_id from change_note_documents where document_id = :documentId union
       select change_note_id from revisions where document_id = :documentId and change_note_id is not null)
     order by is_closed, d.number desc limit 20`,
    { documentId, ...scope },
  );

/** The note that a revision is made under. */
export const findNoteOf = (db: Db | Trx, revisionId: string) =>
  firstRow<{ change_note_id: string }>(
    db,
    'select change_note_id from revisions where id = :revisionId and change_note_id is not null',
    { revisionId },
  );
export const setNoteOf = (trx: Trx, by: { revisionId: string; noteId: string }) =>
  rows(trx, 'update revisions set change_note_id = :noteId where id = :revisionId', by);
