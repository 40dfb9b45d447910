import { api } from '@kanonos/contract';
import type { App } from '../../platform/app.ts';
import { done, type Mount } from '../../platform/http/mount.ts';
import { sendContent } from '../../platform/http/sendContent.ts';
import type { Viewer } from '../access/index.ts';
import * as service from './service.ts';

export const intakeRoutes = (app: App, mount: Mount<Viewer>): void => {
  const { intake: i } = api;
  mount(i.list, ({ viewer, query }) => service.listIncomingFiles(app, viewer, query.aside === 'yes'));
  mount(i.file, async ({ viewer, params, request, response }) => {
    await sendContent(app, request, response, { ...(await service.lookAt(app, viewer, params.id)), as: 'open' });
    return undefined;
  });
  mount(i.take, ({ viewer, params }) => service.takeIncomingFile(app, viewer, params.id));
  mount(i.setAside, ({ viewer, params, body }) => done(service.setAside(app, viewer, params.id, body.reason)));
  mount(i.putBack, ({ viewer, params }) => done(service.putBack(app, viewer, params.id)));
};
