import { type Db, firstRow, rows, type Trx } from '../../platform/db/connect.ts';

export type ReviewRow = {
  at: Date;
  person_id: string;
  person: string;
  outcome: 'confirmed' | 'minor change' | 'major change' | 'withdrawal' | 'postponed' | 'brought forward';
  due_on: string;
  next_on: string | null;
  comment: string;
};

export const insertReview = (
  trx: Trx,
  review: {
    id: string;
    documentId: string;
    revisionId: string;
    personId: string;
    now: Date;
    outcome: ReviewRow['outcome'];
    due: string;
    next: string | null;
    comment: string;
  },
) =>
  rows(
    trx,
    `insert into reviews (id, document_id, revision_id, person_id, at, outcome, due_on, next_on, comment)
     values (:id, :documentId, :revisionId, :personId, :now, :outcome, :due, :next, :comment)`,
    review,
  );

/** The reviews of a document, the newest first. */
export const listReviewsOf = (db: Db | Trx, documentId: string) =>
  rows<ReviewRow>(
    db,
    `select v.at, v.person_id, p.name as person, v.outcome, v.due_on, v.next_on, v.comment
     from reviews v join people p on p.id = v.person_id where v.document_id = :documentId order by v.at desc, v.id desc limit 200`,
    { documentId },
  );

/** When the revision in force came into force, and when the document was last confirmed since; both for the count of its use. */
export const findStart = (db: Db | Trx, documentId: string) =>
  firstRow<{ in_force_since: Date; confirmed_at: Date | null }>(
    db,
    `select d.from_at as in_force_since,
       (select max(v.at) from reviews v where v.document_id = :documentId and v.outcome = 'confirmed' and v.at >= d.from_at) as confirmed_at
     from periods d where d.document_id = :documentId order by d.from_at desc limit 1`,
    { documentId },
  );

/** How a document was used since an instant. */
export const countUse = (db: Db, by: { documentId: string; since: Date }) =>
  firstRow<{
    openings: number;
    readers: number;
    readings: number;
    comments: number;
    open_comments: number;
    requests: number;
    cited_by: number;
  }>(
    db,
    `select u.openings, u.readers, c.comments, c.open_comments,
       (select count(*)::int from reading_assignments a where a.document_id = :documentId and a.state = 'signed' and a.closed_at > :since) as readings,
       (select count(*)::int from change_requests q where q.document_id = :documentId and q.at > :since) as requests,
       (select count(distinct o.id)::int from numbers n join citations i on i.folded = n.folded join version_files f on f.sha256 = i.sha256 join versions w on w.id = f.version_id
          join documents o on o.public_revision_id = w.revision_id
          where n.document_id = :documentId and o.public_state = 'in force' and o.id <> :documentId and o.removed_at is null) as cited_by
     from (select count(*)::int as openings, count(distinct person_id)::int as readers from usage where document_id = :documentId and at > :since) u,
       (select count(*)::int as comments, count(*) filter (where resolved_at is null)::int as open_comments
        from comments where document_id = :documentId and at > :since and parent_id is null and withdrawn_at is null) c`,
    by,
  );

/** On which day the reviews of some documents were due before they were postponed; none for those that were not. */
export const listFirstDue = (db: Db | Trx, documentIds: readonly string[]) =>
  rows<{ document_id: string; first_due: string }>(
    db,
    `select v.document_id, min(v.due_on) as first_due from reviews v
     where v.document_id = any(:documentIds::uuid[]) and v.outcome = 'postponed'
       and v.at > coalesce((select max(c.at) from reviews c where c.document_id = v.document_id and c.outcome = 'confirmed'), '-infinity')
       and v.at > coalesce((select max(p.from_at) from periods p where p.document_id = v.document_id), '-infinity')
     group by v.document_id`,
    { documentIds },
  );

/** By how many days a review of some documents may be postponed in all, as their types say; none where a type says nothing. */
export const listMostPostponed = (db: Db, documentIds: readonly string[]) =>
  rows<{ id: string; most: number | null }>(
    db,
    `select d.id, (t.policy->'review'->>'mostDaysPostponed')::int as most from documents d join types t on t.id = d.type_id
     where d.id = any(:documentIds::uuid[])`,
    { documentIds },
  );
