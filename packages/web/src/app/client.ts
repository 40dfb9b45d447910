import type { AnswerOf, BodyInOf, Endpoint, ParamsOf, ProblemDocument, QueryInOf } from '@kanonos/contract';
import { MutationCache, QueryClient, queryOptions } from '@tanstack/react-query';
import { toast } from '../ui/toast.ts';
import { wording } from './wording.ts';

/** A refusal as the server words it, with what belongs to which field. */
export class Problem extends Error {
  readonly document: ProblemDocument;
  constructor(document: ProblemDocument) {
    super(document.detail);
    this.name = 'Problem';
    this.document = document;
  }
  get code() {
    return this.document.code;
  }
}

type AnyEndpoint = Endpoint;
export type CallInput<E extends AnyEndpoint> = {
  params?: ParamsOf<E>;
  query?: QueryInOf<E>;
  body?: BodyInOf<E>;
  key?: string;
  signal?: AbortSignal;
};

export const addressOf = (
  endpoint: AnyEndpoint,
  params: Record<string, unknown> = {},
  query: Record<string, unknown> = {},
): string => {
  const path = endpoint.path.replace(/:(\w+)/g, (_, name: string) => encodeURIComponent(String(params[name] ?? '')));
  const search = new URLSearchParams();
  for (const [name, value] of Object.entries(query))
    if (value !== undefined && value !== '' && value !== null) search.set(name, String(value));
  const text = search.toString();
  return text ? `${path}?${text}` : path;
};

const OFFLINE: ProblemDocument = {
  type: '/problems/unreachable',
  title: wording.kanonosIsNotResponding,
  status: 0,
  detail: wording.kanonosIsNotRespondingWhatYou,
  code: 'unreachable',
  refusals: [],
  requestId: '',
};

const send = <E extends AnyEndpoint>(endpoint: E, input: CallInput<E>): Promise<Response> =>
  fetch(addressOf(endpoint, input.params as never, input.query as never), {
    method: endpoint.method,
    credentials: 'same-origin',
    ...(input.signal ? { signal: input.signal } : {}),
    headers: {
      accept: 'application/json',
      ...(input.body === undefined ? {} : { 'content-type': 'application/json' }),
      ...(input.key ? { 'idempotency-key': input.key } : {}),
    },
    ...(input.body === undefined ? {} : { body: JSON.stringify(input.body) }),
  }).catch((error: Error) => {
    if (error.name === 'AbortError') throw error;
    throw new Problem(OFFLINE);
  });

const problemOf = async (response: Response): Promise<Problem> =>
  new Problem(await response.json().catch(() => ({ ...OFFLINE, status: response.status })));

/** Calls an endpoint by its description. Refusals come as a Problem; a lost connection too. */
export const call = async <E extends AnyEndpoint>(endpoint: E, input: CallInput<E> = {}): Promise<AnswerOf<E>> => {
  const response = await send(endpoint, input);
  if (response.ok)
    return (await response.json().catch((error: Error) => {
      throw error.name === 'AbortError' ? error : new Problem(OFFLINE);
    })) as AnswerOf<E>;
  throw await problemOf(response);
};

/** Calls an endpoint that answers with a file. Refused like any other call. */
export const fetchFile = async <E extends AnyEndpoint>(endpoint: E, input: CallInput<E> = {}): Promise<Blob> => {
  const response = await send(endpoint, input);
  if (!response.ok) throw await problemOf(response);
  return response.blob();
};

/** Whether a refusal is temporary: it is not about the request itself. */
const isPassing = (error: unknown): boolean =>
  error instanceof Problem && (error.document.status === 0 || error.document.status >= 500);

/**
 * Known data that cannot be refreshed just now: it stays on the screen, with all that was typed, and the page reports
 * that it may be old. Throws what else was refused, and everything where nothing is known.
 */
export const knownInstead = <T>(error: unknown, known: T | undefined): T => {
  if (known === undefined || !isPassing(error)) throw error;
  toast.error(wording.whatYouSeeMayBeOutOfDate, { id: 'last heard of' });
  return known;
};

/** Query options made from an endpoint's description: key, function and types in one place. */
export const ask = <E extends AnyEndpoint>(endpoint: E, input: Omit<CallInput<E>, 'body' | 'key' | 'signal'> = {}) =>
  queryOptions({
    queryKey: [endpoint.feature, endpoint.id, input.params ?? {}, input.query ?? {}],
    queryFn: ({ signal, client, queryKey }) =>
      call(endpoint, { ...input, signal }).catch((error) =>
        knownInstead(error, client.getQueryData<AnswerOf<E>>(queryKey)),
      ),
  });

export const queryClient: QueryClient = new QueryClient({
  // Who is refused because somebody else was first sees what that one did.
  mutationCache: new MutationCache({
    onError: (error) => {
      if (error instanceof Problem && error.code === 'changed_meanwhile') void refreshAll();
    },
  }),
  defaultOptions: {
    queries: {
      staleTime: 5_000,
      refetchOnWindowFocus: true,
      retry: (n, error) =>
        n < 2 && error instanceof Problem && (error.document.status === 0 || error.document.status === 503),
    },
  },
});

/** After a command everything that is shown may have changed: what is on screen is asked anew. */
export const refreshAll = () => queryClient.invalidateQueries();

/** Sends a file with progress from 0 to 1; several seconds long for a large one. */
export const uploadFile = (
  file: File,
  onProgress: (share: number) => void,
): Promise<import('@kanonos/contract').Upload> =>
  new Promise((resolve, reject) => {
    const request = new XMLHttpRequest();
    const form = new FormData();
    form.append('file', file, file.name);
    request.open('POST', '/api/uploads');
    request.upload.onprogress = (event) => onProgress(event.total ? event.loaded / event.total : 0);
    request.onerror = () => reject(new Problem(OFFLINE));
    request.onload = () => {
      const answer = JSON.parse(request.responseText || '{}');
      if (request.status === 200) resolve(answer);
      else reject(new Problem(answer.code ? answer : { ...OFFLINE, status: request.status }));
    };
    request.send(form);
  });
