import { api } from '@kanonos/contract';
import type { App } from '../../platform/app.ts';
import type { Mount } from '../../platform/http/mount.ts';
import { sendTable } from '../../platform/http/sendTable.ts';
import type { Viewer } from '../access/index.ts';
import { registerFile } from './registerFile.ts';
import * as service from './service.ts';

export const findRoutes = (app: App, mount: Mount<Viewer>): void => {
  const { find: f } = api;
  mount(f.register, ({ viewer, query }) => service.registerPage(app, viewer, query));
  mount(f.file, async ({ viewer, query, response }) => {
    await sendTable(response, await registerFile(app, viewer, query), query.format);
    return undefined;
  });
  mount(f.facets, ({ viewer, query }) => service.facetsOf(app, viewer, query));
  mount(f.find, ({ viewer, query }) => service.find(app, viewer, query.q, query.limit));
};
