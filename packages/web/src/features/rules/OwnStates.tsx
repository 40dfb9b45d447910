import type { Unit } from '@kanonos/contract';
import { OWN_STATE_WITHIN, type OwnState } from '@kanonos/core';
import { Select, TextField } from '../../ui/controls.tsx';
import { UnitPicker } from '../../ui/UnitPicker.tsx';
import { useDraft } from '../../ui/useDraft.ts';
import { EntriesDialog } from './EntriesDialog.tsx';
import type { Organisation } from './organisationBody.ts';
import { wording } from './wording.ts';

const NEW: Organisation['ownStates'][number] = { name: '', within: 'draft', unitIds: [] };

/** States of the organisation's own within draft and in review, and who may set them. */
export const OwnStates = ({
  organisation: now,
  units,
  close,
}: {
  organisation: Organisation;
  units: readonly Unit[];
  close: () => void;
}) => {
  const form = useDraft(now, ({ ownStates }) => ({ states: ownStates.length ? ownStates : [NEW] }));
  const { states } = form.draft;
  return (
    <EntriesDialog
      title={wording.editOwnStates}
      about={<p>{wording.ownStatesAbout}</p>}
      saved={wording.ownStatesSaved}
      form={form}
      change={{ ownStates: states.filter(({ name }) => name.trim() !== '') }}
      close={close}
      entries={states}
      edit={(changed) => form.edit({ states: changed })}
      added={NEW}
      addEntry={wording.addOwnState}
      firstLine="grid-cols-[minmax(0,1fr)_140px_auto]"
      fields={(own, change) => (
        <>
          <TextField
            label={wording.ownStateName}
            maxLength={40}
            value={own.name}
            onChange={(name) => change({ name })}
          />
          <Select
            label={wording.ownStateWithin}
            value={own.within}
            options={OWN_STATE_WITHIN.map((value) => ({ value, text: wording.ownStateWithins[value] }))}
            onChange={(within) => change({ within: within as OwnState['within'] })}
          />
        </>
      )}
      below={({ unitIds }, change) => (
        <UnitPicker
          label={wording.ownStateUnits}
          units={units}
          value={unitIds}
          onChange={(chosen) => change({ unitIds: chosen })}
        />
      )}
    />
  );
};
