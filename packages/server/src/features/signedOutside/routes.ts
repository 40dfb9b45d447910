import { api } from '@kanonos/contract';
import type { App } from '../../platform/app.ts';
import { done, type Mount } from '../../platform/http/mount.ts';
import { sendContent } from '../../platform/http/sendContent.ts';
import type { Viewer } from '../access/index.ts';
import * as service from './service.ts';

export const signedOutsideRoutes = (app: App, mount: Mount<Viewer>): void => {
  const { signedOutside: s } = api;
  mount(s.list, ({ viewer, params }) => service.signedOutside(app, viewer, params.document));
  mount(s.bring, ({ viewer, params, body }) => service.bring(app, viewer, params.document, body));
  mount(s.send, ({ viewer, params, body }) => service.send(app, viewer, params.document, body));
  mount(s.cancel, ({ viewer, params, body }) => done(service.cancel(app, viewer, params.id, body)));
  mount(s.file, async ({ viewer, params, request, response }) => {
    await sendContent(app, request, response, await service.signedFile(app, viewer, params.id));
    return undefined;
  });
};
