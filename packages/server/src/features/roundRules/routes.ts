import { api } from '@kanonos/contract';
import type { App } from '../../platform/app.ts';
import { done, type Mount } from '../../platform/http/mount.ts';
import type { Viewer } from '../access/index.ts';
import * as service from './service.ts';

export const roundRulesRoutes = (app: App, mount: Mount<Viewer>): void => {
  const { roundRules: r } = api;
  mount(r.list, () => service.roundRules(app));
  mount(r.save, ({ viewer, body }) => service.saveRoundRule(app, viewer, body));
  mount(r.remove, ({ viewer, params, body }) => done(service.removeRoundRule(app, viewer, params.id, body)));
  mount(r.try, ({ viewer, body }) => service.tryRoundRule(app, viewer, body));
  mount(r.log, ({ viewer, params }) => service.roundRuleLog(app, viewer, params.id));
};
