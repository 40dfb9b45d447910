import type { Endpoint, Me } from '@kanonos/contract';
import { QueryClient, QueryClientProvider } from '@tanstack/react-query';
import { cleanup, configure, render } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import type { ReactNode } from 'react';
import { createMemoryRouter, RouterProvider } from 'react-router';
import { afterEach, beforeEach, vi } from 'vitest';
import { addressOf } from '../app/client.ts';
import { SessionContext } from '../app/session.tsx';

// A busy machine draws a page later than a second after it was asked for.
configure({ asyncUtilTimeout: 5000 });

/** Somebody who is signed in, in an organisation that works from Monday to Friday; today is a Saturday. */
export const ME: Me = {
  id: '01a0000a-0000-7000-8000-000000000001',
  signInName: 'mara.quill',
  name: 'Mara Quill',
  seenBy: null,
  outside: false,
  email: 'mara.quill@thornway.example',
  department: 'Engineering',
  mailMode: 'at once',
  organisationRights: [],
  mayRegister: true,
  overseesRounds: true,
  managesFolders: false,
  supervises: 0,
  rowVersion: 1,
  organisation: {
    name: 'Thornway',
    code: 'THR',
    zone: 'Europe/Vienna',
    demo: false,
    today: '2026-11-28',
    signingIdleMinutes: 10,
    week: [1, 2, 3, 4, 5],
    holidays: ['2026-12-08', '2026-12-25'],
    stateWords: {},
    signatureMeanings: ['Signed as author', 'Witnessed'],
    confidentiality: {
      public: [],
      internal: [],
      confidential: ['share outside'],
      restricted: ['download', 'print', 'share outside'],
    },
  },
};

type Sent = { method: string; path: string; body: unknown };
type Answer = unknown | ((sent: Sent) => unknown);

/** How an endpoint is named among the answers of a test. */
export const at = (endpoint: Endpoint, params: Record<string, string> = {}): string =>
  `${endpoint.method} ${addressOf(endpoint, params)}`;

/** The last command that the page sent. */
export const lastSent = () => sent.filter(({ method }) => method !== 'GET').at(-1);

/** What the page sent to the server since the test began, in order. */
export const sent: Sent[] = [];

/** A refusal as the server gives it: answered with its status instead of 200. */
export const refusedWith = (status: number, code: string, detail: string, field?: string) => ({
  refusal: {
    type: `/problems/${code}`,
    title: detail,
    status,
    detail,
    code,
    refusals: [{ code, detail, ...(field ? { field } : {}) }],
    requestId: '',
  },
});

beforeEach(() => {
  sent.length = 0;
  // jsdom draws nothing, so it knows neither sizes nor whether something is in sight.
  vi.stubGlobal(
    'ResizeObserver',
    class {
      observe() {}
      unobserve() {}
      disconnect() {}
    },
  );
  Element.prototype.scrollIntoView = () => {};
});
afterEach(() => {
  cleanup();
  vi.unstubAllGlobals();
});

/** Draws a piece as a signed-in person sees it. `answers` are given by `METHOD /path`; any other is not found. */
export const renderPage = (piece: ReactNode, answers: Record<string, Answer> = {}, at = '/', me: Me = ME) => {
  vi.stubGlobal('fetch', async (address: string, init: RequestInit = {}) => {
    const { pathname } = new URL(address, 'http://localhost');
    const request = {
      method: init.method ?? 'GET',
      path: pathname,
      body: init.body ? JSON.parse(String(init.body)) : undefined,
    };
    sent.push(request);
    const known = answers[`${request.method} ${pathname}`];
    const answer = typeof known === 'function' ? known(request) : known;
    const refusal =
      answer === undefined ? refusedWith(404, 'not_found', 'Nothing was found.').refusal : answer?.refusal;
    return new Response(JSON.stringify(refusal ?? answer), { status: refusal?.status ?? 200 });
  });
  // Files are sent by XMLHttpRequest, which reports progress; here each arrives at once.
  vi.stubGlobal(
    'XMLHttpRequest',
    class {
      upload = {};
      status = 200;
      responseText = '';
      onload = () => {};
      place = '';
      open(method: string, path: string) {
        this.place = `${method} ${path}`;
      }
      send(form: FormData) {
        const known = answers[this.place];
        const file = form.get('file') as File;
        const answer =
          typeof known === 'function' ? known({ method: 'POST', path: this.place, body: file.name }) : known;
        this.status = answer?.refusal?.status ?? 200;
        this.responseText = JSON.stringify(answer?.refusal ?? answer);
        queueMicrotask(() => this.onload());
      }
    },
  );
  const client = new QueryClient({ defaultOptions: { queries: { retry: false } } });
  const router = createMemoryRouter([{ path: '*', element: piece }], { initialEntries: [at] });
  const page = render(
    <QueryClientProvider client={client}>
      <SessionContext value={me}>
        <RouterProvider router={router} />
      </SessionContext>
    </QueryClientProvider>,
  );
  return { ...page, router, user: userEvent.setup() };
};
