import { api } from '@kanonos/contract';
import type { App } from '../../platform/app.ts';
import type { Mount } from '../../platform/http/mount.ts';
import type { Viewer } from '../access/index.ts';
import { moveReviews, proposeLevel } from './level.ts';
import { horizon } from './service.ts';

export const horizonRoutes = (app: App, mount: Mount<Viewer>): void => {
  mount(api.horizon.show, ({ viewer, query }) => horizon(app, viewer, query));
  mount(api.horizon.level, ({ viewer, query }) => proposeLevel(app, viewer, query));
  mount(api.horizon.move, ({ viewer, body }) => moveReviews(app, viewer, body));
};
