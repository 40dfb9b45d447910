import type { AnswerOf, api, BodyOf } from '@kanonos/contract';
import { dayOf, hasRight, type RouteDefinition, type StepDefinition, stagesOf } from '@kanonos/core';
import type { App, UnitOfWork } from '../../platform/app.ts';
import type { Db, Trx } from '../../platform/db/connect.ts';
import { assertAllowed, refused } from '../../platform/refused.ts';
import type { HandlerOf, Viewer } from '../access/index.ts';
import { openBlocking, resolveComment as resolve } from '../comments/index.ts';
import { type Opened, openDocument, type RouteSituation, runCommand, subjectOf, workOf } from '../documents/index.ts';
import { namesOf } from '../people/index.ts';
import { policyOf } from '../rules/index.ts';
import { forecastRounds } from './forecasting.ts';
import { advance, askAgainAfterCheckIn } from './progress.ts';
import { recallRound } from './recallRound.ts';
import { remindRound } from './remind.ts';
import { problemOf, resolveSteps } from './resolving.ts';
import { choicesOf, routedOf, routeOfWork } from './routeOfWork.ts';
import { startRound } from './startRound.ts';
import * as store from './store.ts';
import { listAbsences } from './storePast.ts';

export { decide, decideSeveral } from './decide.ts';
export { roundsOf, task } from './views.ts';

const resolveRoute = (
  db: Db | Trx,
  app: App,
  opened: Opened,
  route: RouteDefinition,
  chosen: readonly string[] | 'later',
  day: string,
) =>
  resolveSteps(
    db,
    app,
    routedOf(opened),
    { route, fields: opened.type.fields, typeFallbackId: policyOf(opened.type).fallbackApproverId },
    chosen,
    day,
  );

/** The facts on route and round for the lifecycle rules. */
export const routeSituationOf = async (
  app: App,
  db: Db | Trx,
  opened: Opened,
  viewer: Viewer,
  day: string,
): Promise<RouteSituation> => {
  const { work } = opened;
  const round = work ? await store.findOpenRound(db, work.id) : undefined;
  const route = await routeOfWork(db, opened, null);
  const hasChoices = choicesOf(opened).length > 0;
  // Who is chosen is known only when it is sent: a step with a choice counts as fillable until then, and so does a route.
  const resolved =
    work?.state === 'draft' && !hasChoices ? await resolveRoute(db, app, opened, route, 'later', day) : [];
  const steps = round ? await store.listSteps(db, [round.id]) : [];
  const editing = new Set(steps.flatMap((step) => (step.state === 'open' && step.editing ? [step.id] : [])));
  const mayCheckInByStep =
    round !== undefined &&
    editing.size > 0 &&
    (await store.listAssignments(db, [round.id])).some(
      (a) => editing.has(a.step_id) && a.state === 'open' && a.person_id === viewer.id,
    );
  return {
    steps: Math.max(route.steps.length, hasChoices ? 1 : 0),
    chosenMinimum: chosenIn(route.steps),
    unfilled: resolved.flatMap(({ step, people }) => (people.ok ? [] : [step.name])),
    mayCheckInByStep,
    hasOpenRound: round !== undefined,
  };
};

/** How many people must be chosen on submitting; null where none are. */
const chosenIn = (steps: readonly Pick<StepDefinition, 'assignees'>[]): number | null =>
  steps.flatMap((step) => step.assignees.flatMap((a) => (a.by === 'chosen' ? [a.minimum] : [])))[0] ?? null;

/** The route that a submission of the draft would take, by its change kind, with who would be asked; choices are made on submitting. */
export const submissionRoute = async (
  app: App,
  viewer: Viewer,
  ref: string,
  chosenRoute: string | null = null,
): Promise<AnswerOf<typeof api.documents.submissionRoute>> => {
  const day = dayOf(app.clock(), (await app.organisation()).zone);
  const opened = await openDocument(app.db, viewer, ref, day);
  const { type } = opened;
  if (!hasRight(opened.rights, 'read work')) throw refused('right_missing', { right: 'read work' });
  const work = workOf(opened, 'submit');
  const route = await routeOfWork(app.db, opened, chosenRoute);
  const resolved = await resolveRoute(app.db, app, opened, route, [], day);
  const ids = resolved.flatMap(({ people }) => (people.ok ? people.value : []));
  const names = await namesOf(app.db, ids);
  const stages = stagesOf(route.steps);
  const ahead = resolved.map(({ step, people }, index) => ({
    ...step,
    stage: stages[index] ?? index,
    positive: 0,
    awaited: (people.ok ? people.value : []).map((personId) => ({ personId, askedAt: null })),
  }));
  const [forecast = null] = await forecastRounds(
    app,
    app.db,
    [{ type: type.code, steps: ahead }],
    await listAbsences(app.db, ids, day),
  );
  return {
    forecast,
    name: route.name,
    choices: choicesOf(opened).map(({ name }) => name),
    changeKind: work.change_kind,
    steps: resolved.map(({ step, applies, people }) => ({
      name: step.name,
      beside: step.beside ?? false,
      when: step.when ?? null,
      applies,
      kind: step.kind,
      workingDays: step.workingDays,
      people: people.ok ? people.value.map((id) => names.get(id)?.name ?? '') : [],
      chosenMinimum: chosenIn([step]),
      problem: people.ok ? null : problemOf(people.refusals),
    })),
  };
};

/** Sends a draft for review and approval: a new round on the type's present route. */
export const submit: HandlerOf<typeof api.documents.submit> = (app, viewer, ref, input) =>
  runCommand(app, viewer, { document: ref, command: 'submit', seen: input.seen }, async (work, opened) => {
    const { document } = opened;
    const revision = workOf(opened, 'submit');
    const route = await routeOfWork(work.trx, opened, input.route ?? null);
    if (!route.steps.some((step) => step.kind !== 'approval')) {
      const blocking = await openBlocking(work.trx, revision.id);
      if (blocking[0]) throw refused('blocking_comment', blocking[0]);
    }
    const chosen = await namesOf(work.trx, input.chosen);
    for (const id of input.chosen) {
      const person = chosen.get(id);
      if (!person || person.state === 'deactivated')
        throw refused('person_inactive', { who: person?.name ?? 'Reviewers' });
    }
    const resolved = await resolveRoute(work.trx, app, opened, route, input.chosen, work.day);
    assertAllowed(resolved.flatMap(({ people }) => (people.ok ? [] : people.refusals)));
    if (!resolved.some(({ applies }) => applies)) throw refused('route_asks_nobody');
    const round = await startRound(work, {
      document,
      revision,
      definition: route,
      message: input.message,
      people: resolved.map(({ applies, people }) => (applies && people.ok ? people.value : null)),
    });
    work.record({
      kind: 'revision.submitted',
      subject: subjectOf(document, revision),
      payload: {
        round: round.n,
        message: input.message,
        version: revision.version_count,
        steps: resolved.flatMap(({ step, applies }) => (applies ? [step.name] : [])),
      },
    });
    await advance(app, work, { document, revision, round });
    return { round: round.n };
  });

/** Calls a round back to draft: author or controller, with a reason. */
export const recall = (
  app: App,
  viewer: Viewer,
  ref: string,
  { reason, seen }: BodyOf<typeof api.documents.recall>,
): Promise<void> =>
  runCommand(app, viewer, { document: ref, command: 'recall', seen }, async (work, opened) => {
    const revision = opened.work;
    const round = revision && (await store.findOpenRound(work.trx, revision.id));
    if (!revision || !round) throw refused('round_ended');
    await store.lockRound(work.trx, round.id);
    await recallRound(app, work, viewer, { opened, revision, round }, reason);
  });

/** Resolves a comment; a round that waited for it moves on in the same transaction. */
export const resolveComment = (
  app: App,
  viewer: Viewer,
  ref: string,
  commentId: string,
  resolution: string,
): Promise<void> =>
  runCommand(app, viewer, { document: ref }, async (work, opened) => {
    await resolve(work, viewer, opened, commentId, resolution);
    await moveOn(app, work, opened);
  });

/** What a check-in means for the round that is open: older decisions are asked again, and a waiting round moves on. */
export const roundAfterCheckIn = async (app: App, work: UnitOfWork, opened: Opened, version: number): Promise<void> => {
  const round = opened.work && (await store.findOpenRound(work.trx, opened.work.id));
  if (!round || !opened.work) return;
  await store.lockRound(work.trx, round.id);
  await askAgainAfterCheckIn(app, work, { document: opened.document, revision: opened.work, round }, version);
  await moveOn(app, work, opened);
};

/** Moves a waiting round on when an obstacle may have gone. */
export const moveOn = async (app: App, work: UnitOfWork, opened: Opened): Promise<void> => {
  const round = opened.work && (await store.findOpenRound(work.trx, opened.work.id));
  if (!round?.held_up || !opened.work) return;
  await store.lockRound(work.trx, round.id);
  await advance(app, work, { document: opened.document, revision: opened.work, round });
};

export const remind = (app: App, viewer: Viewer, ref: string): Promise<{ reminded: number }> =>
  runCommand(app, viewer, { document: ref }, async (work, opened) => {
    const round = opened.work && (await store.findOpenRound(work.trx, opened.work.id));
    if (!round || !opened.work)
      throw refused('wrong_state', { command: 'remind', state: opened.work?.state ?? 'none in work' });
    if (round.started_by !== viewer.id && !opened.rights.has('release') && !opened.rights.has('manage'))
      throw refused('right_missing', { right: 'release' });
    return { reminded: await remindRound(app, work, viewer, { opened, revision: opened.work, round }) };
  });

/** Whose deputy a person is on a day. */
export const standingInFor = async (db: Db | Trx, personId: string, day: string): Promise<Set<string>> =>
  new Set((await store.listPrincipals(db, personId, day)).map((row) => row.person_id));
