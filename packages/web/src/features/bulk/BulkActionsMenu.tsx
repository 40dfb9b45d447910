import { Menu, MenuButton, MenuItem, MenuItems } from '@headlessui/react';
import { api } from '@kanonos/contract';
import { useState } from 'react';
import { addressOf, call } from '../../app/client.ts';
import { toast } from '../../ui/toast.ts';
import type { Picked } from './BulkDialog.tsx';
import { CheckOutManyDialog } from './CheckOutManyDialog.tsx';
import { CopyDialog } from './CopyDialog.tsx';
import { ShortcutDialog } from './ShortcutDialog.tsx';
import { SubmitManyDialog } from './SubmitManyDialog.tsx';
import { wording } from './wording.ts';

const COMMANDS = {
  checkOut: wording.checkOut,
  shortcut: wording.addShortcutInAnotherFolder,
  copy: wording.copyAsNewDocuments,
  submit: wording.submitForReview,
  download: wording.downloadPackage,
} as const;
type Command = keyof typeof COMMANDS;

/** What else can be done with marked documents: each is done in full or named with what prevents it. */
export const BulkActionsMenu = ({ picked, clear, label }: { picked: Picked; clear: () => void; label?: string }) => {
  const [open, setOpen] = useState<Exclude<Command, 'download'> | null>(null);
  const [ids, setIds] = useState<readonly string[]>([]);
  /** Opens a command over the marked documents, or over all that the search finds. */
  const start = async (command: Command) => {
    try {
      if (command === 'download') {
        const { id } = await call(api.bulk.downloadPackage, { body: { ids: picked.ids, filter: picked.filter } });
        return location.assign(addressOf(api.bulk.fetchDownloadPackage, { id }));
      }
      const found = picked.filter && (await call(api.bulk.ids, { body: { filter: picked.filter } }));
      setIds(found?.ids ?? picked.ids ?? []);
      setOpen(command);
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
        <MenuButton className="btn !h-6">{label ?? wording.actions}</MenuButton>
        <MenuItems
          anchor="top start"
          className="z-40 w-60 border border-ink bg-sheet py-1 shadow-md [--anchor-gap:4px]"
        >
          {(Object.keys(COMMANDS) as Command[]).map((command) => (
            <MenuItem key={command}>
              <button
                type="button"
                className="block w-full px-3 py-1.5 text-left data-focus:bg-petrol-tint"
                onClick={() => void start(command)}
              >
                {COMMANDS[command]}
              </button>
            </MenuItem>
          ))}
        </MenuItems>
      </Menu>
      {open === 'checkOut' && <CheckOutManyDialog ids={ids} close={close} />}
      {open === 'shortcut' && <ShortcutDialog ids={ids} close={close} />}
      {open === 'copy' && <CopyDialog ids={ids} close={close} />}
      {open === 'submit' && <SubmitManyDialog ids={ids} close={close} />}
    </>
  );
};
