import { dayOf, endInstantOf, firstInstantOf, timeOf } from '../calendar/zone.ts';

/** A span of time in which a revision applies: half open, without an end while it goes on. */
export type Period = { revisionId: string; label: string; from: Date; to?: Date };

/** A day planned for a revision to come into force, or for the one in force to be withdrawn. */
export type Planned =
  | { kind: 'release'; revisionId: string; label: string; day: string }
  | { kind: 'withdrawal'; day: string };

export type InForceView = {
  revisionId?: string;
  label?: string;
  /** What else applied within that day, with the local time at which it ended. */
  until: { label: string; time: string }[];
};

/** The instant at which a view of a day looks: the end of a past or coming day, now for today. */
export const instantOfView = (day: string, zone: string, now: Date): Date =>
  day === dayOf(now, zone) ? now : endInstantOf(day, zone);

/**
 * Which revision of a document is in force on a day: at the end of a past day, now for today, at the end of a coming day
 * with planned ones counted; an end within the day has its time.
 */
export const inForceOn = (
  periods: readonly Period[],
  planned: readonly Planned[],
  day: string,
  zone: string,
  now: Date,
): InForceView => {
  const today = dayOf(now, zone);
  const all = day > today ? withPlanned(periods, planned, day, zone) : [...periods];
  const view = instantOfView(day, zone, now);
  const begin = firstInstantOf(day, zone);
  // At the end of a day means the last instant before it, for periods are half open.
  const covers = (period: Period) =>
    day === today
      ? period.from <= view && (!period.to || period.to > view)
      : period.from < view && (!period.to || period.to >= view);
  const current = all.find(covers);
  const until = all
    .filter((period) => period.to && period.to > begin && period.to < view && period !== current)
    .concat(day === today ? all.filter((period) => period.to && period.to.getTime() === view.getTime()) : [])
    .sort((a, b) => (a.to as Date).getTime() - (b.to as Date).getTime())
    .map((period) => ({ label: period.label, time: timeOf(period.to as Date, zone) }));
  return current ? { revisionId: current.revisionId, label: current.label, until } : { until };
};

const withPlanned = (periods: readonly Period[], planned: readonly Planned[], day: string, zone: string): Period[] => {
  const all = periods.map((period) => ({ ...period }));
  for (const plan of [...planned].filter((p) => p.day <= day).sort((a, b) => (a.day < b.day ? -1 : 1))) {
    const from = firstInstantOf(plan.day, zone);
    const open = all.find((period) => !period.to);
    if (open) open.to = from;
    if (plan.kind === 'release') all.push({ revisionId: plan.revisionId, label: plan.label, from });
  }
  return all;
};

/** Whether periods of one document overlap; the database refuses it, this is for tests and imports. */
export const overlap = (periods: readonly Period[]): boolean => {
  const sorted = [...periods].sort((a, b) => a.from.getTime() - b.from.getTime());
  return sorted.some((period, i) => {
    const next = sorted[i + 1];
    return next !== undefined && (!period.to || period.to > next.from);
  });
};
