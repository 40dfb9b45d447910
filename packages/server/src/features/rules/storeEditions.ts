import type { RetiredScope } from '@kanonos/core';
import { changed, type Db, firstRow, rows, type Trx } from '../../platform/db/connect.ts';
import { newId } from '../../platform/db/ids.ts';

/** Kinds of rules that are kept by editions. */
export type EditionKind = 'type' | 'list' | 'lookup' | 'organisation' | 'blueprint';
export type EditionRow = {
  n: number;
  value: Record<string, unknown>;
  reason: string;
  at: Date;
  by_name: string | null;
};

export const insertEdition = (
  trx: Trx,
  edition: { kind: EditionKind; subjectId: string; value: unknown; reason: string; by: string | null; now: Date },
) =>
  rows(
    trx,
    `insert into rule_editions (id, kind, subject_id, n, value, reason, by_id, at)
     select :id, :kind, :subjectId, coalesce(max(n), 0) + 1, :value::jsonb, :reason, :by, :now
     from rule_editions where kind = :kind and subject_id = :subjectId`,
    { ...edition, id: newId(), value: JSON.stringify(edition.value) },
  );

export const listEditions = (db: Db | Trx, kind: EditionKind, subjectId: string) =>
  rows<EditionRow>(
    db,
    `select e.n, e.value, e.reason, e.at, p.name as by_name from rule_editions e left join people p on p.id = e.by_id
     where e.kind = :kind and e.subject_id = :subjectId order by e.n desc limit 200`,
    { kind, subjectId },
  );

/** All editions of a kind of rule, the newest of each subject first. */
export const listEditionsOfKind = (db: Db | Trx, kind: EditionKind) =>
  rows<EditionRow & { subject_id: string }>(
    db,
    `select e.subject_id, e.n, e.value, e.reason, e.at, p.name as by_name from rule_editions e left join people p on p.id = e.by_id
     where e.kind = :kind order by e.subject_id, e.n desc`,
    { kind },
  );

export const listRetired = (db: Db | Trx) =>
  rows<RetiredScope>(db, 'select scope, rule, codes, last from retired_scopes order by scope, rule');

/** Keeps an abandoned scope; abandoned again it has the later last number. */
export const insertRetired = (trx: Trx, scope: RetiredScope & { now: Date }) =>
  rows(
    trx,
    `insert into retired_scopes (scope, rule, codes, last, at) values (:scope, :rule, :codes::jsonb, :last, :now)
     on conflict (scope, rule) do update set last = greatest(retired_scopes.last, excluded.last), codes = excluded.codes`,
    { ...scope, codes: JSON.stringify(scope.codes) },
  );

export const deleteRetired = (trx: Trx, by: { scope: string; rule: string }) =>
  changed(trx, 'delete from retired_scopes where scope = :scope and rule = :rule', by);

export const listBegun = (db: Db | Trx) =>
  rows<{ scope: string; last: number }>(db, 'select scope, last from counters where last > 0');

export type PlannedRow = {
  id: string;
  type_id: string;
  value: Record<string, unknown>;
  reason: string;
  from_day: string;
  by_id: string;
  by_name: string;
  blocked_reason: string | null;
};
const PLANNED = `select q.id, q.type_id, q.value, q.reason, q.from_day, q.by_id, p.name as by_name, q.blocked_reason
  from planned_rules q join people p on p.id = q.by_id where q.ended_at is null`;
export const findPlanned = (db: Db | Trx, typeId: string) =>
  firstRow<PlannedRow>(db, `${PLANNED} and q.type_id = :typeId`, { typeId });
export const listPlanned = (db: Db | Trx) => rows<PlannedRow>(db, PLANNED);
export const listDuePlans = (db: Db | Trx, day: string) =>
  rows<PlannedRow>(db, `${PLANNED} and q.from_day <= :day::date order by q.from_day`, { day });
export const insertPlanned = (
  trx: Trx,
  plan: { typeId: string; value: unknown; reason: string; from: string; by: string; now: Date },
) =>
  rows(
    trx,
    `insert into planned_rules (id, type_id, value, reason, from_day, by_id, at) values (:id, :typeId, :value::jsonb, :reason, :from, :by, :now)`,
    { ...plan, id: newId(), value: JSON.stringify(plan.value) },
  );
export const endPlanned = (trx: Trx, by: { id: string; how: 'applied' | 'dropped'; now: Date }) =>
  changed(
    trx,
    'update planned_rules set ended_at = :now, ended_how = :how, blocked_reason = null where id = :id and ended_at is null',
    by,
  );
export const blockPlanned = (trx: Trx, by: { id: string; why: string }) =>
  changed(
    trx,
    'update planned_rules set blocked_reason = :why where id = :id and blocked_reason is distinct from :why',
    by,
  );

export const lockRulesShared = (db: Trx, given: { lock: number }) =>
  firstRow(db, 'select pg_advisory_xact_lock_shared(:lock)', given);

export const lockRules = (db: Trx, given: { lock: number }) => rows(db, 'select pg_advisory_xact_lock(:lock)', given);
