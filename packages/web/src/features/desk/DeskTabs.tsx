import { NavLink } from 'react-router';
import { wording } from './wording.ts';

/** From what waits for me to what I sent and what is being worked on. */
export const DeskTabs = () => (
  <nav aria-label={wording.desk} className="flex gap-1">
    {[
      ['/', wording.forMe],
      ['/submitted', wording.submittedByMe],
      ['/checked-out', wording.checkedOut],
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
