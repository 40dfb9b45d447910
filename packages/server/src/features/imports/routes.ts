import { api } from '@kanonos/contract';
import type { App } from '../../platform/app.ts';
import { done, type Mount } from '../../platform/http/mount.ts';
import type { Viewer } from '../access/index.ts';
import * as service from './service.ts';
import { confirmTakenOver, unverifiedDocuments } from './unverified.ts';

export const importsRoutes = (app: App, mount: Mount<Viewer>): void => {
  const { imports: i } = api;
  mount(i.list, async ({ viewer }) => ({
    ...(await service.listImports(app, viewer)),
    unverified: (await unverifiedDocuments(app, viewer)).total,
  }));
  mount(i.add, ({ viewer, body }) => service.addImport(app, viewer, body.uploadId));
  mount(i.detail, ({ viewer, params }) => service.importDetail(app, viewer, params.id));
  mount(i.lines, ({ viewer, params, query }) => service.importLines(app, viewer, params.id, query));
  mount(i.correctLine, ({ viewer, params, body }) =>
    done(service.correctLine(app, viewer, params.id, params.line, body)),
  );
  mount(i.files, ({ viewer, params, body }) => service.addFiles(app, viewer, params.id, body.files));
  mount(i.setMapping, ({ viewer, params, body }) => done(service.setMapping(app, viewer, params.id, body)));
  mount(i.try, ({ viewer, params }) => service.tryImport(app, viewer, params.id));
  mount(i.run, ({ viewer, params, body }) => done(service.startImport(app, viewer, params.id, body.reason)));
  mount(i.stop, ({ viewer, params }) => done(service.stopImport(app, viewer, params.id)));
  mount(i.refused, async ({ viewer, params, response }) => {
    const csv = await service.refusedCsv(app, viewer, params.id);
    response.setHeader('Content-Type', 'text/csv; charset=utf-8');
    response.setHeader('Content-Disposition', 'attachment; filename="refused-lines.csv"');
    response.end(csv);
    return undefined;
  });
  mount(i.unverified, ({ viewer }) => unverifiedDocuments(app, viewer));
  mount(i.confirm, ({ viewer, body }) => confirmTakenOver(app, viewer, body.ids));
};
