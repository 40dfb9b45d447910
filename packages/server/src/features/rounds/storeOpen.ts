import type { Confidentiality, Refusal } from '@kanonos/core';
import { type Db, firstRow, HOT, rows } from '../../platform/db/connect.ts';
import { type ListScope, SEES_WORK } from '../access/index.ts';

export type OpenRoundRow = {
  id: string;
  n: number;
  document_id: string;
  folder_id: string;
  owner_id: string;
  confidentiality: Confidentiality;
  number: string;
  title: string;
  label: string;
  type_code: string;
  type_name: string;
  started_by: string;
  started_by_name: string;
  started_at: Date;
  held_up: Refusal[] | null;
  due_on: string | null;
  leads_to: 'release' | 'nothing';
  name: string;
};

/** Which open rounds are meant: those one controls, started, or supervises an awaited person in, as far as a scope sees the work. */
export type OpenRoundsOf = {
  day: string;
  controlFolders: string[];
  team: string[];
  person: string | null;
  like: string | null;
};

/** Rounds in which somebody is awaited now: found once for all, and not for each round. */
const AWAITED = `select z.round_id from assignments a join steps z on z.id = a.step_id`;

/** The open rounds that are meant: `rounds u` with `documents d`. */
const MEANT = `u.state = 'running' and d.removed_at is null and ${SEES_WORK}
  and (d.folder_id = any(:controlFolders::uuid[]) or u.started_by = :me or u.id in (${AWAITED} where a.state = 'open' and a.person_id = any(:team::uuid[])))
  and (:like::text is null or d.number ilike :like or exists (select 1 from revisions r where r.id = u.revision_id and r.title ilike :like))`;

/** What is looked for among them, and the part of the list after a place in its order: the earliest due first, then by number. */
export type OpenRoundsPart = {
  only: 'all' | 'stuck' | 'overdue';
  afterDue: string | null;
  afterNumber: string | null;
  limit: number;
};

export type LookedThrough = {
  part: { id: string; due: string; number: string }[];
  all: number;
  stuck: number;
  overdue: number;
};

/**
 * Looks through the open rounds that are meant once: a part of the list, and how many there are. Stuck is what will miss its day unless
 * somebody acts: blocked, overdue, or waiting for somebody absent without a deputy until its day or longer.
 */
export const lookThrough = async (
  db: Db,
  scope: ListScope,
  of: OpenRoundsOf,
  part: OpenRoundsPart,
): Promise<LookedThrough> => {
  const found = await firstRow<LookedThrough>(
    db,
    `with meant as materialized (
       select u.id, d.number, coalesce(s.due_on, date '9999-12-31') as due, coalesce(s.due_on < :day, false) as overdue,
         u.held_up is not null or coalesce(s.due_on < :day, false) or u.id in (
           ${AWAITED} join absences x on x.person_id = a.person_id where a.state = 'open' and x.deputy_id is null and x.from_day <= :day and x.to_day >= coalesce(z.due_on, :day)) as stuck
       from rounds u join documents d on d.id = u.document_id left join (select round_id, min(due_on) as due_on from steps where state = 'open' group by round_id) s on s.round_id = u.id
       where ${MEANT} and (:person::uuid is null or u.id in (${AWAITED} where a.state = 'open' and a.person_id = :person))),
     part as (
       select id, due, number from meant where (:only = 'all' or (:only = 'stuck' and stuck) or (:only = 'overdue' and overdue))
         and (:afterDue::date is null or (due, number collate "C") > (:afterDue::date, :afterNumber::text))
       order by due, number collate "C" limit :limit)
     select (select coalesce(json_agg(part order by due, number collate "C"), '[]') from part) as part,
       count(*)::int as "all", (count(*) filter (where stuck))::int as stuck, (count(*) filter (where overdue))::int as overdue from meant`,
    { ...scope, ...of, ...part },
    HOT,
  );
  return found ?? { part: [], all: 0, stuck: 0, overdue: 0 };
};

/** For whom the open rounds that are meant wait, whomever most wait for first. */
export const listAwaited = (db: Db, scope: ListScope, of: OpenRoundsOf) =>
  rows<{ id: string; name: string; rounds: number }>(
    db,
    `select w.id, p.name, count(*)::int as rounds from (
       select distinct a.person_id as id, s.round_id from rounds u join documents d on d.id = u.document_id
       join steps s on s.round_id = u.id and s.state = 'open' join assignments a on a.step_id = s.id and a.state = 'open' where ${MEANT}) w
     join people p on p.id = w.id group by 1, 2 order by 3 desc, 2 limit 200`,
    { ...scope, ...of },
    HOT,
  );

/** What a line of the list shows of rounds, in no order. */
export const listOpenRounds = (db: Db, ids: string[]) =>
  rows<OpenRoundRow>(
    db,
    `select u.id, u.n, d.id as document_id, d.folder_id, d.owner_id, d.confidentiality, d.number, r.title, r.label, t.code as type_code, t.name as type_name, u.started_by, p.name as started_by_name, u.started_at, u.held_up,
       (select min(s.due_on) from steps s where s.round_id = u.id and s.state = 'open') as due_on, u.leads_to, u.definition->>'name' as name
     from rounds u join revisions r on r.id = u.revision_id join documents d on d.id = u.document_id join types t on t.id = d.type_id join people p on p.id = u.started_by where u.id = any(:ids::uuid[])`,
    { ids },
  );
