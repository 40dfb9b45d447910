import { Menu, MenuButton, MenuItem, MenuItems } from '@headlessui/react';
import { api } from '@kanonos/contract';
import { useQuery } from '@tanstack/react-query';
import { useEffect } from 'react';
import { Link, NavLink, Outlet, useNavigate } from 'react-router';
import { tinykeys } from 'tinykeys';
import { initials } from '../ui/format.ts';
import { isTyping } from '../ui/typing.ts';
import { AsOf } from './AsOf.tsx';
import { ask } from './client.ts';
import { FindLine } from './FindLine.tsx';
import { useMe } from './session.tsx';
import { useSignOut } from './useSignOut.ts';
import { wording } from './wording.ts';

/** The frame of every page: find line, view of a day, who I am, and the rail with what works. */
export const Shell = () => {
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
  return (
    <div className="grid h-full grid-cols-[168px_minmax(0,1fr)] grid-rows-[48px_minmax(0,1fr)]">
      <a href="#main" className="sr-only focus:not-sr-only focus:absolute focus:z-50 focus:bg-sheet focus:p-2">
        {wording.skipToContent}
      </a>
      <header className="col-span-2 flex items-center gap-3.5 bg-ink px-3.5 text-[#eaf1f3]">
        <Link
          to="/"
          className="flex w-[154px] items-center gap-2 text-[17px] font-bold tracking-[.16em] [font-stretch:70%]"
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
          {wording.kanonos2}
        </Link>
        <FindLine />
        <AsOf />
        <Menu>
          <MenuButton className="ml-auto flex items-center gap-2 text-left">
            <span
              aria-hidden
              className="grid h-[26px] w-[26px] place-items-center rounded-full bg-night-2 text-[11px] font-semibold"
            >
              {initials(me.name)}
            </span>
            <span className="leading-[1.15]">
              <b className="font-semibold">{me.name}</b>
              <span className="block text-[11px] text-mist">{me.department ?? wording.outsideParty}</span>
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
        className="flex flex-col gap-px overflow-y-auto border-r border-line bg-film-2 py-2.5"
      >
        <RailLink to="/" text={wording.desk} count={counts?.desk} hot end />
        <RailLink to="/register" text={wording.register} count={counts?.register} />
        <RailLink to="/reading" text={wording.reading} count={counts?.reading} />
        {me.mayRegister && <RailLink to="/intake" text={wording.incoming} count={counts?.incomingFiles} />}
        {(me.organisationRights.includes('audit') || me.organisationRights.includes('administer')) && (
          <span className="cap px-[17px] pt-3.5 pb-1">{wording.evidence}</span>
        )}
        {me.organisationRights.includes('audit') && <RailLink to="/trail" text={wording.auditTrail} />}
        {me.organisationRights.includes('administer') && <RailLink to="/mail" text={wording.outgoingMail} />}
        {me.organisationRights.includes('administer') && <RailLink to="/system" text={wording.system} />}
        {me.department !== null && (
          <>
            <span className="cap px-[17px] pt-3.5 pb-1">{wording.configuration}</span>
            {me.organisationRights.includes('administer') && (
              <>
                <RailLink to="/rules/organisation" text={wording.organisation} />
                <RailLink to="/rules/types" text={wording.types} />
                <RailLink to="/rules/lists" text={wording.lists} />
                <RailLink to="/numbers" text={wording.numbers} />
                <RailLink to="/rules/templates" text={wording.templates} />
              </>
            )}
            {(me.organisationRights.includes('administer') || me.managesFolders) && (
              <>
                <RailLink to="/rules/filing" text={wording.filingPlan} />
                <RailLink to="/rules/blueprints" text={wording.blueprints} />
                <RailLink to="/imports" text={wording.legacyImport} />
              </>
            )}
            <RailLink to="/people" text={wording.people} />
          </>
        )}
      </nav>
      <main id="main" tabIndex={-1} className="flex min-h-0 min-w-0 flex-col overflow-hidden outline-none">
        <Outlet />
      </main>
    </div>
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
