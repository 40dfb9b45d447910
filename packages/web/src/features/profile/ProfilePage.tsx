import { api } from '@kanonos/contract';
import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { ask } from '../../app/client.ts';
import { useMe } from '../../app/session.tsx';
import { useCommand } from '../../app/useCommand.ts';
import { useSignOut } from '../../app/useSignOut.ts';
import { Choice, CommandButton, TextField } from '../../ui/controls.tsx';
import { showDay } from '../../ui/format.ts';
import { besidesMeanwhile, Meanwhile } from '../../ui/Meanwhile.tsx';
import { PeoplePicker } from '../../ui/PersonPicker.tsx';
import { Refusals } from '../../ui/states.tsx';
import { useDraft } from '../../ui/useDraft.ts';
import { Programs } from './Programs.tsx';

/** My own profile: name shown, how mails come, password, absence with a deputy. */
export const ProfilePage = () => {
  const me = useMe();
  const signOut = useSignOut('everywhere');
  return (
    <div className="flex-1 overflow-y-auto px-4 py-3.5">
      <div className="mb-3 flex items-end justify-between">
        <div>
          <h1>{me.name}</h1>
          <span className="text-ink-2">
            <span className="num">{me.signInName}</span> · {me.email} · {me.department ?? 'outside party'}
          </span>
        </div>
        <button type="button" className="btn" disabled={signOut.isPending} onClick={() => signOut.mutate()}>
          Sign out on all devices
        </button>
      </div>
      <div className="grid max-w-4xl grid-cols-2 items-start gap-3">
        <Shown />
        <Password />
        <Absences />
        <Programs />
      </div>
    </div>
  );
};

const MODES = [
  ['at once', 'At once', 'a mail for each task and each decision'],
  ['daily', 'One summary a day', 'in the morning, covering the previous day'],
  ['desk only', 'Desk only', 'no mails; your tasks are on your Desk'],
] as const;

const Shown = () => {
  const me = useMe();
  const form = useDraft(me, ({ mailMode }) => ({ mailMode }));
  const { draft, edit } = form;
  const command = useCommand(api.session.changeProfile, 'Saved.', form.saved);
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
        <p className="cap">Name</p>
        <p className="font-semibold">{me.name}</p>
        <p className="text-[12px] text-ink-2">
          Printed on your signatures. A people administrator changes it, for example after a marriage.
        </p>
      </div>
      <fieldset>
        <legend className="cap">Mail notifications</legend>
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
        Save
      </CommandButton>
    </form>
  );
};

const Password = () => {
  const [present, setPresent] = useState('');
  const [next, setNext] = useState('');
  const command = useCommand(
    api.session.changePassword,
    'Password changed; other devices have been signed out.',
    () => {
      setPresent('');
      setNext('');
    },
  );
  return (
    <form
      className="pane flex flex-col gap-3 p-4"
      onSubmit={(event) => {
        event.preventDefault();
        command.mutate({ body: { present, next } });
      }}
    >
      <h2>Password</h2>
      <TextField
        label="Current password"
        type="password"
        autoComplete="current-password"
        required
        value={present}
        onChange={(event) => setPresent(event.target.value)}
      />
      <TextField
        label="New password"
        type="password"
        autoComplete="new-password"
        required
        value={next}
        onChange={(event) => setNext(event.target.value)}
        hint="At least 12 characters; a few words make a good one"
      />
      <Refusals error={command.error} />
      <CommandButton busy={command.isPending} className="self-end">
        Change password
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
  const add = useCommand(api.session.addAbsence, 'Absence saved.', () => setTo(''));
  const end = useCommand(api.session.endAbsence, 'Absence removed.');
  return (
    <section className="pane col-span-2 flex flex-col gap-3 p-4">
      <h2>Absence</h2>
      <ul>
        {data?.mine.map((absence) => (
          <li key={absence.id} className="flex items-center gap-3 border-b border-line-2 py-1.5">
            <span className="flex-1">
              {showDay(absence.from)} – {showDay(absence.to)}, deputy {absence.deputy?.name ?? 'nobody'}
            </span>
            <button type="button" className="btn !h-6" onClick={() => end.mutate({ params: { id: absence.id } })}>
              Delete
            </button>
          </li>
        ))}
        {data?.standingInFor.map((s) => (
          <li key={s.person.id + s.from} className="border-b border-line-2 py-1.5 text-ochre">
            You are acting for {s.person.name}, {showDay(s.from)} – {showDay(s.to)}
          </li>
        ))}
      </ul>
      <form
        className="grid grid-cols-[150px_150px_minmax(0,1fr)_auto] items-end gap-3"
        onSubmit={(event) => {
          event.preventDefault();
          add.mutate({ body: { from, to, deputyId: deputy[0]?.id ?? null } });
        }}
      >
        <TextField
          label="First day"
          type="date"
          required
          value={from}
          onChange={(event) => setFrom(event.target.value)}
        />
        <TextField label="Last day" type="date" required value={to} onChange={(event) => setTo(event.target.value)} />
        <PeoplePicker label="Deputy" single value={deputy} onChange={setDeputy} />
        <CommandButton busy={add.isPending} className="mb-1">
          Show
        </CommandButton>
      </form>
      <Refusals error={add.error ?? end.error} />
    </section>
  );
};
