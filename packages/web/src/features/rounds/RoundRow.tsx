import type { OpenRound } from '@kanonos/contract';
import { Link } from 'react-router';
import { useMe } from '../../app/session.tsx';
import { workAddress } from '../../ui/addresses.ts';
import { showDay } from '../../ui/format.ts';
import { HoldWords, RevisionMark } from '../../ui/marks.tsx';
import type { ShownDays } from './calendarDays.ts';
import { RoundCalendar } from './RoundCalendar.tsx';
import { isLikelyLate, waitSentence, waitWords, whoWords } from './waiting.ts';
import { wording } from './wording.ts';

/** The columns of the list at the width of a desk; a phone shows each round as a card. */
export const ROUND_COLUMNS =
  'grid grid-cols-[26px_44px_minmax(0,1.1fr)_minmax(0,1.15fr)_minmax(0,1.7fr)_76px] items-center gap-x-2.5 max-lg:grid-cols-[26px_44px_minmax(0,1fr)_auto]';

/** One open round: the document, for whom it waits and why, its course over the calendar, and when it will likely be done. */
export const RoundRow = ({
  round,
  days,
  isChosen,
  onChoose,
}: {
  round: OpenRound;
  days: ShownDays;
  isChosen: boolean;
  onChoose: (chosen: boolean) => void;
}) => {
  const { zone } = useMe().organisation;
  const late = isLikelyLate(round);
  return (
    <li
      className={`${ROUND_COLUMNS} min-h-[52px] border-b border-line-2 px-3 max-lg:gap-y-1 max-lg:py-2.5 ${isChosen ? 'bg-petrol-tint' : 'bg-sheet'}`}
    >
      <input
        type="checkbox"
        className="h-6 w-4 accent-petrol"
        aria-label={wording.selectRound(`${round.number} ${round.label}`)}
        disabled={round.mayChange.length === 0}
        checked={isChosen}
        onChange={(event) => onChoose(event.target.checked)}
      />
      <RevisionMark label={round.label} mark={round.mark} />
      <Link
        to={workAddress(round.number, 'tab=route')}
        className="min-w-0 hover:underline"
        title={`${round.number} ${round.title}`}
      >
        <span className="num block truncate">{round.number}</span>
        <b className="block truncate font-semibold">{round.title}</b>
        <HoldWords when={round.mark === 'on hold'} />
        {round.adHoc && <span className="block truncate text-[12px] text-ochre">{wording.adHoc(round.adHoc)}</span>}
      </Link>
      <span className="min-w-0 max-lg:order-last max-lg:col-span-full" title={waitSentence(round, zone)}>
        <b
          className={`block truncate font-semibold ${round.blockers.length > 0 || round.waitingFor.some(({ absentUntil, deputy }) => absentUntil && !deputy) ? 'text-vermilion' : ''}`}
        >
          {whoWords(round)}
        </b>
        <span className="block truncate text-[12px] text-ink-2 max-lg:whitespace-normal">{waitWords(round, zone)}</span>
      </span>
      <span className="h-[52px] self-stretch max-lg:hidden">
        <RoundCalendar round={round} days={days} />
      </span>
      <span
        className={`num text-right !text-[12px] ${late ? 'font-semibold text-vermilion' : 'text-ink-2'}`}
        title={
          round.forecast
            ? wording.forecastDays(
                showDay(round.forecast.half, true),
                showDay(round.forecast.mostly, true),
                showDay(round.forecast.nearlyAll, true),
              )
            : ''
        }
      >
        {round.forecast ? showDay(round.forecast.half, true) : '–'}
      </span>
    </li>
  );
};
