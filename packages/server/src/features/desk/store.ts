import { type Confidentiality, PLAIN_REVIEW, type RevisionState } from '@kanonos/core';
import { type Db, firstRow, rows } from '../../platform/db/connect.ts';
import { type ListScope, SEES, SEES_WORK } from '../access/index.ts';
import { HAS_SIGNATURE } from '../reading/index.ts';

/** Comments of a revision that are open: replies are part of theirs, and withdrawn ones do not count. */
const OPEN_COMMENTS = `(select count(*) from comments c where c.revision_id = r.id and c.parent_id is null and c.withdrawn_at is null and c.resolved_at is null)::int`;

/** My open decisions, and those of absent people whose deputy I am, by assignments_open. */
export const listDecisions = (db: Db, by: { personId: string; day: string; hidden: string[] }) =>
  rows<{
    id: string;
    document_id: string;
    number: string;
    title: string;
    label: string;
    state: RevisionState;
    step: string;
    kind: string;
    due_on: string | null;
    sender: string;
    principal: string | null;
    until: string | null;
    words: number;
    comments: number;
    opened_at: Date;
  }>(
    db,
    `select a.id, d.id as document_id, d.number, r.title, r.label, r.state, s.name as step, s.kind, s.due_on, q.name as sender, a.opened_at,
       case when a.person_id <> :personId then p.name end as principal,
       (select max(x.to_day) from absences x where x.person_id = a.person_id and x.deputy_id = :personId and x.from_day <= :day and x.to_day >= :day) as until,
       coalesce((select sum(c.words) from version_files f join contents c on c.sha256 = f.sha256 where f.version_id = r.latest_version_id), 0)::int as words,
       ${OPEN_COMMENTS} as comments
     from assignments a join steps s on s.id = a.step_id join rounds u on u.id = s.round_id join revisions r on r.id = u.revision_id join documents d on d.id = r.document_id
     join people q on q.id = u.started_by join people p on p.id = a.person_id
     where a.state = 'open' and u.state = 'running' and d.removed_at is null and d.id <> all(:hidden::uuid[]) and (a.person_id = :personId or a.person_id in
       (select x.person_id from absences x join people o on o.id = x.deputy_id and not o.outside where x.deputy_id = :personId and x.from_day <= :day and x.to_day >= :day))
     order by s.due_on nulls last, d.number`,
    by,
  );

/** Drafts that are mine to finish: checked out to me, sent back, or begun by me and not sent yet. */
export const listToFinish = (db: Db, by: { personId: string; hidden: string[] }) =>
  rows<{
    id: string;
    document_id: string;
    number: string;
    title: string;
    label: string;
    since: Date;
    out: boolean;
    expected_back: string | null;
    run_state: string | null;
    said_by: string | null;
    comment: string | null;
    comments: number;
    versions: number;
  }>(
    db,
    `select r.id, d.id as document_id, d.number, r.title, r.label, coalesce(k.at, u.ended_at, r.created_at) as since, k.id is not null as out, k.expected_back, u.state as run_state, said.name as said_by, said.comment, r.version_count as versions,
       ${OPEN_COMMENTS} as comments
     from revisions r join documents d on d.id = r.document_id
     left join checkouts k on k.document_id = d.id and k.ended_at is null
     left join lateral (select * from rounds where revision_id = r.id and leads_to = 'release' order by n desc limit 1) u on true
     left join lateral (select p.name, a.comment from assignments a join steps s on s.id = a.step_id join people p on p.id = a.decided_by where s.round_id = u.id and a.decision = 'reject' order by a.decided_at desc limit 1) said on true
     where r.state in ('draft', 'in review') and d.removed_at is null and d.id <> all(:hidden::uuid[]) and (k.person_id = :personId or (r.state = 'draft' and k.id is null and coalesce(u.started_by, r.created_by) = :personId))
     order by coalesce(k.at, u.ended_at, r.created_at) limit 100`,
    by,
  );

/** A revision with what the rights on its document depend on. */
export type PlacedRow = {
  id: string;
  folder_id: string;
  owner_id: string;
  confidentiality: Confidentiality;
  document_id: string;
  number: string;
  title: string;
  label: string;
};

/** What may be released as far as a scope sees it: approved, scheduled or held. The service checks the right *release*. */
export const listToRelease = (db: Db, scope: ListScope) =>
  rows<
    PlacedRow & {
      state: RevisionState;
      planned_on: string | null;
      blocked_since: Date | null;
      signatures: number;
      in_force: string | null;
      owed: number;
      done: number;
    }
  >(
    db,
    `select r.id, d.id as document_id, d.folder_id, d.owner_id, d.confidentiality, d.number, r.title, r.label, r.state, r.planned_on, r.blocked_since,
       (select count(*) from signatures s where s.revision_id = r.id and s.void_at is null and s.reading_id is null)::int as signatures,
       (select label from revisions f where f.document_id = d.id and f.state = 'in force') as in_force,
       (select count(*) from reading_assignments a where a.revision_id = r.id and a.state in ('open','signed','carried over'))::int as owed,
       (select count(*) from reading_assignments a where a.revision_id = r.id and a.state in ('signed','carried over'))::int as done
     from revisions r join documents d on d.id = r.document_id
     where r.state in ('approved', 'scheduled') and d.removed_at is null and ${SEES_WORK} order by r.blocked_since nulls last, r.planned_on nulls first, d.number limit 500`,
    { ...scope },
  );

/**
 * Rounds that will miss their day unless somebody acts, as far as a scope sees the work: overdue, held up by a blocker, or waiting for
 * somebody who is absent without a deputy. Those that wait for the viewer are that person's own to decide.
 */
export const listStuck = (db: Db, scope: ListScope, day: string) =>
  rows<
    PlacedRow & {
      step: string;
      due_on: string | null;
      blocked: boolean;
      waiting: string[];
      since: Date;
      absent: { name: string; until: string }[] | null;
    }
  >(
    db,
    `select u.id, d.id as document_id, d.folder_id, d.owner_id, d.confidentiality, d.number, r.title, r.label, string_agg(distinct s.name, ', ') as step, min(s.due_on) as due_on, u.held_up is not null as blocked,
       array_agg(distinct p.name order by p.name) as waiting, min(a.opened_at) as since,
       json_agg(json_build_object('name', p.name, 'until', x.to_day)) filter (where x.to_day is not null) as absent
     from rounds u join revisions r on r.id = u.revision_id join documents d on d.id = r.document_id
     join steps s on s.round_id = u.id and s.state = 'open' join assignments a on a.step_id = s.id and a.state = 'open' join people p on p.id = a.person_id
     left join lateral (select max(z.to_day) as to_day from absences z where z.person_id = a.person_id and z.deputy_id is null and z.from_day <= :day and z.to_day >= :day) x on true
     where u.state = 'running' and d.removed_at is null and ${SEES_WORK}
     group by u.id, d.id, r.id
     having not bool_or(a.person_id = :me) and (u.held_up is not null or min(s.due_on) < :day or bool_or(x.to_day >= coalesce(s.due_on, :day)))
     order by min(s.due_on) nulls last, d.number limit 50`,
    { ...scope, day },
  );

/** Documents in force due for review by a day, the viewer's own and those of folders; without those under revision. */
export const listReviews = (db: Db, scope: ListScope, by: { day: string; folderIds: string[] }) =>
  rows<{
    id: string;
    number: string;
    title: string;
    label: string;
    owner: string;
    review_on: string;
    on_hold: boolean;
  }>(
    db,
    `select d.id, d.number, d.hold is not null as on_hold, d.public_title as title, d.public_label as label, o.name as owner, d.review_on from documents d join people o on o.id = d.owner_id join types t on t.id = d.type_id
     where d.public_state = 'in force' and d.newest_state = 'in force' and d.review_on <= :day::date + coalesce((t.policy->'review'->>'daysAhead')::int, ${PLAIN_REVIEW.daysAhead}) and d.removed_at is null and (d.owner_id = :me or d.folder_id = any(:folderIds::uuid[])) and ${SEES}
     order by d.review_on, d.number limit 8`,
    { ...scope, ...by },
  );

export const listCheckedOut = (db: Db, scope: ListScope) =>
  rows<{ number: string; person: string; at: Date }>(
    db,
    `select d.number, p.name as person, k.at from checkouts k join documents d on d.id = k.document_id join people p on p.id = k.person_id where k.ended_at is null and d.removed_at is null and k.person_id <> :me and ${SEES_WORK} order by k.at limit 8`,
    scope as never,
  );
/** Open check-outs of documents whose work a viewer may see, and the viewer's own. */
export const listCheckouts = (db: Db, scope: ListScope) =>
  rows<{
    document_id: string;
    folder_id: string;
    number: string;
    title: string;
    label: string;
    person_id: string;
    person: string;
    at: Date;
    expected_back: string | null;
    note: string;
  }>(
    db,
    `select d.id as document_id, d.folder_id, d.number, r.title, r.label, k.person_id, p.name as person, k.at, k.expected_back, k.note
     from checkouts k join documents d on d.id = k.document_id join revisions r on r.id = k.revision_id join people p on p.id = k.person_id
     where k.ended_at is null and d.removed_at is null and ((k.person_id = :me and d.id <> all(:withheldDocuments::uuid[])) or ${SEES_WORK}) order by k.at limit 1000`,
    scope as never,
  );
export const findArrangement = (db: Db, personId: string) =>
  firstRow<{ cards: string[]; hidden: string[] }>(
    db,
    'select cards, hidden from desk_arrangements where person_id = :personId',
    { personId },
  );
export const saveArrangement = (
  db: Db,
  by: { personId: string; cards: readonly string[]; hidden: readonly string[] },
) =>
  rows(
    db,
    `insert into desk_arrangements (person_id, cards, hidden) values (:personId, :cards::text[], :hidden::text[])
     on conflict (person_id) do update set cards = excluded.cards, hidden = excluded.hidden`,
    by,
  );
export const listNewlyInForce = (db: Db, scope: ListScope, since: Date) =>
  rows<{ number: string; title: string; label: string; from_at: Date; on_hold: boolean }>(
    db,
    `select d.number, r.title, r.label, e.from_at, d.hold is not null as on_hold from periods e join documents d on d.id = e.document_id join revisions r on r.id = e.revision_id where e.from_at > :since and e.to_at is null and d.removed_at is null and ${SEES} order by e.from_at desc limit 5`,
    { ...scope, since },
  );
export const organisationToday = (db: Db, by: { day: string; in30: string; zone: string; folderIds: string[] }) =>
  firstRow<{ running: number; overdue: number; signed: number; on_time: number; reviews: number }>(
    db,
    `select (select count(*) from rounds where state = 'running')::int as running,
       (select count(distinct s.round_id) from steps s join rounds r on r.id = s.round_id where r.state = 'running' and s.state = 'open' and s.due_on < :day)::int as overdue,
       (select count(*) from reading_assignments a where a.state = 'signed' and ${HAS_SIGNATURE})::int as signed,
       (select count(*) from reading_assignments a where a.state = 'signed' and ${HAS_SIGNATURE} and (a.closed_at at time zone :zone)::date <= a.due_on)::int as on_time,
       (select count(*) from documents where public_state = 'in force' and review_on <= :in30 and folder_id = any(:folderIds::uuid[]))::int as reviews`,
    by,
  );

/** My submissions whose round is open or ended within the last 30 days. */
export const listSubmitted = (db: Db, by: { personId: string; since: Date; hidden: string[] }) =>
  rows<{
    id: string;
    revision_id: string;
    document_id: string;
    number: string;
    title: string;
    label: string;
    state: RevisionState;
    n: number;
    on_hold: boolean;
    run_state: string;
    held_up: unknown;
    started_at: Date;
  }>(
    db,
    `select u.id, r.id as revision_id, d.id as document_id, d.number, r.title, r.label, r.state, d.hold is not null as on_hold, u.n, u.state as run_state, u.held_up, u.started_at
     from rounds u join revisions r on r.id = u.revision_id join documents d on d.id = r.document_id
     where u.started_by = :personId and d.removed_at is null and d.id <> all(:hidden::uuid[]) and (u.state = 'running' or u.ended_at > :since) order by (u.state = 'running') desc, u.started_at desc limit 100`,
    by,
  );
export const listSteps = (db: Db, roundIds: string[]) =>
  rows<{
    round_id: string;
    n: number;
    stage: number;
    name: string;
    state: string;
    due_on: string | null;
    person: string;
    assignment_state: string;
    opened_at: Date | null;
    decision: string | null;
    decided_at: Date | null;
    decided_by: string | null;
    comment: string;
  }>(
    db,
    `select s.round_id, s.n, s.stage, s.name, s.state, s.due_on, p.name as person, a.state as assignment_state, a.opened_at, a.decision, a.decided_at, q.name as decided_by, a.comment
     from steps s join assignments a on a.step_id = s.id join people p on p.id = a.person_id left join people q on q.id = a.decided_by where s.round_id = any(:roundIds::uuid[]) order by s.n, a.n`,
    { roundIds },
  );
export const countSeen = async (db: Db, scope: ListScope, seesWork: string, sees: string) =>
  (
    await firstRow<{ n: number }>(
      db,
      `select count(*)::int as n from documents d where d.removed_at is null and (${seesWork} or (${sees} and d.public_state is not null))`,
      { ...scope },
    )
  )?.n ?? 0;
