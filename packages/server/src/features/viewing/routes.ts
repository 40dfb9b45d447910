import { api } from '@kanonos/contract';
import type { Response } from 'express';
import type { App } from '../../platform/app.ts';
import type { Mount } from '../../platform/http/mount.ts';
import { sendBytes, sendContent } from '../../platform/http/sendContent.ts';
import type { Viewer } from '../access/index.ts';
import { attachmentOf, drawingOf, entriesOf, mailOf, scanOf, sheetsOf } from './insides.ts';
import { pagesFile, pagesOf } from './pages.ts';
import { smallOfRevision, smallPicture } from './small.ts';

/** There is no picture, or none yet: that is no error, and a browser reports none. */
const none = (response: Response): undefined => {
  response.status(204).end();
};

export const viewingRoutes = (app: App, mount: Mount<Viewer>): void => {
  const { viewing: v } = api;
  mount(v.pages, ({ viewer, params }) => pagesOf(app, viewer, params.file));
  mount(v.pagesFile, async ({ viewer, params, request, response }) => {
    const { marked, ...pages } = await pagesFile(app, viewer, params.file);
    if (marked) sendBytes(response, marked, pages);
    else await sendContent(app, request, response, pages);
    return undefined;
  });
  mount(v.small, async ({ viewer, params, request, response }) => {
    const small = await smallPicture(app, viewer, params.file);
    if (!small) return none(response);
    await sendContent(app, request, response, { ...small, mediaType: 'image/png', name: 'page.png', as: 'open' });
    return undefined;
  });
  mount(v.smallOfRevision, async ({ viewer, params, query, request, response }) => {
    const small = await smallOfRevision(app, viewer, params.document, query.revision);
    if (!small) return none(response);
    await sendContent(app, request, response, { ...small, mediaType: 'image/png', name: 'page.png', as: 'open' });
    return undefined;
  });
  mount(v.sheets, ({ viewer, params }) => sheetsOf(app, viewer, params.file));
  mount(v.entries, ({ viewer, params }) => entriesOf(app, viewer, params.file));
  mount(v.mail, ({ viewer, params }) => mailOf(app, viewer, params.file));
  mount(v.attachment, async ({ viewer, params, response }) => {
    const { bytes, name } = await attachmentOf(app, viewer, params.file, params.n);
    sendBytes(response, bytes, { mediaType: 'application/octet-stream', name, as: 'download' });
    return undefined;
  });
  mount(v.drawing, async ({ viewer, params, response }) => {
    sendBytes(response, await drawingOf(app, viewer, params.file), {
      mediaType: 'image/svg+xml',
      name: 'drawing.svg',
      as: 'open',
    });
    return undefined;
  });
  mount(v.scan, ({ viewer, params }) => scanOf(app, viewer, params.file));
};
