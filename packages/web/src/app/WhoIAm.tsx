import { initials } from '../ui/format.ts';
import { useMe } from './session.tsx';
import { wording } from './wording.ts';

/** The signed-in person in the head of every page. */
export const WhoIAm = () => {
  const me = useMe();
  return (
    <>
      <span
        aria-hidden
        className="grid h-[26px] w-[26px] place-items-center rounded-full bg-night-2 text-[11px] font-semibold"
      >
        {initials(me.name)}
      </span>
      <span className="leading-[1.15] max-md:sr-only">
        <b className="font-semibold">{me.name}</b>
        <span className="block text-[11px] text-mist">
          {me.department ?? (me.outside ? wording.outsideParty : me.signInName)}
        </span>
      </span>
    </>
  );
};
