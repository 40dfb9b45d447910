import { api } from '@kanonos/contract';
import type { App } from '../../platform/app.ts';
import type { Mount } from '../../platform/http/mount.ts';
import { sendBytes } from '../../platform/http/sendContent.ts';
import type { Viewer } from '../access/index.ts';
import * as service from './service.ts';

export const comparisonRoutes = (app: App, mount: Mount<Viewer>): void => {
  const { comparison: c } = api;
  mount(c.sides, ({ viewer, params }) => service.comparedSides(app, viewer, params.document));
  mount(c.pair, async ({ viewer, params, query, response }) => {
    const { bytes, name } = await service.comparedPair(app, viewer, { old: query.old, new: params.version });
    sendBytes(response, bytes, { mediaType: 'application/zip', name, as: 'download' });
    return undefined;
  });
  mount(c.side, ({ viewer, params, query }) => service.comparedSide(app, viewer, params.version, query.file));
};
