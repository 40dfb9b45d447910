import { describe, expect, test } from 'vitest';
import { z } from 'zod';
import { ENDPOINTS, PROBLEM_CODES, sentenceOf, statusOf, toOpenApi } from './index.ts';

const shapeOf = (schema: z.ZodType): string[] | undefined =>
  schema instanceof z.ZodObject ? Object.keys(schema.shape) : undefined;

describe('every endpoint', () => {
  test('has a name and an address of its own', () => {
    expect(new Set(ENDPOINTS.map((e) => e.id)).size).toBe(ENDPOINTS.length);
    expect(new Set(ENDPOINTS.map((e) => `${e.method} ${e.path}`)).size).toBe(ENDPOINTS.length);
  });

  test.each(ENDPOINTS.map((e) => [e.id, e] as const))(
    '%s describes the parameters of its path and no others',
    (_, e) => {
      const inPath = [...e.path.matchAll(/:(\w+)/g)].map((match) => match[1]).sort();
      expect(shapeOf(e.params)?.sort()).toEqual(inPath);
    },
  );

  test.each(ENDPOINTS.map((e) => [e.id, e] as const))('%s refuses a member that it does not know', (_, e) => {
    const parsed = e.query.safeParse({ surprise: 'x' });
    expect(parsed.success).toBe(false);
    if (e.method === 'GET' || e.upload) return;
    const body = e.body.safeParse({ surprise: 'x' });
    const taken = body.success && body.data !== undefined;
    expect(taken).toBe(false);
  });

  test('that only reads has no body, and one that acts is not a GET', () => {
    for (const e of ENDPOINTS.filter((e) => e.method === 'GET'))
      expect([e.id, shapeOf(e.body)]).toEqual([e.id, undefined]);
  });

  test('names only problems that have words and a status', () => {
    for (const e of ENDPOINTS)
      for (const code of e.problems) expect([e.id, code, PROBLEM_CODES.includes(code)]).toEqual([e.id, code, true]);
  });
});

describe('every problem', () => {
  /** Values for whatever a sentence may name. */
  const anything = new Proxy(
    {},
    { get: (_, name) => (name === 'since' || name === 'until' ? '2026-11-25T09:00:00Z' : 7) },
  );

  test.each(PROBLEM_CODES.map((code) => [code]))('%s is a sentence that leaves nothing open', (code) => {
    const sentence = sentenceOf(code, anything as Record<string, string>, 'Europe/Zurich');
    expect(sentence).not.toMatch(/undefined|null|NaN|\[object/);
    expect(sentence).toMatch(/[.?!]$/);
    expect(sentence.length).toBeLessThan(400);
    expect(statusOf(code)).toBeGreaterThanOrEqual(400);
  });

  test('a time among its words is that of the organisation’s zone', () => {
    const since = { who: 'Mara', since: '2026-11-25T23:30:00Z' };
    expect(sentenceOf('checked_out', since, 'Europe/Zurich')).toBe(
      'Mara has had it checked out since 26 Nov 2026, 00:30. Ask for it to be checked in, or take over the check-out.',
    );
    expect(sentenceOf('checked_out', since, 'America/New_York')).toBe(
      'Mara has had it checked out since 25 Nov 2026, 18:30. Ask for it to be checked in, or take over the check-out.',
    );
  });

  test('that nobody described is a bug and answers 500', () => {
    expect(statusOf('no_such_code')).toBe(500);
    expect(sentenceOf('no_such_code')).toBe('no_such_code');
  });
});

test('the description in OpenAPI 3.1 has every endpoint once, with its parameters and problems', () => {
  const description = toOpenApi(ENDPOINTS);
  const operations = Object.entries(description.paths ?? {}).flatMap(([path, methods]) =>
    Object.entries(
      methods as Record<
        string,
        { operationId: string; parameters?: { name: string; in: string }[]; responses: object }
      >,
    ).map(([method, operation]) => ({ path, method, ...operation })),
  );
  expect(operations).toHaveLength(ENDPOINTS.length);
  for (const e of ENDPOINTS) {
    const operation = operations.find((o) => o.operationId === e.id);
    expect(operation?.path).toBe(e.path.replace(/:(\w+)/g, '{$1}'));
    const named = (operation?.parameters ?? []).filter((p) => p.in === 'path').map((p) => p.name);
    expect(named.sort()).toEqual((shapeOf(e.params) ?? []).sort());
    const statuses = new Set(e.problems.map((code) => String(statusOf(code))));
    expect(Object.keys(operation?.responses ?? {})).toEqual(expect.arrayContaining([...statuses]));
  }
});
