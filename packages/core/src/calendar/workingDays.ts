import { addDays } from './zone.ts';

/** The organisation's working week (ISO weekday numbers, Monday = 1) and its holidays (`YYYY-MM-DD`). */
export type WorkingCalendar = { week: readonly number[]; holidays: ReadonlySet<string> };

/** A span of days on which a person is away, both ends included. */
export type Absence = { from: string; to: string };

const isoWeekday = (day: string) => new Date(`${day}T00:00:00Z`).getUTCDay() || 7;

/** Whether work is done on a day: in the week, no holiday, the person not absent. */
export const isWorkingDay = (day: string, calendar: WorkingCalendar, absences: readonly Absence[] = []): boolean =>
  calendar.week.includes(isoWeekday(day)) &&
  !calendar.holidays.has(day) &&
  !absences.some((absence) => absence.from <= day && day <= absence.to);

/**
 * The n-th working day after a local day; n = 0 gives the day itself.
 * A calendar in which no day is a working day would never end: after ten years it is refused by a throw.
 */
export const addWorkingDays = (
  day: string,
  n: number,
  calendar: WorkingCalendar,
  absences: readonly Absence[] = [],
): string => {
  let current = day;
  let left = n;
  for (let guard = 0; left > 0; guard++) {
    if (guard > 3660 + n * 7) throw new Error('the working calendar has no working days');
    current = addDays(current, 1);
    if (isWorkingDay(current, calendar, absences)) left--;
  }
  return current;
};

/** How many working days lie after `from` up to and including `to`; negative when `to` lies before `from`. */
export const workingDaysBetween = (from: string, to: string, calendar: WorkingCalendar): number => {
  if (to < from) return -workingDaysBetween(to, from, calendar);
  let count = 0;
  for (let day = addDays(from, 1); day <= to; day = addDays(day, 1)) {
    if (isWorkingDay(day, calendar)) count++;
  }
  return count;
};

/**
 * Counts working days between many pairs of days within a span, each in constant time; like `workingDaysBetween`, and days outside of
 * the span count as its ends.
 */
export const workingDayCounter = (
  first: string,
  last: string,
  calendar: WorkingCalendar,
): ((from: string, to: string) => number) => {
  const upTo = new Map<string, number>();
  let count = 0;
  for (let day = first; day <= last; day = addDays(day, 1)) {
    if (day > first && isWorkingDay(day, calendar)) count++;
    upTo.set(day, count);
  }
  const at = (day: string) => (day < first ? 0 : (upTo.get(day) ?? count));
  return (from, to) => at(to) - at(from);
};
