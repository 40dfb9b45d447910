import { addDays, addMonths, daysBetween, isDay } from '../calendar/zone.ts';
import { type Refusal, refusal } from '../result.ts';

/** What the interval of the periodic review is counted from. */
export const REVIEW_STARTS = ['release', 'last review', 'fixed day'] as const;
export const REVIEW_UNITS = ['months', 'days'] as const;
export const REVIEW_OUTCOMES = ['confirmed', 'minor change', 'major change', 'withdrawal'] as const;
export type ReviewOutcome = (typeof REVIEW_OUTCOMES)[number];

/** How documents of a type are reviewed periodically (ISO 9001, 7.5.3); how often is the interval of the type or of the document. */
export type ReviewRule = {
  unit: (typeof REVIEW_UNITS)[number];
  from: (typeof REVIEW_STARTS)[number];
  /** Month and day of every review, `MM-DD`, where it is counted from a fixed day. */
  fixedDay: string | null;
  /** Whether a minor or editorial change that comes into force counts as a review. */
  minorChange: 'counts as review' | 'leaves the day';
  /** So many days before it is due the owner is asked. */
  daysAhead: number;
  /** By so many days at most a review may be postponed in all. */
  mostDaysPostponed: number;
  /** So many days after it was due the supervisor of the owner is told; null: nobody. */
  escalateAfterDays: number | null;
};

export const PLAIN_REVIEW: ReviewRule = {
  unit: 'months',
  from: 'last review',
  fixedDay: null,
  minorChange: 'counts as review',
  daysAhead: 14,
  mostDaysPostponed: 60,
  escalateAfterDays: 14,
};

/** The longest intervals that can be set. */
export const LONGEST_REVIEW = { months: 240, days: 7300 } as const;

/** The day some intervals after another. Months end where they end: 31 January and one month is the last of February. */
const after = (day: string, every: number, unit: ReviewRule['unit'], times = 1): string =>
  unit === 'months' ? addMonths(day, every * times) : addDays(day, every * times);

/** The first day of the rhythm from `start` that lies after `base`: counted from its start each time, so that month ends stay. */
const nextOfRhythm = (start: string, base: string, every: number, unit: ReviewRule['unit']): string => {
  const length = unit === 'months' ? every * 31 : every;
  let times = Math.max(1, Math.floor(daysBetween(start, base) / length));
  while (after(start, every, unit, times) <= base) times++;
  return after(start, every, unit, times);
};

/** A month and day in a year; 29 February is the 28th where there is none. */
const inYear = (year: number, fixedDay: string): string => {
  const day = `${String(year).padStart(4, '0')}-${fixedDay}`;
  return isDay(day) ? day : `${String(year).padStart(4, '0')}-02-28`;
};

/** The last fixed day that is not later than an interval after `day`; the next one where none lies between. */
const fixedAfter = (day: string, fixedDay: string, every: number, unit: ReviewRule['unit']): string => {
  const latest = after(day, every, unit);
  const from = Number(day.slice(0, 4));
  const years = Array.from({ length: Number(latest.slice(0, 4)) - from + 2 }, (_, i) => inYear(from + i, fixedDay));
  const later = years.filter((one) => one > day);
  return later.filter((one) => one <= latest).at(-1) ?? (later[0] as string);
};

/** What happened to a document that sets the day of its next review. */
export type ReviewOccasion =
  /** A revision came into force. */
  | { on: 'release'; day: string; changeKind: string | null }
  /** A review found it right as it is. */
  | { on: 'confirmation'; day: string; releasedOn: string };

/**
 * The day on which a document is due for review next; null where it never is.
 *
 * @param every the interval in the unit of the rule; 0: never
 * @param due the day on which it is due now, where there is one
 */
export const nextReview = (
  rule: Pick<ReviewRule, 'unit' | 'from' | 'fixedDay' | 'minorChange'>,
  every: number,
  occasion: ReviewOccasion,
  due: string | null,
): string | null => {
  if (every <= 0) return null;
  const { day } = occasion;
  if (occasion.on === 'release') {
    const isSmall = occasion.changeKind === 'minor' || occasion.changeKind === 'editorial';
    if (isSmall && rule.minorChange === 'leaves the day' && due !== null) return due;
  }
  if (rule.from === 'fixed day' && rule.fixedDay !== null) return fixedAfter(day, rule.fixedDay, every, rule.unit);
  if (rule.from === 'release' && occasion.on === 'confirmation') {
    // Confirmed before its day, it is not due again on that same day.
    const base = due !== null && due > day ? due : day;
    return nextOfRhythm(occasion.releasedOn, base, every, rule.unit);
  }
  return after(day, every, rule.unit);
};

/** The last day to which a review can be postponed: counted from the day on which it was due first. */
export const latestPostponement = (firstDue: string, rule: Pick<ReviewRule, 'mostDaysPostponed'>): string =>
  addDays(firstDue, rule.mostDaysPostponed);

/** Why a review cannot be postponed to a day: it is not later than the day it is due, it has passed, or it is beyond the limit. */
export const decidePostponement = (
  { to, due, firstDue, today }: { to: string; due: string; firstDue: string; today: string },
  rule: Pick<ReviewRule, 'mostDaysPostponed'>,
): Refusal[] => {
  if (to <= today) return [refusal('day_not_after_today', { day: to, today })];
  if (to <= due) return [refusal('review_not_later', { day: to, due })];
  const latest = latestPostponement(firstDue, rule);
  return to > latest ? [refusal('review_postponed_too_far', { day: to, latest, days: rule.mostDaysPostponed })] : [];
};

/** What is wrong with the interval and the rule of a type: an interval too long, a fixed day that no year has. */
export const checkReviewRule = (rule: ReviewRule, every: number): Refusal[] => {
  const limit = LONGEST_REVIEW[rule.unit];
  return [
    ...(Number.isInteger(every) && every >= 0 && every <= limit
      ? []
      : [refusal('review_every_invalid', { limit, unit: rule.unit })]),
    ...(rule.from !== 'fixed day' || (rule.fixedDay !== null && isDay(`2000-${rule.fixedDay}`))
      ? []
      : [refusal('review_fixed_day_unknown', { day: rule.fixedDay ?? '' })]),
  ];
};
