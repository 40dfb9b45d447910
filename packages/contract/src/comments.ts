import { MARK_TOOLS } from '@kanonos/core';
import { z } from 'zod';
import { DocumentParam, Id, Instant, PersonRef, text } from './common.ts';
import { endpoint } from './endpoint.ts';

/** A mark drawn onto a page: its points as parts of the page's width and height. */
export const MarkInfo = z.object({
  tool: z.enum(MARK_TOOLS),
  page: z.number().int(),
  points: z.array(z.tuple([z.number(), z.number()])),
  colour: z.string(),
  text: z.string().optional(),
});
export type MarkInfo = z.infer<typeof MarkInfo>;

/** Words of the text, with some of the text before and after them. */
export const QuoteInfo = z.object({ quote: text(2000, 1), before: z.string().max(200), after: z.string().max(200) });

export const CommentInfo = z.object({
  id: Id,
  parentId: Id.nullable(),
  person: PersonRef,
  at: Instant,
  text: z.string(),
  kind: z.enum(['comment', 'blocking', 'remark']),
  label: z.string(),
  version: z.number().int(),
  quote: z.string().nullable(),
  around: z.object({ before: z.string(), after: z.string() }).nullable(),
  mark: MarkInfo.nullable(),
  /** Which of the originals it is on. */
  fileSort: z.number().int(),
  /** Where it is in the version in view: there, on a page, or lost; null: it is on the document as a whole. */
  place: z.object({ state: z.enum(['here', 'lost']), page: z.number().int().nullable() }).nullable(),
  assignee: PersonRef.nullable(),
  resolvedAt: Instant.nullable(),
  resolvedBy: PersonRef.nullable(),
  resolution: z.string(),
  mayResolve: z.boolean(),
  mayReopen: z.boolean(),
  mayWithdraw: z.boolean(),
});
export type CommentInfo = z.infer<typeof CommentInfo>;

export const Stamp = z.object({
  id: Id,
  text: z.string(),
  colour: z.string(),
  retired: z.boolean(),
  rowVersion: z.number().int(),
});
export type Stamp = z.infer<typeof Stamp>;

const CommentParam = DocumentParam.extend({ comment: Id });
const Colour = z.string().regex(/^#[0-9a-f]{6}$/i, 'six hexadecimal digits behind # would be right');
const GENERAL = ['not_found', 'right_missing', 'input_invalid'] as const;

/** Threads of comments on a document, in its text and on its pages. */
export const comments = {
  list: endpoint({
    id: 'comments',
    feature: 'comments',
    method: 'GET',
    path: '/api/documents/:document/comments',
    summary: 'Comments and remarks of readers, each with its place in the version in view',
    params: DocumentParam,
    query: z.strictObject({ version: Id.optional() }),
    answer: z.object({ comments: z.array(CommentInfo), mayComment: z.boolean() }),
    problems: ['not_found'],
  }),
  add: endpoint({
    id: 'addComment',
    feature: 'comments',
    method: 'POST',
    path: '/api/documents/:document/comments',
    summary:
      'Write a comment on the revision in work, plain or blocking: on the whole, on words, or with a mark on a page',
    params: DocumentParam,
    body: z.strictObject({
      text: text(4000).default(''),
      blocking: z.boolean().default(false),
      quote: QuoteInfo.nullable().default(null),
      mark: MarkInfo.nullable().default(null),
      fileSort: z.number().int().min(0).max(100).default(0),
      assigneeId: Id.nullable().default(null),
      revisionId: Id,
    }),
    answer: z.object({ id: Id }),
    problems: [...GENERAL, 'wrong_state', 'comment_empty', 'mark_wrong'],
  }),
  reply: endpoint({
    id: 'replyToComment',
    feature: 'comments',
    method: 'POST',
    path: '/api/documents/:document/comments/:comment/reply',
    summary: 'Reply in a thread; people mentioned by @ and their sign-in name are notified',
    params: CommentParam,
    body: z.strictObject({ text: text(4000, 1) }),
    answer: z.object({ id: Id }),
    problems: [...GENERAL, 'comment_closed'],
  }),
  resolve: endpoint({
    id: 'resolveComment',
    feature: 'comments',
    method: 'POST',
    path: '/api/documents/:document/comments/:comment/resolve',
    summary: 'Resolve a comment with a remark; a round that waited for it continues',
    params: CommentParam,
    body: z.strictObject({ resolution: text(2000).default('') }),
    problems: [...GENERAL, 'comment_closed'],
  }),
  reopen: endpoint({
    id: 'reopenComment',
    feature: 'comments',
    method: 'POST',
    path: '/api/documents/:document/comments/:comment/reopen',
    summary: 'Reopen a resolved comment, with the reason as a reply in its thread',
    params: CommentParam,
    body: z.strictObject({ reason: text(2000, 1) }),
    problems: [...GENERAL, 'wrong_state', 'comment_open'],
  }),
  assign: endpoint({
    id: 'assignComment',
    feature: 'comments',
    method: 'POST',
    path: '/api/documents/:document/comments/:comment/assign',
    summary: 'Assign a comment to somebody, or to nobody',
    params: CommentParam,
    body: z.strictObject({ personId: Id.nullable() }),
    problems: [...GENERAL, 'comment_closed'],
  }),
  withdraw: endpoint({
    id: 'withdrawComment',
    feature: 'comments',
    method: 'POST',
    path: '/api/documents/:document/comments/:comment/withdraw',
    summary: 'Delete one’s own comment or mark, as long as nobody has replied',
    params: CommentParam,
    body: z.strictObject({}),
    problems: [...GENERAL, 'comment_answered'],
  }),
  annotated: endpoint({
    id: 'annotatedFile',
    feature: 'comments',
    method: 'GET',
    path: '/api/files/:file/annotated',
    summary: 'A PDF with its marks and comments written into it as standard annotations (ISO 32000-2, 12.5)',
    params: z.strictObject({ file: Id }),
    stream: 'bytes',
    problems: ['not_found', 'right_missing', 'content_missing', 'cannot_be_shown'],
  }),
  importComments: endpoint({
    id: 'readAnnotations',
    feature: 'comments',
    method: 'POST',
    path: '/api/documents/:document/comments/read',
    summary:
      'Read the annotations of a PDF in as marks and comments of one’s own; what was read before or came from here is left',
    params: DocumentParam,
    body: z.strictObject({ uploadId: Id }),
    answer: z.object({ read: z.number().int(), left: z.number().int() }),
    problems: [...GENERAL, 'wrong_state', 'upload_unknown', 'content_missing', 'pdf_unreadable'],
  }),
  stamps: endpoint({
    id: 'stamps',
    feature: 'comments',
    method: 'GET',
    path: '/api/stamps',
    summary: 'Stamps of the organisation',
    answer: z.object({ stamps: z.array(Stamp) }),
  }),
  saveStamp: endpoint({
    id: 'saveStamp',
    feature: 'comments',
    method: 'PUT',
    path: '/api/stamps/:id',
    access: 'administer',
    summary: 'Add or change a stamp of the organisation (row version 0: new)',
    params: z.strictObject({ id: Id }),
    body: z.strictObject({
      text: text(60, 1),
      colour: Colour,
      retired: z.boolean(),
      rowVersion: z.number().int().min(0).max(1_000_000),
    }),
    problems: ['input_invalid', 'changed_meanwhile'],
  }),
};
