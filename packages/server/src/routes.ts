import { api } from '@kanonos/contract';
import { dayOf } from '@kanonos/core';
import type { Viewer } from './features/access/service.ts';
import * as identity from './features/authoring/identity.ts';
import { correctMetadata } from './features/authoring/metadata.ts';
import { removeVersion } from './features/authoring/removingVersions.ts';
import * as authoring from './features/authoring/service.ts';
import { blueprintsRoutes } from './features/blueprints/routes.ts';
import { bulkRoutes } from './features/bulk/routes.ts';
import { citationsRoutes } from './features/citations/routes.ts';
import { commentsRoutes } from './features/comments/routes.ts';
import { comparisonRoutes } from './features/comparison/routes.ts';
import * as uploads from './features/content/uploads.ts';
import * as desk from './features/desk/service.ts';
import { handOut, lookAt, readingText } from './features/documents/files.ts';
import { suggestKeywords } from './features/documents/keywords.ts';
import { matchFiles } from './features/documents/matching.ts';
import { placesOf } from './features/documents/places.ts';
import { drawingReferences } from './features/documents/references.ts';
import { removeDocument, removedDocuments, restore } from './features/documents/removing.ts';
import { ensureDocumentRight, openDocument } from './features/documents/service.ts';
import * as choosing from './features/filing/choosing.ts';
import { filingRoutes } from './features/filing/routes.ts';
import * as find from './features/find/service.ts';
import { importsRoutes } from './features/imports/routes.ts';
import { intakeRoutes } from './features/intake/routes.ts';
import { linksRoutes } from './features/links/routes.ts';
import * as mailing from './features/mailing/service.ts';
import { numbersRoutes } from './features/numbers/routes.ts';
import * as page from './features/page/service.ts';
import { peopleRoutes } from './features/people/routes.ts';
import * as reading from './features/reading/service.ts';
import * as registering from './features/registration/service.ts';
import { preflightFor } from './features/release/preflight.ts';
import { abandon, revise } from './features/release/revise.ts';
import * as release from './features/release/service.ts';
import { cancelWithdrawal, reinstate, reinstatementFor, withdraw } from './features/release/withdraw.ts';
import * as rounds from './features/rounds/service.ts';
import { rulesRoutes } from './features/rules/routes.ts';
import { sessionRoutes } from './features/session/routes.ts';
import { systemRoutes } from './features/system/routes.ts';
import { templatesRoutes } from './features/templates/routes.ts';
import * as trail from './features/trail/service.ts';
import * as usage from './features/usage/service.ts';
import { viewingRoutes } from './features/viewing/routes.ts';
import { webdavRoutes } from './features/webdav/routes.ts';
import type { App } from './platform/app.ts';
import { done, type Mount } from './platform/http/mount.ts';
import { sendBytes, sendContent } from './platform/http/sendContent.ts';
import { receiveFile } from './platform/http/upload.ts';
import { receivedMail } from './platform/mail/standIn.ts';
import { refused } from './platform/refused.ts';

/** Every endpoint with the service that answers it: routes parse and hand on, they decide nothing. */
export const mountAll = (
  app: App,
  mount: Mount<Viewer>,
  health: () => Promise<{ ok: boolean; database: string; content: string; jobs: string }>,
): void => {
  sessionRoutes(app, mount);
  peopleRoutes(app, mount);
  numbersRoutes(app, mount);
  rulesRoutes(app, mount);
  bulkRoutes(app, mount);
  filingRoutes(app, mount);
  importsRoutes(app, mount);
  blueprintsRoutes(app, mount);
  intakeRoutes(app, mount);
  webdavRoutes(app, mount);
  commentsRoutes(app, mount);
  viewingRoutes(app, mount);
  linksRoutes(app, mount);
  templatesRoutes(app, mount);
  citationsRoutes(app, mount);
  comparisonRoutes(app, mount);
  systemRoutes(app, mount);

  const { documents: d, tasks: t, reading: r, find: f, evidence: e } = api;

  mount(d.types, ({ viewer }) => choosing.typesFor(app, viewer));
  mount(d.folders, ({ viewer }) => choosing.foldersFor(app, viewer));
  mount(d.upload, ({ viewer, request }) =>
    receiveFile(request, (name, stream) => uploads.takeUpload(app, viewer, name, stream)),
  );
  mount(d.table, ({ viewer, params }) => uploads.readSentTable(app, viewer, params.id));
  mount(d.written, ({ viewer, body }) => uploads.takeWritten(app, viewer, body));
  mount(d.keywords, ({ viewer, query }) => suggestKeywords(app, viewer, query.find));
  mount(d.match, ({ viewer, body }) => matchFiles(app, viewer, body.uploadIds));
  mount(d.preview, ({ viewer, body }) => registering.previewRegistration(app, viewer, body));
  mount(d.register, ({ viewer, body, request }) =>
    registering.registerDocument(app, viewer, body, keyOf(request.headers['idempotency-key'])),
  );
  mount(d.page, ({ viewer, params, query }) => page.documentPage(app, viewer, params.document, query));
  mount(d.file, async ({ viewer, params, query, request, response }) => {
    if (query.as === 'open') {
      const { file, name, shown } = await lookAt(app, viewer, params.file);
      const { sha256, size, media_type: mediaType } = file;
      if (shown) sendBytes(response, shown.bytes, { name, mediaType: shown.mediaType, as: 'open' });
      else await sendContent(app, request, response, { sha256, size, mediaType, name, as: 'open' });
      return undefined;
    }
    const { file, name, filled } = await handOut(app, viewer, params.file, query.as);
    const about = { name, mediaType: file.media_type, as: 'download' as const };
    if (filled) sendBytes(response, filled, about);
    else await sendContent(app, request, response, { sha256: file.sha256, size: file.size, ...about });
    return undefined;
  });
  mount(d.fileHtml, ({ viewer, params }) => readingText(app, viewer, params.file));
  mount(d.places, ({ viewer, params }) => placesOf(app, viewer, params.document));
  mount(d.history, ({ viewer, params }) => trail.history(app, viewer, params.document));
  mount(d.usage, async ({ viewer, params }) => {
    const opened = await openDocument(
      app.db,
      viewer,
      params.document,
      dayOf(app.clock(), (await app.organisation()).zone),
    );
    if (!viewer.organisationRights.has('audit')) ensureDocumentRight(opened, 'manage');
    const lines = await usage.listUsage(app.db, opened.document.id);
    return {
      lines: lines.map((line) => ({ ...line, at: line.at.toISOString() })),
      total: await usage.countUsage(app.db, opened.document.id),
    };
  });
  mount(d.removeVersion, ({ viewer, params, body }) =>
    removeVersion(app, viewer, params.document, params.version, body.reason),
  );
  mount(d.checkOut, ({ viewer, params, body }) => authoring.checkOut(app, viewer, params.document, body));
  mount(d.checkIn, ({ viewer, params, body }) => authoring.checkIn(app, viewer, params.document, body));
  mount(d.takeOverCheckout, ({ viewer, params, body }) =>
    done(authoring.takeOverCheckout(app, viewer, params.document, body)),
  );
  mount(d.discardCheckout, ({ viewer, params, body }) =>
    done(authoring.discardCheckout(app, viewer, params.document, body)),
  );
  mount(d.makeNewest, ({ viewer, params, body }) =>
    authoring.makeNewest(app, viewer, params.document, params.version, body),
  );
  mount(d.correctMetadata, ({ viewer, params, body }) => correctMetadata(app, viewer, params.document, body));
  mount(d.renumber, ({ viewer, params, body }) => identity.renumber(app, viewer, params.document, body));
  mount(d.rename, ({ viewer, params, body }) => identity.renameFile(app, viewer, params.document, body));
  mount(d.replace, ({ viewer, params, body }) => identity.replaceContent(app, viewer, params.document, body));
  mount(d.checkSource, ({ viewer, params, body }) => identity.checkSource(app, viewer, params.document, body));
  mount(d.references, ({ viewer, params }) => drawingReferences(app, viewer, params.upload));
  mount(d.submit, ({ viewer, params, body }) => rounds.submit(app, viewer, params.document, body));
  mount(d.recall, ({ viewer, params, body }) => done(rounds.recall(app, viewer, params.document, body)));
  mount(d.revise, ({ viewer, params, body }) => revise(app, viewer, params.document, body));
  mount(d.abandon, ({ viewer, params, body }) =>
    done(abandon(app, viewer, params.document, { reason: body.reason, seen: '*' })),
  );
  mount(d.remove, ({ viewer, params, body }) => done(removeDocument(app, viewer, params.document, body)));
  mount(d.restore, ({ viewer, params, body }) => done(restore(app, viewer, params.document, body)));
  mount(d.removed, ({ viewer }) => removedDocuments(app, viewer));
  mount(d.preflight, ({ viewer, params }) => preflightFor(app, viewer, params.document));
  mount(d.release, ({ viewer, params, body }) => release.release(app, viewer, params.document, body));
  mount(d.moveDay, ({ viewer, params, body }) => release.moveDay(app, viewer, params.document, body));
  mount(d.reopen, ({ viewer, params, body }) => done(release.reopen(app, viewer, params.document, body)));
  mount(d.withdraw, ({ viewer, params, body }) => done(withdraw(app, viewer, params.document, body)));
  mount(d.reinstatement, ({ viewer, params }) => reinstatementFor(app, viewer, params.document));
  mount(d.reinstate, ({ viewer, params, body }) => done(reinstate(app, viewer, params.document, body)));
  mount(d.cancelWithdrawal, ({ viewer, params, body }) =>
    done(cancelWithdrawal(app, viewer, params.document, { reason: body.reason, seen: '*' })),
  );

  mount(t.desk, ({ viewer }) => desk.desk(app, viewer));
  mount(t.checkouts, ({ viewer }) => desk.listCheckouts(app, viewer));
  mount(t.submitted, async ({ viewer }) => ({ rows: await desk.submittedByMe(app, viewer) }));
  mount(t.counts, ({ viewer }) => desk.counts(app, viewer));
  mount(t.task, ({ viewer, params }) => rounds.task(app, viewer, params.assignment));
  mount(t.decide, ({ viewer, params, body }) => rounds.decide(app, viewer, params.assignment, body));
  mount(t.remind, ({ viewer, params }) => rounds.remind(app, viewer, params.document));

  mount(r.mine, ({ viewer }) => reading.myReadings(app, viewer));
  mount(r.task, ({ viewer, params }) => reading.readingTask(app, viewer, params.id));
  mount(r.sign, ({ viewer, params, body }) => done(reading.signReading(app, viewer, params.id, body)));
  mount(r.readers, ({ viewer, params }) => reading.readers(app, viewer, params.document));
  mount(r.setRequirement, ({ viewer, params, body }) => reading.setRequirement(app, viewer, params.document, body));
  mount(r.team, ({ viewer, query }) => reading.teamReading(app, viewer, query.scope));
  mount(r.remind, ({ viewer, body }) => reading.remindOverdue(app, viewer, body.scope));

  mount(f.register, ({ viewer, query }) => find.registerPage(app, viewer, query));
  mount(f.facets, ({ viewer, query }) => find.facetsOf(app, viewer, query));
  mount(f.preview, ({ viewer, params, query }) => page.preview(app, viewer, params.document, query.revision));
  mount(f.find, ({ viewer, query }) => find.find(app, viewer, query.q, query.limit));

  mount(e.trail, ({ query }) => trail.trailPage(app, query));
  mount(e.exportTrail, async ({ response }) => {
    response.setHeader('Content-Type', 'application/jsonl; charset=utf-8');
    response.setHeader('Content-Disposition', 'attachment; filename="audit-trail.jsonl"');
    await trail.exportTrail(app, response);
    if (!response.destroyed) response.end();
    return undefined;
  });
  mount(e.mails, async ({ query }) => ({
    rows: await mailing.listMails(app, query.before),
    standIn: app.config.smtpUrl === undefined || /127\.0\.0\.1|localhost/.test(app.config.smtpUrl),
  }));
  mount(e.mail, async ({ params }) => {
    const mail = await mailing.findMail(app, params.id);
    if (!mail) throw refused('not_found');
    // What the stand-in received is shown as it came, with live links, and therefore on a demo only.
    const { demo } = await app.organisation();
    const received = demo ? await receivedMail(app.config.dataDir, mail.id) : undefined;
    const kept = mailing.keptBody(mail);
    return {
      ...mailing.toMailRow(mail),
      html: received?.html || kept.html,
      text: received?.text || kept.text,
      redacted: received === undefined && kept.redacted,
      arrived: received !== undefined,
    };
  });
  mount(e.health, async ({ response }) => {
    const state = await health();
    if (!state.ok) response.status(503);
    return state;
  });
  mount(e.live, async () => ({ ok: true }));
};

const keyOf = (header: string | string[] | undefined): string | null =>
  typeof header === 'string' && header.length > 0 && header.length <= 200 ? header : null;
