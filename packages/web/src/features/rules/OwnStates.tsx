import type { Unit } from '@kanonos/contract';
import { OWN_STATE_WITHIN, type OwnState } from '@kanonos/core';
import { Select, TextField } from '../../ui/controls.tsx';
import { UnitPicker } from '../../ui/UnitPicker.tsx';
import { useDraft } from '../../ui/useDraft.ts';
import { OrganisationDialog } from './OrganisationDialog.tsx';
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
  const { edit } = form;
  const { states } = form.draft;
  const change = (at: number, part: Partial<Organisation['ownStates'][number]>) =>
    edit({ states: states.map((one, i) => (i === at ? { ...one, ...part } : one)) });
  return (
    <OrganisationDialog
      title={wording.editOwnStates}
      about={<p>{wording.ownStatesAbout}</p>}
      saved={wording.ownStatesSaved}
      form={form}
      change={{ ownStates: states.filter(({ name }) => name.trim() !== '') }}
      close={close}
    >
      <div className="flex max-h-[50vh] flex-col gap-4 overflow-y-auto pr-1">
        {states.map((own, at) => (
          // biome-ignore lint/suspicious/noArrayIndexKey: a state is identified by its place while it is named
          <div key={at} className="flex flex-col gap-2 border-l-3 border-line pl-2.5">
            <div className="grid grid-cols-[minmax(0,1fr)_140px_auto] items-end gap-2">
              <TextField
                label={wording.ownStateName}
                maxLength={40}
                value={own.name}
                onChange={(name) => change(at, { name })}
              />
              <Select
                label={wording.ownStateWithin}
                value={own.within}
                options={OWN_STATE_WITHIN.map((value) => ({ value, text: wording.ownStateWithins[value] }))}
                onChange={(within) => change(at, { within: within as OwnState['within'] })}
              />
              <button type="button" className="btn" onClick={() => edit({ states: states.filter((_, i) => i !== at) })}>
                {wording.remove}
              </button>
            </div>
            <UnitPicker
              label={wording.ownStateUnits}
              units={units}
              value={own.unitIds}
              onChange={(unitIds) => change(at, { unitIds })}
            />
          </div>
        ))}
        <div>
          <button type="button" className="btn !h-6" onClick={() => edit({ states: [...states, NEW] })}>
            {wording.addOwnState}
          </button>
        </div>
      </div>
    </OrganisationDialog>
  );
};
