import { createHash } from 'node:crypto';
import { canonicalJson } from '@kanonos/core';
import type { Actor, App } from '../../platform/app.ts';
import { type Db, firstRow, rows } from '../../platform/db/connect.ts';

export type UsageAction = 'opened' | 'downloaded' | 'handed out';

/** Records that somebody opened or took a file, stored before the answer; reloads within a minute count once. */
export const recordUsage = (
  app: App,
  use: {
    personId: string;
    documentId: string;
    revisionId: string;
    version: number;
    fileId: string;
    action: UsageAction;
  },
) =>
  rows(
    app.db,
    `insert into usage (at, person_id, document_id, revision_id, version, file_id, action)
     select :now, :personId, :documentId, :revisionId, :version, :fileId, :action
     where not exists (select 1 from usage where document_id = :documentId and person_id = :personId and file_id = :fileId and action = :action and at > :now::timestamptz - interval '1 minute')`,
    { ...use, now: app.clock() },
  );

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
  rows<{ document_id: string; number: string; title: string; label: string; at: Date }>(
    db,
    `select d.id as document_id, d.number, r.title, r.label, l.at from (
       select document_id, max(at) as at, (array_agg(revision_id order by at desc))[1] as revision_id
       from (select * from usage where person_id = :personId order by at desc limit 200) u group by document_id) l
     join documents d on d.id = l.document_id join revisions r on r.id = l.revision_id
     where d.id <> all(:hidden::uuid[]) and d.removed_at is null order by l.at desc limit 6`,
    { personId, hidden },
  );

const SEAL_BATCH = 50_000;

/** Seals stored lines: one event with their count and SHA-256, so that who has seen what is provable without a lock each. */
export const sealUsage = (app: App, actor: Actor): Promise<number> =>
  app.command(actor, async (work) => {
    const lines = await rows<{
      id: number;
      at: Date;
      person_id: string;
      document_id: string;
      revision_id: string;
      version: number;
      action: string;
    }>(
      work.trx,
      'select id, at, person_id, document_id, revision_id, version, action from usage where sealed_by is null order by id limit :limit for update',
      { limit: SEAL_BATCH },
    );
    if (lines.length === 0) return 0;
    const hash = createHash('sha256');
    for (const line of lines) hash.update(`${canonicalJson({ ...line, at: line.at.toISOString() })}\n`);
    const [first, last] = [lines[0]?.id ?? 0, lines.at(-1)?.id ?? 0];
    await rows(work.trx, 'update usage set sealed_by = :last where id between :first and :last and sealed_by is null', {
      first,
      last,
    });
    work.record({
      kind: 'usage.sealed',
      subject: {},
      payload: { first, last, lines: lines.length, sha256: hash.digest('hex') },
    });
    return lines.length;
  });
