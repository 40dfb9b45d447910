import { api } from '@kanonos/contract';
import type { App } from '../../platform/app.ts';
import { done, type Mount } from '../../platform/http/mount.ts';
import type { Viewer } from '../access/index.ts';
import { seeAs, stopSeeingAs } from './seeAs.ts';
import * as service from './service.ts';

export const rightsRoutes = (app: App, mount: Mount<Viewer>): void => {
  const { rights: r } = api;
  mount(r.grants, ({ viewer, params }) => service.documentGrants(app, viewer, params.document));
  mount(r.setGrants, ({ viewer, params, body }) => done(service.setDocumentGrants(app, viewer, params.document, body)));
  mount(r.explain, ({ viewer, params, query }) => service.explainRights(app, viewer, params.document, query.person));
  mount(r.holders, ({ viewer, params, query }) => service.rightHolders(app, viewer, params.document, query.right));
  mount(r.seeAs, ({ viewer, body }) => done(seeAs(app, viewer, body.personId, body.reason)));
  mount(r.stopSeeingAs, ({ viewer }) => done(stopSeeingAs(app, viewer)));
};
