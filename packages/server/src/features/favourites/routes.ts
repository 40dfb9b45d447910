import { api } from '@kanonos/contract';
import type { App } from '../../platform/app.ts';
import { done, type Mount } from '../../platform/http/mount.ts';
import type { Viewer } from '../access/index.ts';
import { orderFavourites, setFavourite } from './service.ts';

export const favouritesRoutes = (app: App, mount: Mount<Viewer>): void => {
  const { favourites: f } = api;
  mount(f.set, ({ viewer, params, body }) => done(setFavourite(app, viewer, params.document, body)));
  mount(f.order, ({ viewer, body }) => done(orderFavourites(app, viewer, body)));
};
