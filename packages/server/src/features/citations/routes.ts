import { api } from '@kanonos/contract';
import type { App } from '../../platform/app.ts';
import type { Mount } from '../../platform/http/mount.ts';
import type { Viewer } from '../access/index.ts';
import { citationsOf } from './service.ts';

export const citationsRoutes = (app: App, mount: Mount<Viewer>): void => {
  mount(api.citations.ofDocument, ({ viewer, params }) => citationsOf(app, viewer, params.document));
};
