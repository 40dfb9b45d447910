import type { EventKind, Occasion, Refusal } from '@kanonos/core';
import { changed, type Db, firstRow, rows, type Trx } from '../../platform/db/connect.ts';

export type RuleRow = {
  id: string;
  name: string;
  type_id: string;
  type_code: string;
  type_name: string;
  folder_id: string | null;
  folder_name: string | null;
  occasion: Occasion;
  condition: string | null;
  route: string;
  responsible_id: string;
  responsible_name: string;
  active: boolean;
  row_version: number;
  checked_seq: string;
  checked_to: string;
  started: number;
  failed: number;
  last: Date | null;
};

const RULES = `select r.id, r.name, r.type_id, t.code as type_code, t.name as type_name, r.folder_id, f.name as folder_name, r.occasion, r.condition, r.route,
    r.responsible_id, p.name as responsible_name, r.active, r.row_version, r.checked_seq, r.checked_to,
    (select count(round_id)::int from round_rule_starts s where s.rule_id = r.id) as started,
    (select count(*)::int from round_rule_starts s where s.rule_id = r.id and s.round_id is null) as failed,
    (select max(at) from round_rule_starts s where s.rule_id = r.id and s.round_id is not null) as last
  from round_rules r join types t on t.id = r.type_id left join folders f on f.id = r.folder_id join people p on p.id = r.responsible_id
  where r.removed_at is null`;

export const listRules = (db: Db | Trx) => rows<RuleRow>(db, `${RULES} order by lower(r.name)`);
export const findRule = (db: Db | Trx, id: string) => firstRow<RuleRow>(db, `${RULES} and r.id = :id`, { id });
export const lockRule = (trx: Trx, id: string) =>
  rows(trx, 'select 1 from round_rules where id = :id and removed_at is null for update', { id });

export type RuleValues = {
  id: string;
  name: string;
  typeId: string;
  folderId: string | null;
  occasion: Occasion;
  condition: string | null;
  route: string;
  responsibleId: string;
  active: boolean;
  checkedSeq: string;
  checkedTo: string;
};
const asRow = ({ occasion, ...rule }: RuleValues) => ({ ...rule, occasion: JSON.stringify(occasion) });
export const insertRule = (trx: Trx, rule: RuleValues) =>
  rows(
    trx,
    `insert into round_rules (id, name, type_id, folder_id, occasion, condition, route, responsible_id, active, checked_seq, checked_to)
     values (:id, :name, :typeId, :folderId, :occasion::jsonb, :condition, :route, :responsibleId, :active, :checkedSeq, :checkedTo)`,
    asRow(rule),
  );
export const updateRule = (trx: Trx, rule: RuleValues) =>
  changed(
    trx,
    `update round_rules set name = :name, type_id = :typeId, folder_id = :folderId, occasion = :occasion::jsonb, condition = :condition, route = :route,
       responsible_id = :responsibleId, active = :active, checked_seq = :checkedSeq, checked_to = :checkedTo, row_version = row_version + 1 where id = :id`,
    asRow(rule),
  );
export const removeRule = (trx: Trx, of: { id: string; now: Date }) =>
  changed(
    trx,
    'update round_rules set removed_at = :now, active = false, row_version = row_version + 1 where id = :id',
    of,
  );

/** How far a rule has looked. Never backwards: another process may have looked further. */
export const advanceRule = (db: Db | Trx, of: { id: string; seq: string; day: string }) =>
  changed(
    db,
    'update round_rules set checked_seq = greatest(checked_seq, :seq), checked_to = greatest(checked_to, :day::date) where id = :id',
    of,
  );

export const newestSeq = async (db: Db | Trx): Promise<string> =>
  (await firstRow<{ seq: string }>(db, 'select coalesce(max(seq), 0)::text as seq from events'))?.seq ?? '0';
/** The last event before a moment. */
export const seqBefore = async (db: Db, moment: Date): Promise<string> =>
  (
    await firstRow<{ seq: string }>(db, 'select coalesce(max(seq), 0)::text as seq from events where at < :moment', {
      moment,
    })
  )?.seq ?? '0';

/** The documents that a rule is about. */
const CONCERNED = `d.type_id = :typeId and d.removed_at is null
  and (:folderId::uuid is null or exists (select 1 from folders f where f.id = d.folder_id and :folderId::uuid = any(f.path)))`;

export type Concerned = { typeId: string; folderId: string | null };
export type EventRow = {
  document_id: string;
  number: string;
  revision_id: string | null;
  seq: string;
  at: Date;
  kind: EventKind;
  payload: unknown;
};
/** Events after one, up to one, on documents that a rule is about; the newest last. */
export const listEvents = (
  db: Db,
  of: Concerned & { kinds: readonly EventKind[]; after: string; until: string; limit: number },
) =>
  rows<EventRow>(
    db,
    `select d.id as document_id, d.number, e.revision_id, e.seq::text, e.at, e.kind, (e.text::jsonb)->'payload' as payload
     from events e join documents d on d.id = e.document_id
     where e.seq > :after::bigint and e.seq <= :until::bigint and e.kind = any(:kinds::text[]) and ${CONCERNED} order by e.seq limit :limit`,
    of,
  );

export type DueRow = { document_id: string; number: string; value: string };
/** Documents whose day field has a value from one day to another. */
export const listDue = (db: Db, of: Concerned & { field: string; first: string; last: string; limit: number }) =>
  rows<DueRow>(
    db,
    `select d.id as document_id, d.number, v.value from documents d join revisions r on r.id = coalesce((select i.id from revisions i where i.document_id = d.id and i.state = 'in force'), d.newest_revision_id)
     cross join lateral (select coalesce(r.metadata->>:field, d.metadata->>:field) as value) v
     where ${CONCERNED} and d.newest_state <> 'withdrawn' and v.value between :first and :last order by v.value, d.number limit :limit`,
    of,
  );

export const findStart = (db: Db | Trx, of: { ruleId: string; documentId: string; occasion: string }) =>
  firstRow(
    db,
    'select 1 from round_rule_starts where rule_id = :ruleId and document_id = :documentId and occasion = :occasion',
    of,
  );
export const hasRunningRound = async (trx: Trx, of: { ruleId: string; documentId: string }): Promise<boolean> =>
  (await firstRow(
    trx,
    `select 1 from round_rule_starts s join rounds u on u.id = s.round_id where s.rule_id = :ruleId and s.document_id = :documentId and u.state = 'running' limit 1`,
    of,
  )) !== undefined;
export const insertStart = (
  trx: Trx,
  start: {
    ruleId: string;
    documentId: string;
    occasion: string;
    now: Date;
    roundId: string | null;
    problems: readonly Refusal[] | null;
  },
) =>
  rows(
    trx,
    `insert into round_rule_starts (rule_id, document_id, occasion, at, round_id, problems) values (:ruleId, :documentId, :occasion, :now, :roundId, :problems::jsonb)
     on conflict do nothing`,
    { ...start, problems: start.problems && JSON.stringify(start.problems) },
  );

export type StartRow = { document_id: string; at: Date; occasion: string; problems: Refusal[] | null; asks: string[] };
/** What a rule did, the newest first, with whom a round asked in its first steps. */
export const listStarts = (db: Db, ruleId: string, limit: number) =>
  rows<StartRow>(
    db,
    `select s.document_id, s.at, s.occasion, s.problems,
       array(select distinct p.name from assignments a join steps t on t.id = a.step_id join people p on p.id = a.person_id where t.round_id = s.round_id order by p.name) as asks
     from round_rule_starts s where s.rule_id = :ruleId order by s.at desc, s.occasion limit :limit`,
    { ruleId, limit },
  );
