import { REVIEW_OUTCOMES } from '@kanonos/core';
import { z } from 'zod';
import { Day, DocumentParam, Instant, PersonRef, Seen, ToSign, text } from './common.ts';
import { documentCommand } from './documentCommand.ts';
import { endpoint } from './endpoint.ts';

/** The day on which the review was due when the page was read: two who answer it at once do not both count. */
const Due = Day;

/** How a document was used since it was last reviewed or came into force. */
const Use = z.object({
  since: Day,
  openings: z.number().int(),
  readers: z.number().int(),
  readingsSigned: z.number().int(),
  comments: z.number().int(),
  openComments: z.number().int(),
  changeRequests: z.number().int(),
  /** Documents in force that cite it now. */
  citedBy: z.number().int(),
});

/** The periodic review of a document in force. */
export const reviews = {
  get: endpoint({
    id: 'review',
    feature: 'reviews',
    method: 'GET',
    path: '/api/documents/:document/review',
    summary: 'What the periodic review of a document has to go by, and what became of the earlier ones',
    params: DocumentParam,
    answer: z.object({
      label: z.string(),
      due: Day,
      /** The day on which it would be due next if it were confirmed now. */
      nextIfConfirmed: Day.nullable(),
      /** The last day to which it can be postponed; null where it cannot be any more. */
      latestPostponement: Day.nullable(),
      use: Use,
      earlier: z.array(
        z.object({
          at: Instant,
          by: PersonRef,
          outcome: z.enum([...REVIEW_OUTCOMES, 'postponed', 'brought forward']),
          due: Day,
          next: Day.nullable(),
          comment: z.string(),
        }),
      ),
      signing: ToSign,
    }),
    problems: ['not_found', 'right_missing', 'nothing_in_force', 'review_never', 'document_removed', 'folder_shut'],
  }),
  confirm: documentCommand({
    id: 'confirmReview',
    feature: 'reviews',
    path: '/api/documents/:document/review/confirm',
    summary: 'Confirm a document as it is, with a signature: the day of its next review follows',
    body: z.strictObject({
      seen: Seen,
      due: Due,
      comment: text(2000).default(''),
      name: z.string().max(200).nullable().default(null),
      password: z.string().max(1000),
      digest: z.string().max(64),
    }),
    answer: z.object({ next: Day.nullable() }),
    problems: [
      'nothing_in_force',
      'review_never',
      'folder_shut',
      'record_changed',
      'files_not_opened',
      'content_altered',
      'content_missing',
      'signing_wrong',
      'signing_locked',
      'signing_needs_name',
      'signing_needs_password',
    ],
  }),
  answer: documentCommand({
    id: 'answerReview',
    feature: 'reviews',
    path: '/api/documents/:document/review/answer',
    summary: 'Say that a document needs a change or is to be withdrawn; the review stays due until that is done',
    body: z.strictObject({
      seen: Seen,
      due: Due,
      outcome: z.enum(['minor change', 'major change', 'withdrawal']),
      comment: text(2000, 1),
    }),
    problems: ['nothing_in_force', 'review_never', 'folder_shut'],
  }),
  postpone: documentCommand({
    id: 'postponeReview',
    feature: 'reviews',
    path: '/api/documents/:document/review/postpone',
    summary: 'Postpone a review, with a reason and within the limit of the type',
    body: z.strictObject({ seen: Seen, due: Due, to: Day, reason: text(2000, 1) }),
    problems: [
      'nothing_in_force',
      'review_never',
      'folder_shut',
      'day_not_after_today',
      'review_not_later',
      'review_postponed_too_far',
    ],
  }),
};
