import { changed, type Db, firstRow, rows, type Trx } from '../../platform/db/connect.ts';

export type CounterRow = {
  scope: string;
  last: number;
  startedAt: number;
  given: number;
  takenOver: number;
  gaps: [number, number][];
};

/**
 * What each scope has counted: how many numbers were given since it began in the organisation, how many of those before came in by taking
 * over, and the numbers since the beginning that nothing accounts for.
 */
export const listCounters = (db: Db) =>
  rows<CounterRow>(
    db,
    `with steps as (
       select n.scope, n.counter, n.counter > c.started_at as own,
              coalesce(lag(n.counter) over (partition by n.scope, n.counter > c.started_at order by n.counter), c.started_at) as before
       from numbers n join counters c on c.scope = n.scope
     ), counted as (
       select scope, count(*) filter (where own)::int as given, count(*) filter (where not own)::int as taken_over,
              max(counter) filter (where own) as highest,
              (jsonb_agg(jsonb_build_array(before + 1, counter - 1) order by counter)
                filter (where own and counter > before + 1)) as gaps
       from steps group by scope
     )
     select c.scope, c.last, c.started_at as "startedAt", coalesce(k.given, 0) as given,
            coalesce(k.taken_over, 0) as "takenOver",
            coalesce(jsonb_path_query_array(
              coalesce(k.gaps, '[]') ||
              case when coalesce(k.highest, c.started_at) < c.last
                   then jsonb_build_array(jsonb_build_array(coalesce(k.highest, c.started_at) + 1, c.last)) else '[]' end,
              '$[0 to 19]'), '[]') as gaps
     from counters c left join counted k on k.scope = c.scope
     order by c.scope limit 5000`,
  );

/** Begins a counter after a number; 0 when it has begun already. */
export const insertCounter = (trx: Trx, by: { scope: string; last: number }) =>
  changed(
    trx,
    'insert into counters (scope, last, started_at) values (:scope, :last, :last) on conflict (scope) do nothing',
    by,
  );

export const insertReservation = (
  trx: Trx,
  r: {
    id: string;
    typeId: string;
    scope: string;
    first: number;
    last: number;
    forPersonId: string;
    reason: string;
    until: string;
    by: string;
    now: Date;
  },
) =>
  rows(
    trx,
    `insert into reservations (id, type_id, scope, first, last, for_person_id, reason, until_day, by_id, at)
     values (:id, :typeId, :scope, :first, :last, :forPersonId, :reason, :until, :by, :now)`,
    r,
  );

export const insertReserved = (
  trx: Trx,
  r: { reservationId: string; scope: string; folded: string[]; numbers: string[]; counters: number[] },
) =>
  rows(
    trx,
    `insert into numbers (folded, number, state, scope, counter, reservation_id)
     select n.folded, n.number, 'reserved', :scope, n.counter, :reservationId
     from unnest(:folded::text[], :numbers::text[], :counters::bigint[]) n(folded, number, counter)`,
    r,
  );

export type ReservationRow = {
  id: string;
  type_id: string;
  type_code: string;
  type_name: string;
  first_number: string;
  last_number: string;
  count: number;
  open: number;
  for_id: string;
  for_name: string;
  by_id: string;
  by_name: string;
  at: Date;
  reason: string;
  until_day: string;
  ended_why: string | null;
};
export const listReservations = (db: Db) =>
  rows<ReservationRow>(
    db,
    `select r.id, t.id as type_id, t.code as type_code, t.name as type_name, p.id as for_id, p.name as for_name, q.id as by_id, q.name as by_name, r.at, r.reason, r.until_day, r.ended_why,
       n.first_number, n.last_number, n.count, n.open
     from reservations r join types t on t.id = r.type_id join people p on p.id = r.for_person_id join people q on q.id = r.by_id
     join lateral (select count(*)::int as count, count(*) filter (where state = 'reserved')::int as open,
       (array_agg(number order by counter))[1] as first_number, (array_agg(number order by counter desc))[1] as last_number
       from numbers where reservation_id = r.id) n on true
     order by r.ended_at is not null, r.until_day, r.at desc limit 500`,
  );
export const listVoids = (db: Db) =>
  rows<{ number: string; reason: string }>(
    db,
    `select number, reason from numbers where state = 'void' order by folded limit 1000`,
  );

export const findOpenReservation = (trx: Trx, id: string) =>
  firstRow<{ id: string; scope: string; ended_at: Date | null }>(
    trx,
    'select id, scope, ended_at from reservations where id = :id for update',
    { id },
  );
export const endReservation = (trx: Trx, by: { id: string; now: Date; why: string }) =>
  rows(trx, 'update reservations set ended_at = :now, ended_why = :why where id = :id', by);
/** Unused numbers of a reservation become void, each with the reason. */
export const voidUnused = (trx: Trx, by: { id: string; why: string }) =>
  changed(
    trx,
    `update numbers set state = 'void', reason = :why where reservation_id = :id and state = 'reserved'`,
    by,
  );
export const listRunOut = (db: Db, day: string) =>
  rows<{ id: string }>(db, 'select id from reservations where ended_at is null and until_day < :day', { day });

/** Which of some numbers are taken, with the title where `visible` (a condition on documents d) allows it. */
export const listKnown = (db: Db, folded: string[], visible: string, bindings: Record<string, unknown>) =>
  rows<{
    folded: string;
    state: 'taken' | 'void' | 'reserved';
    reason: string | null;
    title: string | null;
    for_name: string | null;
    until_day: string | null;
  }>(
    db,
    `select n.folded, n.state, n.reason, case when ${visible} then coalesce(d.newest_title, d.public_title) end as title, p.name as for_name, r.until_day
     from numbers n left join documents d on d.id = n.document_id left join reservations r on r.id = n.reservation_id left join people p on p.id = r.for_person_id
     where n.folded = any(:folded::text[])`,
    { ...bindings, folded },
  );
