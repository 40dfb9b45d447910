import { REQUEST_ANSWERS, REQUEST_STATES } from '@kanonos/core';
import { z } from 'zod';
import { DocumentParam, Id, Instant, PersonRef, text } from './common.ts';
import { endpoint } from './endpoint.ts';

export const ChangeRequest = z.object({
  id: Id,
  number: z.string(),
  document: z.object({ id: Id, number: z.string(), title: z.string() }),
  /** Label of the revision that the reader had before them. */
  label: z.string(),
  place: z.string(),
  what: z.string(),
  proposal: z.string(),
  fileName: z.string().nullable(),
  /** The record of the form that it was sent with. */
  record: Id.nullable(),
  by: PersonRef,
  at: Instant,
  state: z.enum(REQUEST_STATES),
  answer: z.string(),
  /** The number of the change note or request that it became a part of. */
  into: z.string().nullable(),
  answeredBy: z.string().nullable(),
  answeredAt: Instant.nullable(),
  /** Whether the viewer answers it. */
  mayAnswer: z.boolean(),
  mine: z.boolean(),
});
export type ChangeRequest = z.infer<typeof ChangeRequest>;

/** What readers would have changed, and what becomes of it. */
export const changeRequests = {
  suggest: endpoint({
    id: 'suggestChange',
    feature: 'changes',
    method: 'POST',
    path: '/api/documents/:document/change-requests',
    summary: 'Suggest a change of a document that I may read',
    params: DocumentParam,
    body: z.strictObject({
      place: text(200).default(''),
      what: text(4000, 1),
      proposal: text(4000).default(''),
      uploadId: Id.nullable().default(null),
    }),
    answer: z.object({ id: Id, number: z.string() }),
    problems: ['not_found', 'right_missing', 'input_invalid', 'upload_unknown', 'content_missing'],
  }),
  list: endpoint({
    id: 'changeRequests',
    feature: 'changes',
    method: 'GET',
    path: '/api/change-requests',
    summary: 'The change requests that I sent or answer, the open ones first',
    answer: z.object({ requests: z.array(ChangeRequest) }),
  }),
  answer: endpoint({
    id: 'answerChangeRequest',
    feature: 'changes',
    method: 'POST',
    path: '/api/change-requests/:id/answer',
    summary: 'Answer a change request: reject it, merge it into another one, or put it on a change note',
    params: z.strictObject({ id: Id }),
    body: z.strictObject({
      answer: z.enum(REQUEST_ANSWERS),
      words: text(2000).default(''),
      /** The request that it is merged into, or the change note that it becomes a part of. */
      into: text(240, 1).nullable().default(null),
    }),
    problems: [
      'not_found',
      'right_missing',
      'input_invalid',
      'reason_missing',
      'request_answered',
      'request_to_merge_into',
      'request_merge_other',
      'request_merge_ended',
      'not_a_change_note',
      'change_note_needed',
      'change_note_closed',
    ],
  }),
  file: endpoint({
    id: 'changeRequestFile',
    feature: 'changes',
    method: 'GET',
    path: '/api/change-requests/:id/file',
    summary: 'The file that came with a change request',
    params: z.strictObject({ id: Id }),
    stream: 'bytes',
    problems: ['not_found', 'content_missing'],
  }),
};
