import { api } from '@kanonos/contract';
import type { App } from '../../platform/app.ts';
import type { Mount } from '../../platform/http/mount.ts';
import type { Viewer } from '../access/index.ts';
import * as service from './service.ts';

export const blueprintsRoutes = (app: App, mount: Mount<Viewer>): void => {
  const { blueprints: b } = api;
  mount(b.list, ({ viewer }) => service.listBlueprints(app, viewer));
  mount(b.save, ({ viewer, body }) => service.saveBlueprint(app, viewer, body));
  mount(b.try, ({ viewer, params, body }) => service.tryLayOut(app, viewer, params.id, body.values));
  mount(b.layOut, ({ viewer, params, body }) => service.layOut(app, viewer, params.id, body.projects));
  mount(b.projects, ({ viewer, params }) => service.listProjects(app, viewer, params.id));
};
