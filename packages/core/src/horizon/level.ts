import { addDays, daysBetween } from '../calendar/zone.ts';
import { weekOf } from './load.ts';

/** Work that can be done on another day, with the first and the last day on which it may be done. */
export type Movable = { id: string; day: string; earliest: string; latest: string; minutes: number };
export type DayMove = { id: string; from: string; to: string };

/** The days of a week from the nearest to a weekday outwards, the earlier of two first. */
const daysOfWeek = (week: string, weekday: number): string[] =>
  [0, 1, 2, 3, 4, 5, 6]
    .sort((a, b) => Math.abs(a - weekday) - Math.abs(b - weekday) || a - b)
    .map((n) => addDays(week, n));

/**
 * Other days for work in weeks that have more than they can hold: each goes to the nearest week that holds it, an earlier one rather
 * than a later one, on a working day within its limits. What finds no place stays where it is.
 *
 * No week ends above its capacity that was not above it before, none ends higher than it was where it was above, and nothing moves
 * beyond its limits.
 *
 * @param other work of each week that stays, in minutes, by the Monday of the week; its weeks are those that work may move to
 * @param capacity what a week holds, in minutes
 * @param isWorkingDay whether whoever does a piece of work, by its id, works on a day
 */
export const levelWeeks = (
  movable: readonly Movable[],
  other: ReadonlyMap<string, number>,
  capacity: number,
  isWorkingDay: (day: string, id: string) => boolean,
): DayMove[] => {
  const weeks = [...other.keys()].sort();
  const load = new Map(other);
  const inWeek = new Map<string, Movable[]>();
  for (const one of movable) {
    const week = weekOf(one.day);
    if (!load.has(week)) continue;
    load.set(week, (load.get(week) ?? 0) + one.minutes);
    inWeek.set(week, [...(inWeek.get(week) ?? []), one]);
  }
  /** Where a piece of work goes from an overfull week; undefined where nothing holds it. */
  const placeFor = (one: Movable, from: string): string | undefined => {
    const nearest = weeks
      .filter((week) => week !== from && (load.get(week) ?? 0) + one.minutes <= capacity)
      .sort((a, b) => Math.abs(daysBetween(from, a)) - Math.abs(daysBetween(from, b)) || a.localeCompare(b));
    const weekday = daysBetween(from, one.day);
    for (const week of nearest) {
      const day = daysOfWeek(week, weekday).find(
        (at) => at >= one.earliest && at <= one.latest && isWorkingDay(at, one.id),
      );
      if (day) return day;
    }
    return undefined;
  };
  const moves: DayMove[] = [];
  for (const week of weeks) {
    // What has the most room goes first, so that what has little keeps its place.
    const candidates = (inWeek.get(week) ?? []).toSorted(
      (a, b) => daysBetween(b.day, b.latest) - daysBetween(a.day, a.latest) || a.id.localeCompare(b.id),
    );
    for (const one of candidates) {
      if ((load.get(week) ?? 0) <= capacity) break;
      const to = placeFor(one, week);
      if (!to) continue;
      load.set(week, (load.get(week) ?? 0) - one.minutes);
      load.set(weekOf(to), (load.get(weekOf(to)) ?? 0) + one.minutes);
      moves.push({ id: one.id, from: one.day, to });
    }
  }
  return moves;
};
