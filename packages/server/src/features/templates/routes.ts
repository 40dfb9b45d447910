import { api } from '@kanonos/contract';
import type { App } from '../../platform/app.ts';
import type { Mount } from '../../platform/http/mount.ts';
import type { Viewer } from '../access/index.ts';
import * as service from './service.ts';

export const templatesRoutes = (app: App, mount: Mount<Viewer>): void => {
  const { templates: t } = api;
  mount(t.list, ({ viewer }) => service.listTemplates(app, viewer));
  mount(t.choices, ({ viewer }) => service.templateChoicesFor(app, viewer));
  mount(t.look, ({ viewer, body }) => service.lookAtTemplate(app, viewer, body));
  mount(t.save, ({ viewer, body }) => service.saveTemplate(app, viewer, body));
  mount(t.bring, ({ viewer, params, body }) => service.applyTemplate(app, viewer, params.id, body));
};
