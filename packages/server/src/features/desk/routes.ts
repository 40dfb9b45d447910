import { api } from '@kanonos/contract';
import type { App } from '../../platform/app.ts';
import { done, type Mount } from '../../platform/http/mount.ts';
import type { Viewer } from '../access/index.ts';
import * as service from './service.ts';

export const deskRoutes = (app: App, mount: Mount<Viewer>): void => {
  const { tasks: t } = api;
  mount(t.desk, ({ viewer }) => service.desk(app, viewer));
  mount(t.arrange, ({ viewer, body }) => done(service.arrangeDesk(app, viewer, body)));
  mount(t.checkouts, ({ viewer }) => service.listCheckouts(app, viewer));
  mount(t.submitted, async ({ viewer }) => ({ rows: await service.submittedByMe(app, viewer) }));
  mount(t.counts, ({ viewer }) => service.counts(app, viewer));
};
