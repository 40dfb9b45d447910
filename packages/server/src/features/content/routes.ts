import { api } from '@kanonos/contract';
import type { App } from '../../platform/app.ts';
import type { Mount } from '../../platform/http/mount.ts';
import { receiveFile } from '../../platform/http/upload.ts';
import type { Viewer } from '../access/index.ts';
import { readSentTable, takeUpload, takeWritten } from './uploads.ts';

/** What people send: files, tables and texts. */
export const contentRoutes = (app: App, mount: Mount<Viewer>): void => {
  const { documents: d } = api;
  mount(d.upload, ({ viewer, request }) =>
    receiveFile(request, (name, stream) => takeUpload(app, viewer, name, stream)),
  );
  mount(d.table, ({ viewer, params }) => readSentTable(app, viewer, params.id));
  mount(d.written, ({ viewer, body }) => takeWritten(app, viewer, body));
};
