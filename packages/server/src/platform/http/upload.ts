import type { Readable } from 'node:stream';
import busboy from 'busboy';
import type { Request } from 'express';
import { RefusalError, refused } from '../refused.ts';

/**
 * Takes the one file of a multipart request and hands its stream on while it arrives; nothing is held whole in memory.
 * The name comes from the sender's system: only its last part counts.
 */
export const receiveFile = <T>(request: Request, take: (name: string, stream: Readable) => Promise<T>): Promise<T> =>
  new Promise<T>((resolve, reject) => {
    if (!request.is('multipart/form-data')) {
      request.resume();
      reject(refused('media_type_refused', { wanted: 'multipart/form-data with a field "file"' }));
      return;
    }
    let taken: Promise<T> | undefined;
    let parser: busboy.Busboy;
    try {
      parser = busboy({
        headers: request.headers,
        defParamCharset: 'utf8',
        limits: { files: 1, fields: 10, fieldSize: 10_000, parts: 12 },
        preservePath: false,
      });
    } catch {
      request.resume();
      reject(refused('body_malformed', { reason: 'the multipart form is broken' }));
      return;
    }
    const broken = () => refused('body_malformed', { reason: 'the multipart form is broken' });
    let isBroken = false;
    const stop = (error: unknown) => {
      request.unpipe(parser);
      request.resume();
      reject(error);
    };
    parser.on('file', (_field, stream, info) => {
      // The form may break while nobody reads the file yet: unheard, that error would end the process.
      stream.on('error', () => {});
      const name = cleanName(info.filename);
      if (name === '') {
        stream.resume();
        return stop(refused('file_name_invalid'));
      }
      taken = take(name, stream);
      taken.then(resolve, (error) => {
        stream.resume();
        stop(isBroken && !(error instanceof RefusalError) ? broken() : error);
      });
    });
    parser.on('close', () => {
      if (!taken) reject(refused('file_missing'));
    });
    parser.on('error', () => {
      isBroken = true;
      stop(broken());
    });
    request.on('error', () => parser.destroy());
    request.on('aborted', () => {
      isBroken = true;
      parser.destroy();
      reject(broken());
    });
    request.pipe(parser);
  });

const MAX_NAME = 200;

/** The last part of a name, without controls, of at most 200 characters with its extension kept. */
export const cleanName = (name: string | undefined): string => {
  const last = (name ?? '').normalize('NFC').split(/[\\/]/).at(-1) ?? '';
  const clean = [...last]
    .filter((c) => c >= ' ' && c !== '\u007f')
    .join('')
    .trim();
  if (/^\.*$/.test(clean)) return '';
  if ([...clean].length <= MAX_NAME) return clean;
  const dot = clean.lastIndexOf('.');
  const extension = dot > 0 && clean.length - dot <= 17 ? clean.slice(dot) : '';
  return [...clean].slice(0, MAX_NAME - extension.length).join('') + extension;
};
