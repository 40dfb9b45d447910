import { addDays, isWorkingDay } from '@kanonos/core';

export type ShownDays = readonly string[];
const BEFORE = 6;
const AFTER = 9;

/** The working days around today that the calendar of the rounds shows, in order. */
export const shownDays = (today: string, week: readonly number[], holidays: readonly string[]): ShownDays => {
  const calendar = { week, holidays: new Set(holidays) };
  const walk = (step: 1 | -1, wanted: number) => {
    const days: string[] = [];
    // Bounded, for a calendar in which nobody ever works.
    for (let i = 1; days.length < wanted && i < 100; i++) {
      const day = addDays(today, i * step);
      if (isWorkingDay(day, calendar)) days.push(day);
    }
    return days;
  };
  return [...walk(-1, BEFORE).reverse(), today, ...walk(1, AFTER)];
};

/** Where a day begins among the shown ones, from 0 to their number; days between two of them belong to the next. */
export const placeOf = (day: string, days: ShownDays): number => {
  const index = days.findIndex((one) => one >= day);
  return index === -1 ? days.length : index;
};

export type Bar = { from: number; width: number };
const LEAST = 0.4;

/** A bar from a day to another, both in it, cut to what is shown; null where nothing of it is. */
export const barOf = (from: string, to: string, days: ShownDays, last: boolean): Bar | null => {
  const first = days[0] ?? from;
  if (to < first || from > (days.at(-1) ?? to)) return null;
  const start = from < first ? 0 : placeOf(from, days);
  const end = Math.min(days.length, placeOf(to, days) + (last ? 1 : 0));
  return { from: start, width: Math.max(end - start, LEAST) };
};
