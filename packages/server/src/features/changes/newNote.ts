import { Readable } from 'node:stream';
import type { api, BodyOf } from '@kanonos/contract';
import type { App, UnitOfWork } from '../../platform/app.ts';
import type { Viewer } from '../access/index.ts';
import { takeUpload } from '../content/index.ts';
import type { Opened } from '../documents/index.ts';
import { registerIn } from '../registration/index.ts';
import { nameAffected } from './under.ts';

type NewNote = NonNullable<BodyOf<typeof api.documents.revise>['newNote']>;

/** Stores the first text of a note that is made while revising: its title, and what is asked. */
export const firstTextOf = async (app: App, viewer: Viewer, { title, asked }: NewNote): Promise<string> => {
  const text = `# ${title}\n\n${asked}\n`;
  return (await takeUpload(app, viewer, 'change note.md', Readable.from([Buffer.from(text)]))).id;
};

/** Registers a note in the command that begins a revision under it, and names the document as affected by it. */
export const makeNote = async (
  app: App,
  work: UnitOfWork,
  viewer: Viewer,
  { document }: Opened,
  { typeId, folderId, title, asked, metadata }: NewNote,
  uploadId: string,
): Promise<{ number: string }> => {
  const made = await registerIn(app, work, viewer, {
    typeId,
    folderId,
    title,
    metadata,
    uploadId,
    summary: asked,
    note: `Made while revising ${document.number}`,
  });
  await nameAffected(work, viewer, made, document, asked);
  return made;
};
