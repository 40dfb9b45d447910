import { api } from '@kanonos/contract';
import type { App } from '../../platform/app.ts';
import { done, type Mount } from '../../platform/http/mount.ts';
import { sendContent } from '../../platform/http/sendContent.ts';
import type { Viewer } from '../access/index.ts';
import {
  addAffected,
  addTask,
  changeAffected,
  changeTask,
  closeNote,
  doneTask,
  dropTask,
  removeAffected,
} from './commands.ts';
import { proposedForChangeNote } from './proposals.ts';
import { answerRequest, changeRequests, requestFile, suggestChange } from './requests.ts';
import { changeNote, changeNotes, openChangeNotes } from './service.ts';

export const changesRoutes = (app: App, mount: Mount<Viewer>): void => {
  const { changes: c } = api;
  mount(c.list, ({ viewer }) => changeNotes(app, viewer));
  mount(c.open, ({ viewer, params }) => openChangeNotes(app, viewer, params.document));
  mount(c.note, ({ viewer, params }) => changeNote(app, viewer, params.document));
  mount(c.proposals, ({ viewer, params }) => proposedForChangeNote(app, viewer, params.document));
  mount(c.addAffected, ({ viewer, params, body }) => addAffected(app, viewer, params.document, body));
  mount(c.changeAffected, ({ viewer, params, body }) =>
    done(changeAffected(app, viewer, params.document, params.affected, body)),
  );
  mount(c.removeAffected, ({ viewer, params }) => done(removeAffected(app, viewer, params.document, params.affected)));
  mount(c.addTask, ({ viewer, params, body }) => addTask(app, viewer, params.document, body));
  mount(c.changeTask, ({ viewer, params, body }) => done(changeTask(app, viewer, params.document, params.task, body)));
  mount(c.doneTask, ({ viewer, params, body }) => done(doneTask(app, viewer, params.document, params.task, body)));
  mount(c.dropTask, ({ viewer, params, body }) => done(dropTask(app, viewer, params.document, params.task, body)));
  const q = api.changeRequests;
  mount(q.list, ({ viewer }) => changeRequests(app, viewer));
  mount(q.suggest, ({ viewer, params, body }) => suggestChange(app, viewer, params.document, body));
  mount(q.answer, ({ viewer, params, body }) => done(answerRequest(app, viewer, params.id, body)));
  mount(q.file, async ({ viewer, params, request, response }) => {
    await sendContent(app, request, response, await requestFile(app, viewer, params.id));
    return undefined;
  });
  mount(c.close, ({ viewer, params, body }) => done(closeNote(app, viewer, params.document, body)));
};
