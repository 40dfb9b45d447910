import { z } from 'zod';

/** A person outside who is asked to sign. */
export type OutsideSigner = { name: string; mail: string };

/** How far a request at the service is; `address` is where somebody signs. */
export type Asked = {
  state: 'waiting' | 'signed' | 'declined';
  why: string;
  signers: { name: string; signedAt: string | null; address: string | null }[];
};

/**
 * A service through which people outside sign a PDF. This is all that the application knows of one; an adapter speaks to a particular
 * service.
 */
export type SigningService = {
  /** Asks people to sign a PDF. Gives the reference by which the service knows the request. */
  send: (request: {
    title: string;
    message: string;
    signers: readonly OutsideSigner[];
    pdf: Uint8Array;
  }) => Promise<{ reference: string }>;
  ask: (reference: string) => Promise<Asked>;
  /** The PDF with its signatures. */
  fetch: (reference: string) => Promise<Uint8Array>;
  cancel: (reference: string) => Promise<void>;
  /** The certificates that vouch for its signatures, as PEM. */
  certificates: () => Promise<string>;
};

const Sent = z.object({ reference: z.string().min(1).max(200) });
const Answer = z.object({
  state: z.enum(['waiting', 'signed', 'declined']),
  why: z.string().max(2000).default(''),
  signers: z.array(
    z.object({ name: z.string().max(200), signedAt: z.string().nullable(), address: z.url().nullable() }),
  ),
});

const SECONDS = 30;

/**
 * Speaks to a service over HTTP: `POST /requests` takes a PDF with its signers, `GET /requests/:reference` tells how far it is,
 * `GET /requests/:reference/pdf` gives the signed PDF, `DELETE` takes the request back, `GET /certificates` tells by whom it signs.
 *
 * @throws where the service does not answer, or answers with something else
 */
export const httpSigningService = (url: string, token: string | undefined): SigningService => {
  const base = url.replace(/\/+$/, '');
  const call = async (path: string, init: RequestInit = {}): Promise<Response> => {
    const answer = await fetch(`${base}${path}`, {
      ...init,
      headers: {
        ...(init.body ? { 'content-type': 'application/json' } : {}),
        ...(token ? { authorization: `Bearer ${token}` } : {}),
      },
      signal: AbortSignal.timeout(SECONDS * 1000),
    });
    if (!answer.ok) throw new Error(`The signing service answers with ${answer.status}.`);
    return answer;
  };
  const at = (reference: string) => `/requests/${encodeURIComponent(reference)}`;
  return {
    send: async ({ title, message, signers, pdf }) => {
      const body = JSON.stringify({ title, message, signers, pdf: Buffer.from(pdf).toString('base64') });
      return Sent.parse(await (await call('/requests', { method: 'POST', body })).json());
    },
    ask: async (reference) => Answer.parse(await (await call(at(reference))).json()),
    fetch: async (reference) => new Uint8Array(await (await call(`${at(reference)}/pdf`)).arrayBuffer()),
    cancel: async (reference) => void (await call(at(reference), { method: 'DELETE' })),
    certificates: async () => (await call('/certificates')).text(),
  };
};
