import { showDay } from '../ui/format.ts';
import { useMe } from './session.tsx';
import { wording } from './wording.ts';

/** How the place of the shown day looks: plain for today, in ochre for any other. */
export const shownDayLook = (on: string | null) =>
  `flex h-[30px] items-center gap-2 rounded-xs border px-2.5 whitespace-nowrap ${on ? 'border-[#e7cf96] bg-ochre-tint text-ochre' : 'border-night-3'}`;

/** The day that register and documents are shown of. */
export const ShownDay = ({ on }: { on: string | null }) => {
  const me = useMe();
  return (
    <>
      <span className={`cap ${on ? '!text-ochre' : '!text-[#9db3bd]'}`}>{wording.inForceOn}</span>
      <b className="font-semibold">{on ? showDay(on) : wording.todayToday(showDay(me.organisation.today))}</b>
      <span aria-hidden>▾</span>
    </>
  );
};
