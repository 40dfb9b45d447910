import { api } from '@kanonos/contract';
import type { App } from '../../platform/app.ts';
import { done, type Mount } from '../../platform/http/mount.ts';
import { sendContent } from '../../platform/http/sendContent.ts';
import type { Viewer } from '../access/index.ts';
import { keepSupportingFile, readAsText, saveWorkingText, supportingFile, workingText } from '../authoring/index.ts';
import { addressOnDrive } from './address.ts';
import { driveFiles, takeDriveFile } from './driveFiles.ts';
import { endProgramPassword, makeProgramPassword, programPasswords } from './passwords.ts';

export const webdavRoutes = (app: App, mount: Mount<Viewer>): void => {
  const { programs: p } = api;
  mount(p.programPasswords, ({ viewer }) => programPasswords(app, viewer));
  mount(p.addProgramPassword, ({ viewer, body }) => makeProgramPassword(app, viewer, body.name));
  mount(p.endProgramPassword, ({ viewer, params }) => done(endProgramPassword(app, viewer, params.id)));
  mount(p.onDrive, ({ viewer, params }) => addressOnDrive(app, viewer, params.document));
  mount(p.workingText, ({ viewer, params }) => workingText(app, viewer, params.document));
  mount(p.saveWorkingText, ({ viewer, params, body }) => saveWorkingText(app, viewer, params.document, body));
  mount(p.readAsText, ({ body }) => readAsText(body.text));
  mount(p.addSupportingFile, ({ viewer, params, body }) =>
    done(keepSupportingFile(app, viewer, params.document, body)),
  );
  mount(p.supportingFile, async ({ viewer, params, request, response }) => {
    await sendContent(app, request, response, await supportingFile(app, viewer, params.id));
    return undefined;
  });
  mount(p.driveFiles, ({ viewer }) => driveFiles(app, viewer));
  mount(p.takeDriveFile, ({ viewer, params }) => takeDriveFile(app, viewer, params.id));
};
