import { readFile } from 'node:fs/promises';
import { Readable } from 'node:stream';
import type { AnswerOf, api, BodyOf } from '@kanonos/contract';
import { dayOf } from '@kanonos/core';
import type { App } from '../../platform/app.ts';
import { newId } from '../../platform/db/ids.ts';
import { parseWithin } from '../../platform/parsing/index.ts';
import { refused } from '../../platform/refused.ts';
import { decodeText } from '../../platform/tables/readTable.ts';
import type { Viewer } from '../access/index.ts';
import { actorOf } from '../access/index.ts';
import { keepContent, rememberUpload } from '../content/index.ts';
import { openDocument } from '../documents/index.ts';
import { listFiles } from '../revisions/index.ts';
import { findWorkingCopy } from './store.ts';
import { keepWorkingCopy } from './workingCopies.ts';

const MOST_BYTES = 1_500_000;
const TEXTS = new Set(['text/markdown', 'text/plain', 'text/csv']);

/** The text file of a document that this person has checked out. */
const openText = async (app: App, viewer: Viewer, ref: string) => {
  const { checkout, work } = await openDocument(
    app.db,
    viewer,
    ref,
    dayOf(app.clock(), (await app.organisation()).zone),
  );
  if (!checkout || !work?.latest_version_id) throw refused('not_checked_out');
  if (checkout.person_id !== viewer.id)
    throw refused('checked_out', { who: checkout.person_name, since: checkout.at.toISOString() });
  const file = (await listFiles(app.db, [work.latest_version_id])).find((one) => one.role === 'original');
  if (!file || !TEXTS.has(file.media_type) || file.size > MOST_BYTES) throw refused('cannot_be_shown');
  return { checkout, file };
};

/** The text for editing in the browser: the last one saved under the check-out, else the filed one. */
export const workingText = async (
  app: App,
  viewer: Viewer,
  ref: string,
): Promise<AnswerOf<typeof api.programs.workingText>> => {
  const { checkout, file } = await openText(app, viewer, ref);
  const saved = await findWorkingCopy(app.db, checkout.id);
  const sha256 = saved?.sha256 ?? file.sha256;
  if (!(await app.content.has(sha256))) throw refused('content_missing', { name: file.name });
  return {
    name: file.name,
    text: decodeText(await readFile(await app.content.intactPath(sha256))).text,
    savedAt: saved?.at.toISOString() ?? null,
    markdown: file.media_type === 'text/markdown',
  };
};

/** Saves the text so far as the working copy: private until it is checked in, and safe from a crashed browser. A later save from elsewhere is not overwritten. */
export const saveWorkingText = async (
  app: App,
  viewer: Viewer,
  ref: string,
  { text, over }: BodyOf<typeof api.programs.saveWorkingText>,
): Promise<AnswerOf<typeof api.programs.saveWorkingText>> => {
  const { checkout, file } = await openText(app, viewer, ref);
  // An empty text is kept as one line end, for nothing empty is ever filed.
  const { sha256, size } = await app.content.put(Readable.from([Buffer.from(text || '\n')]), MOST_BYTES * 2);
  return app.command(actorOf(viewer), async (work) => {
    await keepContent(app, work, { sha256, size, mediaType: file.media_type }, 'draft');
    const upload = { id: newId(), sha256, name: file.name };
    await rememberUpload(work, viewer, upload);
    await keepWorkingCopy(app, work, { checkoutId: checkout.id, uploadId: upload.id, over });
    return { savedAt: work.now.toISOString() };
  });
};

export const readAsText = async (text: string): Promise<AnswerOf<typeof api.programs.readAsText>> => ({
  html: await parseWithin({ seconds: 5 }, 'markdown', text),
});
