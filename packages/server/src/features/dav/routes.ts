import { api } from '@kanonos/contract';
import type { App } from '../../platform/app.ts';
import { done, type Mount } from '../../platform/http/mount.ts';
import { sendContent } from '../../platform/http/sendContent.ts';
import type { Viewer } from '../access/service.ts';
import { asideFile, keepAside } from '../authoring/asides.ts';
import { deskText, readAsText, saveDeskText } from '../authoring/deskText.ts';
import { addressAtDesk } from './address.ts';
import { deskFiles, takeDeskFile } from './deskFiles.ts';
import { endProgramPassword, makeProgramPassword, programPasswords } from './passwords.ts';

export const davRoutes = (app: App, mount: Mount<Viewer>): void => {
  const { programs: p } = api;
  mount(p.programPasswords, ({ viewer }) => programPasswords(app, viewer));
  mount(p.addProgramPassword, ({ viewer, body }) => makeProgramPassword(app, viewer, body.name));
  mount(p.endProgramPassword, ({ viewer, params }) => done(endProgramPassword(app, viewer, params.id)));
  mount(p.atDesk, ({ viewer, params }) => addressAtDesk(app, viewer, params.document));
  mount(p.deskText, ({ viewer, params }) => deskText(app, viewer, params.document));
  mount(p.saveDeskText, ({ viewer, params, body }) => saveDeskText(app, viewer, params.document, body));
  mount(p.readAsText, ({ body }) => readAsText(body.text));
  mount(p.putAside, ({ viewer, params, body }) => done(keepAside(app, viewer, params.document, body)));
  mount(p.asideFile, async ({ viewer, params, request, response }) => {
    await sendContent(app, request, response, await asideFile(app, viewer, params.id));
    return undefined;
  });
  mount(p.deskFiles, ({ viewer }) => deskFiles(app, viewer));
  mount(p.takeDeskFile, ({ viewer, params }) => takeDeskFile(app, viewer, params.id));
};
