import { Menu, MenuButton, MenuItem, MenuItems } from '@headlessui/react';
import { Link } from 'react-router';
import type { PlaceLink } from './places.ts';
import { wording } from './wording.ts';

/** The places of a small screen that are not in its bar. */
export const MoreMenu = ({ places, className }: { places: readonly PlaceLink[]; className: string }) => (
  <Menu>
    <MenuButton className={className}>{wording.more}</MenuButton>
    <MenuItems
      anchor="top end"
      className="z-50 max-h-[70vh] w-56 overflow-y-auto border border-ink bg-sheet py-1 shadow-md [--anchor-gap:4px]"
    >
      {places.map((link) => (
        <MenuItem key={link.to}>
          <Link to={link.to} className="flex min-h-11 items-center px-3 data-focus:bg-petrol-tint">
            {link.text}
            {link.count ? <span className="num ml-auto">{link.count.toLocaleString('en-GB')}</span> : null}
          </Link>
        </MenuItem>
      ))}
    </MenuItems>
  </Menu>
);
