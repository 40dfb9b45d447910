import type { api } from '@kanonos/contract';
import { dayOf, isFolderShut } from '@kanonos/core';
import type { App } from '../../platform/app.ts';
import { refused } from '../../platform/refused.ts';
import type { HandlerOf, Viewer } from '../access/index.ts';
import { getStored } from '../content/index.ts';
import { ensureDocumentRight, openDocument, runCommand } from '../documents/index.ts';
import { findSupportingFile } from './store.ts';
import { addSupportingFile } from './workingCopies.ts';

/** Keeps a file beside the versions of the revision in work, for instance a calculation or another wording. */
export const keepSupportingFile: HandlerOf<typeof api.programs.addSupportingFile, void> = (app, viewer, ref, input) =>
  runCommand(app, viewer, { document: ref }, async (work, opened) => {
    ensureDocumentRight(opened, 'author');
    const { document, work: revision } = opened;
    if (!revision) throw refused('wrong_state', { command: 'add supporting file', state: 'none in work' });
    if (isFolderShut(document.folder_state))
      throw refused('folder_shut', { folder: document.folder_name, state: document.folder_state });
    const { sha256, name } = await getStored(app, work.trx, viewer, input.uploadId);
    await addSupportingFile(work, opened, revision, { sha256, name, note: input.note, byId: viewer.id });
  });

/** A file that is kept aside, for whoever may read work. */
export const supportingFile = async (app: App, viewer: Viewer, id: string) => {
  const supportingFile = await findSupportingFile(app.db, id);
  if (!supportingFile) throw refused('not_found');
  const opened = await openDocument(
    app.db,
    viewer,
    supportingFile.document_id,
    dayOf(app.clock(), (await app.organisation()).zone),
  );
  if (!opened.rights.has('read work') || !opened.rights.has('download')) throw refused('not_found');
  if (!(await app.content.has(supportingFile.sha256))) throw refused('content_missing', { name: supportingFile.name });
  return {
    sha256: supportingFile.sha256,
    size: supportingFile.size,
    mediaType: supportingFile.media_type,
    name: supportingFile.name,
    as: 'download' as const,
  };
};
