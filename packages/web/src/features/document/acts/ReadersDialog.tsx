import { api, type DocumentPage, type Requirement } from '@kanonos/contract';
import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { ask } from '../../../app/client.ts';
import { useAct } from '../../../app/useAct.ts';
import { Select, TextArea, TextField } from '../../../ui/controls.tsx';
import { FormDialog } from '../../../ui/FormDialog.tsx';
import { count } from '../../../ui/format.ts';
import { PeoplePicker } from '../../../ui/PersonPicker.tsx';
import { UnitPicker } from '../../../ui/UnitPicker.tsx';

const CHANGE_KINDS = ['minor', 'major', 'editorial'] as const;

/** Names who must read a document: units, people, who is left out, instructions, days, and what a change asks of whom. */
export const ReadersDialog = ({
  page,
  requirement,
  close,
}: {
  page: DocumentPage;
  requirement: Requirement | undefined;
  close: () => void;
}) => {
  const { data: units } = useQuery(ask(api.people.units));
  const [chosen, setChosen] = useState<string[]>(requirement?.audience.units.map((u) => u.id) ?? []);
  const [everyone, setEveryone] = useState(requirement?.audience.everyone ?? false);
  const [people, setPeople] = useState(requirement?.audience.people ?? []);
  const [except, setExcept] = useState(requirement?.audience.except ?? []);
  const [instructions, setInstructions] = useState(requirement?.instructions ?? '');
  const [days, setDays] = useState(String(requirement?.workingDays ?? 10));
  const [newcomerDays, setNewcomerDays] = useState(String(requirement?.newcomerDays ?? 10));
  const [before, setBefore] = useState(requirement?.beforeInForce ?? false);
  const [perChange, setPerChange] = useState<Record<string, string>>(
    requirement?.perChange ?? { minor: 'carry over', major: 'read the changes', editorial: 'carry over' },
  );
  const act = useAct(
    api.reading.setRequirement,
    ({ people: n }) => `${count(n, 'person', 'people')} must read it.`,
    close,
  );
  return (
    <FormDialog
      title={`Who must read ${page.number}`}
      columns
      act={act}
      button="Save"
      onSubmit={() =>
        act.mutate({
          params: { document: page.id },
          body: {
            everyone,
            unitIds: chosen,
            personIds: people.map((p) => p.id),
            exceptPersonIds: except.map((p) => p.id),
            kind: 'read and sign',
            instructions,
            workingDays: Number(days),
            newcomerDays: Number(newcomerDays),
            perChange: perChange as Record<'minor', 'read all'>,
            beforeInForce: before,
            rowVersion: requirement?.rowVersion ?? null,
          },
        })
      }
      onClose={close}
    >
      <div className="col-span-2">
        <UnitPicker
          label="Departments, roles, groups, sites"
          units={units?.units ?? []}
          value={chosen}
          onChange={setChosen}
          everyone={{ on: everyone, onChange: setEveryone }}
        />
      </div>
      <PeoplePicker label="Named people" value={people} onChange={setPeople} />
      <PeoplePicker label="Except" value={except} onChange={setExcept} />
      <div className="col-span-2">
        <TextArea
          label="Instructions"
          optional
          rows={2}
          value={instructions}
          onChange={(event) => setInstructions(event.target.value)}
        />
      </div>
      <TextField
        label="Working days, people in place"
        inputMode="numeric"
        required
        value={days}
        onChange={(event) => setDays(event.target.value)}
      />
      <TextField
        label="Working days, newcomers"
        inputMode="numeric"
        required
        value={newcomerDays}
        onChange={(event) => setNewcomerDays(event.target.value)}
      />
      {CHANGE_KINDS.map((kind) => (
        <Select
          key={kind}
          label={`After ${kind === 'editorial' ? 'an' : 'a'} ${kind} change, who signed before`}
          value={perChange[kind] ?? 'read all'}
          onChange={(event) => setPerChange({ ...perChange, [kind]: event.target.value })}
        >
          <option value="read all">reads all</option>
          <option value="read the changes">reads the changes</option>
          <option value="carry over">is carried over</option>
        </Select>
      ))}
      <label className="flex items-center gap-2 self-end pb-2">
        <input
          type="checkbox"
          className="accent-petrol"
          checked={before}
          onChange={(event) => setBefore(event.target.checked)}
        />
        may be read before it is in force
      </label>
    </FormDialog>
  );
};
