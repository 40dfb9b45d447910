import type { Hold } from '@kanonos/contract';
import { useMe } from '../../app/session.tsx';
import { showInstant } from '../../ui/format.ts';
import { wording as ui } from '../../ui/wording.ts';
import { wording } from './wording.ts';

/** Says in red words that what is in force must not be used, why, and what to do until it may. */
export const HoldNotice = ({ hold }: { hold: Hold }) => {
  const me = useMe();
  return (
    <section
      aria-label={ui.onHoldDoNotUse}
      className="border-2 border-vermilion bg-vermilion-tint px-3 py-2 text-vermilion"
    >
      <p className="text-[15px] font-semibold">{ui.onHoldDoNotUse}</p>
      <p>{hold.reason}</p>
      {hold.wayOut && (
        <p>
          <b className="font-semibold">{wording.untilThen}:</b> {hold.wayOut}
        </p>
      )}
      <p className="text-[12px]">{wording.holdSince(hold.by, showInstant(hold.since, me.organisation.zone))}</p>
    </section>
  );
};
