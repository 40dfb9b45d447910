import { dayInWords } from '@kanonos/core';
import { wording } from './wording.ts';

const zoneOf = (zone?: string) => (zone ? { timeZone: zone } : {});

/** `25 Nov 2026`; where `short`, the year is left out for days of this year and has two digits else. */
export const showDay = (day: string | null | undefined, short = false): string => {
  if (!day) return '–';
  const text = dayInWords(day.slice(0, 10));
  if (!short) return text;
  const year = day.slice(0, 4);
  return Number(year) === new Date().getFullYear() ? text.slice(0, -5) : `${text.slice(0, -4)}${year.slice(2)}`;
};

/** `25 Nov 26` for narrow columns. */
export const showDayNarrow = (day: string | null | undefined): string =>
  day ? `${showDay(day).slice(0, -4)}${day.slice(2, 4)}` : '–';

const localDay = (instant: string, zone?: string): string =>
  new Intl.DateTimeFormat('en-CA', { year: 'numeric', month: '2-digit', day: '2-digit', ...zoneOf(zone) }).format(
    new Date(instant),
  );

/** The local day of an instant in the organisation's zone. */
export const showInstantDay = (instant: string | null | undefined, zone: string, short = false): string =>
  instant ? showDay(localDay(instant, zone), short) : '–';

/** `25 Nov 2026, 10:42` in the organisation's zone. */
export const showInstant = (instant: string, zone?: string): string =>
  `${showDay(localDay(instant, zone))}, ${new Date(instant).toLocaleTimeString('en-GB', { hour: '2-digit', minute: '2-digit', ...zoneOf(zone) })}`;

export const showSize = (bytes: number): string =>
  bytes < 1000
    ? `${bytes} bytes`
    : bytes < 1_000_000
      ? `${Math.round(bytes / 1000)} kB`
      : `${(bytes / 1_000_000).toFixed(1)} MB`;

export const count = (n: number, one: string, many = `${one}s`): string =>
  `${n.toLocaleString('en-GB')} ${n === 1 ? one : many}`;

/** How long ago, in the words people use. */
export const ago = (instant: string): string => {
  const minutes = Math.round((Date.now() - Date.parse(instant)) / 60_000);
  if (minutes < 1) return wording.justNow;
  if (minutes < 60) return wording.minAgo(minutes);
  if (minutes < 24 * 60) return wording.minutesHAgo(Math.round(minutes / 60));
  const days = Math.round(minutes / 1440);
  return days === 1 ? 'yesterday' : wording.daysAgo(days);
};

const NUMBERS = [
  wording.nothing,
  wording.one,
  wording.two,
  wording.three,
  wording.four,
  wording.five,
  wording.six,
  wording.seven,
  wording.eight,
  wording.nine,
  wording.ten,
  wording.eleven,
  wording.twelve,
];
export const inWords = (n: number): string => NUMBERS[n] ?? String(n);

/** Short form of a digest: enough to compare by eye. */
export const fingerprint = (digest: string): string =>
  `${digest.slice(0, 4)} ${digest.slice(4, 8)} ${digest.slice(8, 12)} … ${digest.slice(-4)}`;

export const initials = (name: string): string =>
  name
    .split(/\s+/)
    .map((part) => part[0] ?? '')
    .slice(0, 2)
    .join('')
    .toUpperCase();

const SAID: Record<string, string> = {
  approve: 'approved',
  reject: 'rejected',
  'with comments': wording.hadComments,
  'no objection': wording.hadNoObjection,
  done: wording.didIt,
};
/** A decision in the third person. */
export const saidWords = (decision: string | null): string => SAID[decision ?? ''] ?? decision ?? '';

/** Today in the organisation's zone, as a day. */
export const todayIn = (zone: string): string => localDay(new Date().toISOString(), zone);
