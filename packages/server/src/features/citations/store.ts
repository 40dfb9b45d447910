import type { RevisionScheme } from '@kanonos/core';
import { type Db, rows, type Trx } from '../../platform/db/connect.ts';
import { SEES, SEES_WORK } from '../access/index.ts';

export const listNotCited = (db: Db, by: { limit: number; longest: number; now: Date }) =>
  rows<{ sha256: string; text: string }>(
    db,
    `select sha256, left(text, :longest) as text from texts where not cited
       and not exists (select 1 from failed_work w where w.kind = 'citations of a text' and w.subject = texts.sha256 and (w.set_aside or w.next_at > :now)) order by sha256 limit :limit`,
    by,
  );

export type Found = { n: number; folded: string; number: string; label: string | null; times: number; excerpt: string };
export const keepCitations = async (trx: Trx, sha256: string, found: readonly Found[]): Promise<void> => {
  await rows(trx, 'delete from citations where sha256 = :sha256', { sha256 });
  await rows(
    trx,
    `insert into citations (sha256, n, folded, number, label, times, excerpt)
     select :sha256, f.n, f.folded, f.number, f.label, f.times, f.excerpt
     from jsonb_to_recordset(:found::jsonb) f(n int, folded text, number text, label text, times int, excerpt text)`,
    { sha256, found: JSON.stringify(found) },
  );
  await rows(trx, 'update texts set cited = true where sha256 = :sha256', { sha256 });
};

export const listCitationsOf = (db: Db, revisionId: string) =>
  rows<{ folded: string; number: string; label: string | null; times: number; excerpt: string; cited: boolean }>(
    db,
    `select c.folded, c.number, c.label, sum(c.times)::int as times, min(c.excerpt) as excerpt
     from revisions r join version_files f on f.version_id = r.latest_version_id and f.role = 'original' join citations c on c.sha256 = f.sha256
     where r.id = :revisionId group by 1, 2, 3 order by c.number, c.label nulls first`,
    { revisionId },
  );

/** Whether every text of a revision's last version has been looked through. */
export const isComplete = async (db: Db, revisionId: string): Promise<boolean> =>
  (
    await rows(
      db,
      `select 1 from revisions r join version_files f on f.version_id = r.latest_version_id and f.role = 'original' join contents k on k.sha256 = f.sha256 left join texts t on t.sha256 = f.sha256
       where r.id = :revisionId and (k.text_state = 'waiting' or not coalesce(t.cited, true)) limit 1`,
      { revisionId },
    )
  ).length === 0;

/** A document as citations see it, in what of it a viewer may see. */
export type Target = {
  id: string;
  folded: string;
  number: string;
  title: string;
  label: string;
  state: string;
  on_hold: boolean;
  scheme: RevisionScheme;
  labels: string[];
  in_force: string | null;
  ever: boolean;
  withdrawn: boolean;
};
const TARGET = `d.id, d.number, case when ${SEES_WORK} then d.newest_title else d.public_title end as title, case when ${SEES_WORK} then d.newest_label else d.public_label end as label,
  case when ${SEES_WORK} then d.newest_state else d.public_state end as state, d.hold is not null as on_hold, t.scheme,
  array(select r.label from revisions r where r.document_id = d.id and r.state <> 'abandoned' and (${SEES_WORK} or r.state in ('in force', 'superseded', 'withdrawn')) order by r.ordinal) as labels,
  (select r.label from revisions r where r.document_id = d.id and r.state = 'in force') as in_force,
  exists (select 1 from periods p where p.document_id = d.id) as ever, coalesce(d.public_state = 'withdrawn', false) as withdrawn`;
const VISIBLE = `d.removed_at is null and (${SEES_WORK} or (${SEES} and d.public_state is not null))`;

export const listTargets = (db: Db, folded: string[], scope: Record<string, unknown>) =>
  rows<Target>(
    db,
    `select n.folded, ${TARGET} from numbers n join documents d on d.id = n.document_id join types t on t.id = d.type_id
     where n.folded = any(:folded::text[]) and ${VISIBLE}`,
    { folded, ...scope },
  );

export type Edge = {
  from_id: string;
  to_id: string;
  number: string;
  title: string;
  label: string;
  state: string;
  on_hold: boolean;
  cited_label: string | null;
  excerpt: string;
};
/** What hangs on any of some documents by a link that somebody set, or as their child. */
export const listHanging = (db: Db, ids: string[], scope: Record<string, unknown>, limit: number) =>
  rows<Edge>(
    db,
    `select h.from_id, h.to_id, d.number, case when ${SEES_WORK} then d.newest_title else d.public_title end as title,
       case when ${SEES_WORK} then d.newest_label else d.public_label end as label,
       case when ${SEES_WORK} then d.newest_state else d.public_state end as state, d.hold is not null as on_hold, null as cited_label, '' as excerpt
     from (select l.document_id as from_id, l.to_document_id as to_id from links l where l.to_document_id = any(:ids::uuid[]) and l.ended_at is null
       union select c.id, c.parent_id from documents c where c.parent_id = any(:ids::uuid[])) h
     join documents d on d.id = h.from_id where ${VISIBLE} limit :limit`,
    { ids, limit, ...scope },
  );

/** What cites any of some documents: the revision that applies, and the newest one for who may read work. */
export const listCiting = (db: Db, ids: string[], scope: Record<string, unknown>, limit: number) =>
  rows<Edge>(
    db,
    `select distinct on (d.id, n.document_id, c.label) d.id as from_id, n.document_id as to_id, d.number,
       case when ${SEES_WORK} then d.newest_title else d.public_title end as title, case when ${SEES_WORK} then d.newest_label else d.public_label end as label,
       case when ${SEES_WORK} then d.newest_state else d.public_state end as state, d.hold is not null as on_hold, c.label as cited_label, c.excerpt
     from numbers n join citations c on c.folded = n.folded join version_files f on f.sha256 = c.sha256 and f.role = 'original'
     join versions v on v.id = f.version_id join revisions r on r.id = v.revision_id and r.latest_version_id = v.id join documents d on d.id = r.document_id
     where n.document_id = any(:ids::uuid[]) and d.id <> n.document_id and (r.id = d.public_revision_id or (${SEES_WORK} and r.id = d.newest_revision_id)) and ${VISIBLE}
     order by d.id, n.document_id, c.label limit :limit`,
    { ids, limit, ...scope },
  );
