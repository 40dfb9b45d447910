import { api } from '@kanonos/contract';
import type { App } from '../../platform/app.ts';
import { done, type Mount } from '../../platform/http/mount.ts';
import type { Viewer } from '../access/index.ts';
import * as service from './service.ts';
import { task } from './views.ts';

export const roundsRoutes = (app: App, mount: Mount<Viewer>): void => {
  const { documents: d, tasks: t, comments: c } = api;
  mount(d.submit, ({ viewer, params, body }) => service.submit(app, viewer, params.document, body));
  mount(d.submissionRoute, ({ viewer, params }) => service.submissionRoute(app, viewer, params.document));
  mount(d.recall, ({ viewer, params, body }) => done(service.recall(app, viewer, params.document, body)));
  mount(t.task, ({ viewer, params }) => task(app, viewer, params.assignment));
  mount(t.decide, ({ viewer, params, body }) => service.decide(app, viewer, params.assignment, body));
  mount(t.remind, ({ viewer, params }) => service.remind(app, viewer, params.document));
  // Resolving a comment moves on the round that waited for it.
  mount(c.resolve, ({ viewer, params, body }) =>
    done(service.resolveComment(app, viewer, params.document, params.comment, body.resolution)),
  );
};
