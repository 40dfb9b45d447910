import { api } from '@kanonos/contract';
import { dayOf } from '@kanonos/core';
import type { App } from '../../platform/app.ts';
import type { Mount } from '../../platform/http/mount.ts';
import { sendTable } from '../../platform/http/sendTable.ts';
import type { Viewer } from '../access/index.ts';
import { ensureRight } from '../access/index.ts';
import { openDocument } from '../documents/index.ts';
import { countUsage, listUsage } from '../usage/index.ts';
import * as service from './service.ts';
import { trailFile } from './trailFile.ts';

export const trailRoutes = (app: App, mount: Mount<Viewer>): void => {
  const { documents: d, evidence: e } = api;
  mount(d.history, ({ viewer, params, query }) => service.history(app, viewer, params.document, query));
  mount(e.trail, ({ query }) => service.trailPage(app, query));
  mount(e.trailFile, async ({ query: { format, ...filter }, response }) => {
    await sendTable(response, await trailFile(app, filter), format);
    return undefined;
  });
  mount(e.exportTrail, async ({ response }) => {
    response.setHeader('Content-Type', 'application/jsonl; charset=utf-8');
    response.setHeader('Content-Disposition', 'attachment; filename="audit-trail.jsonl"');
    await service.exportTrail(app, response);
    if (!response.destroyed) response.end();
    return undefined;
  });
  mount(d.usage, async ({ viewer, params }) => {
    const opened = await openDocument(
      app.db,
      viewer,
      params.document,
      dayOf(app.clock(), (await app.organisation()).zone),
    );
    if (!viewer.organisationRights.has('audit')) ensureRight(opened.rights, 'manage');
    const lines = await listUsage(app.db, opened.document.id);
    return {
      lines: lines.map((line) => ({ ...line, at: line.at.toISOString() })),
      total: await countUsage(app.db, opened.document.id),
    };
  });
};
