import { z } from 'zod';
import { createDocument, type ZodOpenApiPathsObject } from 'zod-openapi';
import { ProblemDocument } from './common.ts';
import type { Endpoint } from './endpoint.ts';
import { PROBLEMS, sentenceOf, statusOf } from './problems.ts';

/** The OpenAPI 3.1 description of endpoints: requests, answers, and every problem by status with its codes. */
export const toOpenApi = (endpoints: readonly Endpoint[]) => {
  const paths: ZodOpenApiPathsObject = {};
  for (const endpoint of endpoints) {
    const path = endpoint.path.replace(/:(\w+)/g, '{$1}');
    const codes = [
      ...new Set([...endpoint.problems, 'internal', ...(endpoint.access === 'public' ? [] : ['not_signed_in'])]),
    ];
    if (endpoint.access !== 'public' && endpoint.access !== 'signed in') codes.push('organisation_right_missing');
    const responses: Record<string, object> = { 200: success(endpoint) };
    for (const status of [...new Set(codes.map(statusOf))].sort()) {
      const words = codes.filter((code) => statusOf(code) === status).map((code) => `\`${code}\`: ${exampleOf(code)}`);
      responses[status] = {
        description: words.join('\n\n'),
        content: { 'application/problem+json': { schema: ProblemDocument } },
      };
    }
    paths[path] = {
      ...paths[path],
      [endpoint.method.toLowerCase()]: {
        operationId: endpoint.id,
        tags: [endpoint.feature],
        summary: endpoint.summary,
        description:
          endpoint.access === 'signed in'
            ? undefined
            : endpoint.access === 'public'
              ? 'Open to everyone.'
              : `Needs the right to ${endpoint.access}.`,
        requestParams: { path: endpoint.params as z.ZodObject, query: endpoint.query as z.ZodObject },
        ...(endpoint.upload
          ? {
              requestBody: {
                content: {
                  'multipart/form-data': { schema: z.object({ file: z.string().meta({ format: 'binary' }) }) },
                },
              },
            }
          : endpoint.body instanceof z.ZodObject
            ? { requestBody: { content: { 'application/json': { schema: endpoint.body } } } }
            : {}),
        responses,
      },
    };
  }
  return createDocument({
    openapi: '3.1.0',
    info: {
      title: 'Kanonos',
      version: '0.1.0',
      description:
        'Controlled documents. Sign in with POST /api/session; writes are refused when they come from another origin.',
    },
    paths,
  });
};

const success = (endpoint: Endpoint) => {
  if (endpoint.stream === 'bytes')
    return {
      description: 'the bytes',
      content: { 'application/octet-stream': { schema: z.string().meta({ format: 'binary' }) } },
    };
  if (endpoint.stream === 'lines')
    return { description: 'JSON Lines', content: { 'application/jsonl': { schema: z.string() } } };
  return { description: 'done', content: { 'application/json': { schema: endpoint.answer } } };
};

const exampleOf = (code: string) => sentenceOf(code, new Proxy({}, { get: () => '…' })).replace(/Invalid Date/g, '…');

/** All codes, for tests. */
export const PROBLEM_CODES = Object.keys(PROBLEMS);
