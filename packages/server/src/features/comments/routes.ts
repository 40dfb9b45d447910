import { api } from '@kanonos/contract';
import type { App } from '../../platform/app.ts';
import { done, type Mount } from '../../platform/http/mount.ts';
import { sendBytes } from '../../platform/http/sendContent.ts';
import type { Viewer } from '../access/index.ts';
import { annotatedFile, importComments } from './annotated.ts';
import * as service from './service.ts';
import { listStamps, saveStamp } from './stamps.ts';

export const commentsRoutes = (app: App, mount: Mount<Viewer>): void => {
  const { comments: c } = api;
  mount(c.list, ({ viewer, params, query }) => service.listComments(app, viewer, params.document, query.version));
  mount(c.add, ({ viewer, params, body }) => service.addComment(app, viewer, params.document, body));
  mount(c.reply, ({ viewer, params, body }) => service.reply(app, viewer, params.document, params.comment, body.text));
  mount(c.reopen, ({ viewer, params, body }) =>
    done(service.reopen(app, viewer, params.document, params.comment, body.reason)),
  );
  mount(c.assign, ({ viewer, params, body }) =>
    done(service.assign(app, viewer, params.document, params.comment, body.personId)),
  );
  mount(c.withdraw, ({ viewer, params }) => done(service.withdraw(app, viewer, params.document, params.comment)));
  mount(c.annotated, async ({ viewer, params, response }) => {
    const { bytes, name } = await annotatedFile(app, viewer, params.file);
    sendBytes(response, bytes, { mediaType: 'application/pdf', name, as: 'download' });
    return undefined;
  });
  mount(c.importComments, ({ viewer, params, body }) => importComments(app, viewer, params.document, body.uploadId));
  mount(c.stamps, () => listStamps(app));
  mount(c.saveStamp, ({ viewer, params, body }) => done(saveStamp(app, viewer, params.id, body)));
};
