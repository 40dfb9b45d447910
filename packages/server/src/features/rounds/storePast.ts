import type { Decision, RevisionState, StepKind } from '@kanonos/core';
import { type Db, rows, type Trx } from '../../platform/db/connect.ts';
import { type ListScope, SEES_WORK } from '../access/index.ts';

/** More say no more about how long answers take. */
const MOST = 20_000;

/** Answers since a day with the days they were asked and given, newest first: what forecasts are drawn from. */
export const listPastAnswers = (db: Db | Trx, by: { since: string; zone: string }) =>
  rows<{ person: string; type: string; step: string; kind: StepKind; asked: string; answered: string }>(
    db,
    `select a.person_id as person, t.code as type, s.name as step, s.kind, (a.opened_at at time zone :zone)::date as asked, (a.decided_at at time zone :zone)::date as answered
     from assignments a join steps s on s.id = a.step_id join rounds u on u.id = s.round_id join documents d on d.id = u.document_id join types t on t.id = d.type_id
     where a.state = 'answered' and u.leads_to = 'release' and a.opened_at is not null and a.decided_at >= :since::date
     order by a.decided_at desc limit ${MOST}`,
    by,
  );

export type SeenAnswerRow = {
  document_id: string;
  number: string;
  title: string;
  label: string;
  state: RevisionState;
  round: number;
  type: string;
  step: string;
  person_id: string;
  person: string;
  department_id: string | null;
  department: string | null;
  decision: Decision;
  due_on: string | null;
  asked: string;
  answered: string;
};

/**
 * Answers since a day with what they are grouped by: on documents that one controls, and of people whom one supervises, as far as a
 * scope sees the work.
 */
export const listSeenAnswers = (
  db: Db,
  scope: ListScope,
  by: { since: string; zone: string; day: string; controlFolders: string[]; team: string[] },
) =>
  rows<SeenAnswerRow>(
    db,
    `select d.id as document_id, d.number, r.title, r.label, r.state, u.n as round, t.name as type, s.name as step, a.person_id, p.name as person, w.id as department_id, w.name as department, a.decision, s.due_on,
       (a.opened_at at time zone :zone)::date as asked, (a.decided_at at time zone :zone)::date as answered
     from assignments a join steps s on s.id = a.step_id join rounds u on u.id = s.round_id join revisions r on r.id = u.revision_id join documents d on d.id = u.document_id join types t on t.id = d.type_id
     join people p on p.id = a.person_id
     left join lateral (select o.id, o.name from memberships m join units o on o.id = m.ref_id where m.person_id = a.person_id and m.kind = 'department' and m.from_day <= :day and (m.to_day is null or m.to_day >= :day) limit 1) w on true
     where a.state = 'answered' and a.opened_at is not null and a.decided_at >= :since::date and d.removed_at is null and ${SEES_WORK}
       and (d.folder_id = any(:controlFolders::uuid[]) or a.person_id = any(:team::uuid[]))
     order by a.decided_at desc limit ${MOST}`,
    { ...scope, ...by },
  );

/** Absences that have not ended by a day, with the deputy where one is named. */
export const listAbsences = (db: Db | Trx, personIds: string[], day: string) =>
  rows<{ person_id: string; from_day: string; to_day: string; deputy_id: string | null; deputy: string | null }>(
    db,
    `select x.person_id, x.from_day, x.to_day, p.id as deputy_id, p.name as deputy from absences x left join people p on p.id = x.deputy_id and p.state = 'active' and not p.outside
     where x.person_id = any(:personIds::uuid[]) and x.to_day >= :day order by x.from_day`,
    { personIds, day },
  );
