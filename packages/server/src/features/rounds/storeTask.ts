import { type Db, firstRow } from '../../platform/db/connect.ts';

export type ComparedVersionRow = { id: string; n: number; revision_id: string; label: string; at: Date };

const VERSION = 'select v.id, v.n, v.revision_id, r.label';

/** The version of a document that a person opened last before the present one. */
export const findLastSeen = (db: Db, by: { personId: string; documentId: string; versionId: string }) =>
  firstRow<ComparedVersionRow>(
    db,
    `${VERSION}, u.at from usage u join revisions r on r.id = u.revision_id join versions v on v.revision_id = r.id and v.n = u.version
     where u.document_id = :documentId and u.person_id = :personId and v.id <> :versionId
       and not exists (select 1 from removed_versions x where x.version_id = v.id)
     order by u.at desc limit 1`,
    by,
  );

/** A version of a revision by its number, unless it was removed. */
export const findVersion = (db: Db, by: { revisionId: string; n: number }) =>
  firstRow<ComparedVersionRow>(
    db,
    `${VERSION}, v.at from versions v join revisions r on r.id = v.revision_id
     where v.revision_id = :revisionId and v.n = :n and not exists (select 1 from removed_versions x where x.version_id = v.id)`,
    by,
  );

/** The next of a person's own open assignments, in the order of the Desk, apart from one. */
export const findNextTask = (
  db: Db,
  by: { personId: string; assignmentId: string; after: string | null; number: string },
) =>
  firstRow<{ id: string; number: string }>(
    db,
    `select a.id, d.number from assignments a join steps s on s.id = a.step_id join rounds u on u.id = s.round_id join documents d on d.id = u.document_id
     where a.state = 'open' and u.state = 'running' and d.removed_at is null and a.person_id = :personId and a.id <> :assignmentId
     order by (coalesce(s.due_on, 'infinity'::date), d.number, a.id) <= (coalesce(:after::date, 'infinity'::date), :number, :assignmentId::uuid), s.due_on nulls last, d.number, a.id limit 1`,
    by,
  );
