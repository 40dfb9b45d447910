import { type Absence, isWorkingDay, type WorkingCalendar } from '../calendar/workingDays.ts';
import { addDays } from '../calendar/zone.ts';
import type { DoneRule, StepKind } from '../routes/route.ts';

/** How many working days somebody took to answer, from being asked on. */
export type PastAnswer = { person: string; type: string; step: string; kind: StepKind; workingDays: number };

/** Past answers in the groups that a forecast looks in, made once for many rounds. */
export type PastAnswers = ReadonlyMap<string, readonly number[]>;

/** Somebody who has not answered. `waited` are the working days since they were asked, 0 where they are not asked yet. */
export type AwaitedPerson = { person: string; waited: number; absences: readonly Absence[] };

/** A step that is not done: who has still to answer, and how many of them are enough. */
export type RemainingStep = {
  type: string;
  name: string;
  kind: StepKind;
  rule: DoneRule;
  /** Positive answers so far; they count towards *k of n*. */
  positive: number;
  awaited: readonly AwaitedPerson[];
  /** The days that the step has by its definition, for where nothing is known of the past. */
  workingDays: number;
  /** Its place in the order (`stagesOf`): steps of one place run at the same time. Without it, steps run one after another. */
  stage?: number;
};

/** The day by which half, four fifths and nineteen twentieths of all cases are done. */
export type Forecast = { half: string; mostly: string; nearlyAll: string };

/** Below this, a group of past answers says too little and the next wider one is asked. */
const ENOUGH = 5;
const HORIZON_DAYS = 800;

const GROUPS = [
  (p: { person: string; kind: StepKind }) => `person ${p.person} ${p.kind}`,
  (p: { type: string; step: string }) => `step ${p.type} ${p.step}`,
  (p: { kind: StepKind }) => `kind ${p.kind}`,
  () => 'all',
] as const;

/** Sorts past answers into the groups by person, by step of a type, by kind of step, and all. */
export const groupPastAnswers = (past: readonly PastAnswer[]): PastAnswers => {
  const groups = new Map<string, number[]>();
  for (const answer of past)
    for (const group of GROUPS) {
      const key = group(answer);
      const own = groups.get(key);
      if (own) own.push(answer.workingDays);
      else groups.set(key, [answer.workingDays]);
    }
  for (const own of groups.values()) own.sort((a, b) => a - b);
  return groups;
};

/** The first place in ascending numbers that is not less than `least`. */
const firstNotLess = (sorted: readonly number[], least: number): number => {
  let [low, high] = [0, sorted.length];
  while (low < high) {
    const middle = (low + high) >> 1;
    if ((sorted[middle] ?? 0) < least) low = middle + 1;
    else high = middle;
  }
  return low;
};

/** Past answers in ascending order, of which those from a place on are alike, and what was waited already. */
type Alike = { sorted: readonly number[]; from: number; waited: number };

/**
 * What a person's remaining working days are drawn from: past answers that took at least as long as this one has waited, from the
 * narrowest group that has at least five. Where no group has any, the person is expected on the next working day, or by the days of the
 * step where there is no past at all.
 */
const remainingDays = (step: RemainingStep, { person, waited }: AwaitedPerson, past: PastAnswers): Alike => {
  const of = { person, type: step.type, step: step.name, kind: step.kind };
  let widest: Alike | undefined;
  for (const group of GROUPS) {
    const sorted = past.get(group(of)) ?? [];
    const from = firstNotLess(sorted, waited);
    const alike = sorted.length - from;
    if (alike >= ENOUGH) return { sorted, from, waited };
    if (alike > (widest ? widest.sorted.length - widest.from : 0)) widest = { sorted, from, waited };
  }
  return widest ?? { sorted: [past.has('all') ? 1 : Math.max(1, step.workingDays - waited)], from: 0, waited: 0 };
};

/** One of what is alike, by a number from 0 up to 1. */
const drawn = ({ sorted, from, waited }: Alike, at: number): number =>
  (sorted[from + Math.floor(at * (sorted.length - from))] ?? waited) - waited;

/** A generator of numbers from 0 up to 1 that gives the same ones for the same seed (mulberry32). */
const seeded = (seed: number) => {
  let state = seed >>> 0;
  return () => {
    state = (state + 0x6d2b79f5) >>> 0;
    let mixed = Math.imul(state ^ (state >>> 15), state | 1);
    mixed ^= mixed + Math.imul(mixed ^ (mixed >>> 7), mixed | 61);
    return ((mixed ^ (mixed >>> 14)) >>> 0) / 4294967296;
  };
};

/** Finds the n-th working day after a day in constant time; days are counted from the first day of the forecast. */
type DayTable = (from: number, n: number) => number;

const dayTable = (first: string, calendar: WorkingCalendar, absences: readonly Absence[]): DayTable => {
  const works: number[] = [];
  const upTo = new Int32Array(HORIZON_DAYS + 1);
  for (let i = 0; i <= HORIZON_DAYS; i++) {
    if (i > 0 && isWorkingDay(addDays(first, i), calendar, absences)) works.push(i);
    upTo[i] = works.length;
  }
  return (from, n) => (n <= 0 ? from : (works[(upTo[Math.min(from, HORIZON_DAYS)] ?? 0) + n - 1] ?? HORIZON_DAYS));
};

/** Makes the tables of working days, one for everybody who is there and one for each person with absences, for many rounds of a day. */
export const dayTables = (first: string, calendar: WorkingCalendar) => {
  const tables = new Map<string, DayTable>();
  return (absences: readonly Absence[]): DayTable => {
    const key = absences.map(({ from, to }) => `${from} ${to}`).join();
    const known = tables.get(key);
    if (known) return known;
    const made = dayTable(first, calendar, absences);
    tables.set(key, made);
    return made;
  };
};

/** Those who are awaited in a step, ready to be drawn. */
type Person = { days: Alike; table: DayTable };

const answersOn = ({ days, table }: Person, start: number, random: () => number): number =>
  table(start, drawn(days, random()));

/** The day on which a step is done, by its rule, from the days on which those who are awaited answer. Without lists where it can: it runs often. */
const doneOn = (step: RemainingStep, people: readonly Person[], from: number, random: () => number): number => {
  const { rule } = step;
  let day = rule.kind === 'any one' ? HORIZON_DAYS : from;
  if (rule.kind === 'k of n') {
    const days = people.map((one) => answersOn(one, from, random)).sort((a, b) => a - b);
    return days[Math.min(Math.max(rule.k - step.positive, 1), days.length) - 1] ?? from;
  }
  for (const one of people) {
    if (rule.kind === 'in sequence') day = answersOn(one, day, random);
    else if (rule.kind === 'any one') day = Math.min(day, answersOn(one, from, random));
    else day = Math.max(day, answersOn(one, from, random));
  }
  return day;
};

/**
 * When a round will be done: each remaining step's answers are drawn from how long answers took in the past, through calendar, absences,
 * sequence and done rule. The same input gives the same days. Undefined where nothing remains.
 */
export const forecastRound = (
  steps: readonly RemainingStep[],
  past: PastAnswers,
  {
    today,
    tables,
    draws = 2000,
    seed = 1,
  }: { today: string; tables: ReturnType<typeof dayTables>; draws?: number; seed?: number },
): Forecast | undefined => {
  const remaining = steps
    .filter((step) => step.awaited.length > 0)
    .map((step) => ({
      step,
      people: step.awaited.map((person) => ({
        days: remainingDays(step, person, past),
        table: tables(person.absences),
      })),
    }));
  if (remaining.length === 0) return undefined;
  const random = seeded(seed);
  const ends = new Int32Array(draws);
  for (let i = 0; i < draws; i++) {
    let [from, day] = [0, 0];
    let stage: number | undefined;
    for (const { step, people } of remaining) {
      if (step.stage === undefined || step.stage !== stage) from = day;
      stage = step.stage;
      day = Math.max(day, doneOn(step, people, from, random));
    }
    ends[i] = day;
  }
  ends.sort();
  const share = (q: number) => addDays(today, ends[Math.min(draws - 1, Math.ceil(draws * q) - 1)] ?? 0);
  return { half: share(0.5), mostly: share(0.8), nearlyAll: share(0.95) };
};
