import { Popover, PopoverButton, PopoverPanel } from '@headlessui/react';
import { addDays } from '@kanonos/core';
import { useLocation, useNavigate, useSearchParams } from 'react-router';
import { DateField } from '../ui/DateField.tsx';
import { ShownDay, shownDayLook } from './ShownDay.tsx';
import { useMe } from './session.tsx';
import { wording } from './wording.ts';

/** The day that register and document page show; the address carries it, so that it can be shared. */
export const AsOf = () => {
  const me = useMe();
  const [params] = useSearchParams();
  const { pathname } = useLocation();
  const navigate = useNavigate();
  const on = params.get('on');
  const go = (day: string | null, close: () => void) => {
    const next = new URLSearchParams(/^\/(register|d\/)/.test(pathname) ? params : '');
    if (day && day !== me.organisation.today) next.set('on', day);
    else next.delete('on');
    navigate(`${/^\/(register|d\/)/.test(pathname) ? pathname : '/register'}?${next}`);
    close();
  };
  return (
    <Popover>
      <PopoverButton className={shownDayLook(on)}>
        <ShownDay on={on} />
      </PopoverButton>
      <PopoverPanel
        anchor="bottom start"
        className="z-50 flex w-64 flex-col gap-2 border border-ink bg-sheet p-3 [--anchor-gap:6px]"
      >
        {({ close }) => (
          <>
            <DateField
              label={wording.showTheRegisterAndDocumentsAs}
              value={on ?? me.organisation.today}
              onChange={(day) => go(day || null, () => {})}
              onKeyDown={(event) => event.key === 'Enter' && close()}
            />
            <div className="flex flex-wrap gap-1.5">
              {[
                ['today', 0],
                [wording.aWeekAgo, -7],
                [wording.aYearAgo, -365],
                [wording.inTwoWeeks, 14],
              ].map(([text, days]) => (
                <button
                  key={text}
                  type="button"
                  className="btn"
                  onClick={() => go(addDays(me.organisation.today, Number(days)), close)}
                >
                  {text}
                </button>
              ))}
            </div>
            <p className="text-[11.5px] text-ink-3">{wording.pastDaysShowWhatWasIn}</p>
          </>
        )}
      </PopoverPanel>
    </Popover>
  );
};
