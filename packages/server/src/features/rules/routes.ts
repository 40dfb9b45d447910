import { api } from '@kanonos/contract';
import type { App } from '../../platform/app.ts';
import { done, type Mount } from '../../platform/http/mount.ts';
import { sendContent } from '../../platform/http/sendContent.ts';
import { refused } from '../../platform/refused.ts';
import type { Viewer } from '../access/index.ts';
import { classificationPackage } from './classification.ts';
import * as lists from './lists.ts';
import * as packages from './package.ts';
import * as settings from './settings.ts';
import * as types from './types.ts';

export const rulesRoutes = (app: App, mount: Mount<Viewer>): void => {
  const { rules: r } = api;
  mount(r.types, () => types.listTypeRules(app));
  mount(r.type, ({ params }) => types.typeDetail(app, params.id));
  mount(r.tryType, ({ body }) => types.tryType(app, body));
  mount(r.addType, ({ viewer, body }) => types.addType(app, viewer, body));
  mount(r.changeType, ({ viewer, params, body }) => types.changeType(app, viewer, params.id, body));
  mount(r.dropPlan, ({ viewer, params, body }) => done(types.dropPlan(app, viewer, params.id, body.reason)));
  mount(r.lists, () => lists.listLists(app));
  mount(r.listEditions, ({ params }) => lists.editionsOfList(app, params));
  mount(r.saveChoices, ({ viewer, params, body }) => done(lists.saveChoices(app, viewer, params.key, body)));
  mount(r.saveLookup, ({ viewer, params, body }) => done(lists.saveLookup(app, viewer, params.key, body)));
  const { configurationPackages: p } = api;
  mount(p.export, () => packages.exportConfiguration(app));
  mount(p.schema, async () => packages.packageSchema());
  mount(p.classification, ({ viewer, body }) => classificationPackage(app, viewer, body.uploadId));
  mount(p.try, ({ body }) => packages.tryPackage(app, body.package));
  mount(p.apply, ({ viewer, body }) => packages.applyPackage(app, viewer, body));
  mount(r.organisation, () => settings.organisationSettings(app));
  mount(r.logo, async ({ request, response }) => {
    const logo = await settings.organisationLogo(app);
    if (!logo) throw refused('not_found');
    await sendContent(app, request, response, { ...logo, mediaType: logo.media_type, name: 'logo', as: 'open' });
    return undefined;
  });
  mount(r.changeOrganisation, ({ viewer, body }) => done(settings.changeOrganisation(app, viewer, body)));
};
