import { api } from '@kanonos/contract';
import type { App } from '../../platform/app.ts';
import { done, type Mount } from '../../platform/http/mount.ts';
import type { Viewer } from '../access/index.ts';
import * as service from './service.ts';

export const systemRoutes = (app: App, mount: Mount<Viewer>): void => {
  mount(api.system.status, () => service.systemStatus(app));
  mount(api.system.tryAgain, ({ viewer, body }) => done(service.tryFailedWorkAgain(app, viewer, body)));
  mount(api.system.checkContent, ({ params }) => service.checkContent(app, params.sha256));
  mount(api.system.resendMails, async ({ viewer }) => ({ mails: await service.resendMails(app, viewer, null) }));
  mount(api.system.resendMail, ({ viewer, params }) => done(service.resendMails(app, viewer, params.id)));
};
