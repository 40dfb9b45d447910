import { api } from '@kanonos/contract';
import type { App } from '../../platform/app.ts';
import { done, type Mount } from '../../platform/http/mount.ts';
import type { Viewer } from '../access/index.ts';
import * as service from './service.ts';

export const readingRoutes = (app: App, mount: Mount<Viewer>): void => {
  const { reading: r } = api;
  mount(r.mine, ({ viewer }) => service.myReadings(app, viewer));
  mount(r.task, ({ viewer, params }) => service.readingTask(app, viewer, params.id));
  mount(r.sign, ({ viewer, params, body }) => done(service.signReading(app, viewer, params.id, body)));
  mount(r.readers, ({ viewer, params, query }) => service.readers(app, viewer, params.document, query));
  mount(r.setRequirement, ({ viewer, params, body }) => service.setRequirement(app, viewer, params.document, body));
  mount(r.team, ({ viewer, query }) => service.teamReading(app, viewer, query.scope));
  mount(r.remind, ({ viewer, body }) => service.remindOverdue(app, viewer, body.scope));
};
