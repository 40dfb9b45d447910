import type { Confidentiality, RequestState } from '@kanonos/core';
import { type Db, firstRow, rows, type Trx } from '../../platform/db/connect.ts';

export type RequestRow = {
  id: string;
  number: string;
  document_id: string;
  folder_id: string;
  owner_id: string;
  confidentiality: Confidentiality;
  document_number: string;
  title: string;
  label: string;
  place: string;
  what: string;
  proposal: string;
  file_name: string | null;
  sha256: string | null;
  /** The record of the form that it was sent with. */
  record_id: string | null;
  by_id: string;
  by_name: string;
  at: Date;
  state: RequestState;
  answer: string;
  into: string | null;
  answered_by: string | null;
  answered_at: Date | null;
};

const REQUESTS = `select q.id, q.number, q.document_id, d.folder_id, d.owner_id, d.confidentiality, d.number as document_number, r.title, r.label, q.place, q.what,
    q.proposal, q.file_name, q.sha256, (select r.id from form_records r where r.request_id = q.id) as record_id, q.by_id, p.name as by_name, q.at, q.state, q.answer, coalesce(n.number, m.number) as into, a.name as answered_by, q.answered_at
  from change_requests q join documents d on d.id = q.document_id join revisions r on r.id = q.revision_id join people p on p.id = q.by_id
  left join documents n on n.id = q.note_id left join change_requests m on m.id = q.merged_into left join people a on a.id = q.answered_by`;

/** The newest requests, the open ones first. */
export const listRequests = (db: Db) =>
  rows<RequestRow>(db, `${REQUESTS} order by q.state <> 'open', q.at desc, q.number limit 500`, {});
export const listOpenRequests = (db: Db) =>
  rows<RequestRow>(db, `${REQUESTS} where q.state = 'open' order by q.at limit 500`, {});
export const findRequest = (db: Db | Trx, id: string) =>
  firstRow<RequestRow>(db, `${REQUESTS} where q.id = :id`, { id });
export const findRequestByNumber = (db: Db | Trx, number: string) =>
  firstRow<RequestRow>(db, `${REQUESTS} where q.number = :number`, { number });

const COUNTER_LOCK = 7_204_121;
/** The next number of a year; whoever comes at the same moment waits. */
export const nextOfYear = async (trx: Trx, year: number): Promise<number> => {
  await rows(trx, 'select pg_advisory_xact_lock(:lock, :year)', { lock: COUNTER_LOCK, year });
  return (
    (
      await firstRow<{ n: number }>(
        trx,
        'select coalesce(max(n), 0) + 1 as n from change_requests where year = :year',
        { year },
      )
    )?.n ?? 1
  );
};
export const insertRequest = (
  trx: Trx,
  request: {
    id: string;
    year: number;
    n: number;
    number: string;
    documentId: string;
    revisionId: string;
    place: string;
    what: string;
    proposal: string;
    fileName: string | null;
    sha256: string | null;
    by: string;
    now: Date;
  },
) =>
  rows(
    trx,
    `insert into change_requests (id, year, n, number, document_id, revision_id, place, what, proposal, file_name, sha256, by_id, at)
     values (:id, :year, :n, :number, :documentId, :revisionId, :place, :what, :proposal, :fileName, :sha256, :by, :now)`,
    request,
  );
export const updateAnswered = (
  trx: Trx,
  answered: {
    id: string;
    state: RequestState;
    answer: string;
    noteId: string | null;
    mergedInto: string | null;
    by: string;
    now: Date;
  },
) =>
  rows(
    trx,
    `update change_requests set state = :state, answer = :answer, note_id = :noteId, merged_into = :mergedInto, answered_by = :by, answered_at = :now where id = :id`,
    answered,
  );

/** Who asked for what a note brings: the senders of its requests, and of those that were merged into them. */
export const listSendersOf = async (db: Db | Trx, noteId: string): Promise<string[]> =>
  (
    await rows<{ by_id: string }>(
      db,
      `select distinct q.by_id from change_requests q left join change_requests m on m.id = q.merged_into where q.note_id = :noteId or m.note_id = :noteId`,
      { noteId },
    )
  ).map((row) => row.by_id);
export const findContent = (db: Db, sha256: string) =>
  firstRow<{ sha256: string; size: number; mediaType: string }>(
    db,
    'select sha256, size, media_type as "mediaType" from contents where sha256 = :sha256',
    { sha256 },
  );
