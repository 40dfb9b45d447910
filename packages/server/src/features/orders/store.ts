import type { Confidentiality, OrderEnd, OrderKind, RevisionState } from '@kanonos/core';
import { changed, type Db, firstRow, rows, type Trx } from '../../platform/db/connect.ts';

export type OrderRow = {
  id: string;
  number: string;
  kind: OrderKind;
  document_id: string | null;
  document_number: string | null;
  document_title: string | null;
  owner_id: string | null;
  confidentiality: Confidentiality | null;
  label: string | null;
  state: RevisionState | null;
  on_hold: boolean | null;
  type_code: string;
  type_name: string;
  folder_id: string;
  title: string | null;
  reserved_number: string | null;
  reservation_id: string | null;
  why: string;
  assignee_id: string;
  assignee_name: string;
  due_on: string;
  by_id: string;
  by_name: string;
  at: Date;
  ended: OrderEnd | null;
  ended_reason: string | null;
};

/** What was ordered is found by its number, and how far it is by the revision that was begun for it, or was a draft by then. */
const ORDERS = `select o.id, o.number, o.kind, d.id as document_id, d.number as document_number, d.newest_title as document_title, d.owner_id, d.confidentiality, d.hold is not null as on_hold, r.label, r.state,
    t.code as type_code, t.name as type_name, coalesce(d.folder_id, o.folder_id) as folder_id, o.title, o.reserved_number, o.reservation_id, o.why,
    o.assignee_id, a.name as assignee_name, o.due_on, o.by_id, b.name as by_name, o.at, o.ended, o.ended_reason
  from orders o left join documents d on d.id = o.document_id or (o.kind = 'write' and o.reserved_number is not null and d.number = o.reserved_number)
  join types t on t.id = coalesce(d.type_id, o.type_id) join people a on a.id = o.assignee_id join people b on b.id = o.by_id
  left join lateral (select label, state from revisions where document_id = d.id and state <> 'abandoned' and ordinal > o.after_ordinal
    order by ordinal desc limit 1) r on true`;

/** Orders that have not ended, and the last of those that have; the earliest due first. */
export const listOrders = (db: Db | Trx, all: boolean) =>
  rows<OrderRow>(db, `${ORDERS} where o.ended is null or :all order by o.due_on, o.number limit 1000`, { all });
export const listOrdersOf = (db: Db | Trx, documentId: string) =>
  rows<OrderRow>(db, `${ORDERS} where o.document_id = :documentId and o.ended is null order by o.due_on`, {
    documentId,
  });
export const listOrdersFor = (db: Db | Trx, personId: string) =>
  rows<OrderRow>(
    db,
    `${ORDERS} where o.ended is null and (o.assignee_id = :personId or o.by_id = :personId) order by o.due_on, o.number limit 200`,
    { personId },
  );
export const findOrder = (db: Db | Trx, id: string) => firstRow<OrderRow>(db, `${ORDERS} where o.id = :id`, { id });
export const lockOrder = (trx: Trx, id: string) => rows(trx, 'select 1 from orders where id = :id for update', { id });

const COUNTER_LOCK = 7_204_122;
/** The next number of a year; whoever comes at the same moment waits. */
export const nextOfYear = async (trx: Trx, year: number): Promise<number> => {
  await rows(trx, 'select pg_advisory_xact_lock(:lock, :year)', { lock: COUNTER_LOCK, year });
  const found = await firstRow<{ n: number }>(
    trx,
    'select coalesce(max(n), 0) + 1 as n from orders where year = :year',
    { year },
  );
  return found?.n ?? 1;
};
export const insertOrder = (
  trx: Trx,
  order: {
    id: string;
    year: number;
    n: number;
    number: string;
    kind: OrderKind;
    documentId: string | null;
    afterOrdinal: number;
    typeId: string | null;
    folderId: string | null;
    title: string | null;
    reservedNumber: string | null;
    reservationId: string | null;
    why: string;
    assigneeId: string;
    dueOn: string;
    by: string;
    now: Date;
  },
) =>
  rows(
    trx,
    `insert into orders (id, year, n, number, kind, document_id, after_ordinal, type_id, folder_id, title, reserved_number, reservation_id, why, assignee_id, due_on, by_id, at)
     values (:id, :year, :n, :number, :kind, :documentId, :afterOrdinal, :typeId, :folderId, :title, :reservedNumber, :reservationId, :why, :assigneeId, :dueOn, :by, :now)`,
    order,
  );
export const updateOrder = (trx: Trx, order: { id: string; assigneeId: string; dueOn: string }) =>
  changed(trx, 'update orders set assignee_id = :assigneeId, due_on = :dueOn where id = :id', order);
export const endOrder = (trx: Trx, by: { id: string; how: OrderEnd; reason: string; now: Date }) =>
  changed(
    trx,
    'update orders set ended = :how, ended_reason = :reason, ended_at = :now where id = :id and ended is null',
    by,
  );
