import { api } from '@kanonos/contract';
import type { App } from '../../platform/app.ts';
import { done, type Mount } from '../../platform/http/mount.ts';
import type { Viewer } from '../access/index.ts';
import * as service from './service.ts';

export const peopleRoutes = (app: App, mount: Mount<Viewer>): void => {
  mount(api.people.list, async ({ viewer, query }) => ({ people: await service.listPeople(app, viewer, query) }));
  mount(api.people.names, async ({ viewer, query }) => ({ people: await service.listNames(app, viewer, query) }));
  mount(api.people.units, async ({ viewer }) => ({ units: viewer.outside ? [] : await service.listUnits(app) }));
  mount(api.people.addUnit, ({ viewer, body }) => service.addUnit(app, viewer, body));
  mount(api.people.changeUnit, ({ viewer, params, body }) => done(service.changeUnit(app, viewer, params.id, body)));
  mount(api.people.detail, ({ params }) => service.personDetail(app, params.id));
  mount(api.people.add, async ({ viewer, body }) => ({ id: (await service.addPerson(app, viewer, body)).id }));
  mount(api.people.change, ({ viewer, params, body }) => service.changePerson(app, viewer, params.id, body));
  mount(api.people.setMembership, ({ viewer, params, body }) => service.setMembership(app, viewer, params.id, body));
  mount(api.people.endMembership, ({ viewer, params, body }) =>
    service.endMembership(app, viewer, params.id, params.membership, body.to),
  );
  mount(api.people.deactivate, ({ viewer, params, body }) => service.deactivate(app, viewer, params.id, body.reason));
  mount(
    api.people.reset,
    async ({ viewer, params, body }) => (await service.resetPerson(app, viewer, params.id, body.reason)).detail,
  );
};
