import { pipeline } from 'node:stream/promises';
import type { Request, Response } from 'express';
import type { App } from '../app.ts';

type Sent = {
  sha256: string;
  size: number;
  mediaType: string;
  name: string;
  as: 'open' | 'download';
  /** The entity tag, where it is not that of the bytes alone. */
  etag?: string;
};

/** What every file is sent with: its kind and name, and that shown alone it can run nothing and reach nothing. */
const describe = (response: Response, { mediaType, name, as }: Omit<Sent, 'sha256' | 'size'>): void => {
  const isPlain = /^(text|message)\//.test(mediaType) && as === 'open';
  response.setHeader('Content-Type', isPlain ? 'text/plain; charset=utf-8' : mediaType);
  response.setHeader(
    'Content-Disposition',
    `${as === 'open' ? 'inline' : 'attachment'}; filename*=UTF-8''${encodeURIComponent(name)}`,
  );
  response.setHeader(
    'Content-Security-Policy',
    "default-src 'none'; img-src 'self' data:; style-src 'unsafe-inline'; sandbox",
  );
  response.setHeader('Cache-Control', 'private, no-cache');
};

/** Sends the bytes of a content under a name: whole, one range of it, or 304 where the client has it already. */
export const sendContent = async (
  app: Pick<App, 'content'>,
  request: Request,
  response: Response,
  content: Sent,
): Promise<void> => {
  describe(response, content);
  const etag = content.etag ?? `"${content.sha256}"`;
  response.setHeader('ETag', etag);
  response.setHeader('Accept-Ranges', 'bytes');
  if (request.headers['if-none-match'] === etag) {
    response.status(304).end();
    return;
  }
  const range = rangeOf(request.headers.range, content.size);
  response.setHeader('Content-Length', range ? range.end - range.start + 1 : content.size);
  if (range) response.status(206).setHeader('Content-Range', `bytes ${range.start}-${range.end}/${content.size}`);
  await pipeline(await app.content.open(content.sha256, range), response).catch((error: { code?: string }) => {
    if (error.code !== 'ERR_STREAM_PREMATURE_CLOSE') throw error;
  });
};

/** Sends bytes that were made for this answer alone, whole. */
export const sendBytes = (response: Response, bytes: Uint8Array, about: Omit<Sent, 'sha256' | 'size'>): void => {
  describe(response, about);
  if (about.etag) response.setHeader('ETag', about.etag);
  response.setHeader('Content-Length', bytes.byteLength);
  response.end(Buffer.from(bytes.buffer, bytes.byteOffset, bytes.byteLength));
};

/** One requested range of bytes (RFC 9110 14.2); any other request gets the whole. */
const rangeOf = (header: string | undefined, size: number): { start: number; end: number } | undefined => {
  const match = /^bytes=(\d*)-(\d*)$/.exec(header ?? '');
  if (!match || (match[1] === '' && match[2] === '')) return undefined;
  const start = match[1] === '' ? Math.max(0, size - Number(match[2])) : Number(match[1]);
  const end = match[1] === '' || match[2] === '' ? size - 1 : Math.min(Number(match[2]), size - 1);
  return start <= end && start < size ? { start, end } : undefined;
};
