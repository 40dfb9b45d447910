import { Menu, MenuButton, MenuItem, MenuItems } from '@headlessui/react';
import { api } from '@kanonos/contract';
import { useQuery } from '@tanstack/react-query';
import { useEffect } from 'react';
import { Link, NavLink, Outlet, useNavigate } from 'react-router';
import { tinykeys } from 'tinykeys';
import { SeeingAs } from '../features/rights/SeeingAs.tsx';
import { initials } from '../ui/format.ts';
import { isTyping } from '../ui/typing.ts';
import { AsOf } from './AsOf.tsx';
import { ask } from './client.ts';
import { FindLine } from './FindLine.tsx';
import { OffersProvider } from './offers.tsx';
import { type PlaceGroup, placesFor } from './places.ts';
import { useMe } from './session.tsx';
import { useSignOut } from './useSignOut.ts';
import { wording } from './wording.ts';

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
  const signOut = useSignOut('here');
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
        <FindLine places={places.flatMap((group) => group.links)} />
        <span className="max-md:hidden">
          <AsOf />
        </span>
        <Menu>
          <MenuButton className="ml-auto flex items-center gap-2 text-left">
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
          </MenuButton>
          <MenuItems anchor="bottom end" className="z-50 w-44 border border-ink bg-sheet py-1 [--anchor-gap:8px]">
            <MenuItem>
              <Link to="/profile" className="block px-3 py-1.5 data-focus:bg-petrol-tint">
                {wording.myProfile}
              </Link>
            </MenuItem>
            <MenuItem>
              <button
                type="button"
                onClick={() => signOut.mutate()}
                className="block w-full px-3 py-1.5 text-left data-focus:bg-petrol-tint"
              >
                {wording.signOut}
              </button>
            </MenuItem>
          </MenuItems>
        </Menu>
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
        <SeeingAs />
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
        <Menu>
          <MenuButton className={`${item} border-transparent text-ink-2`}>{wording.more}</MenuButton>
          <MenuItems
            anchor="top end"
            className="z-50 max-h-[70vh] w-56 overflow-y-auto border border-ink bg-sheet py-1 shadow-md [--anchor-gap:4px]"
          >
            {more.map((link) => (
              <MenuItem key={link.to}>
                <Link to={link.to} className="flex min-h-11 items-center px-3 data-focus:bg-petrol-tint">
                  {link.text}
                  {link.count ? <span className="num ml-auto">{link.count.toLocaleString('en-GB')}</span> : null}
                </Link>
              </MenuItem>
            ))}
          </MenuItems>
        </Menu>
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
