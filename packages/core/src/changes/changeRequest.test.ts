import { describe, expect, it } from 'vitest';
import { decideRequestAnswer, REQUEST_ANSWERS, requestNumber, STATE_AFTER } from './changeRequest.ts';

const request = (number: string, state: 'open' | 'rejected' | 'merged' | 'noted' = 'open', documentId = 'd') => ({
  number,
  state,
  documentId,
});
const codes = (refusals: readonly { code: string }[]) => refusals.map(({ code }) => code);

describe('a change request', () => {
  it('is answered once', () => {
    for (const answer of REQUEST_ANSWERS)
      for (const state of ['rejected', 'merged', 'noted'] as const)
        expect(codes(decideRequestAnswer(request('CR-2026-0001', state), answer, request('CR-2026-0002')))).toEqual([
          'request_answered',
        ]);
    expect(decideRequestAnswer(request('CR-2026-0001'), 'reject')).toEqual([]);
    expect(decideRequestAnswer(request('CR-2026-0001'), 'note')).toEqual([]);
  });
  it('is merged into another one of its document that still leads on', () => {
    const one = request('CR-2026-0001');
    expect(codes(decideRequestAnswer(one, 'merge'))).toEqual(['request_to_merge_into']);
    expect(codes(decideRequestAnswer(one, 'merge', one))).toEqual(['request_merge_other']);
    expect(codes(decideRequestAnswer(one, 'merge', request('CR-2026-0002', 'open', 'other')))).toEqual([
      'request_merge_other',
    ]);
    for (const state of ['merged', 'rejected'] as const)
      expect(codes(decideRequestAnswer(one, 'merge', request('CR-2026-0002', state)))).toEqual(['request_merge_ended']);
    for (const state of ['open', 'noted'] as const)
      expect(decideRequestAnswer(one, 'merge', request('CR-2026-0002', state))).toEqual([]);
  });
  it('has a number by year, and a state after each answer', () => {
    expect(requestNumber(2026, 7)).toBe('CR-2026-0007');
    expect(requestNumber(2026, 12345)).toBe('CR-2026-12345');
    expect(REQUEST_ANSWERS.map((answer) => STATE_AFTER[answer])).toEqual(['rejected', 'merged', 'noted']);
  });
});
