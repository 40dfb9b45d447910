import { api } from '@kanonos/contract';
import type { App } from '../../platform/app.ts';
import { done, type Mount } from '../../platform/http/mount.ts';
import { sendContent } from '../../platform/http/sendContent.ts';
import type { Viewer } from '../access/index.ts';
import { adHocRoutes, roundFile, startAdHocRound } from './adHoc.ts';
import { bottlenecks, pastAnswers } from './bottlenecks.ts';
import { changeRounds } from './changes.ts';
import { awaitedPeople, openRounds } from './openRounds.ts';
import { cancelPlanned, plannedRounds, planRound } from './planned.ts';
import * as service from './service.ts';
import { signOutside, toSignOutside } from './signOutside.ts';
import { tryRoute } from './tryRoute.ts';
import { task } from './views.ts';

export const roundsRoutes = (app: App, mount: Mount<Viewer>): void => {
  const { documents: d, tasks: t, comments: c, rounds: r } = api;
  mount(d.submit, ({ viewer, params, body }) => service.submit(app, viewer, params.document, body));
  mount(d.submissionRoute, ({ viewer, params, query }) =>
    service.submissionRoute(app, viewer, params.document, query.route ?? null),
  );
  mount(d.recall, ({ viewer, params, body }) => done(service.recall(app, viewer, params.document, body)));
  mount(t.task, ({ viewer, params }) => task(app, viewer, params.assignment));
  mount(t.decideSeveral, ({ viewer, body }) => service.decideSeveral(app, viewer, body));
  mount(t.decide, ({ viewer, params, body }) => service.decide(app, viewer, params.assignment, body));
  mount(t.remind, ({ viewer, params }) => service.remind(app, viewer, params.document));
  mount(r.open, ({ viewer, query }) => openRounds(app, viewer, query));
  mount(r.awaited, ({ viewer, query }) => awaitedPeople(app, viewer, query));
  mount(r.change, ({ viewer, body }) => changeRounds(app, viewer, body));
  mount(r.bottlenecks, ({ viewer, query }) => bottlenecks(app, viewer, query));
  mount(r.pastAnswers, ({ viewer, query }) => pastAnswers(app, viewer, query));
  const { adHocRounds: h } = api;
  mount(h.start, ({ viewer, params, body }) => startAdHocRound(app, viewer, params.document, body));
  mount(h.plan, ({ viewer, params, body }) => planRound(app, viewer, params.document, body));
  mount(h.planned, ({ viewer, params }) => plannedRounds(app, viewer, params.document));
  mount(h.cancelPlanned, ({ viewer, params, body }) => done(cancelPlanned(app, viewer, params.id, body)));
  mount(h.routes, ({ viewer, params, query }) => adHocRoutes(app, viewer, params.document, query.revisionId));
  mount(h.file, async ({ viewer, params, request, response }) => {
    await sendContent(app, request, response, await roundFile(app, viewer, params.id));
    return undefined;
  });
  mount(h.toSign, ({ viewer, params, query }) => toSignOutside(app, viewer, params.document, query.revisionId));
  mount(h.sign, ({ viewer, params, body }) => signOutside(app, viewer, params.document, body));
  mount(r.tryRoute, ({ viewer, params, body }) => tryRoute(app, viewer, params.id, body));
  // Resolving a comment moves on the round that waited for it.
  mount(c.resolve, ({ viewer, params, body }) =>
    done(service.resolveComment(app, viewer, params.document, params.comment, body.resolution)),
  );
};
