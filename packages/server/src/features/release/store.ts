import { type Db, firstRow, rows, type Trx } from '../../platform/db/connect.ts';

export const findInForce = (db: Db | Trx, documentId: string) =>
  firstRow<{ id: string; label: string }>(
    db,
    `select id, label from revisions where document_id = :documentId and state = 'in force'`,
    { documentId },
  );

/** What of a document is due on a day: a scheduled revision, a planned withdrawal. */
export const findDue = (trx: Db | Trx, documentId: string, day: string) =>
  firstRow<{ revision_id: string | null; withdraw_on: string | null }>(
    trx,
    `select r.id as revision_id, d.withdraw_on from documents d left join revisions r on r.document_id = d.id and r.state = 'scheduled' and r.planned_on <= :day
     where d.id = :documentId and (r.id is not null or d.withdraw_on <= :day)`,
    { documentId, day },
  );

/** All documents with something due, by revisions_planned and documents_withdraw. */
export const listDue = (db: Db, day: string) =>
  rows<{ id: string; number: string }>(
    db,
    `select d.id, d.number from documents d where d.id in (
       select document_id from revisions where planned_on <= :day union select id from documents where withdraw_on <= :day) order by d.number`,
    { day },
  );

/** How many signatures the finished run of a revision must have: one of each approval assignment that was answered. */
export const countApprovers = async (db: Db | Trx, revisionId: string): Promise<number> =>
  (
    await firstRow<{ n: number }>(
      db,
      `select greatest(count(*), 1)::int as n from assignments a join steps s on s.id = a.step_id join rounds r on r.id = s.round_id
     where r.revision_id = :revisionId and r.state = 'done' and s.kind = 'approval' and a.decision = 'approve' and r.n = (select max(n) from rounds where revision_id = :revisionId and leads_to = 'release')`,
      { revisionId },
    )
  )?.n ?? 1;

/** People with *release* on a document's folder or area, who are informed of held releases. */
export const listReleasers = async (trx: Trx, documentId: string, day: string): Promise<string[]> =>
  (
    await rows<{ id: string }>(
      trx,
      `select distinct p.id from documents d join folders f on f.id = d.folder_id join grants g on g.folder_id = any(f.path) and 'release' = any(g.rights)
       join people p on p.state = 'active' and ((g.subject_kind = 'person' and g.subject_id = p.id) or (g.subject_kind = 'unit' and exists
         (select 1 from memberships m where m.person_id = p.id and m.ref_id = g.subject_id and m.from_day <= :day and (m.to_day is null or m.to_day >= :day))))
       where d.id = :documentId and not exists (select 1 from grants w where w.document_id = d.id and w.withheld and w.subject_id = p.id)`,
      { documentId, day },
    )
  ).map((row) => row.id);

/** Whether somebody joined or left since the readings were derived: cheap enough to ask for every document each minute. */
export const readersMayHaveChanged = async (
  db: Db,
  documentId: string,
  revisionId: string,
  day: string,
): Promise<boolean> =>
  Boolean(
    await firstRow(
      db,
      `with q as (select id, audience from reading_requirements where document_id = :documentId and to_day is null),
       wanted as (
         select distinct p.id from q, people p where p.state <> 'deactivated' and not p.outside and p.from_day <= :day and (p.to_day is null or p.to_day >= :day)
           and not (q.audience->'exceptPersonIds') @> to_jsonb(p.id::text)
           and ((q.audience->>'everyone')::boolean or (q.audience->'personIds') @> to_jsonb(p.id::text) or exists (
             select 1 from memberships m where m.person_id = p.id and m.kind <> 'supervisor' and m.from_day <= :day and (m.to_day is null or m.to_day >= :day) and (q.audience->'unitIds') @> to_jsonb(m.ref_id::text)))),
       have as (select person_id as id, state from reading_assignments where revision_id = :revisionId and requirement_id = (select id from q))
       select 1 where exists (select 1 from wanted w where not exists (select 1 from have h where h.id = w.id and h.state <> 'not needed'))
         or exists (select 1 from have h where h.state = 'open' and h.id not in (select id from wanted))`,
      { documentId, revisionId, day },
    ),
  );

/** The first instant at which a new period of a document may begin: after all existing ones, each at least 1 ms long. */
export const findFreeFrom = async (trx: Trx, documentId: string): Promise<Date | undefined> =>
  (
    await firstRow<{ at: Date | null }>(
      trx,
      `select max(coalesce(to_at, from_at + interval '1 millisecond')) as at from periods where document_id = :documentId`,
      { documentId },
    )
  )?.at ?? undefined;
