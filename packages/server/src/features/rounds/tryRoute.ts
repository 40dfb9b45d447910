import type { AnswerOf, api, BodyOf } from '@kanonos/contract';
import {
  dayOf,
  isToBeChosen,
  judgeRoute,
  judgeTrial,
  type RouteDefinition,
  type StepDefinition,
  stagesOf,
  type TrialProblem,
} from '@kanonos/core';
import type { App } from '../../platform/app.ts';
import { listScope, type Viewer } from '../access/index.ts';
import { namesOf } from '../people/index.ts';
import { getType } from '../rules/index.ts';
import { forecastRounds } from './forecasting.ts';
import { problemOf, type ResolvedStep, resolveSteps } from './resolving.ts';
import { listAbsences } from './storePast.ts';
import { countToTry, listToTry, type TriedRow } from './storeTrial.ts';

/** As many of the newest documents as are tried at once, and as many of those that would pass as are shown. */
const MOST = 300;
const SHOWN_FINE = 8;
const SHOWN_STOPPED = 100;
const DRAWS_IN_TRIAL = 1000;

/** Stands for reviewers that are chosen on submitting. */
const TO_BE_CHOSEN = 'to be chosen';

type Names = (id: string) => string;

const peopleOf = ({ people }: ResolvedStep): string[] => (people.ok ? people.value : []);

type Tried = { document: TriedRow; steps: ResolvedStep[]; problems: TrialProblem[] };

/** A document as the route meets it, as if it were changed in a way, or by its own last change. */
const routed = (document: TriedRow, changeKind: string | undefined) => ({
  ownerId: document.owner_id,
  departmentId: document.department_id,
  folderId: document.folder_id,
  confidentiality: document.confidentiality,
  authorId: document.author_id,
  changeKind: changeKind ?? document.change_kind,
  metadata: document.metadata,
});

const problemsOf = (steps: readonly ResolvedStep[], document: TriedRow): TrialProblem[] =>
  judgeTrial(
    steps
      .filter(({ applies }) => applies)
      .map((one) => ({ name: one.step.name, kind: one.step.kind, people: peopleOf(one) })),
    new Set(document.authors),
  );

/** Tries a route on the newest documents of its type: whom it would ask, until when, and where it would stop. Nothing is changed. */
export const tryRoute = async (
  app: App,
  viewer: Viewer,
  typeId: string,
  { route: given, fallbackApproverId, changeKind }: BodyOf<typeof api.rounds.tryRoute>,
): Promise<AnswerOf<typeof api.rounds.tryRoute>> => {
  const route = given as RouteDefinition;
  const day = dayOf(app.clock(), (await app.organisation()).zone);
  const type = await getType(app.db, typeId);
  const scope = await listScope(app.db, viewer, day);
  const documents = await listToTry(app.db, scope, typeId, MOST);
  const tried: Tried[] = [];
  // One after the other: a trial waits for nobody, and leaves the connections to those who work.
  for (const document of documents) {
    const steps = await resolveSteps(
      app.db,
      app,
      routed(document, changeKind),
      { route, fields: type.fields, typeFallbackId: fallbackApproverId },
      'later',
      day,
    );
    tried.push({ document, steps, problems: problemsOf(steps, document) });
  }
  const stopped = tried.filter(({ problems, steps }) => problems.length > 0 || steps.some(({ people }) => !people.ok));
  const shown = [
    ...stopped.slice(0, SHOWN_STOPPED),
    ...tried.filter((one) => !stopped.includes(one)).slice(0, SHOWN_FINE),
  ];
  const doubts = judgeRoute(route, type.fields);
  const named = doubts.flatMap(({ personId }) => personId ?? []);
  const people = shown.flatMap(({ steps }) => steps.flatMap(peopleOf)).filter((id) => !isToBeChosen(id));
  const names = await namesOf(app.db, [...new Set([...people, ...named])]);
  const nameOf: Names = (id) => (isToBeChosen(id) ? TO_BE_CHOSEN : (names.get(id)?.name ?? ''));
  const stages = stagesOf(route.steps);
  const forecasts = await forecastRounds(
    app,
    app.db,
    shown.map(({ steps }) => ({
      type: type.code,
      steps: steps.map((one, index) => toAhead(one.step, peopleOf(one), stages[index] ?? index)),
    })),
    await listAbsences(app.db, [...new Set(people)], day),
    DRAWS_IN_TRIAL,
  );
  return {
    doubts: doubts.map(({ kind, steps, personId, needed, named: people }) => ({
      kind,
      steps,
      person: personId ? nameOf(personId) : null,
      needed: needed ?? null,
      named: people ?? null,
    })),
    tried: documents.length,
    all: await countToTry(app.db, scope, typeId),
    stopped: stopped.length,
    documents: shown.map(({ document, steps, problems }, index) => ({
      documentId: document.id,
      number: document.number,
      title: document.title,
      label: document.label,
      mark: 'open',
      steps: steps.map((one) => ({
        name: one.step.name,
        applies: one.applies,
        people: [...new Set(peopleOf(one).map(nameOf))],
        problem: one.people.ok ? null : problemOf(one.people.refusals),
      })),
      problems: problems.map(({ kind, steps: concerned, personId }) => ({
        kind,
        steps: concerned,
        person: personId ? nameOf(personId) : null,
      })),
      forecast: problems.length > 0 ? null : (forecasts[index] ?? null),
    })),
  };
};

const toAhead = (step: StepDefinition, people: readonly string[], stage: number) => ({
  stage,
  name: step.name,
  kind: step.kind,
  rule: step.rule,
  workingDays: step.workingDays,
  positive: 0,
  awaited: people.map((personId) => ({ personId, askedAt: null })),
});
