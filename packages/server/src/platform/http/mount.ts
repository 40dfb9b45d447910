import type { AnswerOf, BodyOf, Endpoint, ParamsOf, QueryOf } from '@kanonos/contract';
import type { Request, Response, Router } from 'express';
import type { z } from 'zod';
import { RefusalError, refused } from '../refused.ts';
import { badTextIn } from './badText.ts';

/** The input of a route: everything parsed by the endpoint's schemas, and the viewer. */
export type Call<E, V> = {
  params: ParamsOf<E>;
  query: QueryOf<E>;
  body: BodyOf<E>;
  viewer: V;
  request: Request;
  response: Response;
};

export type Mount<V> = <P extends z.ZodType, Q extends z.ZodType, B extends z.ZodType, A extends z.ZodType>(
  endpoint: Endpoint<P, Q, B, A>,
  handler: (call: Call<Endpoint<P, Q, B, A>, V>) => Promise<AnswerOf<Endpoint<P, Q, B, A>> | undefined>,
) => void;

type Access<V> = {
  /** In tests: every answer is held against its own description, so that the two never part. */
  checkAnswers: boolean;
  identify: (request: Request) => Promise<V | undefined>;
  may: (viewer: V, right: string) => boolean;
  /** Refuses a change to who only looks. */
  ensureMayChange: (viewer: V, endpoint: { id: string; method: string }) => void;
};

/**
 * Mounts endpoints on a router: who may call it at all is decided here from the endpoint's description, then its input is
 * parsed with its own schemas. A handler that answers nothing has sent the answer itself.
 */
export const createMount =
  <V>(router: Router, access: Access<V>): Mount<V> =>
  (endpoint, handler) => {
    const path = endpoint.path.replace(/^\/api/, '');
    const method = endpoint.method.toLowerCase() as 'get' | 'post' | 'put' | 'patch' | 'delete';
    router[method](path, async (request, response) => {
      const viewer = await access.identify(request);
      if (endpoint.access !== 'public') {
        if (!viewer) throw refused('not_signed_in');
        access.ensureMayChange(viewer, endpoint);
        if (endpoint.access !== 'signed in' && !access.may(viewer, endpoint.access))
          throw refused('organisation_right_missing', { right: endpoint.access });
      }
      const takesJson = method !== 'get' && method !== 'delete' && !endpoint.upload;
      if (
        takesJson &&
        request.headers['content-length'] !== '0' &&
        request.headers['content-type'] !== undefined &&
        !request.is('application/json')
      ) {
        throw refused('media_type_refused', { wanted: 'application/json' });
      }
      const params = parse(endpoint.params, request.params, '');
      const query = parse(endpoint.query, request.query, '');
      const body = takesJson ? parse(endpoint.body, request.body, 'body') : undefined;
      const answer = await handler({ params, query, body, viewer: viewer as V, request, response } as never);
      if (response.headersSent || response.writableEnded || endpoint.stream) return;
      if (access.checkAnswers) {
        const checked = endpoint.answer.safeParse(answer ?? {});
        if (!checked.success)
          throw new Error(`${endpoint.id} answers otherwise than described: ${checked.error.message}`);
      }
      response.setHeader('Cache-Control', 'no-store');
      // A handler may have set another status: health answers 503 with its findings.
      response.json(answer ?? {});
    });
  };

const parse = (schema: z.ZodType, value: unknown, whole: string): unknown => {
  const bad = badTextIn(value);
  if (bad !== undefined)
    throw refused('input_invalid', { field: bad, reason: 'contains characters that cannot be stored' });
  const parsed = schema.safeParse(value);
  if (parsed.success) return parsed.data;
  throw new RefusalError(
    parsed.error.issues.slice(0, 20).map((issue) => ({
      code: 'input_invalid',
      params: {
        field:
          issue.path.join('.') ||
          ('keys' in issue ? (issue.keys as string[]).join(', ').slice(0, 100) : whole || 'request'),
        reason: words(issue),
      },
    })),
  );
};

const words = (issue: z.core.$ZodIssue): string => {
  const message = issue.message.replace(/\.$/, '');
  if (issue.code === 'unrecognized_keys') return 'is not known';
  if (issue.code === 'invalid_type')
    return /received undefined/.test(message) ? `is missing; enter ${issue.expected}` : `enter ${issue.expected}`;
  if (issue.code === 'invalid_value') return `one of ${issue.values.map(String).join(', ')} would be right`;
  return message.charAt(0).toLowerCase() + message.slice(1);
};

/** The empty answer of a command that has nothing to tell but that it happened. */
export const done = async (work: Promise<unknown>): Promise<Record<string, never>> => {
  await work;
  return {};
};
