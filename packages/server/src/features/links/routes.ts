import { api } from '@kanonos/contract';
import type { App } from '../../platform/app.ts';
import { done, type Mount } from '../../platform/http/mount.ts';
import type { Viewer } from '../access/index.ts';
import { addLink, endLink, itemOf, linksOf } from './service.ts';

export const linksRoutes = (app: App, mount: Mount<Viewer>): void => {
  const { links: l } = api;
  mount(l.list, ({ viewer, params }) => linksOf(app, viewer, params.document));
  mount(l.add, ({ viewer, params, body }) => addLink(app, viewer, params.document, body));
  mount(l.item, ({ viewer, params }) => itemOf(app, viewer, params));
  mount(l.end, ({ viewer, params }) => done(endLink(app, viewer, params.document, params.id)));
};
