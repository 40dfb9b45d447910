import { Menu, MenuButton, MenuItem, MenuItems } from '@headlessui/react';
import { api } from '@kanonos/contract';
import { useState } from 'react';
import { toast } from 'sonner';
import { addressOf, call } from '../../app/client.ts';
import type { Picked } from './BulkDialog.tsx';
import { CopyDialog } from './CopyDialog.tsx';
import { SendManyDialog } from './SendManyDialog.tsx';
import { ShortcutDialog } from './ShortcutDialog.tsx';

const ACTS = {
  shortcut: 'Show in a further folder',
  copy: 'Copy as new documents',
  send: 'Send on their way',
  download: 'Download as zip',
} as const;
type Act = keyof typeof ACTS;

/** What else can be done with marked documents: each is done whole or named with what stands in its way. */
export const ActsMenu = ({ picked, clear }: { picked: Picked; clear: () => void }) => {
  const [open, setOpen] = useState<Exclude<Act, 'download'> | null>(null);
  const ids = picked.ids ?? [];
  const download = async () => {
    try {
      const { id } = await call(api.bulk.parcel, { body: { ids, filter: null } });
      location.assign(addressOf(api.bulk.fetchParcel, { id }));
    } catch (error) {
      toast.error((error as Error).message);
    }
  };
  const close = () => {
    setOpen(null);
    clear();
  };
  return (
    <>
      <Menu>
        <MenuButton className="btn !h-6">More ▾</MenuButton>
        <MenuItems
          anchor="top start"
          className="z-40 w-60 border border-ink bg-sheet py-1 shadow-md [--anchor-gap:4px]"
        >
          {(Object.keys(ACTS) as Act[]).map((act) => (
            <MenuItem key={act}>
              <button
                type="button"
                className="block w-full px-3 py-1.5 text-left data-focus:bg-petrol-tint"
                onClick={() => (act === 'download' ? void download() : setOpen(act))}
              >
                {ACTS[act]}
              </button>
            </MenuItem>
          ))}
        </MenuItems>
      </Menu>
      {open === 'shortcut' && <ShortcutDialog ids={ids} close={close} />}
      {open === 'copy' && <CopyDialog ids={ids} close={close} />}
      {open === 'send' && <SendManyDialog ids={ids} close={close} />}
    </>
  );
};
