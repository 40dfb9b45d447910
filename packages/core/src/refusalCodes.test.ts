import { expect, it } from 'vitest';
import { REFUSAL_CODES, REFUSALS } from './refusalCodes.ts';
import { refusal, refuse } from './result.ts';

it('gives a refusal its code and the parameters of its sentence', () => {
  expect(refusal('number_taken', { number: 'THR-PRO-0118' })).toEqual({
    code: 'number_taken',
    params: { number: 'THR-PRO-0118' },
  });
  expect(refusal('not_found')).toEqual({ code: 'not_found' });
  expect(refuse('checked_out', { who: 'Joren Adeyemi', since: '2026-11-07T09:00:00Z' })).toEqual({
    ok: false,
    refusals: [{ code: 'checked_out', params: { who: 'Joren Adeyemi', since: '2026-11-07T09:00:00Z' } }],
  });
});

it('does not compile with a code that is unknown, a parameter that is missing, or one that the sentence does not use', () => {
  // @ts-expect-error an unknown code
  refusal('number_takn');
  // @ts-expect-error the holder is missing
  refusal('checked_out', { since: '2026-11-07T09:00:00Z' });
  // @ts-expect-error all parameters are missing
  refusal('checked_out');
  // @ts-expect-error a parameter that the sentence does not use
  refusal('number_taken', { nummer: 'THR-PRO-0118' });
  // @ts-expect-error a sentence without parameters
  refusal('not_found', { number: 'THR-PRO-0118' });
  expect(REFUSAL_CODES).toHaveLength(Object.keys(REFUSALS).length);
});
