import { api } from '@kanonos/contract';
import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { ask } from '../../app/client.ts';
import { useMe } from '../../app/session.tsx';
import { useCommand } from '../../app/useCommand.ts';
import { Select, TextField } from '../../ui/controls.tsx';
import { DateField } from '../../ui/DateField.tsx';
import { FormDialog } from '../../ui/FormDialog.tsx';
import { PeoplePicker } from '../../ui/PersonPicker.tsx';
import { UnitPicker } from '../../ui/UnitPicker.tsx';
import { signInNameFrom } from './signInName.ts';
import { wording } from './wording.ts';

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
  const command = useCommand(api.people.add, wording.addedTheLinkToSetA(name), close);
  const units = data?.units ?? [];
  const ofKind = (kind: string) => units.filter((unit) => unit.kind === kind);
  const pick = (kind: string) =>
    ofKind(kind)
      .filter((unit) => chosen.includes(unit.id))
      .map((unit) => unit.id);
  return (
    <FormDialog
      title={wording.addPerson}
      columns
      command={command}
      button={wording.addAndSendLink}
      onSubmit={() =>
        command.mutate({
          body: {
            name,
            signInName: signInName || signInNameFrom(name),
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
      <TextField label={wording.name} required value={name} onChange={setName} />
      <TextField
        label={wording.signInName}
        required
        value={signInName || signInNameFrom(name)}
        onChange={setSignInName}
        hint={wording.neverGivenTwiceEvenAfterThe}
      />
      <TextField label={wording.mailAddress} type="email" required value={email} onChange={setEmail} />
      <DateField label={wording.from} required value={from} onChange={setFrom} />
      <Select
        label={wording.department}
        value={department}
        onChange={setDepartment}
        empty={'–'}
        options={ofKind('department').map((unit) => ({ value: unit.id, text: unit.name }))}
      />
      <Select
        label={wording.site}
        optional
        value={site}
        onChange={setSite}
        empty={'–'}
        options={ofKind('site').map((unit) => ({ value: unit.id, text: unit.name }))}
      />
      <PeoplePicker label={wording.supervisor} single value={supervisor} onChange={setSupervisor} />
      <UnitPicker
        label={wording.rolesAndGroups}
        units={[...ofKind('role'), ...ofKind('group')]}
        value={chosen}
        onChange={setChosen}
      />
    </FormDialog>
  );
};
