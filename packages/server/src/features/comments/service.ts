import type { AnswerOf, api, BodyInOf, CommentInfo } from '@kanonos/contract';
import { api as described } from '@kanonos/contract';
import { checkMark, dayOf, hasRight, isInWork, isReleased, type Mark } from '@kanonos/core';
import { workAddress } from '../../platform/addresses.ts';
import type { App, UnitOfWork } from '../../platform/app.ts';
import { newId } from '../../platform/db/ids.ts';
import { assertAllowed, refused } from '../../platform/refused.ts';
import { ensureRight, rightsOn, toPlace, type Viewer, viewerOf } from '../access/index.ts';
import { type Opened, openDocument, runCommand, subjectOf } from '../documents/index.ts';
import { notify } from '../mailing/index.ts';
import type { RevisionRow } from '../revisions/index.ts';
import { type Place, placesIn } from './places.ts';
import type { CommentRow } from './store.ts';
import * as store from './store.ts';

export const listComments = async (
  app: App,
  viewer: Viewer,
  ref: string,
  versionId?: string,
): Promise<AnswerOf<typeof api.comments.list>> => {
  const opened = await openDocument(app.db, viewer, ref, dayOf(app.clock(), (await app.organisation()).zone));
  const shown = (await store.listComments(app.db, opened.document.id)).filter((c) => maySee(opened, viewer, c));
  const places = await placesIn(app, opened.document.id, versionId, shown);
  return {
    comments: shown.map((c) => toComment(opened, viewer, c, places.get(c.id))),
    mayComment: hasRight(opened.rights, 'comment') && opened.work !== undefined,
  };
};

/** Remarks of readers go to the owner and to who works on the document, not to every reader. */
const maySee = (opened: Opened, viewer: Viewer, c: CommentRow): boolean => {
  const revision = opened.revisions.find((one) => one.id === c.revision_id);
  const visible = revision && (opened.rights.has('read work') || isReleased(revision.state));
  return !!visible && (c.kind !== 'remark' || c.person_id === viewer.id || opened.rights.has('read work'));
};

const toComment = (opened: Opened, viewer: Viewer, c: CommentRow, place: Place | undefined): CommentInfo => {
  const may = c.parent_id === null && mayResolve(opened, viewer, c);
  return {
    id: c.id,
    parentId: c.parent_id,
    person: { id: c.person_id, name: c.person_name },
    at: c.at.toISOString(),
    text: c.text,
    kind: c.kind,
    label: c.label,
    version: c.version,
    quote: c.quote,
    around: c.around,
    mark: c.mark && {
      ...c.mark,
      points: c.mark.points.map(([x, y]) => [x, y] as [number, number]),
    },
    fileSort: c.file_sort,
    place: place ?? null,
    assignee: c.assignee_id ? { id: c.assignee_id, name: c.assignee_name ?? '' } : null,
    resolvedAt: c.resolved_at?.toISOString() ?? null,
    resolvedBy: c.resolved_by ? { id: c.resolved_by, name: c.resolved_by_name ?? '' } : null,
    resolution: c.resolution,
    mayResolve: may && c.resolved_at === null,
    mayReopen: may && c.resolved_at !== null && isOpenTo(opened, c),
    mayWithdraw: mayWithdraw(opened, viewer, c),
  };
};

const isOpenTo = (opened: Opened, c: { revision_id: string }) => opened.work?.id === c.revision_id;
const mayWithdraw = (opened: Opened, viewer: Viewer, c: CommentRow) =>
  c.person_id === viewer.id && c.answers === 0 && c.resolved_at === null && isOpenTo(opened, c);

const mayResolve = (
  opened: Opened,
  viewer: Viewer,
  comment: { person_id: string; kind: string; assignee_id?: string | null },
) =>
  comment.person_id === viewer.id ||
  (hasRight(opened.rights, 'manage') && comment.kind !== 'blocking') ||
  (hasRight(opened.rights, 'author') && comment.kind !== 'blocking') ||
  hasRight(opened.rights, 'release');

/** Who is named by @ and a sign-in name, as far as they may see the document: others are not informed, and the answer does not reveal them. */
const mentioned = async (work: UnitOfWork, opened: Opened, text: string): Promise<string[]> => {
  const names = [...text.matchAll(/(?<![\p{L}\p{N}])@([\p{L}\p{N}][\p{L}\p{N}._-]*)/gu)].map((match) =>
    (match[1] ?? '').replace(/[._-]+$/, '').toLowerCase(),
  );
  if (names.length === 0) return [];
  const found = [];
  for (const { id } of await store.listBySignInNames(work.trx, [...new Set(names)].slice(0, 20)))
    if (await maySeeWork(work, opened, id)) found.push(id);
  return found;
};

const maySeeWork = async (work: UnitOfWork, opened: Opened, personId: string): Promise<boolean> => {
  const person = await viewerOf(work.trx, personId, work.day);
  return hasRight(await rightsOn(work.trx, person, toPlace(opened.document), work.day), 'read work');
};

/** Informs people of a comment; those mentioned by name learn that they are. */
const tell = async (
  app: App,
  work: UnitOfWork,
  viewer: Viewer,
  opened: Opened,
  revision: Pick<RevisionRow, 'label' | 'title'>,
  written: { what: string; text: string; to: readonly (string | null)[]; named: readonly string[] },
): Promise<void> => {
  const { number } = opened.document;
  const message = (what: string) => ({
    kind: 'comment' as const,
    about: opened.document.id,
    subject: `${number} ${revision.label}: ${what} ${viewer.name}`,
    lead: `${viewer.name} commented on ${number} ${revision.label}, ${revision.title}.`,
    quote: written.text,
    link: { path: workAddress(number, 'side=comments'), label: 'Open the comments' },
  });
  const named = written.named.filter((id) => id !== viewer.id);
  const others = [...new Set(written.to)].filter(
    (id): id is string => id !== null && id !== viewer.id && !named.includes(id),
  );
  if (named.length > 0) await notify(app, work, named, message('mentioned by'));
  if (others.length > 0) await notify(app, work, others, message(`${written.what} by`));
};

/** Writes a comment on the revision in work: on the whole, on words or with a mark; a blocking one prevents approval until it is resolved. */
export const addComment = (
  app: App,
  viewer: Viewer,
  ref: string,
  given: BodyInOf<typeof api.comments.add>,
): Promise<{ id: string }> =>
  runCommand(app, viewer, { document: ref }, async (work, opened) => {
    const input = described.comments.add.body.parse(given);
    ensureRight(opened.rights, 'comment');
    const revision = opened.revisions.find((r) => r.id === input.revisionId);
    if (!revision || !isInWork(revision.state) || !hasRight(opened.rights, 'read work'))
      throw refused('wrong_state', { command: 'comment', state: revision?.state ?? 'none in work' });
    if (input.blocking && revision.state !== 'draft' && revision.state !== 'in review')
      throw refused('wrong_state', { command: 'comment', state: revision.state });
    if (!input.text.trim() && !input.mark) throw refused('comment_empty');
    if (input.mark) assertAllowed(checkMark(input.mark as Mark));
    if (input.assigneeId && !(await maySeeWork(work, opened, input.assigneeId))) throw refused('not_found');
    const id = await insertComment(work, {
      documentId: opened.document.id,
      revision,
      viewer,
      kind: input.blocking ? 'blocking' : 'comment',
      text: input.text,
      quote: input.quote?.quote ?? null,
      around: input.quote ? { before: input.quote.before, after: input.quote.after } : null,
      mark: input.mark as Mark | null,
      fileSort: input.fileSort,
      assigneeId: input.assigneeId,
    });
    work.record({
      kind: 'comment.written',
      subject: subjectOf(opened.document, revision),
      payload: {
        comment: id,
        blocking: input.blocking,
        text: input.text,
        quote: input.quote?.quote ?? null,
        ...(input.mark ? { mark: input.mark.tool, page: input.mark.page } : {}),
      },
    });
    if (input.text.trim() || input.assigneeId)
      await tell(app, work, viewer, opened, revision, {
        what: input.blocking ? 'blocking comment' : 'comment',
        text: input.text,
        to: [revision.created_by, input.assigneeId],
        named: await mentioned(work, opened, input.text),
      });
    return { id };
  });

/** Adds a comment's row; used for remarks of readers too. */
export const insertComment = async (
  work: UnitOfWork,
  c: {
    documentId: string;
    revision: { id: string; version_count: number };
    viewer: Viewer;
    kind: CommentRow['kind'];
    text: string;
    quote: string | null;
    around?: CommentRow['around'];
    mark?: Mark | null;
    fileSort?: number;
    parentId?: string;
    assigneeId?: string | null;
    readFrom?: string;
  },
): Promise<string> => {
  const id = newId();
  await store.insertComment(work.trx, {
    id,
    documentId: c.documentId,
    revisionId: c.revision.id,
    version: c.revision.version_count,
    personId: c.viewer.id,
    now: work.now,
    kind: c.kind,
    text: c.text,
    quote: c.quote,
    around: c.around ? JSON.stringify(c.around) : null,
    mark: c.mark ? JSON.stringify(c.mark) : null,
    fileSort: c.fileSort ?? 0,
    parentId: c.parentId ?? null,
    assigneeId: c.assigneeId ?? null,
    readFrom: c.readFrom ?? null,
  });
  return id;
};

/** A comment for a command on it; an invisible one answers as missing. */
const openComment = async (
  work: UnitOfWork,
  viewer: Viewer,
  opened: Opened,
  commentId: string,
): Promise<{ comment: CommentRow; revision: RevisionRow }> => {
  const comment = await store.findComment(work.trx, { id: commentId, documentId: opened.document.id });
  const revision = comment && opened.revisions.find((one) => one.id === comment.revision_id);
  if (!comment || !revision || comment.parent_id !== null || !maySee(opened, viewer, comment))
    throw refused('not_found');
  return { comment, revision };
};

/** Answers in a thread; its earlier authors, its assignee and those mentioned are informed. */
export const reply = (
  app: App,
  viewer: Viewer,
  ref: string,
  commentId: string,
  text: string,
): Promise<{ id: string }> =>
  runCommand(app, viewer, { document: ref }, async (work, opened) => {
    const { comment, revision } = await openComment(work, viewer, opened, commentId);
    // Its author and its assignee may answer a comment; others need the right to comment.
    if (comment.person_id !== viewer.id && comment.assignee_id !== viewer.id) ensureRight(opened.rights, 'comment');
    if (comment.resolved_at) throw refused('comment_closed');
    const voices = await store.listAssignees(work.trx, commentId);
    const id = await insertComment(work, {
      documentId: opened.document.id,
      revision,
      viewer,
      kind: 'comment',
      text,
      quote: null,
      parentId: commentId,
    });
    work.record({
      kind: 'comment.replied',
      subject: subjectOf(opened.document, revision),
      payload: { comment: commentId, answer: id, text },
    });
    await tell(app, work, viewer, opened, revision, {
      what: 'answer',
      text,
      to: [...voices, comment.assignee_id],
      named: await mentioned(work, opened, text),
    });
    return { id };
  });

/** Resolves a comment in the transaction of its caller, who moves a waiting run on. */
export const resolveComment = async (
  work: UnitOfWork,
  viewer: Viewer,
  opened: Opened,
  commentId: string,
  resolution: string,
): Promise<void> => {
  const comment = await store.findComment(work.trx, { id: commentId, documentId: opened.document.id });
  if (!comment || comment.parent_id !== null || !maySee(opened, viewer, comment)) throw refused('not_found');
  if (!mayResolve(opened, viewer, comment)) throw refused('right_missing', { right: 'release' });
  const done = await store.resolve(work.trx, { id: commentId, personId: viewer.id, now: work.now, resolution });
  if (done === 0) throw refused('comment_closed');
  work.record({
    kind: 'comment.resolved',
    subject: subjectOf(opened.document, { id: comment.revision_id, label: comment.label }),
    payload: { comment: commentId, resolution },
  });
};

/** Opens a resolved comment again as long as its revision is in work; the reason is added to its thread. */
export const reopen = (app: App, viewer: Viewer, ref: string, commentId: string, reason: string): Promise<void> =>
  runCommand(app, viewer, { document: ref }, async (work, opened) => {
    const { comment, revision } = await openComment(work, viewer, opened, commentId);
    if (!mayResolve(opened, viewer, comment)) throw refused('right_missing', { right: 'release' });
    if (!isOpenTo(opened, comment)) throw refused('wrong_state', { command: 'comment', state: revision.state });
    // A blocking comment comes before approval, also when it comes again.
    if (comment.kind === 'blocking' && revision.state !== 'draft' && revision.state !== 'in review')
      throw refused('wrong_state', { command: 'comment', state: revision.state });
    if ((await store.reopen(work.trx, commentId)) === 0) throw refused('comment_open');
    await insertComment(work, {
      documentId: opened.document.id,
      revision,
      viewer,
      kind: 'comment',
      text: reason,
      quote: null,
      parentId: commentId,
    });
    work.record({
      kind: 'comment.reopened',
      subject: subjectOf(opened.document, revision),
      payload: { comment: commentId, reason },
    });
    await tell(app, work, viewer, opened, revision, {
      what: 'comment reopened by',
      text: reason,
      to: [...(await store.listAssignees(work.trx, commentId)), comment.assignee_id],
      named: [],
    });
  });

/** Assigns a comment to a person, who is informed. */
export const assign = (
  app: App,
  viewer: Viewer,
  ref: string,
  commentId: string,
  personId: string | null,
): Promise<void> =>
  runCommand(app, viewer, { document: ref }, async (work, opened) => {
    const { comment, revision } = await openComment(work, viewer, opened, commentId);
    if (comment.person_id !== viewer.id) ensureRight(opened.rights, 'author');
    if (personId && !(await maySeeWork(work, opened, personId))) throw refused('not_found');
    if ((await store.assign(work.trx, { id: commentId, personId })) === 0) throw refused('comment_closed');
    work.record({
      kind: 'comment.assigned',
      subject: subjectOf(opened.document, revision),
      payload: { comment: commentId, to: personId },
    });
    await tell(app, work, viewer, opened, revision, {
      what: 'comment assigned to you by',
      text: comment.text,
      to: [personId],
      named: [],
    });
  });

/** Takes one's own comment back, as if it had not been written; the trail keeps it. */
export const withdraw = (app: App, viewer: Viewer, ref: string, commentId: string): Promise<void> =>
  runCommand(app, viewer, { document: ref }, async (work, opened) => {
    const { comment, revision } = await openComment(work, viewer, opened, commentId);
    if (comment.person_id !== viewer.id) throw refused('right_missing', { right: 'comment' });
    if (comment.resolved_at) throw refused('comment_closed');
    if (!mayWithdraw(opened, viewer, comment)) throw refused('comment_answered');
    await store.withdraw(work.trx, { id: commentId, now: work.now });
    work.record({
      kind: 'comment.withdrawn',
      subject: subjectOf(opened.document, revision),
      payload: { comment: commentId },
    });
  });

export const countOpen = store.countOpen;
