import { api } from '@kanonos/contract';
import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { ask } from '../../app/client.ts';
import { useMe } from '../../app/session.tsx';
import { useCommand } from '../../app/useCommand.ts';
import { CommandButton, TextField } from '../../ui/controls.tsx';
import { showInstant } from '../../ui/format.ts';
import { Refusals } from '../../ui/states.tsx';
import { wording } from './wording.ts';

/** Passwords of my desk programs, and how the filing plan is opened as a drive. */
export const Programs = () => {
  const { zone } = useMe().organisation;
  const me = useMe();
  const { data } = useQuery(ask(api.programs.programPasswords));
  const [name, setName] = useState('');
  const [made, setMade] = useState('');
  const add = useCommand(api.programs.addProgramPassword, undefined, ({ password }) => {
    setMade(password);
    setName('');
  });
  const end = useCommand(api.programs.endProgramPassword, wording.thisApplicationPasswordNoLongerWorks);
  return (
    <section className="pane col-span-2 flex flex-col gap-3 p-4" aria-label={wording.applicationPasswords}>
      <h2>{wording.desktopApplications}</h2>
      <p className="text-ink-2">
        {wording.desktopApplicationsCanOpenSaveAnd} <span className="num">{me.signInName}</span>{' '}
        {wording.withAPasswordOfItsOwn}
      </p>
      {data && (
        <dl className="grid grid-cols-[150px_minmax(0,1fr)] gap-x-3 gap-y-1 text-[12.5px] max-md:grid-cols-1">
          <dt className="cap pt-0.5">{wording.address}</dt>
          <dd className="num break-all">{data.address}</dd>
          <dt className="cap pt-0.5">{wording.windows}</dt>
          <dd>{wording.thisPcMapNetworkDriveAnd}</dd>
          <dt className="cap pt-0.5">{wording.macOS}</dt>
          <dd>{wording.finderGoConnectToServerAnd}</dd>
          <dt className="cap pt-0.5">{wording.linux}</dt>
          <dd>
            {wording.filesOtherLocations} <span className="num break-all">{data.address.replace(/^http/, 'dav')}</span>
          </dd>
        </dl>
      )}
      <ul>
        {data?.passwords.map((one) => (
          <li key={one.id} className="flex items-center gap-3 border-b border-line-2 py-1.5">
            <span className="flex-1">
              {one.name}
              <span className="text-ink-3">
                {wording.createdMadeAtPart(
                  showInstant(one.madeAt, zone),
                  one.usedAt ? wording.usedLast(showInstant(one.usedAt, zone)) : wording.notUsedYet,
                )}
              </span>
            </span>
            <button type="button" className="btn !h-6" onClick={() => end.mutate({ params: { id: one.id } })}>
              {wording.removePassword}
            </button>
          </li>
        ))}
      </ul>
      {made && (
        <p className="border-l-3 border-petrol bg-petrol-tint px-2.5 py-1.5">
          <b className="num text-[14px] select-all">{made}</b>
          <span className="block text-[12px] text-ink-2">{wording.shownOnlyOnceEnterItIn}</span>
        </p>
      )}
      <form
        className="grid grid-cols-[minmax(0,320px)_auto] items-end gap-3"
        onSubmit={(event) => {
          event.preventDefault();
          add.mutate({ body: { name } });
        }}
      >
        <TextField
          label={wording.application}
          required
          maxLength={80}
          value={name}
          placeholder={wording.wordOnMyLaptop}
          onChange={setName}
        />
        <CommandButton busy={add.isPending} className="mb-1 justify-self-start">
          {wording.createPassword}
        </CommandButton>
      </form>
      <Refusals error={add.error ?? end.error} />
    </section>
  );
};
