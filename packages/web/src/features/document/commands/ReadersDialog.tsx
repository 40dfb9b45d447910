import { api, type DocumentPage, type Requirement } from '@kanonos/contract';
import { useQuery } from '@tanstack/react-query';
import { ask } from '../../../app/client.ts';
import { useCommand } from '../../../app/useCommand.ts';
import { Select, TextArea, TextField } from '../../../ui/controls.tsx';
import { FormDialog } from '../../../ui/FormDialog.tsx';
import { count } from '../../../ui/format.ts';
import { PeoplePicker } from '../../../ui/PersonPicker.tsx';
import { UnitPicker } from '../../../ui/UnitPicker.tsx';
import { useDraft } from '../../../ui/useDraft.ts';
import { wording } from '../wording.ts';

const CHANGE_KINDS = ['minor', 'major', 'editorial'] as const;

const draftOf = (requirement: Requirement | undefined) => ({
  units: requirement?.audience.units.map((unit) => unit.id) ?? [],
  everyone: requirement?.audience.everyone ?? false,
  people: requirement?.audience.people ?? [],
  except: requirement?.audience.except ?? [],
  instructions: requirement?.instructions ?? '',
  days: String(requirement?.workingDays ?? 10),
  newJoinerDays: String(requirement?.newJoinerDays ?? 10),
  beforeInForce: requirement?.beforeInForce ?? false,
  perChange: (requirement?.perChange ?? {
    minor: 'carry over',
    major: 'read the changes',
    editorial: 'carry over',
  }) as Record<string, string>,
});

/** Names who must read a document: units, people, who is left out, instructions, days, and what a change asks of whom. */
export const ReadersDialog = ({
  page,
  requirement: now,
  close,
}: {
  page: DocumentPage;
  requirement: Requirement | undefined;
  close: () => void;
}) => {
  const { data: units } = useQuery(ask(api.people.units));
  const form = useDraft(now, draftOf);
  const { base: requirement, draft, edit } = form;
  const command = useCommand(
    api.reading.setRequirement,
    ({ people: n }) => wording.mustReadIt(count(n, 'person', 'people')),
    close,
  );
  return (
    <FormDialog
      title={wording.editReadersOf(page.number)}
      columns
      of={form}
      command={command}
      button={wording.save}
      onSubmit={() =>
        command.mutate({
          params: { document: page.id },
          body: {
            everyone: draft.everyone,
            unitIds: draft.units,
            personIds: draft.people.map((person) => person.id),
            exceptPersonIds: draft.except.map((person) => person.id),
            kind: 'read and sign',
            instructions: draft.instructions,
            workingDays: Number(draft.days),
            newJoinerDays: Number(draft.newJoinerDays),
            perChange: draft.perChange as Record<'minor', 'read all'>,
            beforeInForce: draft.beforeInForce,
            rowVersion: requirement?.rowVersion ?? null,
          },
        })
      }
      onClose={close}
    >
      <div className="col-span-2">
        <UnitPicker
          label={wording.departmentsRolesGroupsSites}
          units={units?.units ?? []}
          value={draft.units}
          onChange={(chosen) => edit({ units: chosen })}
          everyone={{ on: draft.everyone, onChange: (everyone) => edit({ everyone }) }}
        />
      </div>
      <PeoplePicker label={wording.namedPeople} value={draft.people} onChange={(people) => edit({ people })} />
      <PeoplePicker label={wording.except} value={draft.except} onChange={(except) => edit({ except })} />
      <TextArea
        wide
        label={wording.instructions}
        optional
        rows={2}
        value={draft.instructions}
        onChange={(value) => edit({ instructions: value })}
      />
      <TextField
        label={wording.workingDaysForCurrentStaff}
        inputMode="numeric"
        required
        value={draft.days}
        onChange={(value) => edit({ days: value })}
      />
      <TextField
        label={wording.workingDaysForNewJoiners}
        inputMode="numeric"
        required
        value={draft.newJoinerDays}
        onChange={(value) => edit({ newJoinerDays: value })}
      />
      {CHANGE_KINDS.map((kind) => (
        <Select
          key={kind}
          label={wording.afterChangeReadersWhoSignedBefore(kind === 'editorial' ? 'an' : 'a', kind)}
          value={draft.perChange[kind] ?? 'read all'}
          onChange={(value) => edit({ perChange: { ...draft.perChange, [kind]: value } })}
        >
          <option value="read all">{wording.readAllOfIt}</option>
          <option value="read the changes">{wording.readTheChanges}</option>
          <option value="carry over">{wording.areCarriedOver}</option>
        </Select>
      ))}
      <label className="flex items-center gap-2 self-end pb-2">
        <input
          type="checkbox"
          className="accent-petrol"
          checked={draft.beforeInForce}
          onChange={(event) => edit({ beforeInForce: event.target.checked })}
        />
        {wording.mayBeReadBeforeItComes}
      </label>
    </FormDialog>
  );
};
