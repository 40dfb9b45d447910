import type { FieldDefinition, Metadata } from '@kanonos/core';
import { type Db, rows } from '../../platform/db/connect.ts';

export const listVersionsOfAll = (db: Db, revisionIds: string[]) =>
  rows<{ id: string; revision_id: string; n: number; note: string; by_id: string; by_name: string; at: Date }>(
    db,
    `select v.id, v.revision_id, v.n, v.note, v.by_id, p.name as by_name, v.at from versions v join people p on p.id = v.by_id
       join revisions r on r.id = v.revision_id
     where v.revision_id = any(:revisionIds::uuid[]) order by r.ordinal desc, v.n desc`,
    { revisionIds },
  );

export type WaitingPair = {
  version_id: string;
  fields: FieldDefinition[];
  title: string;
  metadata: Metadata;
  sha256: string | null;
  text: string | null;
  title_before: string | null;
  metadata_before: Metadata | null;
  sha_before: string | null;
  text_before: string | null;
  /** Characters of both texts together. */
  length: number;
};

/**
 * Versions that wait to be compared with the one before them (of their revision, else of the released one before) and whose texts
 * have been taken out, or never will be.
 */
export const listWaiting = (db: Db, by: { limit: number; longest: number; now: Date }) =>
  rows<WaitingPair>(
    db,
    `select w.version_id, t.fields, v.title, v.metadata, a.sha256, b.title as title_before, b.metadata as metadata_before, o.sha256 as sha_before,
       case when l.length <= :longest then ta.text end as text, case when l.length <= :longest then tb.text end as text_before, l.length
     from version_changes w join versions v on v.id = w.version_id join revisions r on r.id = v.revision_id
     join documents d on d.id = r.document_id join types t on t.id = d.type_id
     left join lateral (select x.* from versions x join revisions y on y.id = x.revision_id
       where y.document_id = d.id and (y.id = r.id and x.n = v.n - 1 or v.n = 1 and y.ordinal < r.ordinal and y.state in ('in force', 'superseded', 'withdrawn') and x.id = y.latest_version_id)
       order by y.ordinal desc limit 1) b on true
     left join lateral (select f.sha256, c.text_state from version_files f join contents c on c.sha256 = f.sha256 where f.version_id = v.id and f.role = 'original' order by f.sort limit 1) a on true
     left join lateral (select f.sha256, c.text_state from version_files f join contents c on c.sha256 = f.sha256 where f.version_id = b.id and f.role = 'original' order by f.sort limit 1) o on true
     left join texts ta on ta.sha256 = a.sha256 left join texts tb on tb.sha256 = o.sha256
     left join lateral (select coalesce(length(ta.text), 0) + coalesce(length(tb.text), 0) as length) l on true
     where w.state = 'waiting' and not exists (select 1 from failed_work x where x.kind = 'comparison of a version' and x.subject = w.version_id::text and (x.set_aside or x.next_at > :now)) and coalesce(a.text_state, 'none') <> 'waiting' and coalesce(o.text_state, 'none') <> 'waiting'
     order by w.version_id limit :limit`,
    by,
  );

export const keepChange = (db: Db, change: { versionId: string; state: 'done' | 'none'; change: string | null }) =>
  rows(db, 'update version_changes set state = :state, change = :change::jsonb where version_id = :versionId', change);
