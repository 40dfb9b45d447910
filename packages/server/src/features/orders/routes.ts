import { api } from '@kanonos/contract';
import type { App } from '../../platform/app.ts';
import { done, type Mount } from '../../platform/http/mount.ts';
import type { Viewer } from '../access/index.ts';
import * as service from './service.ts';

export const ordersRoutes = (app: App, mount: Mount<Viewer>): void => {
  const { orders: o } = api;
  mount(o.list, ({ viewer, query }) => service.orders(app, viewer, query.all === 'yes'));
  mount(o.ofDocument, ({ viewer, params }) => service.ordersOfDocument(app, viewer, params.document));
  mount(o.give, ({ viewer, body }) => service.giveOrder(app, viewer, body));
  mount(o.change, ({ viewer, params, body }) => done(service.changeOrder(app, viewer, params.id, body)));
  mount(o.end, ({ viewer, params, body }) => done(service.endOrder(app, viewer, params.id, body)));
};
