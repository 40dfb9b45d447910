import type { CommentInfo } from '@kanonos/contract';
import { dayOf, hasRight, isInWork, isReleased } from '@kanonos/core';
import type { App, Work } from '../../platform/app.ts';
import { changed, type Db, firstRow, rows, type Trx } from '../../platform/db/connect.ts';
import { newId } from '../../platform/db/ids.ts';
import { refused } from '../../platform/refused.ts';
import { ensureRight, type Viewer } from '../access/service.ts';
import { type Opened, openDocument, openForAct, subjectOf } from '../documents/service.ts';
import { notify } from '../mailing/service.ts';
import { actorOf } from '../session/service.ts';

type CommentRow = {
  id: string;
  document_id: string;
  revision_id: string;
  version: number;
  person_id: string;
  person_name: string;
  at: Date;
  kind: 'comment' | 'blocking' | 'remark';
  text: string;
  quote: string | null;
  resolved_at: Date | null;
  resolved_by: string | null;
  resolved_by_name: string | null;
  resolution: string;
  label: string;
};

export const listComments = async (
  app: App,
  viewer: Viewer,
  ref: string,
): Promise<{ comments: CommentInfo[]; mayComment: boolean }> => {
  const opened = await openDocument(app.db, viewer, ref, dayOf(app.clock(), (await app.house()).zone));
  const visible = new Set(
    opened.revisions.filter((r) => opened.rights.has('read work') || isReleased(r.state)).map((r) => r.id),
  );
  const found = await rows<CommentRow>(
    app.db,
    `select c.*, p.name as person_name, q.name as resolved_by_name, r.label from comments c join people p on p.id = c.person_id join revisions r on r.id = c.revision_id left join people q on q.id = c.resolved_by
     where c.document_id = :documentId order by c.at desc limit 500`,
    { documentId: opened.document.id },
  );
  // Remarks of readers go to the owner and to who works on the document, not to every reader.
  const shown = found.filter(
    (c) =>
      visible.has(c.revision_id) &&
      (c.kind !== 'remark' || c.person_id === viewer.id || opened.rights.has('read work')),
  );
  return {
    comments: shown.map((c) => toComment(c, mayResolve(opened, viewer, c))),
    mayComment: hasRight(opened.rights, 'comment') && opened.work !== undefined,
  };
};

const toComment = (c: CommentRow, may: boolean): CommentInfo => ({
  id: c.id,
  person: { id: c.person_id, name: c.person_name },
  at: c.at.toISOString(),
  text: c.text,
  kind: c.kind,
  label: c.label,
  version: c.version,
  quote: c.quote,
  resolvedAt: c.resolved_at?.toISOString() ?? null,
  resolvedBy: c.resolved_by ? { id: c.resolved_by, name: c.resolved_by_name ?? '' } : null,
  resolution: c.resolution,
  mayResolve: may && c.resolved_at === null,
});

const mayResolve = (opened: Opened, viewer: Viewer, comment: { person_id: string; kind: string }) =>
  comment.person_id === viewer.id ||
  (hasRight(opened.rights, 'manage') && comment.kind !== 'blocking') ||
  (hasRight(opened.rights, 'author') && comment.kind !== 'blocking') ||
  hasRight(opened.rights, 'release');

/** Writes a comment on the revision in work; a blocking one stands in the way of approval until it is resolved. */
export const addComment = (
  app: App,
  viewer: Viewer,
  ref: string,
  input: { text: string; blocking: boolean; quote: string | null; revisionId: string },
): Promise<{ id: string }> =>
  app.act(actorOf(viewer), async (work) => {
    const opened = await openForAct(work, viewer, ref);
    ensureRight(opened.rights, 'comment');
    const revision = opened.revisions.find((r) => r.id === input.revisionId);
    if (!revision || !isInWork(revision.state) || !hasRight(opened.rights, 'read work'))
      throw refused('wrong_state', { act: 'comment', state: revision?.state ?? 'none in work' });
    if (input.blocking && revision.state !== 'draft' && revision.state !== 'in review')
      throw refused('wrong_state', { act: 'comment', state: revision.state });
    const id = await insertComment(work, {
      documentId: opened.document.id,
      revision,
      viewer,
      kind: input.blocking ? 'blocking' : 'comment',
      text: input.text,
      quote: input.quote,
    });
    work.record({
      kind: 'comment.written',
      subject: subjectOf(opened.document, revision),
      payload: { comment: id, blocking: input.blocking, text: input.text, quote: input.quote },
    });
    if (revision.created_by !== viewer.id) {
      await notify(app, work, [revision.created_by], {
        kind: 'comment',
        subject: `${opened.document.number} ${revision.label}: ${input.blocking ? 'blocking comment' : 'comment'} by ${viewer.name}`,
        lead: `${viewer.name} commented on ${opened.document.number} ${revision.label}, ${revision.title}.`,
        quote: input.text,
        link: { path: `/d/${encodeURIComponent(opened.document.number)}?side=comments`, words: 'Open the comments' },
      });
    }
    return { id };
  });

/** Adds a comment's row; used for remarks of readers too. */
export const insertComment = async (
  work: Work,
  c: {
    documentId: string;
    revision: { id: string; version_count: number };
    viewer: Viewer;
    kind: 'comment' | 'blocking' | 'remark';
    text: string;
    quote: string | null;
  },
): Promise<string> => {
  const id = newId();
  await rows(
    work.trx,
    'insert into comments (id, document_id, revision_id, version, person_id, at, kind, text, quote) values (:id, :documentId, :revisionId, :version, :personId, :now, :kind, :text, :quote)',
    {
      id,
      documentId: c.documentId,
      revisionId: c.revision.id,
      version: c.revision.version_count,
      personId: c.viewer.id,
      now: work.now,
      kind: c.kind,
      text: c.text,
      quote: c.quote,
    },
  );
  return id;
};

/** Resolves a comment in the transaction of its caller, who moves a waiting run on. */
export const resolveComment = async (
  work: Work,
  viewer: Viewer,
  opened: Opened,
  commentId: string,
  resolution: string,
): Promise<void> => {
  const comment = await firstRow<CommentRow>(
    work.trx,
    'select c.*, r.label from comments c join revisions r on r.id = c.revision_id where c.id = :commentId and c.document_id = :documentId',
    { commentId, documentId: opened.document.id },
  );
  if (!comment || (comment.kind === 'remark' && comment.person_id !== viewer.id && !opened.rights.has('read work')))
    throw refused('not_found');
  if (!mayResolve(opened, viewer, comment)) throw refused('right_missing', { right: 'release' });
  const done = await changed(
    work.trx,
    'update comments set resolved_at = :now, resolved_by = :personId, resolution = :resolution where id = :commentId and resolved_at is null',
    { now: work.now, personId: viewer.id, resolution, commentId },
  );
  if (done === 0) throw refused('comment_closed');
  work.record({
    kind: 'comment.resolved',
    subject: subjectOf(opened.document, { id: comment.revision_id, label: comment.label }),
    payload: { comment: commentId, resolution },
  });
};

export const openBlocking = (db: Db | Trx, revisionId: string) =>
  rows<{ who: string; words: string }>(
    db,
    `select p.name as who, left(c.text, 120) as words from comments c join people p on p.id = c.person_id where c.revision_id = :revisionId and c.kind = 'blocking' and c.resolved_at is null order by c.at`,
    { revisionId },
  );

export const countComments = async (db: Db | Trx, documentId: string, withWork: boolean) =>
  (await firstRow<{ n: number; open: number }>(
    db,
    `select count(*)::int as n, count(*) filter (where c.resolved_at is null)::int as open from comments c join revisions r on r.id = c.revision_id
     where c.document_id = :documentId and (:withWork::boolean or (r.state in ('in force','superseded','withdrawn') and c.kind <> 'remark'))`,
    { documentId, withWork },
  )) ?? { n: 0, open: 0 };
