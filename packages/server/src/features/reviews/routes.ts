import { api } from '@kanonos/contract';
import type { App } from '../../platform/app.ts';
import { done, type Mount } from '../../platform/http/mount.ts';
import type { Viewer } from '../access/index.ts';
import { answerReview, confirmReview, postponeReview, reviewOf } from './service.ts';

export const reviewRoutes = (app: App, mount: Mount<Viewer>): void => {
  const { reviews: r } = api;
  mount(r.get, ({ viewer, params }) => reviewOf(app, viewer, params.document));
  mount(r.confirm, ({ viewer, params, body }) => confirmReview(app, viewer, params.document, body));
  mount(r.answer, ({ viewer, params, body }) => done(answerReview(app, viewer, params.document, body)));
  mount(r.postpone, ({ viewer, params, body }) => done(postponeReview(app, viewer, params.document, body)));
};
