import { api } from '@kanonos/contract';
import type { App } from '../../platform/app.ts';
import { done, type Mount } from '../../platform/http/mount.ts';
import { sendBytes, sendContent } from '../../platform/http/sendContent.ts';
import type { Viewer } from '../access/index.ts';
import { allForms, saveForm } from './editing.ts';
import { recordAsPdf } from './recordAsPdf.ts';
import * as records from './records.ts';

export const formsRoutes = (app: App, mount: Mount<Viewer>): void => {
  const { forms: f } = api;
  mount(f.offered, ({ viewer }) => records.formsOffered(app, viewer));
  mount(f.forChange, ({ viewer, params }) => records.formForChange(app, viewer, params.document));
  mount(f.record, ({ viewer, params }) => records.formRecord(app, viewer, params.id));
  mount(f.save, ({ viewer, body }) => records.saveRecord(app, viewer, body));
  mount(f.send, ({ viewer, params, body }) => records.sendRecord(app, viewer, params.id, body));
  mount(f.discard, ({ viewer, params, body }) => done(records.discardRecord(app, viewer, params.id, body)));
  mount(f.pdf, async ({ viewer, params, response }) => {
    const { name, bytes } = await recordAsPdf(app, viewer, params.id);
    sendBytes(response, bytes, { name, mediaType: 'application/pdf', as: 'open' });
    return undefined;
  });
  mount(f.file, async ({ viewer, params, request, response }) => {
    await sendContent(app, request, response, await records.recordFile(app, viewer, params.id));
    return undefined;
  });
  mount(f.all, () => allForms(app));
  mount(f.edit, ({ viewer, body }) => saveForm(app, viewer, body));
};
