import type { AnswerOf, api, BodyOf } from '@kanonos/contract';
import { BULK_MOST, sentenceOf } from '@kanonos/contract';
import { dayOf, hasRight, toCsv } from '@kanonos/core';
import type { Response } from 'express';
import { strToU8, Zip, ZipDeflate, ZipPassThrough } from 'fflate';
import type { App } from '../../platform/app.ts';
import { newId } from '../../platform/db/ids.ts';
import { drained } from '../../platform/http/drained.ts';
import { RefusalError, refused } from '../../platform/refused.ts';
import type { Viewer } from '../access/index.ts';
import { handedOutFiles, openDocument, rightToRead, takenRevision } from '../documents/index.ts';
import { idsOf } from '../find/index.ts';
import { findDownloadPackage, insertDownloadPackage } from './store.ts';

const MOST = 2000;

/** Lays a download package ready: which documents it holds is decided now, what of them may be taken when it is fetched. */
export const queueDownloadPackage = async (
  app: App,
  viewer: Viewer,
  { ids, filter, content }: BodyOf<typeof api.bulk.downloadPackage>,
): Promise<AnswerOf<typeof api.bulk.downloadPackage>> => {
  const wanted = ids ?? (filter ? await idsOf(app, viewer, filter, BULK_MOST + 1) : []);
  if (wanted.length === 0) throw refused('bulk_nothing');
  if (wanted.length > MOST) throw refused('bulk_too_many', { limit: MOST });
  const id = newId();
  await insertDownloadPackage(app.db, {
    id,
    by: viewer.id,
    now: app.clock(),
    ids: wanted,
    content,
  });
  return { id, documents: wanted.length };
};

/** A name not yet used: equal ones get a number at the end. */
const apart = (used: Set<string>, name: string): string => {
  const dot = name.lastIndexOf('.');
  const [stem, extension] = dot > 0 ? [name.slice(0, dot), name.slice(dot)] : [name, ''];
  let made = name;
  for (let n = 2; used.has(made.toLowerCase()); n++) made = `${stem} (${n})${extension}`;
  used.add(made.toLowerCase());
  return made;
};

/**
 * Streams a download package as a zip under rule-made names, with a list of what is in it and what was left out for which reason. Each
 * included file is recorded as a download before its bytes leave.
 */
export const sendDownloadPackage = async (app: App, viewer: Viewer, id: string, response: Response): Promise<void> => {
  const downloadPackage = await findDownloadPackage(app.db, { id, by: viewer.id });
  if (!downloadPackage) throw refused('not_found');
  const day = dayOf(app.clock(), (await app.organisation()).zone);
  response.setHeader('Content-Type', 'application/zip');
  response.setHeader('Content-Disposition', `attachment; filename="documents-${day}.zip"`);
  let failed: Error | null = null;
  const zip = new Zip((error, chunk) => {
    if (error) failed = error;
    else response.write(chunk);
  });
  const ready = async () => {
    if (failed) throw failed;
    if (response.destroyed) throw new Error('the download was cancelled');
    if (response.writableNeedDrain) await drained(response);
  };
  const used = new Set<string>();
  const list = [['number', 'title', 'revision', 'state', 'file', 'sha256', 'not included because']];
  for (const documentId of downloadPackage.document_ids) {
    try {
      const opened = await openDocument(app.db, viewer, documentId, day);
      const revision = downloadPackage.content === 'work' ? opened.work : takenRevision(opened);
      if (!revision) throw refused('not_found');
      const needed = hasRight(opened.rights, rightToRead(revision.state)) ? 'download' : rightToRead(revision.state);
      const about = [opened.document.number, revision.title, revision.label, revision.state];
      if (!opened.rights.has(needed)) {
        list.push([...about, '', '', sentenceOf('right_missing', { right: needed })]);
        continue;
      }
      for (const { name, sha256, filled } of await handedOutFiles(app, viewer, opened, revision)) {
        await ready();
        const entry = new ZipPassThrough(apart(used, name));
        zip.add(entry);
        if (filled) entry.push(filled);
        else
          for await (const chunk of await app.content.open(sha256)) {
            entry.push(chunk as Uint8Array);
            await ready();
          }
        entry.push(new Uint8Array(), true);
        list.push([...about, entry.filename, sha256, '']);
      }
    } catch (error) {
      // Documents that became invisible are not named.
      if (!(error instanceof RefusalError)) throw error;
    }
  }
  const contents = new ZipDeflate(apart(used, 'contents.csv'));
  zip.add(contents);
  contents.push(strToU8(toCsv(list, ';')), true);
  zip.end();
  response.end();
};
