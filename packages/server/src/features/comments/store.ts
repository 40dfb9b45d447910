import type { Mark } from '@kanonos/core';
import { changed, type Db, firstRow, HOT, rows, type Trx } from '../../platform/db/connect.ts';
import { SEES_WORK } from '../access/index.ts';

export type CommentRow = {
  id: string;
  parent_id: string | null;
  document_id: string;
  revision_id: string;
  version: number;
  person_id: string;
  person_name: string;
  at: Date;
  kind: 'comment' | 'blocking' | 'remark';
  text: string;
  quote: string | null;
  around: { before: string; after: string } | null;
  mark: Mark | null;
  file_sort: number;
  assignee_id: string | null;
  assignee_name: string | null;
  resolved_at: Date | null;
  resolved_by: string | null;
  resolved_by_name: string | null;
  resolution: string;
  label: string;
  answers: number;
};
const COMMENT = `select c.*, p.name as person_name, q.name as resolved_by_name, g.name as assignee_name, r.label,
    (select count(*)::int from comments a where a.parent_id = c.id) as answers
  from comments c join people p on p.id = c.person_id join revisions r on r.id = c.revision_id
    left join people q on q.id = c.resolved_by left join people g on g.id = c.assignee_id
  where c.withdrawn_at is null`;

export const listComments = (db: Db | Trx, documentId: string) =>
  rows<CommentRow>(db, `${COMMENT} and c.document_id = :documentId order by c.at desc limit 1000`, { documentId });
export const findComment = (db: Db | Trx, by: { id: string; documentId: string }) =>
  firstRow<CommentRow>(db, `${COMMENT} and c.id = :id and c.document_id = :documentId`, by);
export const insertComment = (
  trx: Trx,
  c: {
    id: string;
    documentId: string;
    revisionId: string;
    version: number;
    personId: string;
    now: Date;
    kind: string;
    text: string;
    quote: string | null;
    around: string | null;
    mark: string | null;
    fileSort: number;
    parentId: string | null;
    assigneeId: string | null;
    readFrom: string | null;
  },
) =>
  rows(
    trx,
    `insert into comments (id, document_id, revision_id, version, person_id, at, kind, text, quote, around, mark, file_sort, parent_id, assignee_id, read_from)
     values (:id, :documentId, :revisionId, :version, :personId, :now, :kind, :text, :quote, :around::jsonb, :mark::jsonb, :fileSort, :parentId, :assigneeId, :readFrom)`,
    c,
  );
export const resolve = (trx: Trx, by: { id: string; personId: string; now: Date; resolution: string }) =>
  changed(
    trx,
    'update comments set resolved_at = :now, resolved_by = :personId, resolution = :resolution where id = :id and resolved_at is null',
    by,
  );
export const reopen = (trx: Trx, id: string) =>
  changed(
    trx,
    `update comments set resolved_at = null, resolved_by = null, resolution = '' where id = :id and resolved_at is not null`,
    { id },
  );
export const assign = (trx: Trx, by: { id: string; personId: string | null }) =>
  changed(trx, 'update comments set assignee_id = :personId where id = :id and resolved_at is null', by);
export const withdraw = (trx: Trx, by: { id: string; now: Date }) =>
  changed(trx, 'update comments set withdrawn_at = :now where id = :id and withdrawn_at is null', by);
/** Everyone who wrote in a thread. */
export const listAssignees = async (db: Db | Trx, id: string) =>
  (
    await rows<{ person_id: string }>(db, 'select distinct person_id from comments where id = :id or parent_id = :id', {
      id,
    })
  ).map((row) => row.person_id);
export const listBySignInNames = (db: Db | Trx, names: readonly string[]) =>
  rows<{ id: string; name: string }>(
    db,
    `select id, name from people where lower(sign_in_name) = any(:names::text[]) and state = 'active'`,
    { names },
  );
export const wasRead = (db: Db | Trx, by: { documentId: string; names: readonly string[] }) =>
  rows<{ read_from: string }>(
    db,
    'select read_from from comments where document_id = :documentId and read_from = any(:names::text[])',
    by,
  );

/** The files of the versions that comments were made on, by revision and version. */
export const listCommentedFiles = (db: Db, documentId: string) =>
  rows<{ revision_id: string; version: number; sort: number; sha256: string; media_type: string; size: number }>(
    db,
    `select distinct c.revision_id, c.version, f.sort, f.sha256, k.media_type, k.size from comments c
     join versions v on v.revision_id = c.revision_id and v.n = c.version
     join version_files f on f.version_id = v.id and f.role = 'original' join contents k on k.sha256 = f.sha256
     where c.document_id = :documentId and c.parent_id is null`,
    { documentId },
  );
export const findVersionFiles = (db: Db, by: { documentId: string; versionId: string | null }) =>
  rows<{ revision_id: string; version: number; sort: number; sha256: string; media_type: string; size: number }>(
    db,
    `select v.revision_id, v.n as version, f.sort, f.sha256, k.media_type, k.size from versions v join revisions r on r.id = v.revision_id
     join version_files f on f.version_id = v.id and f.role = 'original' join contents k on k.sha256 = f.sha256
     where r.document_id = :documentId and v.id = :versionId::uuid`,
    by,
  );

/** Open threads of some documents, where work may be read. Uses comments_by_document. */
export const countOpen = async (
  db: Db,
  documentIds: readonly string[],
  scope: Record<string, unknown>,
): Promise<Map<string, number>> =>
  new Map(
    (
      await rows<{ document_id: string; n: number }>(
        db,
        `select c.document_id, count(*)::int as n from comments c join documents d on d.id = c.document_id
         where c.document_id = any(:documentIds::uuid[]) and c.parent_id is null and c.resolved_at is null and c.withdrawn_at is null and ${SEES_WORK}
         group by c.document_id`,
        { documentIds, ...scope },
        HOT,
      )
    ).map((row) => [row.document_id, row.n]),
  );

export const listStamps = (db: Db) =>
  rows<{ id: string; text: string; colour: string; retired: boolean; row_version: number }>(
    db,
    'select * from stamps order by text',
  );
export const saveStamp = (
  trx: Trx,
  s: { id: string; text: string; colour: string; retired: boolean; rowVersion: number },
) =>
  changed(
    trx,
    `insert into stamps (id, text, colour, retired) select :id, :text, :colour, :retired where :rowVersion::int = 0
     on conflict (id) do nothing`,
    s,
  );
export const changeStamp = (
  trx: Trx,
  s: { id: string; text: string; colour: string; retired: boolean; rowVersion: number },
) =>
  changed(
    trx,
    'update stamps set text = :text, colour = :colour, retired = :retired, row_version = row_version + 1 where id = :id and row_version = :rowVersion',
    s,
  );

export const openBlocking = (db: Db | Trx, revisionId: string) =>
  rows<{ who: string; text: string }>(
    db,
    `select p.name as who, left(c.text, 120) as text from comments c join people p on p.id = c.person_id
     where c.revision_id = :revisionId and c.kind = 'blocking' and c.resolved_at is null and c.withdrawn_at is null order by c.at`,
    { revisionId },
  );

/** How many threads a document has, and how many of them are open. */
export const countComments = async (db: Db | Trx, documentId: string, withWork: boolean) =>
  (await firstRow<{ n: number; open: number }>(
    db,
    `select count(*)::int as n, count(*) filter (where c.resolved_at is null)::int as open from comments c join revisions r on r.id = c.revision_id
     where c.document_id = :documentId and c.parent_id is null and c.withdrawn_at is null
       and (:withWork::boolean or (r.state in ('in force','superseded','withdrawn') and c.kind <> 'remark'))`,
    { documentId, withWork },
  )) ?? { n: 0, open: 0 };
