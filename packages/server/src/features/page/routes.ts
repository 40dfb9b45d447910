import { api } from '@kanonos/contract';
import type { App } from '../../platform/app.ts';
import type { Mount } from '../../platform/http/mount.ts';
import type { Viewer } from '../access/index.ts';
import * as service from './service.ts';

export const pageRoutes = (app: App, mount: Mount<Viewer>): void => {
  const { documents: d, find: f } = api;
  mount(d.page, ({ viewer, params, query }) => service.documentPage(app, viewer, params.document, query));
  mount(f.preview, ({ viewer, params, query }) => service.preview(app, viewer, params.document, query.revision));
};
