import { NavLink } from 'react-router';

/** From what waits for me to what I sent and what is being worked on. */
export const DeskTabs = () => (
  <nav aria-label="Desk" className="flex gap-1">
    {[
      ['/', 'For me'],
      ['/submitted', 'Submitted by me'],
      ['/checked-out', 'Checked out'],
    ].map(([to, text]) => (
      <NavLink
        key={to}
        to={to ?? '/'}
        end
        className={({ isActive }) => `btn ${isActive ? '!border-ink !bg-ink !text-white' : ''}`}
      >
        {text}
      </NavLink>
    ))}
  </nav>
);
