import { addWorkingDays, isWorkingDay, type WorkingCalendar } from './workingDays.ts';
import { addDays, addMonths, daysBetween, isDay } from './zone.ts';

const MONTHS = ['jan', 'feb', 'mar', 'apr', 'may', 'jun', 'jul', 'aug', 'sep', 'oct', 'nov', 'dec'];
const WEEKDAYS = ['mon', 'tue', 'wed', 'thu', 'fri', 'sat', 'sun'];
const two = (n: number) => String(n).padStart(2, '0');

/** Three letters or more of a name, as `dec` or `december`. */
const indexIn = (names: readonly string[], word: string): number =>
  word.length < 3 ? -1 : names.findIndex((name) => word.startsWith(name));

const lastOfMonth = (day: string): string => addDays(addMonths(`${day.slice(0, 7)}-01`, 1), -1);

/** A number of working days before a day: the same as counting on, backwards. */
const backWorkingDays = (day: string, n: number, calendar: WorkingCalendar): string => {
  let current = day;
  for (let left = n, guard = 0; left > 0 && guard < 3660 + n * 7; guard++) {
    current = addDays(current, -1);
    if (isWorkingDay(current, calendar)) left--;
  }
  return current;
};

const counted = (text: string, today: string, calendar: WorkingCalendar): string | undefined => {
  const [, sign, figure = '', unit = ''] =
    /^([+-])\s*(\d{1,4})\s*(wd|working days?|d|days?|w|weeks?|m|months?|y|years?)$/.exec(text) ?? [];
  if (!sign) return undefined;
  const n = Number(figure) * (sign === '-' ? -1 : 1);
  if (unit.startsWith('wd') || unit.startsWith('working'))
    return n < 0 ? backWorkingDays(today, -n, calendar) : addWorkingDays(today, n, calendar);
  if (unit.startsWith('d')) return addDays(today, n);
  if (unit.startsWith('w')) return addDays(today, 7 * n);
  return addMonths(today, unit.startsWith('m') ? n : 12 * n);
};

/** The day of a month named without a year: of last, this and next year, the one nearest to today. */
const nearest = (month: number, date: number, today: string): string | undefined => {
  const year = Number(today.slice(0, 4));
  return [year - 1, year, year + 1]
    .map((one) => `${one}-${two(month)}-${two(date)}`)
    .filter(isDay)
    .sort((a, b) => Math.abs(daysBetween(today, a)) - Math.abs(daysBetween(today, b)))[0];
};

const named = (text: string, today: string): string | undefined => {
  const [, first = '', second = '', year] = /^(\w+)[\s.]+(\w+)(?:[\s,]+(\d{4}))?$/.exec(text) ?? [];
  const [date, word] = /^\d/.test(first) ? [first, second] : [second, first];
  const month = indexIn(MONTHS, word) + 1;
  const dated = /^(\d{1,2})(?:st|nd|rd|th)?$/.exec(date);
  if (month === 0 || !dated) return undefined;
  if (!year) return nearest(month, Number(dated[1]), today);
  const day = `${year}-${two(month)}-${two(Number(dated[1]))}`;
  return isDay(day) ? day : undefined;
};

/**
 * The day that somebody typed, as `YYYY-MM-DD`: `28 Nov 2026`, `3 dec` (the one nearest to today), `2026-12-03` (ISO 8601), `today`,
 * `tomorrow`, `fri` (the next one), `+10wd` (working days), `+2w`, `-3d`, `+1m`, `end of month`, `end of year`. Undefined for anything
 * else, also for figures alone such as 03/12/2026, whose order of day and month is a guess.
 */
export const typedDay = (typed: string, today: string, calendar: WorkingCalendar): string | undefined => {
  const text = typed.trim().toLowerCase().replace(/\s+/g, ' ');
  if (isDay(text)) return text;
  const near = { yesterday: -1, today: 0, tomorrow: 1 }[text];
  if (near !== undefined) return addDays(today, near);
  if (/^end of (the )?month$/.test(text)) return lastOfMonth(today);
  if (/^end of next month$/.test(text)) return lastOfMonth(addMonths(`${today.slice(0, 7)}-01`, 1));
  if (/^end of (the )?year$/.test(text)) return `${today.slice(0, 4)}-12-31`;
  const weekday = /^[a-z]+$/.test(text) ? indexIn(WEEKDAYS, text) : -1;
  if (weekday >= 0) {
    const now = (new Date(`${today}T00:00:00Z`).getUTCDay() + 6) % 7;
    return addDays(today, ((weekday - now + 6) % 7) + 1);
  }
  return counted(text, today, calendar) ?? named(text, today);
};
