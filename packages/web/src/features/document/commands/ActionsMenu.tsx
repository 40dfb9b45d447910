import {
  Combobox,
  ComboboxInput,
  ComboboxOption,
  ComboboxOptions,
  Popover,
  PopoverButton,
  PopoverPanel,
} from '@headlessui/react';
import { api, type DocumentPage } from '@kanonos/contract';
import type { Right } from '@kanonos/core';
import { useQuery } from '@tanstack/react-query';
import { useEffect, useState } from 'react';
import { useNavigate, useSearchParams } from 'react-router';
import { ask } from '../../../app/client.ts';
import { useOffer } from '../../../app/offers.tsx';
import { useMe } from '../../../app/session.tsx';
import { wording } from '../wording.ts';
import { AddressesDialog } from './AddressesDialog.tsx';
import { AuthoringDialogs } from './AuthoringDialogs.tsx';
import { type Action, actionsOf, matching } from './actions.ts';
import { FilePlaces } from './FilePlaces.tsx';
import { IdentityDialogs } from './IdentityDialogs.tsx';
import { leadsToWork, useOpenCommand } from './openCommand.ts';
import { ReasonDialogs } from './ReasonDialogs.tsx';
import { ReviseDialog } from './ReviseDialog.tsx';
import { SubmitDialog } from './SubmitDialog.tsx';

/** What can be done with a document, found by typing; what is not possible now is folded below, with the reasons. */
export const ActionsMenu = ({ page, isSettled = true }: { page: DocumentPage; isSettled?: boolean }) => {
  const me = useMe();
  const [params] = useSearchParams();
  const openCommand = useOpenCommand(page);
  const navigate = useNavigate();
  const asked = isSettled ? params.get('command') : null;
  // A link to a command names no revision: what is in work is shown first.
  const leads = asked !== null && params.get('rev') === null && leadsToWork(asked, page);
  // biome-ignore lint/correctness/useExhaustiveDependencies: once for each command that the address names
  useEffect(() => {
    if (leads) openCommand(asked);
  }, [leads, asked]);
  const command = leads ? null : asked;
  const close = () => openCommand(null);
  const { groups, impossible } = actionsOf(page, me.organisation.zone);
  const run = ({ to }: Action) => ('address' in to ? navigate(to.address) : openCommand(to.command));
  const possible = groups.flatMap((group) => group.actions);
  useOffer(
    page.view ? null : { subject: page.number, possible, impossible, choose: run },
    [page.stateTag, ...possible.map(({ key }) => key)].join(' '),
  );
  return (
    <>
      {groups.length + impossible.length > 0 && !page.view && (
        <Popover>
          <PopoverButton className="btn !h-6">{wording.actions}</PopoverButton>
          <PopoverPanel
            anchor="bottom end"
            className="z-40 flex w-80 flex-col border border-ink bg-sheet shadow-md [--anchor-gap:4px] [--anchor-padding:8px]"
          >
            {({ close: fold }) => (
              <ActionList
                number={page.number}
                groups={groups}
                impossible={impossible}
                choose={(action) => {
                  fold();
                  run(action);
                }}
              />
            )}
          </PopoverPanel>
        </Popover>
      )}
      <AuthoringDialogs page={page} command={command} close={close} />
      {command === 'metadata in the file' && <FilePlaces page={page} close={close} />}
      {command === 'addresses' && <AddressesDialog page={page} close={close} />}
      {command === 'submit' && <SubmitDialog page={page} close={close} />}
      {command === 'revise' && <ReviseDialog page={page} close={close} />}
      <IdentityDialogs page={page} command={command} close={close} />
      <ReasonDialogs page={page} command={command} close={close} />
    </>
  );
};

const NAMED = 3;

/** Who could do what I lack the right for. */
const WhoCould = ({ number, right }: { number: string; right: Right }) => {
  const { data } = useQuery({
    ...ask(api.rights.holders, { params: { document: number }, query: { right } }),
    staleTime: 60_000,
  });
  if (!data || data.holders.length === 0) return null;
  const names = data.holders.slice(0, NAMED).join(', ');
  const more = data.holders.length - NAMED;
  return <>{wording.couldBeDoneBy(more > 0 ? wording.andMorePeople(names, more) : names)}</>;
};

/** The list itself: one field to type in, arrows to walk, Enter to choose. */
export const ActionList = ({
  number,
  groups,
  impossible,
  choose,
}: ReturnType<typeof actionsOf> & { number: string; choose: (action: Action) => void }) => {
  const [typed, setTyped] = useState('');
  const [unfolded, setUnfolded] = useState(false);
  const shown = groups
    .map(({ name, actions }) => ({ name, actions: matching(actions, typed) }))
    .filter(({ actions }) => actions.length > 0);
  const blocked = matching(impossible, typed);
  const showsBlocked = blocked.length > 0 && (unfolded || typed.trim() !== '' || shown.length === 0);
  return (
    <Combobox immediate value={null as Action | null} onChange={(action: Action | null) => action && choose(action)}>
      <ComboboxInput
        autoFocus
        aria-label={wording.findAnAction}
        placeholder={wording.findAnAction}
        autoComplete="off"
        className="border-b border-line bg-transparent px-3 py-2 outline-none"
        onChange={(event) => setTyped(event.target.value)}
      />
      <ComboboxOptions static modal={false} className="min-h-0 flex-1 overflow-y-auto py-1">
        {shown.map(({ name, actions }) => (
          <div key={name} role="group" aria-label={name} className="border-b border-line-2 py-1 last:border-0">
            <span aria-hidden className="cap block px-3 pb-0.5">
              {name}
            </span>
            {actions.map((action) => (
              <ComboboxOption
                key={action.key}
                value={action}
                className="cursor-pointer px-3 py-1 data-focus:bg-petrol-tint"
              >
                {action.name}
              </ComboboxOption>
            ))}
          </div>
        ))}
        {showsBlocked && (
          <div role="group" aria-label={wording.notPossibleNow} className="py-1">
            <span aria-hidden className="cap block px-3 pb-0.5">
              {wording.notPossibleNow}
            </span>
            {blocked.map((action) => (
              <ComboboxOption key={action.key} value={action} disabled className="px-3 py-1 text-ink-3">
                {action.name}
                <span className="block text-[11.5px]">
                  {action.reason} {action.lacks && <WhoCould number={number} right={action.lacks} />}
                </span>
              </ComboboxOption>
            ))}
          </div>
        )}
        {shown.length + blocked.length === 0 && <p className="px-3 py-1.5 text-ink-3">{wording.noMatchingAction}</p>}
      </ComboboxOptions>
      {blocked.length > 0 && !showsBlocked && (
        <button
          type="button"
          className="border-t border-line px-3 py-1.5 text-left text-[12px] text-ink-2 hover:text-petrol"
          onClick={() => setUnfolded(true)}
        >
          {wording.showNotPossibleNow(blocked.length)}
        </button>
      )}
    </Combobox>
  );
};
