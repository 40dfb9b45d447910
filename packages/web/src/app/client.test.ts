import { api } from '@kanonos/contract';
import { describe, expect, test, vi } from 'vitest';
import { addressOf, ask, knownInstead, Problem } from './client.ts';

// What draws notices is fetched late: after the last test there is nothing left to fetch it into.
vi.mock('../ui/toast.ts', () => ({
  toast: { success: vi.fn(), error: vi.fn(), warning: vi.fn(), message: vi.fn() },
}));

describe('addresses made from the description of an endpoint', () => {
  test('a number with signs of an address stays one part of the path', () => {
    expect(addressOf(api.documents.page, { document: 'BRN/7 #2?' })).toBe('/api/documents/BRN%2F7%20%232%3F');
  });

  test('a query holds only parameters with a value', () => {
    expect(
      addressOf(api.find.register, {}, { revisionScope: 'newest', q: '', state: undefined, owner: null, limit: 50 }),
    ).toBe('/api/register?revisionScope=newest&limit=50');
    expect(addressOf(api.find.register, {}, { q: 'grip & "rope"' })).toBe('/api/register?q=grip+%26+%22rope%22');
  });
});

test('answers are kept apart by endpoint, parameters and query', () => {
  const key = (number: string) => ask(api.documents.page, { params: { document: number } }).queryKey;
  expect(key('A')).toEqual(key('A'));
  expect(key('A')).not.toEqual(key('B'));
  expect(key('A')).not.toEqual(ask(api.documents.history, { params: { document: 'A' } }).queryKey);
});

test('a problem speaks with the words of the server and keeps its code', () => {
  const problem = new Problem({
    type: '/problems/checked-out',
    title: 'A has it checked out.',
    status: 409,
    detail: 'A has it checked out.',
    code: 'checked_out',
    refusals: [],
    requestId: 'x',
  });
  expect([problem.message, problem.code, problem instanceof Error]).toEqual([
    'A has it checked out.',
    'checked_out',
    true,
  ]);
});

test('known data stay while they cannot be refreshed; a refusal replaces them, and without data the error is thrown', () => {
  const problem = (status: number) =>
    new Problem({ type: '', title: '', status, detail: '', code: 'x', refusals: [], requestId: '' });
  for (const status of [0, 500, 503]) {
    expect(knownInstead(problem(status), 'as it was')).toBe('as it was');
    expect(() => knownInstead(problem(status), undefined)).toThrow(Problem);
  }
  for (const status of [401, 403, 404]) expect(() => knownInstead(problem(status), 'as it was')).toThrow(Problem);
  expect(() => knownInstead(new TypeError('a mistake of ours'), 'as it was')).toThrow(TypeError);
});
