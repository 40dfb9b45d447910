import { Menu, MenuButton, MenuItem, MenuItems } from '@headlessui/react';
import { type DocumentPage, sentenceOf } from '@kanonos/contract';
import { useNavigate, useSearchParams } from 'react-router';
import { useMe } from '../../../app/session.tsx';
import { wording } from '../wording.ts';
import { AuthoringDialogs } from './AuthoringDialogs.tsx';
import { FilePlaces } from './FilePlaces.tsx';
import { IdentityDialogs } from './IdentityDialogs.tsx';
import { useOpenCommand } from './openCommand.ts';
import { ReasonDialogs } from './ReasonDialogs.tsx';
import { ReviseDialog } from './ReviseDialog.tsx';
import { SubmitDialog } from './SubmitDialog.tsx';

const WORDS: Record<string, string> = {
  'check out': wording.checkOut2,
  'check in': wording.checkIn2,
  'discard check-out': wording.discardCheckOut,
  'take over check-out': wording.takeOverCheckOut,
  submit: wording.submitForReview2,
  recall: wording.recall,
  release: wording.release,
  reopen: wording.returnToDraft2,
  revise: wording.revise,
  withdraw: wording.withdraw,
  'cancel withdrawal': wording.cancelPlannedWithdrawal,
  reinstate: wording.reinstate,
  abandon: wording.abandonDraft,
  remove: wording.remove,
  restore: wording.restore,
  renumber: wording.renumber,
  'rename file': wording.renameFile,
  'replace content': wording.useContentOfAnotherDocument,
  'check source': wording.recordASourceCheck,
};

/** Acts that are not shown at all: for others, or for another kind of document. */
const NOT_SAID = new Set([
  'not_checked_out',
  'number_is_known',
  'name_by_rule',
  'not_watched',
  'right_missing',
  'not_removed',
  'document_removed',
  'was_in_force',
]);

/** Every command that the rules know, greyed with the reason where it is not possible now. */
export const ActionsMenu = ({ page }: { page: DocumentPage }) => {
  const me = useMe();
  const [params] = useSearchParams();
  const openCommand = useOpenCommand();
  const navigate = useNavigate();
  const command = params.get('command');
  const close = () => openCommand(null);
  const offered = page.commands.filter(
    ({ command: name, refusals }) => WORDS[name] && !NOT_SAID.has(refusals[0]?.code ?? ''),
  );
  return (
    <>
      {offered.length > 0 && !page.view && (
        <Menu>
          <MenuButton className="btn !h-6">{wording.actions}</MenuButton>
          <MenuItems
            anchor="bottom end"
            className="z-40 w-72 border border-ink bg-sheet py-1 shadow-md [--anchor-gap:4px]"
          >
            {offered.map(({ command: name, refusals }) => (
              <MenuItem key={name} disabled={refusals.length > 0 && name !== 'submit'}>
                <button
                  type="button"
                  onClick={() =>
                    name === 'release' ? navigate(`/d/${encodeURIComponent(page.number)}/release`) : openCommand(name)
                  }
                  className="block w-full px-3 py-1.5 text-left data-disabled:text-ink-3 data-focus:bg-petrol-tint"
                >
                  {WORDS[name]}
                  {refusals[0] && (
                    <span className="block text-[11.5px] text-ink-3">
                      {sentenceOf(refusals[0].code, refusals[0].params, me.organisation.zone)}
                    </span>
                  )}
                </button>
              </MenuItem>
            ))}
            {(page.rights.includes('download') || page.checkout?.mine) && page.versions.length > 0 && (
              <MenuItem>
                <button
                  type="button"
                  onClick={() => openCommand('on the network drive')}
                  className="block w-full border-t border-line-2 px-3 py-1.5 text-left data-focus:bg-petrol-tint"
                >
                  {wording.openInDesktopApplication2}
                </button>
              </MenuItem>
            )}
            {page.rights.includes('author') && (
              <MenuItem>
                <button
                  type="button"
                  onClick={() => openCommand('metadata in the file')}
                  className="block w-full px-3 py-1.5 text-left data-focus:bg-petrol-tint"
                >
                  {wording.insertMetadataIntoTheFile}
                </button>
              </MenuItem>
            )}
            {page.rights.includes('author') && page.work && (
              <MenuItem>
                <button
                  type="button"
                  onClick={() => openCommand('add supporting file')}
                  className="block w-full px-3 py-1.5 text-left data-focus:bg-petrol-tint"
                >
                  {wording.addSupportingFile2}
                </button>
              </MenuItem>
            )}
            {page.rights.includes('author') && (
              <MenuItem>
                <button
                  type="button"
                  onClick={() => navigate(`/new?like=${encodeURIComponent(page.number)}`)}
                  className="block w-full border-t border-line-2 px-3 py-1.5 text-left data-focus:bg-petrol-tint"
                >
                  {wording.registerASimilarDocument}
                </button>
              </MenuItem>
            )}
          </MenuItems>
        </Menu>
      )}
      <AuthoringDialogs page={page} command={command} close={close} />
      {command === 'metadata in the file' && <FilePlaces page={page} close={close} />}
      {command === 'submit' && <SubmitDialog page={page} close={close} />}
      {command === 'revise' && <ReviseDialog page={page} close={close} />}
      <IdentityDialogs page={page} command={command} close={close} />
      <ReasonDialogs page={page} command={command} close={close} />
    </>
  );
};
