import type { Trx } from '../../platform/db/connect.ts';
import { type Db, firstRow, rows } from '../../platform/db/connect.ts';

/** Which of some contents a person has opened or taken as files of a document, by hash. */
export const openedHashes = async (
  db: Db,
  by: { personId: string; documentId: string; hashes: readonly string[] },
): Promise<Set<string>> =>
  new Set(
    (
      await rows<{ sha256: string }>(
        db,
        `select distinct f.sha256 from usage u join version_files f on f.id = u.file_id
         where u.document_id = :documentId and u.person_id = :personId and f.sha256 = any(:hashes::text[])`,
        by,
      )
    ).map((row) => row.sha256),
  );

export const listUsage = (db: Db, documentId: string) =>
  rows<{ at: Date; person: string; action: string; label: string; version: number }>(
    db,
    `select u.at, p.name as person, u.action, r.label, u.version from usage u join people p on p.id = u.person_id join revisions r on r.id = u.revision_id
     where u.document_id = :documentId order by u.at desc limit 500`,
    { documentId },
  );

export const countUsage = async (db: Db, documentId: string) =>
  (
    await firstRow<{ n: number }>(db, 'select count(*)::int as n from usage where document_id = :documentId', {
      documentId,
    })
  )?.n ?? 0;

export const recentlyOpened = (db: Db, personId: string, hidden: readonly string[]) =>
  rows<{ document_id: string; number: string; title: string; label: string; at: Date; on_hold: boolean }>(
    db,
    `select d.id as document_id, d.number, r.title, r.label, l.at, d.hold is not null and r.state = 'in force' as on_hold from (
       select document_id, max(at) as at, (array_agg(revision_id order by at desc))[1] as revision_id
       from (select * from usage where person_id = :personId order by at desc limit 200) u group by document_id) l
     join documents d on d.id = l.document_id join revisions r on r.id = l.revision_id
     where d.id <> all(:hidden::uuid[]) and d.removed_at is null order by l.at desc limit 6`,
    { personId, hidden },
  );

export const insertUsage = (
  db: Db | Trx,
  given: {
    now: Date;
    personId: string;
    documentId: string;
    revisionId: string;
    version: number;
    fileId: string;
    action: string;
  },
) =>
  rows(
    db,
    `insert into usage (at, person_id, document_id, revision_id, version, file_id, action)
     select :now, :personId, :documentId, :revisionId, :version, :fileId, :action
     where not exists (select 1 from usage where document_id = :documentId and person_id = :personId and file_id = :fileId and action = :action and at > :now::timestamptz - interval '1 minute')`,
    given,
  );

export const listUnsealed = (db: Trx, given: { limit: number }) =>
  rows<{
    id: number;
    at: Date;
    person_id: string;
    document_id: string;
    revision_id: string;
    version: number;
    action: string;
  }>(
    db,
    'select id, at, person_id, document_id, revision_id, version, action from usage where sealed_by is null order by id limit :limit for update',
    given,
  );

export const setSealed = (db: Trx, given: { first: number; last: number }) =>
  rows(db, 'update usage set sealed_by = :last where id between :first and :last and sealed_by is null', given);
