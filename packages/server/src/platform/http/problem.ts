import { fieldOf, type ProblemDocument, sentenceOf, statusOf } from '@kanonos/contract';
import type { ErrorRequestHandler, Request, Response } from 'express';
import type { Logger } from 'pino';
import { isConnectionLost, refusalOfConstraint } from '../db/constraints.ts';
import { RefusalError, refused } from '../refused.ts';

/** The one place where codes become statuses and RFC 9457 problem documents. Unknown errors: logged, bare 500. */
export const problemHandler =
  (log: Logger, zone: () => Promise<string>): ErrorRequestHandler =>
  async (error, request, response, _next) => {
    const known = toRefusalError(error);
    if (!known) log.error({ err: error, requestId: requestId(request) }, 'unexpected');
    if (response.headersSent) {
      response.destroy();
      return;
    }
    // Without the database there is no zone, and still an answer.
    const ofOrganisation = await zone().catch(() => undefined);
    sendProblem(request, response, known ?? refused('internal'), ofOrganisation);
  };

const sendProblem = (request: Request, response: Response, error: RefusalError, zone: string | undefined): void => {
  const [first = { code: 'internal' }] = error.refusals;
  const details = error.refusals.map((refusal) => {
    const detail = sentenceOf(refusal.code, refusal.params, zone);
    const field = fieldOf(refusal.code, refusal.params);
    return { ...refusal, detail, ...(field ? { field } : {}) };
  });
  const status = statusOf(first.code);
  const document: ProblemDocument = {
    type: `/problems/${first.code.replaceAll('_', '-')}`,
    title: details[0]?.detail ?? first.code,
    status,
    detail: details.map((d) => d.detail).join(' '),
    instance: request.originalUrl.slice(0, 500),
    code: first.code,
    refusals: details,
    requestId: requestId(request),
  };
  if (status === 429 && typeof first.params?.seconds === 'number')
    response.setHeader('Retry-After', String(first.params.seconds));
  response.status(status).type('application/problem+json').send(JSON.stringify(document));
};

const requestId = (request: Request): string => String((request as { id?: unknown }).id ?? '');

type LibraryError = { type?: string; status?: number; code?: string; message?: string };

/** Errors of libraries that are really a person's bad input. */
const toRefusalError = (error: unknown): RefusalError | undefined => {
  if (error instanceof RefusalError) return error;
  const { type, status, code } = (error ?? {}) as LibraryError;
  if (type === 'entity.parse.failed') return refused('body_malformed', { reason: 'it is not well-formed JSON' });
  if (type === 'entity.too.large') return refused('too_large', { limit: '2 MB' });
  if (type === 'encoding.unsupported' || type === 'charset.unsupported')
    return refused('media_type_refused', { wanted: 'JSON in UTF-8' });
  if (type === 'request.aborted' || type === 'request.size.invalid')
    return refused('body_malformed', { reason: 'it is incomplete' });
  // A file of the built web that is not there, or may not be looked at.
  if (status === 404 || status === 403) return refused('not_found');
  if (code === '22003')
    return refused('input_invalid', { field: 'request', reason: 'contains a number that is too large' });
  if (error instanceof URIError || status === 400)
    return refused('body_malformed', { reason: 'the address is not well-formed' });
  // Text that PostgreSQL cannot hold (NUL, lone surrogates) or that is no value of the column's type.
  if (code === '22021' || code === '22P05' || code === '22P02')
    return refused('input_invalid', { field: 'request', reason: 'contains characters that cannot be stored' });
  if (isConnectionLost(error)) return refused('not_ready');
  if (code === '53100') return refused('disk_full');
  const constraint = refusalOfConstraint(error);
  return constraint ? refused(constraint) : undefined;
};
