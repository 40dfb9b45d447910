import type { Answer, Decision, DoneRule, Refusal, RouteDefinition, StepKind } from '@kanonos/core';
import { changed, type Db, firstRow, HOT, rows, type Trx } from '../../platform/db/connect.ts';

export type RoundRow = {
  id: string;
  document_id: string;
  revision_id: string;
  n: number;
  definition: RouteDefinition;
  state: 'running' | 'done' | 'rejected' | 'recalled';
  step: number;
  held_up: Refusal[] | null;
  message: string;
  started_by: string;
  started_by_name: string;
  started_at: Date;
  ended_at: Date | null;
  record_id: string | null;
  digest: string | null;
  leads_to: 'release' | 'nothing';
  last_day: string | null;
  on_version: number | null;
};
export type StepRow = {
  id: string;
  round_id: string;
  n: number;
  name: string;
  kind: StepKind;
  meaning: string | null;
  rule: DoneRule;
  working_days: number;
  editing: boolean;
  on_reject: string;
  stage: number;
  due_on: string | null;
  state: 'waiting' | 'open' | 'done' | 'rejected' | 'not needed';
  opened_at: Date | null;
  ended_at: Date | null;
};
export type AssignmentRow = {
  id: string;
  step_id: string;
  n: number;
  person_id: string;
  person_name: string;
  state: 'waiting' | 'open' | 'answered' | 'not needed';
  opened_at: Date | null;
  decision: Decision | null;
  comment: string;
  decided_at: Date | null;
  decided_by: string | null;
  decided_by_name: string | null;
  on_version: number | null;
  reminded_at: Date | null;
  row_version: number;
};

const ROUND =
  'select r.id, r.document_id, r.revision_id, r.n, r.definition, r.state, r.step, r.held_up, r.message, r.started_by, r.started_at, r.ended_at, r.record_id, r.leads_to, r.last_day, r.on_version, p.name as started_by_name, s.digest from rounds r join people p on p.id = r.started_by left join signing_records s on s.id = r.record_id';
export const listRounds = (db: Db | Trx, revisionId: string) =>
  rows<RoundRow>(db, `${ROUND} where r.revision_id = :revisionId order by r.n desc`, { revisionId }, HOT);
export const findRound = (db: Db | Trx, id: string) => firstRow<RoundRow>(db, `${ROUND} where r.id = :id`, { id }, HOT);
export const findOpenRound = (db: Db | Trx, revisionId: string) =>
  firstRow<RoundRow>(
    db,
    `${ROUND} where r.revision_id = :revisionId and r.state = 'running' and r.leads_to = 'release'`,
    { revisionId },
    HOT,
  );
/** A decision that may close a step locks the round: two simultaneous approvals both count, and the round ends once. */
export const lockRound = (trx: Trx, id: string) =>
  firstRow<{ id: string; document_id: string }>(trx, 'select id, document_id from rounds where id = :id for update', {
    id,
  });

export const insertRound = (
  trx: Trx,
  r: {
    id: string;
    documentId: string;
    revisionId: string;
    n: number;
    definition: RouteDefinition;
    message: string;
    by: string;
    now: Date;
    lastDay: string | null;
    version: number;
  },
) =>
  rows(
    trx,
    `insert into rounds (id, document_id, revision_id, n, definition, state, message, started_by, started_at, last_day, on_version) values (:id, :documentId, :revisionId, :n, :definition::jsonb, 'running', :message, :by, :now, :lastDay, :version)`,
    { ...r, definition: JSON.stringify(r.definition) },
  );
export const insertStep = (
  trx: Trx,
  s: {
    id: string;
    roundId: string;
    n: number;
    name: string;
    kind: string;
    meaning: string | null;
    rule: DoneRule;
    workingDays: number;
    editing: boolean;
    onReject: string;
    stage: number;
    state: 'waiting' | 'not needed';
  },
) =>
  rows(
    trx,
    `insert into steps (id, round_id, n, name, kind, meaning, rule, working_days, editing, on_reject, stage, state) values (:id, :roundId, :n, :name, :kind, :meaning, :rule::jsonb, :workingDays, :editing, :onReject, :stage, :state)`,
    { ...s, rule: JSON.stringify(s.rule) },
  );
/** Moves the steps of a round from a place on by one, with what rejections lead to; a stage that began there begins later, too. */
export const makeRoom = async (trx: Trx, by: { roundId: string; at: number; stage: number }) => {
  // Two steps are never at one place, not even for a moment.
  await rows(trx, 'update steps set n = n + 1000 where round_id = :roundId and n >= :at', by);
  await rows(
    trx,
    `update steps set n = case when n >= 1000 then n - 999 else n end, stage = case when n >= 1000 then stage + 1 else stage end,
       on_reject = case when on_reject <> 'draft' and on_reject::int >= :at then (on_reject::int + 1)::text else on_reject end
     where round_id = :roundId and (n >= 1000 or on_reject <> 'draft')`,
    by,
  );
};
export const setDefinition = (trx: Trx, id: string, definition: RouteDefinition) =>
  rows(trx, 'update rounds set definition = :definition::jsonb where id = :id', {
    id,
    definition: JSON.stringify(definition),
  });
export const insertAssignments = (trx: Trx, stepId: string, list: { id: string; personId: string; n: number }[]) =>
  rows(
    trx,
    `insert into assignments (id, step_id, n, person_id, state) select u.id, :stepId, u.n, u.person_id, 'waiting' from unnest(:ids::uuid[], :ns::int[], :people::uuid[]) as u(id, n, person_id)`,
    { stepId, ids: list.map((a) => a.id), ns: list.map((a) => a.n), people: list.map((a) => a.personId) },
  );
export const listSteps = (db: Db | Trx, roundIds: string[]) =>
  rows<StepRow>(
    db,
    'select id, round_id, n, name, kind, meaning, rule, working_days, editing, on_reject, stage, due_on, state, opened_at, ended_at from steps where round_id = any(:roundIds::uuid[]) order by n',
    { roundIds },
    HOT,
  );
const ASSIGNMENT = `select a.id, a.step_id, a.n, a.person_id, a.state, a.opened_at, a.decision, a.comment, a.decided_at, a.decided_by, a.on_version, a.reminded_at, a.row_version,
  s.round_id, p.name as person_name, q.name as decided_by_name from assignments a join steps s on s.id = a.step_id join people p on p.id = a.person_id left join people q on q.id = a.decided_by`;
export const listAssignments = (db: Db | Trx, roundIds: string[]) =>
  rows<AssignmentRow & { round_id: string }>(
    db,
    `${ASSIGNMENT}
     where s.round_id = any(:roundIds::uuid[]) order by s.n, a.n`,
    { roundIds },
    HOT,
  );
export const findAssignment = (db: Db | Trx, id: string) =>
  firstRow<AssignmentRow & { round_id: string }>(db, `${ASSIGNMENT} where a.id = :id`, { id }, HOT);
export const openStep = (trx: Trx, s: { id: string; now: Date; due: string }) =>
  rows(
    trx,
    `update steps set state = 'open', opened_at = coalesce(opened_at, :now), due_on = coalesce(due_on, :due) where id = :id`,
    s,
  );
export const endStep = (trx: Trx, s: { id: string; state: 'done' | 'rejected' | 'not needed'; now: Date }) =>
  rows(trx, 'update steps set state = :state, ended_at = :now where id = :id', s);
export const openAssignments = (trx: Trx, ids: string[], now: Date) =>
  rows(
    trx,
    `update assignments set state = 'open', opened_at = :now, row_version = row_version + 1 where id = any(:ids::uuid[]) and state = 'waiting'`,
    { ids, now },
  );
/** A decision guards its own row: given twice, by principal and deputy, or late, the second changes nothing. */
export const answer = (
  trx: Trx,
  a: { id: string; decision: Decision; comment: string; now: Date; by: string; version: number },
) =>
  changed(
    trx,
    `update assignments set state = 'answered', decision = :decision, comment = :comment, decided_at = :now, decided_by = :by, on_version = :version, row_version = row_version + 1 where id = :id and state = 'open'`,
    a,
  );
export const closeAssignments = (trx: Trx, stepIds: string[]) =>
  rows(
    trx,
    `update assignments set state = 'not needed', row_version = row_version + 1 where step_id = any(:stepIds::uuid[]) and state in ('waiting', 'open')`,
    { stepIds },
  );
export const endRound = (trx: Trx, r: { id: string; state: 'done' | 'rejected' | 'recalled'; now: Date }) =>
  changed(
    trx,
    `update rounds set state = :state, ended_at = :now, held_up = null where id = :id and state = 'running'`,
    r,
  );
export const setHeldUp = (trx: Trx, id: string, heldUp: Refusal[] | null) =>
  rows(trx, 'update rounds set held_up = :heldUp::jsonb where id = :id', {
    id,
    heldUp: heldUp ? JSON.stringify(heldUp) : null,
  });
export const setRecord = (trx: Trx, id: string, recordId: string | null) =>
  rows(trx, 'update rounds set record_id = :recordId where id = :id', { id, recordId });
export const setStep = (trx: Trx, id: string, step: number) =>
  rows(trx, 'update rounds set step = :step where id = :id', { id, step });
/** Asks those who have answered in steps again: what they decided is in the audit trail. */
export const askAgain = (trx: Trx, stepIds: string[]) =>
  rows(
    trx,
    `update assignments set state = 'waiting', decision = null, decided_at = null, decided_by = null, comment = '', row_version = row_version + 1 where step_id = any(:stepIds::uuid[]) and state = 'answered'`,
    { stepIds },
  );
/**
 * Sets the steps of a round back from one on. Steps that ask nobody, because their condition is not met, stay out. In the steps that are
 * kept, those who agreed keep their answers.
 */
export const reopenSteps = async (trx: Trx, roundId: string, from: number, kept: readonly number[]) => {
  const of = { roundId, from, kept };
  await rows(
    trx,
    `update assignments a set state = 'waiting', decision = null, decided_at = null, decided_by = null, comment = '', row_version = row_version + 1
     from steps s where s.id = a.step_id and s.round_id = :roundId and s.n >= :from
       and not (s.n = any(:kept::int[]) and a.state = 'answered' and a.decision <> 'reject')`,
    of,
  );
  await rows(
    trx,
    `update steps set state = 'waiting', opened_at = null, ended_at = null, due_on = null
     where round_id = :roundId and n >= :from and exists (select 1 from assignments a where a.step_id = steps.id)`,
    of,
  );
};

/** Gives assignments to another person, who has still to be asked. */
export const giveAssignments = (trx: Trx, ids: string[], personId: string) =>
  rows(
    trx,
    `update assignments set person_id = :personId, state = 'waiting', opened_at = null, reminded_at = null, row_version = row_version + 1 where id = any(:ids::uuid[]) and state in ('waiting', 'open')`,
    { ids, personId },
  );
export const setDue = (trx: Trx, id: string, due: string) =>
  rows(trx, 'update steps set due_on = :due where id = :id', { id, due });

export const listDeputies = (db: Db | Trx, personIds: string[], day: string) =>
  rows<{ person_id: string; deputy_id: string; name: string }>(
    db,
    `select x.person_id, x.deputy_id, p.name from absences x join people p on p.id = x.deputy_id where x.person_id = any(:personIds::uuid[]) and x.from_day <= :day and x.to_day >= :day and p.state = 'active' and not p.outside`,
    { personIds, day },
  );
export const listPrincipals = (db: Db | Trx, personId: string, day: string) =>
  rows<{ person_id: string }>(
    db,
    `select a.person_id from absences a join people p on p.id = a.deputy_id where a.deputy_id = :personId and a.from_day <= :day and a.to_day >= :day and not p.outside`,
    { personId, day },
  );
export const noteReminded = (trx: Trx, ids: string[], now: Date) =>
  rows(trx, 'update assignments set reminded_at = :now where id = any(:ids::uuid[])', { ids, now });

export const toAnswer = (a: Pick<AssignmentRow, 'state' | 'decision'>): Answer =>
  a.state !== 'answered' ? 'open' : a.decision === 'reject' ? 'reject' : 'positive';
