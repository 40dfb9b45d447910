import { type AnswerOf, api, type FolderGrant, type PlanFolder } from '@kanonos/contract';
import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { ask } from '../../app/client.ts';
import { useCommand } from '../../app/useCommand.ts';
import { Select } from '../../ui/controls.tsx';
import { FormDialog } from '../../ui/FormDialog.tsx';
import { PeoplePicker } from '../../ui/PersonPicker.tsx';
import { ReasonField } from '../../ui/ReasonField.tsx';
import { RightTicks } from '../../ui/RightTicks.tsx';
import { Tick } from '../../ui/Tick.tsx';
import { useDraft } from '../../ui/useDraft.ts';
import { wording } from './wording.ts';

const grantInWords = (grant: FolderGrant): string =>
  grant.withheld ? wording.allAccessWithheld : grant.rights.join(', ') || 'nothing';

/** Who may do what in a folder: entries of its own, then those of the folders above, of which the nearest one counts. */
export const FolderRights = ({ folder }: { folder: PlanFolder }) => {
  const { data } = useQuery(ask(api.filing.grants, { params: { id: folder.id } }));
  const [editing, setEditing] = useState(false);
  if (!data) return null;
  const line = (grant: FolderGrant, from: string) => (
    <tr key={`${from} ${grant.subject.kind} ${grant.subject.id}`} className="border-t border-line-2">
      <td className="px-3 py-1">{grant.subject.name}</td>
      <td className={grant.withheld ? 'text-vermilion' : ''}>{grantInWords(grant)}</td>
      <td className="text-ink-3">{from}</td>
    </tr>
  );
  return (
    <div className="mt-5 max-w-4xl">
      <div className="mb-1 flex items-center justify-between">
        <h3 className="cap">{wording.rights}</h3>
        <button type="button" className="btn !h-6" onClick={() => setEditing(true)}>
          {wording.editRights}
        </button>
      </div>
      <table className="w-full border border-line bg-sheet">
        <thead className="bg-film-2 text-left">
          <tr>
            <th className="cap px-3 py-1">{wording.who}</th>
            <th className="cap">{wording.rights}</th>
            <th className="cap">{wording.setOn}</th>
          </tr>
        </thead>
        <tbody>
          {data.own.map((grant) => line(grant, wording.thisFolder))}
          {data.above.flatMap(({ folder: from, grants }) => grants.map((grant) => line(grant, from)))}
          {data.own.length === 0 && data.above.length === 0 && (
            <tr>
              <td colSpan={3} className="px-3 py-2 text-ink-3">
                {wording.nobodyHasRightsHere}
              </td>
            </tr>
          )}
        </tbody>
      </table>
      {editing && <EditRights folder={folder} now={data} close={() => setEditing(false)} />}
    </div>
  );
};

type Grants = AnswerOf<typeof api.filing.grants>;
const keyOf = ({ kind, id }: FolderGrant['subject']) => `${kind} ${id}`;

const EditRights = ({ folder, now, close }: { folder: PlanFolder; now: Grants; close: () => void }) => {
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
  const command = useCommand(api.filing.setGrants, wording.rightsSaved, close);
  const add = (subject: FolderGrant['subject']) => {
    if (grants.some((grant) => grant.subject.kind === subject.kind && grant.subject.id === subject.id)) return;
    setGrants([...grants, { key: keyOf(subject), subject, rights: ['see', 'read'], withheld: false }]);
  };
  const set = (index: number, change: Partial<FolderGrant>) =>
    setGrants(grants.map((grant, i) => (i === index ? { ...grant, ...change } : grant)));
  return (
    <FormDialog
      title={wording.rightsOn(folder.name)}
      wide
      about={<p className="text-ink-2">{wording.anEntryHereReplacesWhatThe}</p>}
      of={form}
      words={nameOf}
      command={command}
      button={wording.save}
      ready={reason.trim() !== ''}
      onSubmit={() =>
        command.mutate({
          params: { id: folder.id },
          body: {
            grants: grants.map(({ subject, rights, withheld }) => ({
              subject: { kind: subject.kind, id: subject.id },
              rights: withheld ? [] : rights,
              withheld,
            })),
            reason,
            rowVersion: form.base.rowVersion,
          },
        })
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
          onChange={(event) => {
            const unit = units.data?.units.find((one) => one.id === event.target.value);
            if (event.target.value === 'all') add({ kind: 'all', id: null, name: wording.everyoneInTheOrganisation });
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
