import { api } from '@kanonos/contract';
import { useQuery } from '@tanstack/react-query';
import { lazy, Suspense, useEffect } from 'react';
import { Link, NavLink, Outlet, useNavigate, useSearchParams } from 'react-router';
import { tinykeys } from 'tinykeys';
import { isTyping } from '../ui/typing.ts';
import { afterFirstScreen } from './afterFirstScreen.ts';
import { ask } from './client.ts';
import { FindLinePlace } from './FindLinePlace.tsx';
import { OffersProvider } from './offers.tsx';
import { type PlaceGroup, placesFor } from './places.ts';
import { ShownDay, shownDayLook } from './ShownDay.tsx';
import { useMe } from './session.tsx';
import { WhoIAm } from './WhoIAm.tsx';
import { wording } from './wording.ts';

// What opens on a press is fetched after the first screen; until then its place shows the same.
const AsOf = afterFirstScreen(() => import('./AsOf.tsx').then((it) => it.AsOf));
const UserMenu = afterFirstScreen(() => import('./UserMenu.tsx').then((it) => it.UserMenu));
const MoreMenu = afterFirstScreen(() => import('./MoreMenu.tsx').then((it) => it.MoreMenu));
const SeeingAs = lazy(() => import('../features/rights/SeeingAs.tsx').then((it) => ({ default: it.SeeingAs })));

/** The frame of every page: find line, view of a day, who I am, and the rail with what works. */
export const Shell = () => (
  <OffersProvider>
    <Frame />
  </OffersProvider>
);

const Frame = () => {
  const me = useMe();
  const navigate = useNavigate();
  const { data: counts } = useQuery({ ...ask(api.tasks.counts), staleTime: 30_000 });
  useEffect(
    () =>
      tinykeys(window, {
        n: (event) => {
          if (isTyping(event) || !me.mayRegister || document.querySelector('[role="dialog"]')) return;
          event.preventDefault();
          navigate('/new');
        },
      }),
    [navigate, me.mayRegister],
  );
  const on = useSearchParams()[0].get('on');
  const places = placesFor(me, counts);
  return (
    <div className="grid h-full grid-cols-[168px_minmax(0,1fr)] grid-rows-[48px_minmax(0,1fr)] max-lg:grid-cols-1 max-lg:grid-rows-[48px_minmax(0,1fr)_auto]">
      <a href="#main" className="sr-only focus:not-sr-only focus:absolute focus:z-50 focus:bg-sheet focus:p-2">
        {wording.skipToContent}
      </a>
      <header className="col-span-2 flex max-lg:col-span-1 max-lg:gap-2.5 items-center gap-3.5 bg-ink px-3.5 text-[#eaf1f3]">
        <Link
          to="/"
          className="flex w-[154px] items-center gap-2 max-lg:w-auto text-[17px] font-bold tracking-[.16em] [font-stretch:70%]"
          aria-label={wording.kanonosGoToMyDesk}
        >
          <svg
            aria-hidden="true"
            width="22"
            height="22"
            viewBox="0 0 22 22"
            fill="none"
            stroke="#8fd0df"
            strokeWidth="1.7"
          >
            <path d="M2 2h12l6 6v12H2z" />
            <path d="M7 20V8M7 14l6-6M7.6 13.4L14 20" />
          </svg>
          <span className="max-lg:hidden">{wording.kanonos2}</span>
        </Link>
        <FindLinePlace places={places.flatMap((group) => group.links)} />
        <span className="max-md:hidden">
          <Suspense
            fallback={
              <span className={shownDayLook(on)}>
                <ShownDay on={on} />
              </span>
            }
          >
            <AsOf />
          </Suspense>
        </span>
        <Suspense
          fallback={
            <span className="ml-auto flex items-center gap-2">
              <WhoIAm />
            </span>
          }
        >
          <UserMenu />
        </Suspense>
      </header>
      <nav
        aria-label={wording.kanonos}
        className="flex flex-col gap-px overflow-y-auto border-r border-line bg-film-2 py-2.5 max-lg:hidden"
      >
        {places.map((group) => (
          <div key={group.title} className="contents">
            {group.title && <span className="cap px-[17px] pt-3.5 pb-1">{group.title}</span>}
            {group.links.map((link) => (
              <RailLink key={link.to} {...link} />
            ))}
          </div>
        ))}
      </nav>
      <main id="main" tabIndex={-1} className="flex min-h-0 min-w-0 flex-col overflow-hidden outline-none">
        {me.seenBy && (
          <Suspense>
            <SeeingAs />
          </Suspense>
        )}
        <Outlet />
      </main>
      <BottomBar places={places} />
    </div>
  );
};

/** Where a small screen leads: the first places by one press with the thumb, the others behind *More*. */
const BottomBar = ({ places }: { places: readonly PlaceGroup[] }) => {
  const all = places.flatMap((group) => group.links);
  const [first, more] = [all.slice(0, 3), all.slice(3)];
  const item = 'flex min-h-14 flex-1 flex-col items-center justify-center border-t-3 px-1 text-[12px] font-[600]';
  return (
    <nav aria-label={wording.kanonos} className="flex border-t border-line bg-sheet lg:hidden">
      {first.map((link) => (
        <NavLink
          key={link.to}
          to={link.to}
          end={link.end ?? false}
          className={({ isActive }) =>
            `${item} ${isActive ? 'border-petrol text-petrol' : 'border-transparent text-ink-2'}`
          }
        >
          {link.text}
          {link.count ? <span className="num !text-[10px]">{link.count.toLocaleString('en-GB')}</span> : null}
        </NavLink>
      ))}
      {more.length > 0 && (
        <Suspense fallback={<span className={`${item} border-transparent text-ink-2`}>{wording.more}</span>}>
          <MoreMenu places={more} className={`${item} border-transparent text-ink-2`} />
        </Suspense>
      )}
    </nav>
  );
};

const RailLink = ({
  to,
  text,
  count,
  hot,
  end,
}: {
  to: string;
  text: string;
  count?: number | undefined;
  hot?: boolean;
  end?: boolean;
}) => (
  <NavLink
    to={to}
    end={end ?? false}
    className={({ isActive }) =>
      `flex items-center border-l-3 px-3.5 py-1.5 ${isActive ? 'border-petrol bg-sheet font-[650]' : 'border-transparent font-medium'}`
    }
  >
    {text}
    {count ? (
      <span
        className={`ml-auto font-mono text-[10.5px] font-medium ${hot ? 'rounded-xs bg-ochre-tint px-1.5 text-ochre' : 'text-ink-2'}`}
      >
        {count.toLocaleString('en-GB')}
      </span>
    ) : null}
  </NavLink>
);
