import { type Refusal, refusal } from '../result.ts';

/** What became of a change request: nothing yet, or its answer. */
export const REQUEST_STATES = ['open', 'rejected', 'merged', 'noted'] as const;
export type RequestState = (typeof REQUEST_STATES)[number];

/** What whoever answers a request can do: say no, put it to another one, or make it part of a change note. */
export const REQUEST_ANSWERS = ['reject', 'merge', 'note'] as const;
export type RequestAnswer = (typeof REQUEST_ANSWERS)[number];

/** The state that an answer leads to. */
export const STATE_AFTER: Readonly<Record<RequestAnswer, RequestState>> = {
  reject: 'rejected',
  merge: 'merged',
  note: 'noted',
};

type Answered = { number: string; state: RequestState };

/**
 * Why a request cannot be answered so. It is answered once; it is merged into another one of the same document that is not itself merged
 * or rejected, so that what becomes of it can be followed in one step.
 */
export const decideRequestAnswer = (
  request: Answered & { documentId: string },
  answer: RequestAnswer,
  into?: Answered & { documentId: string },
): Refusal[] => {
  if (request.state !== 'open') return [refusal('request_answered', { number: request.number })];
  if (answer !== 'merge') return [];
  if (!into) return [refusal('request_to_merge_into')];
  if (into.number === request.number || into.documentId !== request.documentId)
    return [refusal('request_merge_other', { number: into.number })];
  return into.state === 'merged' || into.state === 'rejected'
    ? [refusal('request_merge_ended', { number: into.number })]
    : [];
};

/** The number of the n-th request of a year. */
export const requestNumber = (year: number, n: number): string => `CR-${year}-${String(n).padStart(4, '0')}`;
