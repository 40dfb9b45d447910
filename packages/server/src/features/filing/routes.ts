import { api } from '@kanonos/contract';
import type { App } from '../../platform/app.ts';
import { done, type Mount } from '../../platform/http/mount.ts';
import type { Viewer } from '../access/service.ts';
import * as service from './service.ts';
import { addShortcuts, removeShortcut } from './shortcuts.ts';

export const filingRoutes = (app: App, mount: Mount<Viewer>): void => {
  const { filing: f } = api;
  mount(f.plan, ({ viewer }) => service.filingPlan(app, viewer));
  mount(f.grants, ({ viewer, params }) => service.folderGrants(app, viewer, params.id));
  mount(f.add, ({ viewer, body }) => service.addFolder(app, viewer, body));
  mount(f.change, ({ viewer, params, body }) => done(service.changeFolder(app, viewer, params.id, body)));
  mount(f.inherit, ({ viewer, params, body }) => service.inheritedIn(app, viewer, params.id, body));
  mount(f.remove, ({ viewer, params, body }) => done(service.removeFolder(app, viewer, params.id, body.reason)));
  mount(f.addShortcuts, ({ viewer, body }) => addShortcuts(app, viewer, body));
  mount(f.removeShortcut, ({ viewer, body }) => done(removeShortcut(app, viewer, body)));
  mount(f.setGrants, ({ viewer, params, body }) => done(service.setGrants(app, viewer, params.id, body)));
};
