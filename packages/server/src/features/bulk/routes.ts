import { api } from '@kanonos/contract';
import type { App } from '../../platform/app.ts';
import type { Mount } from '../../platform/http/mount.ts';
import type { Viewer } from '../access/index.ts';
import * as commands from './commands.ts';
import * as downloadPackages from './downloadPackages.ts';
import * as service from './service.ts';

export const bulkRoutes = (app: App, mount: Mount<Viewer>): void => {
  mount(api.bulk.try, ({ viewer, body }) => service.tryBulk(app, viewer, body));
  mount(api.bulk.apply, ({ viewer, params, body }) => service.applyBulk(app, viewer, params.id, body));
  mount(api.bulk.submit, ({ viewer, body }) => commands.submitMany(app, viewer, body));
  mount(api.bulk.checkOut, ({ viewer, body }) => commands.checkOutMany(app, viewer, body));
  mount(api.bulk.ids, ({ viewer, body }) => commands.idsFound(app, viewer, body));
  mount(api.bulk.copy, ({ viewer, body }) => commands.copyMany(app, viewer, body));
  mount(api.bulk.downloadPackage, ({ viewer, body }) => downloadPackages.queueDownloadPackage(app, viewer, body));
  mount(api.bulk.fetchDownloadPackage, async ({ viewer, params, response }) => {
    await downloadPackages.sendDownloadPackage(app, viewer, params.id, response);
    return undefined;
  });
  mount(api.bulk.undo, ({ viewer, params }) => service.undoBulk(app, viewer, params.id));
  mount(api.bulk.mine, ({ viewer }) => service.myBulk(app, viewer));
};
