import { api } from '@kanonos/contract';
import type { Request, Response } from 'express';
import type { App } from '../../platform/app.ts';
import { done, type Mount } from '../../platform/http/mount.ts';
import { sendBytes, sendContent } from '../../platform/http/sendContent.ts';
import type { Viewer } from '../access/index.ts';
import { handOut, lookAt, readingText } from './files.ts';
import { suggestKeywords } from './keywords.ts';
import { lastingFile } from './lastingFile.ts';
import { matchFiles } from './matching.ts';
import { placesOf } from './places.ts';
import { drawingReferences } from './references.ts';
import { removeDocument, removedDocuments, restore } from './removing.ts';

export const documentsRoutes = (app: App, mount: Mount<Viewer>): void => {
  const { documents: d } = api;
  mount(d.keywords, ({ viewer, query }) => suggestKeywords(app, viewer, query.find));
  mount(d.match, ({ viewer, body }) => matchFiles(app, viewer, body.uploadIds));
  mount(d.file, async ({ viewer, params, query, request, response }) => {
    await sendFile(app, viewer, { id: params.file, as: query.as }, request, response);
    return undefined;
  });
  mount(d.lastingFile, async ({ viewer, params, query, request, response }) => {
    const id = await lastingFile(app, viewer, params.document, query);
    await sendFile(app, viewer, { id, as: query.as }, request, response);
    return undefined;
  });
  mount(d.fileHtml, ({ viewer, params }) => readingText(app, viewer, params.file));
  mount(d.places, ({ viewer, params }) => placesOf(app, viewer, params.document));
  mount(d.references, ({ viewer, params }) => drawingReferences(app, viewer, params.upload));
  mount(d.remove, ({ viewer, params, body }) => done(removeDocument(app, viewer, params.document, body)));
  mount(d.restore, ({ viewer, params, body }) => done(restore(app, viewer, params.document, body)));
  mount(d.removed, ({ viewer }) => removedDocuments(app, viewer));
};

/** Sends a file: filed bytes or their showable form to open, with its metadata for a download, or exactly as checked in. */
const sendFile = async (
  app: App,
  viewer: Viewer,
  { id, as }: { id: string; as: 'open' | 'download' | 'exact' },
  request: Request,
  response: Response,
): Promise<void> => {
  if (as === 'open') {
    const { file, name, shown } = await lookAt(app, viewer, id);
    const { sha256, size, media_type: mediaType } = file;
    if (shown) return sendBytes(response, shown.bytes, { name, mediaType: shown.mediaType, as: 'open' });
    return sendContent(app, request, response, { sha256, size, mediaType, name, as: 'open' });
  }
  const { file, name, filled } = await handOut(app, viewer, id, as);
  const about = { name, mediaType: file.media_type, as: 'download' as const };
  if (filled) return sendBytes(response, filled, about);
  return sendContent(app, request, response, { sha256: file.sha256, size: file.size, ...about });
};
