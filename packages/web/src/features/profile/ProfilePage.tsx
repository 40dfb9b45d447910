import { api } from '@kanonos/contract';
import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { ask } from '../../app/client.ts';
import { useMe } from '../../app/session.tsx';
import { useCommand } from '../../app/useCommand.ts';
import { useSignOut } from '../../app/useSignOut.ts';
import { Choice, CommandButton, PasswordField } from '../../ui/controls.tsx';
import { DateField } from '../../ui/DateField.tsx';
import { showDay } from '../../ui/format.ts';
import { besidesMeanwhile, Meanwhile } from '../../ui/Meanwhile.tsx';
import { Page } from '../../ui/Page.tsx';
import { PeoplePicker } from '../../ui/PersonPicker.tsx';
import { Refusals } from '../../ui/states.tsx';
import { useDraft } from '../../ui/useDraft.ts';
import { Programs } from './Programs.tsx';
import { wording } from './wording.ts';

/** My own profile: name shown, how mails come, password, absence with a deputy. */
export const ProfilePage = () => {
  const me = useMe();
  const signOut = useSignOut('everywhere');
  return (
    <Page
      title={me.name}
      about={
        <>
          <span className="num">{me.signInName}</span> ·{' '}
          {[me.email, me.department ?? (me.outside ? wording.outsideParty : '')].filter(Boolean).join(' · ')}
        </>
      }
      actions={
        <button type="button" className="btn" disabled={signOut.isPending} onClick={() => signOut.mutate()}>
          {wording.signOutOnAllDevices}
        </button>
      }
    >
      <div className="grid max-w-4xl grid-cols-2 items-start gap-3 max-md:grid-cols-1 max-md:[&>.col-span-2]:col-span-1">
        <Shown />
        <Password />
        <Absences />
        <Programs />
      </div>
    </Page>
  );
};

const MODES = [
  ['at once', wording.atOnce, wording.aMailForEachTaskAnd],
  ['daily', wording.oneSummaryADay, wording.inTheMorningCoveringThePrevious],
  ['desk only', wording.deskOnly, wording.noMailsYourTasksAreOn],
] as const;

const Shown = () => {
  const me = useMe();
  const form = useDraft(me, ({ mailMode }) => ({ mailMode }));
  const { draft, edit } = form;
  const command = useCommand(api.session.changeProfile, wording.saved, form.saved);
  return (
    <form
      className="pane flex flex-col gap-3 p-4"
      onSubmit={(event) => {
        event.preventDefault();
        command.mutate({ body: { ...draft, rowVersion: form.base.rowVersion } });
      }}
    >
      <Meanwhile of={form} />
      <div>
        <p className="cap">{wording.name}</p>
        <p className="font-semibold">{me.name}</p>
        <p className="text-[12px] text-ink-2">{wording.printedOnYourSignaturesAPeople}</p>
      </div>
      <fieldset>
        <legend className="cap">{wording.mailNotifications}</legend>
        {MODES.map(([value, title, about]) => (
          <Choice
            key={value}
            name="mail"
            title={title}
            about={about}
            checked={draft.mailMode === value}
            onChange={() => edit({ mailMode: value })}
          />
        ))}
      </fieldset>
      <Refusals error={besidesMeanwhile(command.error, form)} />
      <CommandButton busy={command.isPending} disabled={form.meanwhile !== null} className="self-end">
        {wording.save}
      </CommandButton>
    </form>
  );
};

const Password = () => {
  const [present, setPresent] = useState('');
  const [next, setNext] = useState('');
  const command = useCommand(api.session.changePassword, wording.passwordChangedOtherDevicesHaveBeen, () => {
    setPresent('');
    setNext('');
  });
  return (
    <form
      className="pane flex flex-col gap-3 p-4"
      onSubmit={(event) => {
        event.preventDefault();
        command.mutate({ body: { present, next } });
      }}
    >
      <h2>{wording.password}</h2>
      <PasswordField
        label={wording.currentPassword}
        autoComplete="current-password"
        value={present}
        onChange={setPresent}
      />
      <PasswordField
        label={wording.newPassword}
        autoComplete="new-password"
        value={next}
        onChange={setNext}
        hint={wording.atLeast12CharactersAFew}
      />
      <Refusals error={command.error} />
      <CommandButton busy={command.isPending} className="self-end">
        {wording.changePassword}
      </CommandButton>
    </form>
  );
};

const Absences = () => {
  const me = useMe();
  const { data } = useQuery(ask(api.session.absences));
  const [from, setFrom] = useState(me.organisation.today);
  const [to, setTo] = useState('');
  const [deputy, setDeputy] = useState<{ id: string; name: string }[]>([]);
  const add = useCommand(api.session.addAbsence, wording.absenceSaved, () => setTo(''));
  const end = useCommand(api.session.endAbsence, wording.absenceRemoved);
  return (
    <section className="pane col-span-2 flex flex-col gap-3 p-4">
      <h2>{wording.absence}</h2>
      <ul>
        {data?.mine.map((absence) => (
          <li key={absence.id} className="flex items-center gap-3 border-b border-line-2 py-1.5">
            <span className="flex-1">
              {wording.fromToDeputyDeputy(showDay(absence.from), showDay(absence.to), absence.deputy?.name ?? 'nobody')}
            </span>
            <button type="button" className="btn !h-6" onClick={() => end.mutate({ params: { id: absence.id } })}>
              {wording.delete}
            </button>
          </li>
        ))}
        {data?.standingInFor.map((s) => (
          <li key={s.person.id + s.from} className="border-b border-line-2 py-1.5 text-ochre">
            {wording.youAreActingFor(s.person.name, showDay(s.from), showDay(s.to))}
          </li>
        ))}
      </ul>
      <form
        className="grid grid-cols-[150px_150px_minmax(0,1fr)_auto] items-end gap-3 max-md:grid-cols-1"
        onSubmit={(event) => {
          event.preventDefault();
          add.mutate({ body: { from, to, deputyId: deputy[0]?.id ?? null } });
        }}
      >
        <DateField label={wording.firstDay} required value={from} onChange={setFrom} />
        <DateField label={wording.lastDay} required value={to} onChange={setTo} />
        <PeoplePicker label={wording.deputy} single value={deputy} onChange={setDeputy} />
        <CommandButton busy={add.isPending} className="mb-1">
          {wording.addAbsence}
        </CommandButton>
      </form>
      <Refusals error={add.error ?? end.error} />
    </section>
  );
};
