import { api, type BodyInOf, type FolderGrant } from '@kanonos/contract';
import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { ask } from '../../app/client.ts';
import { Select } from '../../ui/controls.tsx';
import { FormDialog } from '../../ui/FormDialog.tsx';
import { PeoplePicker } from '../../ui/PersonPicker.tsx';
import { ReasonField } from '../../ui/ReasonField.tsx';
import { RightTicks } from '../../ui/RightTicks.tsx';
import { Tick } from '../../ui/Tick.tsx';
import { useDraft } from '../../ui/useDraft.ts';
import { wording } from './wording.ts';

const keyOf = ({ kind, id }: FolderGrant['subject']) => `${kind} ${id}`;

/** Entries as they are sent: who has which rights, or from whom everything is withheld. */
export type GivenRights = BodyInOf<typeof api.filing.setGrants>['grants'];

/** Changes the entries of a folder or document as a whole, with a reason. */
export const EditRights = <N extends { own: FolderGrant[] }>({
  name,
  about,
  now,
  command,
  save,
  close,
}: {
  /** The name of the folder, or the number of the document. */
  name: string;
  about: string;
  now: N;
  command: { isPending: boolean; error: Error | null };
  save: (grants: GivenRights, reason: string, seen: N) => void;
  close: () => void;
}) => {
  const units = useQuery({ ...ask(api.people.units), staleTime: 60_000 });
  const form = useDraft(now, ({ own }) => ({ rights: own.map((grant) => ({ ...grant, key: keyOf(grant.subject) })) }));
  const grants = form.draft.rights;
  const setGrants = (rights: typeof grants) => form.edit({ rights });
  const nameOf = (place: string) =>
    wording.theRightsOf(
      [...now.own, ...grants].find((one) => place.startsWith(`rights.${keyOf(one.subject)}`))?.subject.name ??
        wording.someoneNoLongerListed,
    );
  const [reason, setReason] = useState('');
  const add = (subject: FolderGrant['subject']) => {
    if (grants.some((grant) => grant.subject.kind === subject.kind && grant.subject.id === subject.id)) return;
    setGrants([...grants, { key: keyOf(subject), subject, rights: ['see', 'read'], withheld: false }]);
  };
  const set = (index: number, change: Partial<FolderGrant>) =>
    setGrants(grants.map((grant, i) => (i === index ? { ...grant, ...change } : grant)));
  return (
    <FormDialog
      title={wording.rightsOn(name)}
      wide
      about={<p className="text-ink-2">{about}</p>}
      of={form}
      words={nameOf}
      command={command}
      button={wording.save}
      ready={reason.trim() !== ''}
      onSubmit={() =>
        save(
          grants.map(({ subject, rights, withheld }) => ({
            subject: { kind: subject.kind, id: subject.id },
            rights: withheld ? [] : rights,
            withheld,
          })),
          reason,
          form.base,
        )
      }
      onClose={close}
    >
      <ul className="flex max-h-[40vh] flex-col gap-2 overflow-y-auto">
        {grants.map((grant, index) => (
          <li key={`${grant.subject.kind} ${grant.subject.id}`} className="border border-line-2 px-3 py-2">
            <div className="flex items-baseline justify-between">
              <b className="font-semibold">{grant.subject.name}</b>
              <button type="button" className="link" onClick={() => setGrants(grants.filter((_, i) => i !== index))}>
                {wording.removeEntry}
              </button>
            </div>
            {grant.subject.kind === 'person' && (
              <Tick checked={grant.withheld} onChange={(withheld) => set(index, { withheld })}>
                {wording.withholdAllAccessWhateverOthersAre}
              </Tick>
            )}
            {!grant.withheld && <RightTicks rights={grant.rights} onChange={(rights) => set(index, { rights })} />}
          </li>
        ))}
      </ul>
      <div className="grid grid-cols-2 gap-3">
        <Select
          label={wording.addDepartmentRoleOrGroup}
          value=""
          onChange={(value) => {
            const unit = units.data?.units.find((one) => one.id === value);
            if (value === 'all') add({ kind: 'all', id: null, name: wording.everyoneInTheOrganisation });
            else if (unit) add({ kind: 'unit', id: unit.id, name: unit.name });
          }}
        >
          <option value="">{wording.choose}</option>
          <option value="all">{wording.everyoneInTheOrganisation}</option>
          {units.data?.units.map((unit) => (
            <option key={unit.id} value={unit.id}>
              {unit.name}
            </option>
          ))}
        </Select>
        <PeoplePicker
          label={wording.addPerson}
          outside
          value={[]}
          onChange={(people) => {
            const [person] = people;
            if (person) add({ kind: 'person', id: person.id, name: person.name });
          }}
        />
      </div>
      <ReasonField value={reason} onChange={setReason} />
    </FormDialog>
  );
};
