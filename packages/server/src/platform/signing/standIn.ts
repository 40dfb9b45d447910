import { randomBytes } from 'node:crypto';
import { mkdir, readFile, rename, writeFile } from 'node:fs/promises';
import { join } from 'node:path';
import express from 'express';
import { makeCertificate, type SealFiles } from '../seal/certificate.ts';
import { readSeal, sealPdf } from '../seal/sealPdf.ts';
import { signingPage } from './standInPage.ts';

type Request = {
  title: string;
  message: string;
  signers: { name: string; mail: string; signedAt: string | null }[];
  why: string;
  pdf: string;
};

const LIMIT = '80mb';

/** Written whole or not at all. */
const write = async (path: string, value: unknown): Promise<void> => {
  await writeFile(`${path}.part`, JSON.stringify(value), { mode: 0o600 });
  await rename(`${path}.part`, path);
};

/** The certificate that vouches for everybody who signs here; made on first use. */
const authorityOf = async (dir: string): Promise<SealFiles> => {
  const path = join(dir, 'authority.json');
  const kept = await readFile(path, 'utf8').catch(() => undefined);
  if (kept) return JSON.parse(kept);
  const made = await makeCertificate('Signing service of the demo', new Date());
  await write(path, made);
  return made;
};

/**
 * A signing service for a demo or a trial: takes PDFs over HTTP on loopback, shows each signer a page to sign or decline on, and signs
 * with a certificate in the signer's name that it vouches for. It keeps no passwords and proves nobody's identity.
 */
export const startSigningStandIn = async (
  dataDir: string,
  port: number,
): Promise<{ url: string; stop: () => Promise<void> }> => {
  const dir = join(dataDir, 'signing');
  await mkdir(dir, { recursive: true, mode: 0o700 });
  const authority = await authorityOf(dir);
  const app = express();
  let url = '';
  const pathOf = (reference: string) => join(dir, `${reference.replace(/[^\w-]/g, '')}.json`);
  const open = async (reference: string): Promise<Request | undefined> => {
    const text = await readFile(pathOf(reference), 'utf8').catch(() => undefined);
    return text ? JSON.parse(text) : undefined;
  };
  const stateOf = ({ why, signers }: Request) =>
    why ? 'declined' : signers.every(({ signedAt }) => signedAt) ? 'signed' : 'waiting';

  app.use(express.json({ limit: LIMIT }));
  app.use(express.urlencoded({ extended: false }));
  app.get('/certificates', (_request, response) => {
    response.type('text/plain').send(authority.certificates);
  });
  app.post('/requests', async ({ body }, response) => {
    const { title, message, signers, pdf } = body as Omit<Request, 'why'>;
    const reference = randomBytes(16).toString('hex');
    await write(pathOf(reference), {
      title,
      message,
      pdf,
      why: '',
      signers: signers.map(({ name, mail }) => ({ name, mail, signedAt: null })),
    });
    response.json({ reference });
  });
  app.get('/requests/:reference', async ({ params }, response) => {
    const request = await open(params.reference);
    if (!request) return void response.sendStatus(404);
    response.json({
      state: stateOf(request),
      why: request.why,
      signers: request.signers.map(({ name, signedAt }, n) => ({
        name,
        signedAt,
        address: signedAt || request.why ? null : `${url}/sign/${params.reference}/${n}`,
      })),
    });
  });
  app.get('/requests/:reference/pdf', async ({ params }, response) => {
    const request = await open(params.reference);
    if (!request) return void response.sendStatus(404);
    response.type('application/pdf').send(Buffer.from(request.pdf, 'base64'));
  });
  app.delete('/requests/:reference', async ({ params }, response) => {
    const request = await open(params.reference);
    if (request) await write(pathOf(params.reference), { ...request, why: 'The request was taken back.' });
    response.sendStatus(204);
  });
  app.get('/sign/:reference/:n', async ({ params }, response) => {
    const request = await open(params.reference);
    const signer = request?.signers[Number(params.n)];
    if (!request || !signer) return void response.sendStatus(404);
    response.type('html').send(signingPage(request, signer));
  });
  app.post('/sign/:reference/:n', async ({ params, body }, response) => {
    const request = await open(params.reference);
    const signer = request?.signers[Number(params.n)];
    if (!request || !signer || signer.signedAt || request.why) return void response.sendStatus(409);
    if (body.does === 'decline') request.why = `${signer.name} rejected it: ${String(body.why ?? '').slice(0, 500)}`;
    else {
      const at = new Date();
      const vouching = await readSeal(authority);
      const [certificate] = vouching.certificates;
      if (!certificate) throw new Error('the signing service has no certificate');
      const own = await makeCertificate(signer.name, at, { issuer: { certificate, key: vouching.key } });
      const signed = await sealPdf(Buffer.from(request.pdf, 'base64'), await readSeal(own), {
        reason: `Signed by ${signer.name}`,
        at,
      });
      request.pdf = Buffer.from(signed).toString('base64');
      signer.signedAt = at.toISOString();
    }
    await write(pathOf(params.reference), request);
    response.redirect(303, `/sign/${params.reference}/${params.n}`);
  });
  const server = app.listen(port, '127.0.0.1');
  await new Promise<void>((resolve, reject) => {
    server.once('listening', resolve);
    server.once('error', reject);
  });
  const address = server.address();
  url = `http://127.0.0.1:${typeof address === 'object' && address ? address.port : port}`;
  return { url, stop: () => new Promise((resolve) => server.close(() => resolve())) };
};
