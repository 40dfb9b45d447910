import { Menu, MenuButton, MenuItem, MenuItems } from '@headlessui/react';
import { Link } from 'react-router';
import { useSignOut } from './useSignOut.ts';
import { WhoIAm } from './WhoIAm.tsx';
import { wording } from './wording.ts';

/** Who is signed in, with the way to the profile and out. */
export const UserMenu = () => {
  const signOut = useSignOut('here');
  return (
    <Menu>
      <MenuButton className="ml-auto flex items-center gap-2 text-left">
        <WhoIAm />
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
  );
};
