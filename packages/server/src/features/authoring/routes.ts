import { api } from '@kanonos/contract';
import type { App } from '../../platform/app.ts';
import { done, type Mount } from '../../platform/http/mount.ts';
import type { Viewer } from '../access/index.ts';
import * as identity from './identity.ts';
import { correctMetadata } from './metadata.ts';
import { setState } from './ownState.ts';
import { removeVersion } from './removingVersions.ts';
import * as service from './service.ts';

export const authoringRoutes = (app: App, mount: Mount<Viewer>): void => {
  const { documents: d } = api;
  mount(d.checkOut, ({ viewer, params, body }) => service.checkOut(app, viewer, params.document, body));
  mount(d.checkIn, ({ viewer, params, body }) => service.checkIn(app, viewer, params.document, body));
  mount(d.discardCheckout, ({ viewer, params, body }) =>
    done(service.discardCheckout(app, viewer, params.document, body)),
  );
  mount(d.takeOverCheckout, ({ viewer, params, body }) =>
    done(service.takeOverCheckout(app, viewer, params.document, body)),
  );
  mount(d.makeNewest, ({ viewer, params, body }) =>
    service.makeNewest(app, viewer, params.document, params.version, body),
  );
  mount(d.removeVersion, ({ viewer, params, body }) =>
    removeVersion(app, viewer, params.document, params.version, body.reason),
  );
  mount(d.correctMetadata, ({ viewer, params, body }) => correctMetadata(app, viewer, params.document, body));
  mount(d.setState, ({ viewer, params, body }) => done(setState(app, viewer, params.document, body)));
  mount(d.renumber, ({ viewer, params, body }) => identity.renumber(app, viewer, params.document, body));
  mount(d.rename, ({ viewer, params, body }) => identity.renameFile(app, viewer, params.document, body));
  mount(d.replace, ({ viewer, params, body }) => identity.replaceContent(app, viewer, params.document, body));
  mount(d.checkSource, ({ viewer, params, body }) => identity.checkSource(app, viewer, params.document, body));
};
