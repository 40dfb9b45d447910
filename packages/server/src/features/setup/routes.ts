import { api } from '@kanonos/contract';
import type { App } from '../../platform/app.ts';
import { done, type Mount } from '../../platform/http/mount.ts';
import type { Viewer } from '../access/index.ts';
import { removeMailServer, saveMailServer } from '../mailing/index.ts';
import * as service from './service.ts';

export const setupRoutes = (app: App, mount: Mount<Viewer>): void => {
  const { setup: s } = api;
  mount(s.state, () => service.setupState(app));
  mount(s.holidays, async ({ query }) => service.publicHolidays(query, app.clock().getUTCFullYear()));
  mount(s.configurations, async () => service.startingConfigurations());
  mount(s.apply, ({ viewer, body }) => service.applyStartingConfiguration(app, viewer, body));
  mount(s.saveMailServer, ({ viewer, body }) => saveMailServer(app, viewer, body));
  mount(s.removeMailServer, ({ viewer }) => done(removeMailServer(app, viewer)));
  mount(s.testMail, ({ viewer }) => service.sendTestMail(app, viewer));
  mount(s.close, ({ viewer, body }) => done(service.closeSetup(app, viewer, body.open)));
};
