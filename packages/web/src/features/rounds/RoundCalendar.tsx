import type { OpenRound } from '@kanonos/contract';
import { useMe } from '../../app/session.tsx';
import { type Bar, barOf, placeOf, type ShownDays } from './calendarDays.ts';
import { isLikelyLate } from './waiting.ts';
import { wording } from './wording.ts';

const at = ({ from, width }: Bar, days: ShownDays) => ({
  left: `${(from / days.length) * 100}%`,
  width: `${(width / days.length) * 100}%`,
});

/** How many days a bar needs for a name to be read in it. */
const LEAST_FOR_NAME = 2;

const LOOKS = {
  done: 'bg-[#dde6e8] text-ink-2',
  waiting: 'border border-ochre bg-ochre-tint text-ochre',
  late: 'border border-vermilion bg-vermilion-tint text-vermilion',
};

/** One round over the calendar: with whom it was and is, its due day, and when half of like cases are done. */
export const RoundCalendar = ({ round, days }: { round: OpenRound; days: ShownDays }) => {
  const { today } = useMe().organisation;
  const { half } = round.forecast ?? {};
  const ahead = half && half > today ? barOf(today, half, days, true) : null;
  const isDueShown = round.due !== null && round.due >= (days[0] ?? '') && round.due <= (days.at(-1) ?? '');
  return (
    <span aria-hidden className="relative block h-full max-lg:hidden">
      {days.map((day, index) => (
        <span
          key={day}
          className={`absolute inset-y-0 border-l ${day === today ? 'border-ink' : 'border-line-2'}`}
          style={{ left: `${((index + (day === today ? 1 : 0)) / days.length) * 100}%` }}
        />
      ))}
      {round.spans.map((span) => {
        const bar = barOf(span.from, span.to ?? today, days, span.to === null);
        if (!bar) return null;
        const look = span.to ? LOOKS.done : round.overdue ? LOOKS.late : LOOKS.waiting;
        return (
          <span
            key={`${span.step}${span.from}`}
            className={`absolute inset-y-[9px] overflow-hidden rounded-xs px-1 text-[11px] leading-[20px] whitespace-nowrap ${look}`}
            style={at(bar, days)}
          >
            {bar.width >= LEAST_FOR_NAME &&
              (span.people.length === 1 ? span.people[0] : wording.atOnce(span.people.length))}
          </span>
        );
      })}
      {ahead && (
        <span
          className="absolute inset-y-[17px] bg-[repeating-linear-gradient(90deg,#93a7ae_0_6px,transparent_6px_9px)]"
          style={at({ from: ahead.from + 1, width: Math.max(ahead.width - 1, 0) }, days)}
        />
      )}
      {isDueShown && round.due && (
        <span
          className={`absolute inset-y-[5px] w-[2px] ${isLikelyLate(round) ? 'bg-vermilion' : 'bg-ink-3'}`}
          style={{ left: `calc(${((placeOf(round.due, days) + 1) / days.length) * 100}% - 2px)` }}
        />
      )}
    </span>
  );
};

/** The days over the calendar of the rounds, today marked. */
export const CalendarHead = ({ days }: { days: ShownDays }) => {
  const { today } = useMe().organisation;
  return (
    <span aria-hidden className="flex h-full max-lg:hidden">
      {days.map((day) => (
        <span
          key={day}
          className={`num grid flex-1 place-items-center !text-[10.5px] ${day === today ? 'bg-ink !text-white' : 'text-ink-2'}`}
        >
          {Number(day.slice(8))}
        </span>
      ))}
    </span>
  );
};

/** What the shapes of the calendar mean. */
export const CalendarKey = () => (
  <span aria-hidden className="flex items-center gap-3 text-[12px] text-ink-2 max-lg:hidden">
    <span className="flex items-center gap-1.5">
      <i className="h-2.5 w-4 bg-[#dde6e8]" /> {wording.done}
    </span>
    <span className="flex items-center gap-1.5">
      <i className="h-2.5 w-4 border border-ochre bg-ochre-tint" /> {wording.waiting}
    </span>
    <span className="flex items-center gap-1.5">
      <i className="h-2 w-5 bg-[repeating-linear-gradient(90deg,#93a7ae_0_6px,transparent_6px_9px)]" />{' '}
      {wording.forecastKey}
    </span>
    <span className="flex items-center gap-1.5">
      <i className="h-3 w-[2px] bg-ink-3" /> {wording.dueKey}
    </span>
  </span>
);
