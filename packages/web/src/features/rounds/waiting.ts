import { type OpenRound, sentenceOf } from '@kanonos/contract';
import { count, showDay } from '../../ui/format.ts';
import { wording } from './wording.ts';

type Awaited = OpenRound['waitingFor'][number];

const longest = (round: OpenRound): Awaited | undefined =>
  [...round.waitingFor].sort((a, b) => b.waitedDays - a.waitedDays)[0];

/** For whom a round waits, in one line. */
export const whoWords = (round: OpenRound): string =>
  round.blockers.length > 0 ? wording.blocked : wording.people(round.waitingFor.map(({ person }) => person.name));

const awayWords = ({ absentUntil, deputy }: Awaited): string | null => {
  if (!absentUntil) return null;
  const day = showDay(absentUntil, true);
  return deputy ? wording.absentUntilDeputy(day, deputy.name) : wording.absentUntil(day);
};

/** What to know of the wait, in the line below: what blocks it, who is away, else the step; how long, and until when. */
export const waitWords = (round: OpenRound, zone: string): string => {
  const [blocker] = round.blockers;
  if (blocker) return sentenceOf(blocker.code, blocker.params, zone);
  const one = longest(round);
  if (!one) return '';
  const away = round.waitingFor.flatMap((awaited) => awayWords(awaited) ?? [])[0];
  return [
    away ?? round.step,
    round.enough !== null && wording.anySuffice(round.enough),
    one.waitedDays > 0 && wording.waited(count(one.waitedDays, wording.workingDay)),
    round.due && wording.due(showDay(round.due, true)),
  ]
    .filter(Boolean)
    .join(' · ');
};

/** Why a round stands where it does, as one sentence. */
export const waitSentence = (round: OpenRound, zone: string): string => {
  const [blocker] = round.blockers;
  if (blocker) return sentenceOf(blocker.code, blocker.params, zone);
  const one = longest(round);
  if (!one) return '';
  const away = round.waitingFor.find(({ absentUntil }) => absentUntil);
  const day = showDay(away?.absentUntil ?? null, true);
  return wording.waitingDays(
    count(one.waitedDays, wording.workingDay),
    whoWords(round),
    !away ? '' : away.deputy ? wording.absentWith(day, away.deputy.name) : wording.absentWithout(day),
  );
};

/** Whether a round will probably be done after the day that it is planned for. */
export const isLikelyLate = ({ overdue, forecast, plannedBy }: OpenRound): boolean =>
  overdue || (plannedBy !== null && forecast !== null && forecast.half > plannedBy);
