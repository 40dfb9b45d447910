import { api } from '@kanonos/contract';
import type { App } from '../../platform/app.ts';
import type { Mount } from '../../platform/http/mount.ts';
import type { Viewer } from '../access/index.ts';
import * as service from './service.ts';

export const registrationRoutes = (app: App, mount: Mount<Viewer>): void => {
  const { documents: d } = api;
  mount(d.preview, ({ viewer, body }) => service.previewRegistration(app, viewer, body));
  mount(d.register, ({ viewer, body, request }) =>
    service.registerDocument(app, viewer, body, keyOf(request.headers['idempotency-key'])),
  );
};

const keyOf = (header: string | string[] | undefined): string | null =>
  typeof header === 'string' && header.length > 0 && header.length <= 200 ? header : null;
