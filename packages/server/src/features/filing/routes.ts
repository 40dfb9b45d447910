import { api } from '@kanonos/contract';
import type { App } from '../../platform/app.ts';
import { done, type Mount } from '../../platform/http/mount.ts';
import { refused } from '../../platform/refused.ts';
import type { Viewer } from '../access/index.ts';
import { findEntries } from '../rules/index.ts';
import { foldersFor, typesFor } from './choosing.ts';
import * as service from './service.ts';
import { addShortcuts, removeShortcut } from './shortcuts.ts';

export const filingRoutes = (app: App, mount: Mount<Viewer>): void => {
  const { filing: f, documents: d, rules: r } = api;
  mount(d.types, ({ viewer }) => typesFor(app, viewer));
  mount(d.folders, ({ viewer }) => foldersFor(app, viewer));
  mount(r.entries, async ({ viewer, params, query }) => {
    // An outside party may use the lists needed for its own submissions, and no others.
    if (viewer.outside) {
      const { types } = await typesFor(app, viewer);
      if (!types.some((type) => type.fields.some((field) => 'list' in field && field.list === params.key)))
        throw refused('not_found');
    }
    return findEntries(app, params.key, query.find);
  });

  mount(f.plan, ({ viewer }) => service.filingPlan(app, viewer));
  mount(f.grants, ({ viewer, params }) => service.folderGrants(app, viewer, params.id));
  mount(f.add, ({ viewer, body }) => service.addFolder(app, viewer, body));
  mount(f.change, ({ viewer, params, body }) => done(service.changeFolder(app, viewer, params.id, body)));
  mount(f.inherit, ({ viewer, params, body }) => service.inheritedIn(app, viewer, params.id, body));
  mount(f.remove, ({ viewer, params, body }) => done(service.removeFolder(app, viewer, params.id, body.reason)));
  mount(f.addShortcuts, ({ viewer, body }) => addShortcuts(app, viewer, body));
  mount(f.removeShortcut, ({ viewer, body }) => done(removeShortcut(app, viewer, body)));
  mount(f.setGrants, ({ viewer, params, body }) => done(service.setGrants(app, viewer, params.id, body)));
};
