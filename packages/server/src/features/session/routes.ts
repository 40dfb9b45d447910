import { api } from '@kanonos/contract';
import type { Response } from 'express';
import type { App } from '../../platform/app.ts';
import { done, type Mount } from '../../platform/http/mount.ts';
import type { Viewer } from '../access/index.ts';
import * as absences from './absences.ts';
import * as service from './service.ts';

export const COOKIE = 'kanonos';

const setCookie = (app: App, response: Response, token: string) =>
  response.cookie(COOKIE, token, {
    httpOnly: true,
    sameSite: 'lax',
    secure: app.config.publicUrl.startsWith('https:'),
    path: '/',
  });

export const sessionRoutes = (app: App, mount: Mount<Viewer>): void => {
  mount(api.session.signIn, async ({ body, request, response }) => {
    const { token, personId } = await service.signIn(app, { ...body, address: request.ip ?? '' });
    setCookie(app, response, token);
    return service.me(app, personId);
  });
  mount(api.session.signOut, async ({ viewer, query, response }) => {
    await service.signOut(app, viewer, query.everywhere === 'yes');
    response.clearCookie(COOKIE, { path: '/' });
    return {};
  });
  mount(api.session.me, ({ viewer }) => service.me(app, viewer.id, viewer.seenBy?.name ?? null));
  mount(api.session.welcome, () => service.welcome(app));
  mount(api.session.changeProfile, ({ viewer, body }) => service.changeProfile(app, viewer, body));
  mount(api.session.changePassword, async ({ viewer, body }) => {
    await service.changePassword(app, viewer, body);
    return {};
  });
  mount(api.session.absences, ({ viewer }) => absences.absences(app, viewer));
  mount(api.session.addAbsence, ({ viewer, body }) => absences.addAbsence(app, viewer, body));
  mount(api.session.endAbsence, ({ viewer, params }) => done(absences.endAbsence(app, viewer, params.id)));
  mount(api.people.absences, ({ viewer, params }) => absences.absencesOfPerson(app, viewer, params.id));
  mount(api.people.addAbsence, ({ viewer, params, body }) => absences.addAbsence(app, viewer, body, params.id));
  mount(api.people.endAbsence, ({ viewer, params }) =>
    done(absences.endAbsence(app, viewer, params.absence, params.id)),
  );
  mount(api.session.passwordLink, ({ params }) => service.passwordLink(app, params.token));
  mount(api.session.setPassword, async ({ params, body }) => {
    await service.setPasswordByLink(app, params.token, body.password);
    return {};
  });
};
