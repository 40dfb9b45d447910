import { addDays, daysBetween } from '../calendar/zone.ts';

/** What comes due on a day. */
export const HORIZON_KINDS = ['effective', 'withdrawal', 'reading', 'review', 'check-out', 'task'] as const;
export type HorizonKind = (typeof HORIZON_KINDS)[number];

/** What a periodic review takes its owner, as long as nobody says otherwise. */
export const REVIEW_MINUTES = 60;

/** Something that comes due, with the minutes that it takes whoever does it. */
export type Due = { day: string; kind: HorizonKind; minutes: number };

/** The work of one week by its Monday, in minutes. */
export type WeekLoad = { week: string; reading: number; review: number };

/** The Monday of the week that a day lies in (ISO 8601: weeks begin on Monday). */
export const weekOf = (day: string): string => addDays(day, -((new Date(`${day}T00:00:00Z`).getUTCDay() + 6) % 7));

/**
 * The work of each week between two days, also of those without any, in minutes of reading and of reviewing. What lies before the
 * first day is still to be done and counts in the first week; what lies after the last one does not count.
 */
export const loadPerWeek = (items: readonly Due[], from: string, until: string): WeekLoad[] => {
  const first = weekOf(from);
  const weeks = Array.from({ length: daysBetween(first, weekOf(until)) / 7 + 1 }, (_, n) => ({
    week: addDays(first, n * 7),
    reading: 0,
    review: 0,
  }));
  for (const { day, kind, minutes } of items) {
    if (day > until || (kind !== 'reading' && kind !== 'review')) continue;
    const week = weeks[Math.max(0, daysBetween(first, weekOf(day)) / 7)];
    if (week) week[kind] += minutes;
  }
  return weeks;
};
