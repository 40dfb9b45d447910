import type { Forecast } from '@kanonos/contract';
import {
  addDays,
  type DoneRule,
  dayOf,
  groupPastAnswers,
  type PastAnswers,
  type RemainingStep,
  type StepKind,
  workingDayCounter,
} from '@kanonos/core';
import type { App } from '../../platform/app.ts';
import type { Db, Trx } from '../../platform/db/connect.ts';
import { forecastApart } from './forecaster/index.ts';
import * as past from './storePast.ts';

export const LOOKS_BACK_DAYS = 365;

/** A step of a round as far as a forecast needs it: nothing of it is done. */
type StepAhead = {
  name: string;
  stage?: number;
  kind: StepKind;
  rule: DoneRule;
  workingDays: number;
  positive: number;
  awaited: readonly { personId: string; askedAt: Date | null }[];
};
type RoundAhead = { type: string; steps: readonly StepAhead[] };
export type AbsenceRow = Awaited<ReturnType<typeof past.listAbsences>>[number];

/** Forecasts that were made from the same past, by what each was made of. */
type Made = Map<string, Forecast | undefined>;
type Past = {
  made: Made;
  at: number;
  today: string;
  known: PastAnswers;
  workingDays: (from: string, to: string) => number;
};
const kept = new WeakMap<App, Past>();
/** What a few more answers change within this time is less than a day. */
const KEPT_FOR_MS = 5 * 60_000;
const MOST_KEPT = 20_000;

/** The past answers of the organisation, read again after some minutes: every page of a document in review asks for them. */
const pastOf = async (app: App, db: Db | Trx, today: string): Promise<Past> => {
  const now = app.clock().getTime();
  const last = kept.get(app);
  if (last && last.today === today && Math.abs(now - last.at) < KEPT_FOR_MS) return last;
  const { zone, calendar } = await app.organisation();
  const since = addDays(today, -LOOKS_BACK_DAYS);
  const workingDays = workingDayCounter(addDays(since, -LOOKS_BACK_DAYS), addDays(today, 1), calendar);
  const answers = (await past.listPastAnswers(db, { since, zone })).map(({ asked, answered, ...answer }) => ({
    ...answer,
    workingDays: workingDays(asked, answered),
  }));
  const read = { made: new Map(), at: now, today, known: groupPastAnswers(answers), workingDays };
  kept.set(app, read);
  return read;
};

/**
 * Forecasts rounds by how long answers took in the last twelve months; undefined for rounds in which nobody is awaited. An absence counts
 * where no deputy is named.
 */
export const forecastRounds = async (
  app: App,
  db: Db | Trx,
  rounds: readonly RoundAhead[],
  absences: readonly AbsenceRow[],
  draws = 10_000,
): Promise<(Forecast | undefined)[]> => {
  const { zone, calendar } = await app.organisation();
  const today = dayOf(app.clock(), zone);
  const { known, workingDays, made } = await pastOf(app, db, today);
  const awayOf = (personId: string) =>
    absences
      .filter((one) => one.person_id === personId && one.deputy_id === null)
      .map(({ from_day, to_day }) => ({ from: from_day, to: to_day }));
  const toStep = (type: string, step: StepAhead): RemainingStep => ({
    ...step,
    type,
    awaited: step.awaited.map(({ personId, askedAt }) => ({
      person: personId,
      waited: askedAt ? workingDays(dayOf(askedAt, zone), today) : 0,
      absences: awayOf(personId),
    })),
  });
  const asked = rounds.map(({ type, steps }) => {
    const remaining = steps.map((step) => toStep(type, step));
    return { remaining, key: JSON.stringify([draws, remaining]) };
  });
  // A list asks for hundreds of forecasts each time that it is looked at, and few of its rounds have moved on.
  const anew = [...new Map(asked.filter(({ key }) => !made.has(key)).map((one) => [one.key, one])).values()];
  if (anew.length > 0) {
    if (made.size + anew.length > MOST_KEPT) made.clear();
    const drawn = await forecastApart(
      { rounds: anew.map(({ remaining }) => remaining), today, calendar, draws },
      known,
    );
    for (const [at, { key }] of anew.entries()) made.set(key, drawn[at]);
  }
  return asked.map(({ key }) => made.get(key));
};
