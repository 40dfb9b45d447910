import { api } from '@kanonos/contract';
import type { App } from '../../platform/app.ts';
import type { Mount } from '../../platform/http/mount.ts';
import type { Viewer } from '../access/index.ts';
import * as service from './service.ts';

export const findRoutes = (app: App, mount: Mount<Viewer>): void => {
  const { find: f } = api;
  mount(f.register, ({ viewer, query }) => service.registerPage(app, viewer, query));
  mount(f.facets, ({ viewer, query }) => service.facetsOf(app, viewer, query));
  mount(f.find, ({ viewer, query }) => service.find(app, viewer, query.q, query.limit));
};
