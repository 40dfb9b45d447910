import type { AnswerOf, api, BodyOf } from '@kanonos/contract';
import {
  adHocRoute,
  checkRoute,
  dayOf,
  decideAdHocRound,
  hasRight,
  type RouteDefinition,
  routesToNothing,
} from '@kanonos/core';
import type { App, UnitOfWork } from '../../platform/app.ts';
import type { Db, Trx } from '../../platform/db/connect.ts';
import { newId } from '../../platform/db/ids.ts';
import { assertAllowed, refused } from '../../platform/refused.ts';
import type { HandlerOf, Viewer } from '../access/index.ts';
import { getStored } from '../content/index.ts';
import { ensureActive, type Opened, openDocument, rightToRead, runCommand, subjectOf } from '../documents/index.ts';
import { namesOf } from '../people/index.ts';
import type { RevisionRow } from '../revisions/index.ts';
import { policyOf } from '../rules/index.ts';
import { ensureReads } from './ensureReads.ts';
import { advance } from './progress.ts';
import { problemOf, resolveSteps } from './resolving.ts';
import { routedOf } from './routeOfWork.ts';
import { startRound } from './startRound.ts';
import { findRoundFile, insertRoundDocuments, insertRoundFile } from './storeAdHoc.ts';

/**
 * The revision that somebody means who may read it: the one named, or else what is in force, or what is in work. One that they may not
 * read answers as if it did not exist.
 */
export const meantRevision = (opened: Opened, revisionId: string | undefined): RevisionRow => {
  const named = revisionId ? opened.revisions.find(({ id }) => id === revisionId) : undefined;
  if (revisionId && !named) throw refused('not_found');
  const candidates = named ? [named] : [opened.inForce, opened.work];
  const found = candidates.find((one) => one && hasRight(opened.rights, rightToRead(one.state)));
  if (!found) throw refused('right_missing', { right: named ? rightToRead(named.state) : 'read' });
  return found;
};

type Input = BodyOf<typeof api.adHocRounds.start>;

/** What a round outside the route would ask of a revision, where nothing stands against it. */
export const checkAdHocRound = async (
  app: App,
  work: UnitOfWork,
  opened: Opened,
  revision: RevisionRow,
  input: Input,
  begins = work.day,
): Promise<Asked> => {
  const asked = await routeAsked(app, work, opened, revision, input);
  assertAllowed([
    ...decideAdHocRound(asked.route, { state: revision.state, lastDay: input.lastDay, today: begins }),
    ...checkRoute(asked.route, opened.type.fields),
  ]);
  await ensureAskable(work, opened, revision, new Set(asked.people.flatMap((people) => people ?? [])));
  return asked;
};

/** Begins a round outside the route under the lock of its document, with files that are stored already. */
export const beginAdHocRound = async (
  app: App,
  work: UnitOfWork,
  viewer: Viewer,
  opened: Opened,
  input: Input,
  files: readonly { name: string; sha256: string }[],
) => {
  const revision = meantRevision(opened, input.revisionId);
  const { route, people } = await checkAdHocRound(app, work, opened, revision, input);
  const { document } = opened;
  const { lastDay, message } = input;
  const round = await startRound(work, { document, revision, definition: route, message, people, lastDay });
  const attached = await attach(work, viewer, round.id, input, files);
  work.record({
    kind: 'round.started',
    subject: subjectOf(document, revision),
    payload: {
      round: round.n,
      name: input.name,
      message,
      steps: route.steps.filter((_, at) => people[at]).map(({ name }) => name),
      lastDay,
      ...attached,
    },
  });
  await advance(app, work, { document, revision, round });
  return round;
};

/** Starts a round outside the route of the type, with steps made on the spot. It gives no rights, and leaves the revision in its state. */
export const startAdHocRound: HandlerOf<typeof api.adHocRounds.start> = (app, viewer, ref, input) =>
  runCommand(app, viewer, { document: ref }, async (work, opened) => {
    const files: { name: string; sha256: string }[] = [];
    for (const uploadId of new Set(input.uploads)) {
      const { name, sha256 } = await getStored(app, work.trx, viewer, uploadId);
      files.push({ name, sha256 });
    }
    return { round: (await beginAdHocRound(app, work, viewer, opened, input, files)).n };
  });

type Asked = { route: RouteDefinition; people: (string[] | null)[] };

/** The steps made on the spot, or those of a route of the type that leads to nothing, with the people whom they ask of the document. */
const routeAsked = async (
  app: App,
  work: UnitOfWork,
  opened: Opened,
  revision: RevisionRow,
  { name, steps, workingDays, fromRoute }: BodyOf<typeof api.adHocRounds.start>,
): Promise<Asked> => {
  if (!fromRoute)
    return {
      route: adHocRoute(name, steps, workingDays),
      people: steps.map((step) => [...new Set(step.people)]),
    };
  return ownRouteAsks(work.trx, app, opened, revision, { name, route: fromRoute, day: work.day });
};

/** A route of the type that leads to nothing, under the name of a round, with the people whom it asks of the document. */
export const ownRouteAsks = async (
  db: Db | Trx,
  app: App,
  opened: Opened,
  revision: RevisionRow,
  { name, route, day }: { name: string; route: string; day: string },
): Promise<Asked> => {
  const own = routesToNothing(policyOf(opened.type)).find((one) => one.name === route);
  if (!own) throw refused('route_not_offered', { route });
  const resolved = await resolveFor(db, app, opened, revision, own, day);
  assertAllowed(resolved.flatMap(({ people }) => (people.ok ? [] : people.refusals)));
  if (!resolved.some(({ applies }) => applies)) throw refused('route_asks_nobody');
  return {
    route: { ...own, name },
    people: resolved.map(({ applies, people }) => (applies && people.ok ? people.value : null)),
  };
};

const resolveFor = (
  db: Db | Trx,
  app: App,
  { document, type }: Opened,
  revision: RevisionRow,
  route: RouteDefinition,
  day: string,
) =>
  resolveSteps(
    db,
    app,
    routedOf({ document, work: revision }),
    { route, fields: type.fields, typeFallbackId: policyOf(type).fallbackApproverId },
    [],
    day,
  );

/** The routes of the type that a round outside its route may take, with whom they would ask of the document. */
export const adHocRoutes = async (
  app: App,
  viewer: Viewer,
  ref: string,
  revisionId: string | undefined,
): Promise<AnswerOf<typeof api.adHocRounds.routes>> => {
  const day = dayOf(app.clock(), (await app.organisation()).zone);
  const opened = await openDocument(app.db, viewer, ref, day);
  const revision = meantRevision(opened, revisionId);
  const routes: AnswerOf<typeof api.adHocRounds.routes>['routes'] = [];
  for (const route of routesToNothing(policyOf(opened.type))) {
    const resolved = await resolveFor(app.db, app, opened, revision, route, day);
    const names = await namesOf(
      app.db,
      resolved.flatMap(({ people }) => (people.ok ? people.value : [])),
    );
    routes.push({
      name: route.name,
      steps: resolved.map(({ step, applies, people }) => ({
        name: step.name,
        kind: step.kind,
        applies,
        people: people.ok ? people.value.map((id) => names.get(id)?.name ?? '') : [],
        problem: people.ok ? null : problemOf(people.refusals),
      })),
    });
  }
  return { routes };
};

/** Refuses where somebody who is asked is not there, or may not read the revision. */
export const ensureAskable = async (
  work: UnitOfWork,
  opened: Opened,
  revision: RevisionRow,
  ids: ReadonlySet<string>,
) => {
  const names = await namesOf(work.trx, [...ids]);
  for (const id of ids) {
    await ensureActive(work.trx, id);
    await ensureReads(work, opened, revision, id, names.get(id)?.name ?? '');
  }
};

/** Keeps documents and files beside a round; a document that the viewer may not see answers as if it did not exist. */
const attach = async (
  work: UnitOfWork,
  viewer: Viewer,
  roundId: string,
  { documents }: Pick<Input, 'documents'>,
  files: readonly { name: string; sha256: string }[],
) => {
  const found = [];
  for (const number of new Set(documents))
    found.push((await openDocument(work.trx, viewer, number, work.day)).document);
  await insertRoundDocuments(
    work.trx,
    roundId,
    found.map(({ id }) => id),
  );
  for (const [n, { name, sha256 }] of files.entries())
    await insertRoundFile(work.trx, { id: newId(), roundId, n, name, sha256 });
  return { documents: found.map(({ number }) => number), files: [...files] };
};

/** A file beside a round, for those who may read the revision that the round is about. */
export const roundFile = async (app: App, viewer: Viewer, id: string) => {
  const file = await findRoundFile(app.db, id);
  if (!file) throw refused('not_found');
  const day = dayOf(app.clock(), (await app.organisation()).zone);
  meantRevision(await openDocument(app.db, viewer, file.document_id, day), file.revision_id);
  if (!(await app.content.has(file.sha256))) throw refused('content_missing', { name: file.name });
  const { name, sha256, size, media_type: mediaType } = file;
  return { name, sha256, size, mediaType, as: 'download' as const };
};
