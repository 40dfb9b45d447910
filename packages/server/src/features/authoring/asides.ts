import type { api, BodyOf } from '@kanonos/contract';
import { dayOf, isFolderShut } from '@kanonos/core';
import type { App } from '../../platform/app.ts';
import { refused } from '../../platform/refused.ts';
import type { Viewer } from '../access/service.ts';
import { ensureDocumentRight, openDocument } from '../documents/service.ts';
import { getStored } from '../documents/uploads.ts';
import { changeInWork } from '../effect/service.ts';
import { findAside, putAside } from './deskCopies.ts';

/** Keeps a file beside the versions of the revision in work, for instance a calculation or another wording. */
export const keepAside = (
  app: App,
  viewer: Viewer,
  ref: string,
  input: BodyOf<typeof api.programs.putAside>,
): Promise<void> =>
  changeInWork(app, viewer, ref, async (work) => {
    const day = dayOf(work.now, work.organisation.zone);
    const opened = await openDocument(work.trx, viewer, ref, day);
    ensureDocumentRight(opened, 'author');
    const { document, work: revision } = opened;
    if (!revision) throw refused('wrong_state', { command: 'put aside', state: 'none in work' });
    if (isFolderShut(document.folder_state))
      throw refused('folder_shut', { folder: document.folder_name, state: document.folder_state });
    const { sha256, name } = await getStored(app, work.trx, viewer, input.uploadId);
    await putAside(work, opened, revision, { sha256, name, note: input.note, byId: viewer.id });
  });

/** A file that is kept aside, for whoever may read work. */
export const asideFile = async (app: App, viewer: Viewer, id: string) => {
  const aside = await findAside(app.db, id);
  if (!aside) throw refused('not_found');
  const opened = await openDocument(
    app.db,
    viewer,
    aside.document_id,
    dayOf(app.clock(), (await app.organisation()).zone),
  );
  if (!opened.rights.has('read work') || !opened.rights.has('download')) throw refused('not_found');
  if (!(await app.content.has(aside.sha256))) throw refused('content_missing', { name: aside.name });
  return {
    sha256: aside.sha256,
    size: aside.size,
    mediaType: aside.media_type,
    name: aside.name,
    as: 'download' as const,
  };
};
