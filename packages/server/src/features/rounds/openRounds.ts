import {
  type AnswerOf,
  type api,
  type OpenRound,
  type OpenRounds,
  type QueryOf,
  ROUNDS_AT_ONCE,
} from '@kanonos/contract';
import {
  addDays,
  addWorkingDays,
  type DoneRule,
  dayOf,
  hasRight,
  isDay,
  roundChangesFor,
  workingDayCounter,
} from '@kanonos/core';
import type { App } from '../../platform/app.ts';
import { groupBy } from '../../platform/collections.ts';
import { refused } from '../../platform/refused.ts';
import { listScope, rightsOnMany, toPlace, type Viewer } from '../access/index.ts';
import { type AbsenceRow, forecastRounds, LOOKS_BACK_DAYS } from './forecasting.ts';
import { overseenBy } from './overseeing.ts';
import { type Step, stepsAhead } from './stepsAhead.ts';
import * as store from './store.ts';
import { listAwaited, listOpenRounds, lookThrough, type OpenRoundRow, type OpenRoundsOf } from './storeOpen.ts';
import { listAbsences } from './storePast.ts';

/** Fewer draws than for one round: a list is looked through, and its days are hardly moved by more. */
const DRAWS_IN_LIST = 200;

/** The place of a round in the order of the list, by what the answer before gave. */
const placeAfter = (after: string | undefined): { afterDue: string | null; afterNumber: string | null } => {
  if (after === undefined) return { afterDue: null, afterNumber: null };
  const [, afterDue = '', afterNumber = ''] = /^(\d{4}-\d{2}-\d{2}) (.+)$/.exec(after) ?? [];
  if (!isDay(afterDue)) throw refused('input_invalid', { field: 'after', reason: 'take it from the answer before' });
  return { afterDue, afterNumber };
};

/** The open rounds that somebody oversees, as far as they are looked for. */
const meantBy = async (app: App, viewer: Viewer, query: { person?: string; q?: string }) => {
  const day = dayOf(app.clock(), (await app.organisation()).zone);
  const [scope, overseen] = await Promise.all([listScope(app.db, viewer, day), overseenBy(app, viewer, day)]);
  const of: OpenRoundsOf = {
    day,
    ...overseen,
    person: query.person ?? null,
    like: query.q ? `%${query.q.replace(/[\\%_]/g, '\\$&')}%` : null,
  };
  return { scope, of };
};

/** The open rounds that somebody oversees, with for whom they wait, since when, and when they will be done. */
export const openRounds = async (
  app: App,
  viewer: Viewer,
  query: QueryOf<typeof api.rounds.open>,
): Promise<OpenRounds> => {
  const { scope, of } = await meantBy(app, viewer, query);
  const { part, all, stuck, overdue } = await lookThrough(app.db, scope, of, {
    only: query.only ?? 'all',
    ...placeAfter(query.after),
    limit: ROUNDS_AT_ONCE,
  });
  const ids = part.map(({ id }) => id);
  const [found, assignments, laid] = await Promise.all([
    listOpenRounds(app.db, ids),
    store.listAssignments(app.db, ids),
    store.listSteps(app.db, ids),
  ]);
  const byId = new Map(found.map((row) => [row.id, row]));
  const last = part.at(-1);
  return {
    rows: await toOpenRounds(
      app,
      viewer,
      part.flatMap(({ id }) => byId.get(id) ?? []),
      { assignments, laid },
      new Set(of.team),
    ),
    counts: { all, stuck, overdue },
    next: part.length === ROUNDS_AT_ONCE && last ? `${last.due} ${last.number}` : null,
  };
};

/** For whom the open rounds wait that somebody oversees: asked beside the list, which does not wait for it. */
export const awaitedPeople = async (
  app: App,
  viewer: Viewer,
  query: QueryOf<typeof api.rounds.awaited>,
): Promise<AnswerOf<typeof api.rounds.awaited>> => {
  const { scope, of } = await meantBy(app, viewer, query);
  return { people: await listAwaited(app.db, scope, of) };
};

const toOpenRounds = async (
  app: App,
  viewer: Viewer,
  found: readonly OpenRoundRow[],
  { assignments, laid }: { assignments: readonly store.AssignmentRow[]; laid: readonly store.StepRow[] },
  team: ReadonlySet<string>,
): Promise<OpenRound[]> => {
  const { zone, calendar } = await app.organisation();
  const today = dayOf(app.clock(), zone);
  const [absences, rights] = await Promise.all([
    listAbsences(app.db, [...new Set(assignments.map((one) => one.person_id))], today),
    rightsOnMany(
      app.db,
      viewer,
      found.map((row) => toPlace({ ...row, id: row.document_id })),
    ),
  ]);
  const inStep = groupBy(assignments, (one) => one.step_id);
  const stepsOf = groupBy(
    laid.map((step): Step => ({ ...step, assignments: inStep.get(step.id) ?? [] })),
    (step) => step.round_id,
  );
  const forecasts = await forecastRounds(
    app,
    app.db,
    found.map((row) => ({ type: row.type_code, steps: stepsAhead(stepsOf.get(row.id) ?? []) })),
    absences,
    DRAWS_IN_LIST,
  );
  const workingDays = workingDayCounter(addDays(today, -LOOKS_BACK_DAYS * 2), today, calendar);
  return found.map((row, index) => {
    const own = stepsOf.get(row.id) ?? [];
    const open = own.filter((step) => step.state === 'open');
    const awaited = open.flatMap((step) => step.assignments.filter((one) => one.state === 'open'));
    const at = open[0] ?? own.find((step) => step.state === 'waiting');
    const given = rights.get(row.document_id) ?? new Set();
    return {
      id: row.id,
      n: row.n,
      documentId: row.document_id,
      number: row.number,
      title: row.title,
      label: row.label,
      mark: 'open',
      type: row.type_name,
      adHoc: row.leads_to === 'nothing' ? row.name : null,
      startedBy: { id: row.started_by, name: row.started_by_name },
      startedAt: row.started_at.toISOString(),
      step: open.length > 0 ? open.map((step) => step.name).join(', ') : null,
      stepNumber: at?.stage ?? stageCount(own),
      stepCount: stageCount(own),
      due: row.due_on,
      overdue: row.due_on !== null && row.due_on < today,
      blockers: row.held_up ?? [],
      waitingFor: awaited.map((one) => {
        const since = one.opened_at ? dayOf(one.opened_at, zone) : null;
        return {
          assignmentId: one.id,
          person: { id: one.person_id, name: one.person_name },
          since,
          waitedDays: since ? workingDays(since, today) : 0,
          ...awayNow(absences, one.person_id, today),
        };
      }),
      enough: open.length === 1 && open[0] ? enoughFor(open[0].rule, open[0].assignments.length) : null,
      spans: own.flatMap((step) => spansOf(step, zone)),
      forecast: row.held_up ? null : (forecasts[index] ?? null),
      plannedBy: row.due_on && addWorkingDays(row.due_on, daysAhead(own), calendar),
      mayChange: roundChangesFor({
        isController: hasRight(given, 'release') || hasRight(given, 'manage'),
        startedIt: row.started_by === viewer.id,
        isAdHoc: row.leads_to === 'nothing',
        supervisesAwaited: awaited.some((one) => team.has(one.person_id)),
      }),
    };
  });
};

const stageCount = (steps: readonly Step[]): number => 1 + Math.max(-1, ...steps.map((step) => step.stage));

/** The working days that the steps have which are not open yet; of those that run at the same time, the longest. */
const daysAhead = (steps: readonly Step[]): number =>
  [
    ...groupBy(
      steps.filter((step) => step.state === 'waiting'),
      (step) => step.stage,
    ).values(),
  ].reduce((sum, stage) => sum + Math.max(...stage.map((step) => step.working_days)), 0);

const awayNow = (absences: readonly AbsenceRow[], personId: string, today: string) => {
  const away = absences.find((one) => one.person_id === personId && one.from_day <= today && one.to_day >= today);
  return {
    absentUntil: away?.to_day ?? null,
    deputy: away?.deputy_id ? { id: away.deputy_id, name: away.deputy ?? '' } : null,
  };
};

const enoughFor = (rule: DoneRule, asked: number): number | null => {
  if (rule.kind === 'any one' && asked > 1) return 1;
  return rule.kind === 'k of n' && rule.k < asked ? rule.k : null;
};

/** The bars of a step that was opened: one for each time that people of it were asked together, to the last of their answers. */
const spansOf = (step: Step, zone: string): OpenRound['spans'] => {
  const asked = step.assignments.filter((one) => one.opened_at);
  const [first] = asked.map((one) => dayOf(one.opened_at as Date, zone)).sort();
  if (!first) return [];
  const ended = step.state === 'open' ? null : step.ended_at;
  return [
    {
      step: step.name,
      people: asked.filter((one) => step.state !== 'open' || one.state === 'open').map((one) => one.person_name),
      from: first,
      to: ended ? dayOf(ended, zone) : null,
    },
  ];
};
