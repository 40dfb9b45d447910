import type { Readable } from 'node:stream';
import { sentenceOf } from '@kanonos/contract';
import type { App, UnitOfWork } from '../../platform/app.ts';
import { mediaTypeOf } from '../../platform/content/kind.ts';
import { cleanName } from '../../platform/http/upload.ts';
import { RefusalError } from '../../platform/refused.ts';
import { keepContent } from '../content/index.ts';
import { insertIncomingFile } from './store.ts';

/** Where below the intake folder what cannot be filed is kept unchanged. */
export const REFUSED = '.refused';

/** The bytes of an incoming file in the store, or why it cannot be filed. */
export type StoredIncoming =
  | { sha256: string; size: number; mediaType: string; warning: string | null }
  | { why: string };

/**
 * Stores the bytes of what arrived. What is wrong with the file itself is told as a reason.
 *
 * @throws RefusalError disk_full, so that it is tried again
 */
export const storeIncoming = async (app: App, name: string, bytes: Readable): Promise<StoredIncoming> => {
  try {
    const { sha256, size, head } = await app.content.put(bytes, (await app.organisation()).uploadLimit);
    if (size === 0) return { why: sentenceOf('file_empty') };
    return { sha256, size, ...(await mediaTypeOf(cleanName(name), head)) };
  } catch (error) {
    if (error instanceof RefusalError && error.refusals[0]?.code !== 'disk_full')
      return { why: error.refusals.map((one) => sentenceOf(one.code, one.params)).join(' ') };
    throw error;
  }
};

/** Puts a file on the list of those that wait, with its event; false where the same one was taken before. */
export const keepIncoming = async (
  app: App,
  work: UnitOfWork,
  file: { id: string; path: string; writtenAt: Date; size: number; stored: StoredIncoming; from?: string },
): Promise<boolean> => {
  const { id, path, writtenAt, stored, from } = file;
  if ('sha256' in stored) await keepContent(app, work, stored);
  const inserted = await insertIncomingFile(work.trx, {
    id,
    path,
    writtenAt,
    now: work.now,
    ...('sha256' in stored
      ? { sha256: stored.sha256, size: stored.size, state: 'waiting', why: null }
      : { sha256: null, size: file.size, state: 'refused', why: stored.why }),
  });
  if (inserted === 0) return false;
  work.record({
    kind: 'incoming-file.received',
    subject: {},
    payload: {
      path,
      ...('sha256' in stored ? { sha256: stored.sha256 } : { refused: stored.why }),
      ...(from ? { from } : {}),
    },
  });
  return true;
};
