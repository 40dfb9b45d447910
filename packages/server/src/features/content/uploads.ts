import { Readable } from 'node:stream';
import type { AnswerOf, api } from '@kanonos/contract';
import { type Written, writtenContent } from '@kanonos/core';
import type { App, UnitOfWork } from '../../platform/app.ts';
import { mediaTypeOf } from '../../platform/content/kind.ts';
import type { Db, Trx } from '../../platform/db/connect.ts';
import { newId } from '../../platform/db/ids.ts';
import { parse } from '../../platform/parsing/index.ts';
import { RefusalError, refused } from '../../platform/refused.ts';
import type { Viewer } from '../access/index.ts';
import { actorOf } from '../access/index.ts';
import { keepContent } from './service.ts';
import * as store from './store.ts';

type Upload = AnswerOf<typeof api.documents.upload>;

/** Accepts a file: stored and hashed while it arrives, judged by its bytes, kept for its sender until it is used. */
export const takeUpload = async (app: App, viewer: Viewer, name: string, stream: Readable): Promise<Upload> => {
  const { sha256, size, head } = await app.content.put(stream, (await app.organisation()).uploadLimit);
  if (size === 0) throw refused('file_empty');
  const { mediaType, warning } = await mediaTypeOf(name, head);
  const id = newId();
  await app.command(actorOf(viewer), async (work) => {
    await keepContent(app, work, { sha256, size, mediaType, warning });
    await store.insertUpload(work.trx, { id, sha256, name, by: viewer.id, now: work.now });
  });
  return { id, name, size, mediaType, sha256, warning };
};

/** Takes an address on the web or the place of a paper: its words become the content, hashed and signed like a file's. */
export const takeWritten = async (app: App, viewer: Viewer, written: Written): Promise<Upload> => {
  const made = writtenContent(written);
  if (!made.ok) throw new RefusalError(made.refusals);
  const { text, name, mediaType } = made.value;
  const { sha256, size } = await app.content.put(Readable.from([Buffer.from(text)]), 10_000);
  const id = newId();
  await app.command(actorOf(viewer), async (work) => {
    await keepContent(app, work, { sha256, size, mediaType });
    await store.insertUpload(work.trx, { id, sha256, name, by: viewer.id, now: work.now });
  });
  return { id, name, size, mediaType, sha256, warning: null };
};

/** Remembers a content under a name as a file that this person may use. */
export const rememberUpload = (
  work: UnitOfWork,
  viewer: Viewer,
  upload: { id: string; sha256: string; name: string },
) => store.insertUpload(work.trx, { ...upload, by: viewer.id, now: work.now });

/** A file that this person has sent and not only named. */
export const getUpload = async (trx: Db | Trx, viewer: Viewer, id: string): Promise<store.UploadRow> => {
  const upload = await store.findUpload(trx, { id, personId: viewer.id });
  if (!upload) throw refused('upload_unknown');
  return upload;
};

/** The same, with its bytes verified: a filed file must be readable. */
export const getStored = async (app: App, trx: Db | Trx, viewer: Viewer, id: string): Promise<store.UploadRow> => {
  const upload = await getUpload(trx, viewer, id);
  if (!(await app.content.has(upload.sha256))) throw refused('content_missing', { name: upload.name });
  return upload;
};

/** A table that somebody sent, as rows of cells with its headings first. */
export const readSentTable = async (
  app: App,
  viewer: Viewer,
  id: string,
): Promise<AnswerOf<typeof api.documents.table>> => {
  const upload = await getStored(app, app.db, viewer, id);
  const { headings, rows, note } = await parse('table', await app.content.intactPath(upload.sha256), upload.name);
  return { rows: [headings, ...rows], note };
};
