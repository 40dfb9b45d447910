import { api } from '@kanonos/contract';
import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { ask, call, refreshAll } from '../../app/client.ts';
import { useMe } from '../../app/session.tsx';
import { useCommand } from '../../app/useCommand.ts';
import { DateField } from '../../ui/DateField.tsx';
import { FormDialog } from '../../ui/FormDialog.tsx';
import { PeoplePicker } from '../../ui/PersonPicker.tsx';
import { Tick } from '../../ui/Tick.tsx';
import { toast } from '../../ui/toast.ts';
import { wording } from './wording.ts';

type Person = { id: string; name: string };

/** Enters the absence of somebody who fell ill, and hands over what waits for them to the deputy in the same step. */
export const AbsenceDialog = ({ of, close }: { of: Person | null; close: () => void }) => {
  const { today } = useMe().organisation;
  const [person, setPerson] = useState<Person[]>(of ? [of] : []);
  const [deputy, setDeputy] = useState<Person[]>([]);
  const [from, setFrom] = useState(today);
  const [to, setTo] = useState('');
  const [handsOver, setHandsOver] = useState(true);
  const [absent] = person;
  const [acting] = deputy;
  const { data } = useQuery({
    ...ask(api.rounds.open, { query: { person: absent?.id } }),
    enabled: absent !== undefined,
  });
  const waiting = absent ? (data?.rows ?? []) : [];
  const command = useCommand(api.people.addAbsence, wording.absenceEntered, () => {
    if (!absent || !acting || !handsOver || waiting.length === 0) return close();
    void handOver(absent, acting);
  });
  const handOver = async (away: Person, instead: Person) => {
    const change = { kind: 'reassign', from: away.id, to: instead.id } as const;
    const rounds = waiting.map(({ id }) => id);
    try {
      const body = { rounds, change, reason: wording.isAbsent(away.name) };
      const { changed, refused } = await call(api.rounds.change, { body });
      if (changed > 0) toast.success(wording.changed.reassign(changed));
      for (const one of refused) toast.error(`${one.number}: ${one.reasons.join(' ')}`);
    } catch (error) {
      // The absence is entered all the same; what waits can be reassigned from the list.
      toast.error((error as Error).message);
    }
    close();
    await refreshAll();
  };
  return (
    <FormDialog
      title={wording.enterAbsence}
      command={command}
      button={wording.enterAbsence}
      ready={absent !== undefined && from !== '' && to !== ''}
      onSubmit={() =>
        absent && command.mutate({ params: { id: absent.id }, body: { from, to, deputyId: acting?.id ?? null } })
      }
      onClose={close}
    >
      <PeoplePicker label={wording.person} single value={person} onChange={setPerson} />
      <div className="grid grid-cols-2 gap-3 max-md:grid-cols-1">
        <DateField label={wording.firstDay} value={from} onChange={setFrom} required />
        <DateField label={wording.lastDay} value={to} onChange={setTo} required />
      </div>
      <PeoplePicker label={wording.deputy} hint={wording.deputyHint} single value={deputy} onChange={setDeputy} />
      {acting && waiting.length > 0 && (
        <Tick checked={handsOver} onChange={setHandsOver}>
          {wording.reassignTasks(waiting.length, acting.name)}
          <span className="num block text-ink-2">{waiting.map(({ number }) => number).join(', ')}</span>
        </Tick>
      )}
    </FormDialog>
  );
};
