import { api } from '@kanonos/contract';
import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { ask } from '../../app/client.ts';
import { useMe } from '../../app/session.tsx';
import { useCommand } from '../../app/useCommand.ts';
import { Select, TextField } from '../../ui/controls.tsx';
import { FormDialog } from '../../ui/FormDialog.tsx';
import { PeoplePicker } from '../../ui/PersonPicker.tsx';
import { UnitPicker } from '../../ui/UnitPicker.tsx';

const nameFrom = (name: string) =>
  name
    .toLowerCase()
    .normalize('NFKD')
    .replace(/[^a-z0-9 .-]/g, '')
    .trim()
    .replace(/ +/g, '.');

/** Enters a person, who gets a mail with a link to set the first password. */
export const NewPersonDialog = ({ close }: { close: () => void }) => {
  const me = useMe();
  const { data } = useQuery(ask(api.people.units));
  const [name, setName] = useState('');
  const [signInName, setSignInName] = useState('');
  const [email, setEmail] = useState('');
  const [from, setFrom] = useState(me.organisation.today);
  const [department, setDepartment] = useState('');
  const [site, setSite] = useState('');
  const [supervisor, setSupervisor] = useState<{ id: string; name: string }[]>([]);
  const [chosen, setChosen] = useState<string[]>([]);
  const command = useCommand(api.people.add, `${name} added; the link to set a password has been sent.`, close);
  const units = data?.units ?? [];
  const ofKind = (kind: string) => units.filter((unit) => unit.kind === kind);
  const pick = (kind: string) =>
    ofKind(kind)
      .filter((unit) => chosen.includes(unit.id))
      .map((unit) => unit.id);
  return (
    <FormDialog
      title="Add person"
      columns
      command={command}
      button="Add and send link"
      onSubmit={() =>
        command.mutate({
          body: {
            name,
            signInName: signInName || nameFrom(name),
            email,
            from,
            departmentId: department || null,
            siteId: site || null,
            supervisorId: supervisor[0]?.id ?? null,
            roleIds: pick('role'),
            groupIds: pick('group'),
          },
        })
      }
      onClose={close}
    >
      <TextField label="Name" required value={name} onChange={(event) => setName(event.target.value)} />
      <TextField
        label="Sign-in name"
        required
        value={signInName || nameFrom(name)}
        onChange={(event) => setSignInName(event.target.value)}
        hint="Never given twice, even after the person has left"
      />
      <TextField
        label="Mail address"
        type="email"
        required
        value={email}
        onChange={(event) => setEmail(event.target.value)}
      />
      <TextField label="From" type="date" required value={from} onChange={(event) => setFrom(event.target.value)} />
      <Select label="Department" value={department} onChange={(event) => setDepartment(event.target.value)}>
        <option value="">–</option>
        {ofKind('department').map((unit) => (
          <option key={unit.id} value={unit.id}>
            {unit.name}
          </option>
        ))}
      </Select>
      <Select label="Site" optional value={site} onChange={(event) => setSite(event.target.value)}>
        <option value="">–</option>
        {ofKind('site').map((unit) => (
          <option key={unit.id} value={unit.id}>
            {unit.name}
          </option>
        ))}
      </Select>
      <PeoplePicker label="Supervisor" single value={supervisor} onChange={setSupervisor} />
      <UnitPicker
        label="Roles and groups"
        units={[...ofKind('role'), ...ofKind('group')]}
        value={chosen}
        onChange={setChosen}
      />
    </FormDialog>
  );
};
