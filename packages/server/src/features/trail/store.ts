import { type Db, firstRow, rows, type Trx } from '../../platform/db/connect.ts';

export type EventRow = {
  seq: number;
  at: Date;
  actor: string;
  for_name: string | null;
  kind: string;
  text: string;
  hash: string;
};
const EVENT = 'select e.seq, e.at, e.actor, e.for_name, e.kind, e.text, e.hash from events e';

/** By events_by_actor, events_by_document or events_by_kind where one of them narrows, else by the key. */
export const listEvents = (
  db: Db,
  f: {
    person?: string | undefined;
    document?: string | undefined;
    kind?: string | undefined;
    from?: string | undefined;
    to?: string | undefined;
    before?: number | undefined;
    limit: number;
  },
) =>
  rows<EventRow>(
    db,
    `${EVENT} where e.seq < coalesce(:before::bigint, 9223372036854775807)
     ${f.person ? 'and e.actor = coalesce((select sign_in_name from people where id::text = :person), :person)' : ''} ${f.kind ? 'and e.kind = :kind' : ''}
     ${f.document ? 'and e.document_id = (select id from documents where number = :document)' : ''}
     ${f.from ? 'and e.at >= :from' : ''} ${f.to ? 'and e.at < :to' : ''}
     order by e.seq desc limit :limit`,
    {
      person: f.person,
      document: f.document,
      kind: f.kind,
      from: f.from,
      to: f.to,
      before: f.before ?? null,
      limit: f.limit,
    },
  );
/** Every kind there is, one step of the index per kind instead of reading all events. */
export const listKinds = async (db: Db): Promise<string[]> =>
  (
    await rows<{ kind: string }>(
      db,
      `with recursive k as ((select kind from events order by kind limit 1) union all select (select kind from events where kind > k.kind order by kind limit 1) from k where k.kind is not null) select kind from k where kind is not null`,
    )
  ).map((row) => row.kind);
/** The sequence has no gap, so the last number is the count. */
export const countEvents = async (db: Db) =>
  (await firstRow<{ n: number }>(db, 'select coalesce(max(seq), 0) as n from events'))?.n ?? 0;
export const namesOfActors = (db: Db, names: string[]) =>
  rows<{ sign_in_name: string; name: string }>(
    db,
    'select sign_in_name, name from people where sign_in_name = any(:names::text[])',
    { names },
  );
/** The name of a person by id or sign-in name. */
export const nameOfActor = async (db: Db, person: string): Promise<string | null> =>
  (
    await firstRow<{ name: string }>(db, 'select name from people where id::text = :person or sign_in_name = :person', {
      person,
    })
  )?.name ?? null;
/**
 * Events of a document before an instant, newest first: `limit` of them and all others of the same instant as the last, for those belong
 * to one command. With kinds, the commands of which at least one event is of these kinds.
 */
export const listOfDocument = (
  db: Db,
  page: { documentId: string; kinds: readonly string[] | null; before: string | null; limit: number },
) =>
  rows<EventRow>(
    db,
    `with wanted as (
       select at from events where document_id = :documentId and (:kinds::text[] is null or kind = any(:kinds::text[]))
         and (:before::timestamptz is null or at < :before::timestamptz) order by seq desc limit :limit)
     ${EVENT} where e.document_id = :documentId and e.at in (select at from wanted) order by e.seq desc`,
    page,
  );
export const listAfter = (db: Db, after: number, limit: number) =>
  rows<{ seq: number; text: string; hash: string }>(
    db,
    'select seq, text, hash from events where seq > :after order by seq limit :limit',
    { after, limit },
  );
export const listHashesAfter = (db: Db, after: number, limit: number) =>
  rows<{ hash: string }>(db, 'select hash from events where seq > :after order by seq limit :limit', { after, limit });

export type HeadRow = {
  day: string;
  size: number;
  root: string;
  at: Date;
  key: string;
  signature: string;
  /** The roots of the full subtrees, from which the tree goes on; nothing in heads from before they were kept. */
  peaks: string[] | null;
};
export const listHeads = (db: Db) => rows<HeadRow>(db, 'select * from heads order by size');
export const findLastHead = (db: Db) => firstRow<HeadRow>(db, 'select * from heads order by size desc limit 1');
export const insertHead = (
  trx: Trx,
  h: { day: string; size: number; root: string; at: string; key: string; signature: string; peaks: string[] },
) =>
  rows(
    trx,
    `insert into heads (day, size, root, at, key, signature, peaks) values (:day, :size, :root, :at, :key, :signature, :peaks::text[])
     on conflict (size) do nothing`,
    { ...h },
  );
