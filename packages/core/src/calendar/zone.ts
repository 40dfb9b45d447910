const formatters = new Map<string, Intl.DateTimeFormat>();

const formatterOf = (zone: string) => {
  let formatter = formatters.get(zone);
  if (!formatter) {
    formatter = new Intl.DateTimeFormat('en-CA', {
      timeZone: zone,
      hourCycle: 'h23',
      year: 'numeric',
      month: '2-digit',
      day: '2-digit',
      hour: '2-digit',
      minute: '2-digit',
      second: '2-digit',
    });
    formatters.set(zone, formatter);
  }
  return formatter;
};

const partsIn = (instant: Date, zone: string) => {
  const parts: Record<string, number> = {};
  for (const { type, value } of formatterOf(zone).formatToParts(instant)) {
    if (type !== 'literal') parts[type] = Number(value);
  }
  return parts as { year: number; month: number; day: number; hour: number; minute: number; second: number };
};

const pad = (n: number, width = 2) => String(n).padStart(width, '0');

const readDay = (instant: Date, zone: string): string => {
  const p = partsIn(instant, zone);
  return `${pad(p.year, 4)}-${pad(p.month)}-${pad(p.day)}`;
};

const QUARTER = 15 * 60_000;
/** The days of quarters of an hour that were asked for, by zone; null for a quarter in which the clock goes back over midnight. */
const daysOfQuarters = new Map<string, Map<number, string | null>>();
const MOST_QUARTERS = 100_000;

const quartersOf = (zone: string): Map<number, string | null> => {
  const known = daysOfQuarters.get(zone);
  if (known && known.size < MOST_QUARTERS) return known;
  const begun = new Map<number, string | null>();
  daysOfQuarters.set(zone, begun);
  return begun;
};

/**
 * The local calendar day (`YYYY-MM-DD`) of an instant in a zone (IANA name). Lists ask for thousands, and formatting is slow: a quarter
 * of an hour that begins and ends on one day is read once. Midnight lies between two quarters in every zone.
 */
export const dayOf = (instant: Date, zone: string): string => {
  const quarter = Math.floor(instant.getTime() / QUARTER);
  const known = quartersOf(zone);
  let day = known.get(quarter);
  if (day === undefined) {
    const first = readDay(new Date(quarter * QUARTER), zone);
    day = first === readDay(new Date((quarter + 1) * QUARTER - 1), zone) ? first : null;
    known.set(quarter, day);
  }
  return day ?? readDay(instant, zone);
};

/** The local time of day (`HH:MM`) of an instant in a zone. */
export const timeOf = (instant: Date, zone: string): string => {
  const p = partsIn(instant, zone);
  return `${pad(p.hour)}:${pad(p.minute)}`;
};

/** Minutes that the zone is ahead of UTC at an instant. */
const offsetMinutes = (instant: Date, zone: string): number => {
  const p = partsIn(instant, zone);
  const local = Date.UTC(p.year, p.month - 1, p.day, p.hour, p.minute, p.second);
  return Math.round((local - Math.floor(instant.getTime() / 1000) * 1000) / 60000);
};

/**
 * The first instant of a local day in a zone: midnight, or, where the clock skips midnight, the first instant after it.
 * Periods in force and due days begin and end here.
 */
export const firstInstantOf = (day: string, zone: string): Date => {
  const midnight = Date.parse(`${day}T00:00:00Z`);
  let best: number | undefined;
  // The offset at the wanted instant is one of those a day before or after; the earliest candidate on the day is right.
  for (const probe of [midnight - 86_400_000, midnight, midnight + 86_400_000]) {
    const candidate = midnight - offsetMinutes(new Date(probe), zone) * 60_000;
    const isOnDay = dayOf(new Date(candidate), zone) === day;
    const beforeIsNot = dayOf(new Date(candidate - 1), zone) < day;
    if (isOnDay && beforeIsNot && (best === undefined || candidate < best)) best = candidate;
  }
  if (best !== undefined) return new Date(best);
  // Midnight does not exist on this day: walk forward by minutes from the earliest candidate.
  let t = midnight - 14 * 3_600_000;
  while (dayOf(new Date(t), zone) < day) t += 60_000;
  return new Date(t);
};

/** The instant at which a local day ends: the first instant of the next. */
export const endInstantOf = (day: string, zone: string): Date => firstInstantOf(addDays(day, 1), zone);

/** A calendar day n days later (or earlier). */
export const addDays = (day: string, n: number): string => {
  const date = new Date(`${day}T00:00:00Z`);
  date.setUTCDate(date.getUTCDate() + n);
  return date.toISOString().slice(0, 10);
};

/** A calendar day n months later, clipped to the end of that month. */
export const addMonths = (day: string, n: number): string => {
  const [y, m, d] = day.split('-').map(Number) as [number, number, number];
  const first = new Date(Date.UTC(y, m - 1 + n, 1));
  const last = new Date(Date.UTC(first.getUTCFullYear(), first.getUTCMonth() + 1, 0)).getUTCDate();
  return `${pad(first.getUTCFullYear(), 4)}-${pad(first.getUTCMonth() + 1)}-${pad(Math.min(d, last))}`;
};

/** Whole days from one calendar day to another; negative when `to` lies before `from`. */
export const daysBetween = (from: string, to: string): number =>
  Math.round((Date.parse(`${to}T00:00:00Z`) - Date.parse(`${from}T00:00:00Z`)) / 86_400_000);

/** Whether a text is a real calendar day in the form `YYYY-MM-DD`. */
export const isDay = (text: string): boolean => {
  if (!/^\d{4}-\d{2}-\d{2}$/.test(text)) return false;
  const date = new Date(`${text}T00:00:00Z`);
  return !Number.isNaN(date.getTime()) && date.toISOString().slice(0, 10) === text;
};

const MONTHS = ['Jan', 'Feb', 'Mar', 'Apr', 'May', 'Jun', 'Jul', 'Aug', 'Sep', 'Oct', 'Nov', 'Dec'];

/** A calendar day as people read it: `25 Nov 2026`. */
export const dayInWords = (day: string): string => {
  const [year = '', month = '1', date = ''] = day.split('-');
  return `${Number(date)} ${MONTHS[Number(month) - 1]} ${year}`;
};
