import { addWorkingDays, type WorkingCalendar } from '../calendar/workingDays.ts';
import type { ChangeKind } from '../revisions/labels.ts';

export type ReadingKind = 'read and sign' | 'read, questions, sign' | 'for information';
/** What a change asks of who has signed an earlier revision under the same duty. */
export type ReadingPolicy = 'read all' | 'read the changes' | 'carry over';

/** Who must read: units (departments, roles, groups, sites), named people, everyone, minus exceptions. */
export type Audience = {
  everyone: boolean;
  unitIds: readonly string[];
  personIds: readonly string[];
  exceptPersonIds: readonly string[];
};

export type ReadingRequirement = {
  id: string;
  audience: Audience;
  kind: ReadingKind;
  instructions: string;
  workingDays: number;
  newJoinerDays: number;
  perChange: Readonly<Partial<Record<ChangeKind, ReadingPolicy>>>;
  beforeInForce: boolean;
  /** The requirement is dated like a membership; both ends included. */
  from: string;
  to?: string;
};

/** A dated membership of a person in a unit; both ends included. */
export type Membership = { personId: string; unitId: string; from: string; to?: string };

export type ReadingState = 'signed' | 'carried over' | 'open' | 'overdue' | 'not needed' | 'overtaken' | 'void';

const laterDay = (a: string, b: string) => (a > b ? a : b);
const covers = (span: { from: string; to?: string }, day: string) => span.from <= day && (!span.to || day <= span.to);

/** The people of an audience on a day with the day from which each belongs to it. */
export const audienceOn = (
  audience: Audience,
  memberships: readonly Membership[],
  people: readonly { personId: string; from: string; to?: string }[],
  day: string,
): Map<string, string> => {
  const since = new Map<string, string>();
  const present = new Map(people.filter((person) => covers(person, day)).map((person) => [person.personId, person]));
  const add = (personId: string, from: string) => {
    const person = present.get(personId);
    if (!person || audience.exceptPersonIds.includes(personId)) return;
    const begins = from > person.from ? from : person.from;
    const known = since.get(personId);
    if (known === undefined || begins < known) since.set(personId, begins);
  };
  if (audience.everyone) for (const person of present.values()) add(person.personId, person.from);
  for (const membership of memberships) {
    if (audience.unitIds.includes(membership.unitId) && covers(membership, day))
      add(membership.personId, membership.from);
  }
  for (const personId of audience.personIds) add(personId, present.get(personId)?.from ?? '');
  return since;
};

/**
 * The day by which a person must have read. People in place get the requirement's days from the day it may be read;
 * new joiners theirs from joining or from the requirement's entry, whichever is later.
 */
export const dueDay = (
  requirement: Pick<ReadingRequirement, 'workingDays' | 'newJoinerDays' | 'from'>,
  readableFrom: string,
  memberSince: string,
  calendar: WorkingCalendar,
): { due: string; newJoiner: boolean } => {
  const newJoiner = memberSince > readableFrom;
  if (!newJoiner) return { due: addWorkingDays(readableFrom, requirement.workingDays, calendar), newJoiner };
  const start = memberSince > requirement.from ? memberSince : requirement.from;
  return { due: addWorkingDays(start, requirement.newJoinerDays, calendar), newJoiner };
};

/** What a revision asks of a person: the policy of its change kind only for who signed an earlier one under the same duty. */
export const policyFor = (
  requirement: Pick<ReadingRequirement, 'perChange'>,
  changeKind: ChangeKind,
  hasSignedEarlier: boolean,
): ReadingPolicy => (hasSignedEarlier ? (requirement.perChange[changeKind] ?? 'read all') : 'read all');

/** The state shown for a stored one on a day: an open reading past its due day is late. */
export const shownState = (stored: Exclude<ReadingState, 'overdue'>, due: string, day: string): ReadingState =>
  stored === 'open' && due < day ? 'overdue' : stored;

export type Compliance = { done: number; owed: number; percent: number | undefined };

/** Compliance: (signed + carried) ÷ (signed + carried + open + late), in per cent to one digit; undefined when nobody owes. */
export const compliance = (states: Iterable<ReadingState>): Compliance => {
  let done = 0;
  let owed = 0;
  for (const state of states) {
    if (state === 'signed' || state === 'carried over') done++;
    if (state === 'signed' || state === 'carried over' || state === 'open' || state === 'overdue') owed++;
  }
  return { done, owed, percent: owed === 0 ? undefined : Math.round((done / owed) * 1000) / 10 };
};

/** Reading minutes: words ÷ 200 plus half a minute per picture, or the running time of a film; at least 1, rounded up. */
export const readingMinutes = (content: { words: number; pictures: number; filmMinutes?: number }): number =>
  Math.max(1, Math.ceil(Math.round((content.filmMinutes ?? content.words / 200 + content.pictures * 0.5) * 1e6) / 1e6));

/** A stored assignment as the derivation sees it. */
export type StoredReading = { personId: string; state: Exclude<ReadingState, 'overdue'> };

export type ReadingChange =
  | { kind: 'open'; personId: string; due: string; policy: ReadingPolicy; newJoiner: boolean }
  | { kind: 'carry'; personId: string; due: string }
  | { kind: 'close'; personId: string };

/**
 * What must change so that the assignments of one requirement and one readable revision follow from who belongs to the
 * audience on a day: joiners and movers get theirs, leavers' open ones close as not needed, a signature never disappears.
 */
export const deriveReadings = (input: {
  requirement: ReadingRequirement;
  changeKind: ChangeKind;
  readableFrom: string;
  day: string;
  memberSince: ReadonlyMap<string, string>;
  stored: readonly StoredReading[];
  signedEarlier: ReadonlySet<string>;
  calendar: WorkingCalendar;
}): ReadingChange[] => {
  const { requirement, memberSince, stored } = input;
  const inForce = covers(requirement, input.day);
  const known = new Map(stored.map((reading) => [reading.personId, reading.state]));
  const changes: ReadingChange[] = [];
  for (const [personId, state] of known) {
    if (state === 'open' && (!inForce || !memberSince.has(personId))) changes.push({ kind: 'close', personId });
  }
  if (!inForce) return changes;
  const start = laterDay(input.readableFrom, requirement.from);
  for (const [personId, since] of memberSince) {
    const state = known.get(personId);
    // Who came back after leaving is asked again; everything else that is stored holds.
    if (state !== undefined && state !== 'not needed') continue;
    const { due, newJoiner } = dueDay(requirement, start, since, input.calendar);
    const policy = policyFor(requirement, input.changeKind, input.signedEarlier.has(personId));
    if (policy === 'carry over') changes.push({ kind: 'carry', personId, due });
    else changes.push({ kind: 'open', personId, due, policy, newJoiner });
  }
  return changes;
};
