import { api, type PersonDetail } from '@kanonos/contract';
import { ORGANISATION_RIGHTS } from '@kanonos/core';
import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { ask } from '../../app/client.ts';
import { useMe } from '../../app/session.tsx';
import { useCommand } from '../../app/useCommand.ts';
import { CommandButton, Dialog, Select, TextArea } from '../../ui/controls.tsx';
import { DateField } from '../../ui/DateField.tsx';
import { showDay } from '../../ui/format.ts';
import { besidesMeanwhile, Meanwhile } from '../../ui/Meanwhile.tsx';
import { PeoplePicker } from '../../ui/PersonPicker.tsx';
import { Failed, Loading, Refusals } from '../../ui/states.tsx';
import { useDraft } from '../../ui/useDraft.ts';
import { SeeAsDialog } from '../rights/SeeAsDialog.tsx';
import { NameAndMail } from './NameAndMail.tsx';
import { wording } from './wording.ts';

/** One person: name and rights, dated memberships, reset and deactivation. */
export const PersonDialog = ({ id, close }: { id: string; close: () => void }) => {
  const me = useMe();
  const [seeing, setSeeing] = useState(false);
  const { data, error, isPending } = useQuery(ask(api.people.detail, { params: { id } }));
  return (
    <Dialog open onClose={close} title={data?.name ?? wording.person} wide>
      {isPending ? (
        <Loading what={wording.thePerson} />
      ) : error ? (
        <Failed error={error} />
      ) : (
        <>
          <Basics now={data} />
          <Memberships person={data} />
          {data.state !== 'deactivated' && <Leaving person={data} />}
        </>
      )}
      <span className="flex gap-2 self-end">
        {data && data.state !== 'deactivated' && data.id !== me.id && me.organisationRights.includes('administer') && (
          <button type="button" className="btn" onClick={() => setSeeing(true)}>
            {wording.seeAs(data.name)}
          </button>
        )}
        <button type="button" className="btn" onClick={close}>
          {wording.close}
        </button>
      </span>
      {seeing && data && <SeeAsDialog person={data} close={() => setSeeing(false)} done={close} />}
    </Dialog>
  );
};

const Basics = ({ now }: { now: PersonDetail }) => {
  const me = useMe();
  const form = useDraft(now, ({ name, email, organisationRights }) => ({ name, email, organisationRights }));
  const { base: person, draft, edit } = form;
  const rights = draft.organisationRights;
  const command = useCommand(api.people.change, wording.saved, form.saved);
  return (
    <form
      className="grid grid-cols-2 max-md:grid-cols-1 gap-3"
      onSubmit={(event) => {
        event.preventDefault();
        command.mutate({
          params: { id: person.id },
          body: { ...draft, rowVersion: person.rowVersion },
        });
      }}
    >
      <div className="col-span-2 empty:hidden">
        <Meanwhile of={form} />
      </div>
      <p className="col-span-2 text-ink-2">
        {wording.signInName} <span className="num">{person.signInName}</span>
        {wording.stateSinceSince(person.state, showDay(person.since))}
        {person.until && wording.untilUntil(showDay(person.until))}
      </p>
      <NameAndMail value={draft} onChange={edit} />
      <fieldset
        className="col-span-2 flex flex-wrap items-center gap-3"
        disabled={!me.organisationRights.includes('administer')}
      >
        <legend className="cap">{wording.organisationWideRights}</legend>
        {ORGANISATION_RIGHTS.map((right) => (
          <label key={right} className="flex items-center gap-1.5">
            <input
              type="checkbox"
              className="accent-petrol"
              checked={rights.includes(right)}
              onChange={(event) =>
                edit({
                  organisationRights: event.target.checked ? [...rights, right] : rights.filter((r) => r !== right),
                })
              }
            />
            {right}
          </label>
        ))}
      </fieldset>
      <div className="col-span-2 flex items-center justify-end gap-2">
        <Refusals error={besidesMeanwhile(command.error, form)} />
        <CommandButton busy={command.isPending} disabled={form.meanwhile !== null}>
          {wording.save}
        </CommandButton>
      </div>
    </form>
  );
};

const Memberships = ({ person }: { person: PersonDetail }) => {
  const me = useMe();
  const { data } = useQuery(ask(api.people.units));
  const [kind, setKind] = useState<'department' | 'role' | 'group' | 'site' | 'supervisor'>('department');
  const [unit, setUnit] = useState('');
  const [supervisor, setSupervisor] = useState<{ id: string; name: string }[]>([]);
  const [from, setFrom] = useState(me.organisation.today);
  const add = useCommand(api.people.setMembership, wording.membershipAdded);
  const end = useCommand(api.people.endMembership, wording.membershipEnded);
  const refId = kind === 'supervisor' ? supervisor[0]?.id : unit;
  return (
    <section className="border-t border-line pt-3">
      <h2>{wording.memberships}</h2>
      <ul className="my-1.5">
        {person.memberships.map((m) => (
          <li key={m.id} className="flex items-center gap-2 border-b border-line-2 py-1">
            <span className="w-24 text-ink-2">{m.kind}</span>
            <b className="flex-1 font-[550]">{m.name}</b>
            <span className="text-ink-2">
              {showDay(m.from)} – {m.to ? showDay(m.to) : 'on'}
            </span>
            {!m.to && (
              <button
                type="button"
                className="btn !h-6"
                disabled={end.isPending}
                onClick={() =>
                  end.mutate({ params: { id: person.id, membership: m.id }, body: { to: me.organisation.today } })
                }
              >
                {wording.endToday}
              </button>
            )}
          </li>
        ))}
      </ul>
      <form
        className="grid grid-cols-[120px_minmax(0,1fr)_150px_auto] items-end gap-2"
        onSubmit={(event) => {
          event.preventDefault();
          if (refId) add.mutate({ params: { id: person.id }, body: { kind, refId, from } });
        }}
      >
        <Select
          label={wording.kind}
          value={kind}
          onChange={(value) => setKind(value as typeof kind)}
          options={['department', 'supervisor', 'role', 'group', 'site'].map((k) => ({ value: k, text: k }))}
        />
        {kind === 'supervisor' ? (
          <PeoplePicker label={wording.who} single value={supervisor} onChange={setSupervisor} />
        ) : (
          <Select
            label={wording.unit}
            value={unit}
            onChange={setUnit}
            empty={'–'}
            options={data?.units.filter((u) => u.kind === kind).map((u) => ({ value: u.id, text: u.name }))}
          />
        )}
        <DateField label={wording.from} required value={from} onChange={setFrom} />
        <CommandButton busy={add.isPending} disabled={!refId} className="mb-1">
          {wording.add}
        </CommandButton>
      </form>
      <Refusals error={add.error ?? end.error} />
    </section>
  );
};

const Leaving = ({ person }: { person: PersonDetail }) => {
  const [reason, setReason] = useState('');
  const reset = useCommand(api.people.reset, wording.resetStartedALinkHasBeen, () => setReason(''));
  const leave = useCommand(api.people.deactivate, wording.isDeactivated(person.name), () => setReason(''));
  return (
    <section className="flex flex-col gap-2 border-t border-line pt-3">
      <TextArea
        label={wording.reasonForTheResetOrDeactivation}
        rows={1}
        value={reason}
        onChange={setReason}
        hint={wording.aResetMakesThePasswordInvalid}
      />
      <Refusals error={reset.error ?? leave.error} />
      <div className="flex justify-end gap-2">
        <button
          type="button"
          className="btn"
          disabled={!reason.trim() || reset.isPending}
          onClick={() => reset.mutate({ params: { id: person.id }, body: { reason } })}
        >
          {wording.resetPassword}
        </button>
        <button
          type="button"
          className="btn btn-danger"
          disabled={!reason.trim() || leave.isPending}
          onClick={() => leave.mutate({ params: { id: person.id }, body: { reason } })}
        >
          {wording.deactivate}
        </button>
      </div>
    </section>
  );
};
