import { api, type Step, type Unit } from '@kanonos/contract';
import { useState } from 'react';
import { useCommand } from '../../../app/useCommand.ts';
import { Select } from '../../../ui/controls.tsx';
import { DateField } from '../../../ui/DateField.tsx';
import { FormDialog } from '../../../ui/FormDialog.tsx';
import { showDay } from '../../../ui/format.ts';
import { ReasonField } from '../../../ui/ReasonField.tsx';
import { AssigneesEditor } from '../route/AssigneesEditor.tsx';
import { namedIn, type Place, type Table } from './cells.ts';
import { WhatChanges } from './WhatChanges.tsx';
import { wording } from './wording.ts';

const HOWS = ['replace', 'add', 'remove'] as const;
type How = (typeof HOWS)[number];

/** Changes whom the chosen cells ask: now or from a day on, in all types or in none. */
export const ChangeSignatoriesDialog = ({
  places,
  table,
  units,
  done,
  close,
}: {
  places: readonly Place[];
  table: Table;
  units: readonly Unit[];
  done: () => void;
  close: () => void;
}) => {
  const [first] = places;
  // One cell is edited as it stands; several begin empty.
  const [assignees, setAssignees] = useState<Step['assignees']>(
    places.length === 1 && first ? first.cell.assignees : [],
  );
  const [how, setHow] = useState<How>('replace');
  const [reason, setReason] = useState('');
  const [from, setFrom] = useState('');
  const command = useCommand(
    api.signatories.change,
    ({ types }) => (from ? wording.plannedFor(showDay(from)) : wording.saved(types)),
    () => {
      done();
      close();
    },
  );
  if (!first) return null;
  const types = new Set(places.map(({ row }) => row.typeId));
  // A field can only be named that all of the types have.
  const shared = first.row.fields.filter(({ key }) =>
    places.every(({ row }) => row.fields.some((field) => field.key === key)),
  );
  const named = namedIn(table, units, { ...first.row, fields: shared });
  return (
    <FormDialog
      title={wording.changeIn(places.length, types.size)}
      about={<p className="text-[12.5px] text-ink-2">{wording.changeAbout}</p>}
      wide
      command={command}
      button={from ? wording.plan : wording.save}
      ready={assignees.length > 0}
      onSubmit={() =>
        command.mutate({
          body: {
            cells: places.map(({ row, cell }) => ({
              typeId: row.typeId,
              rowVersion: row.rowVersion,
              place: row.place,
              step: cell.step,
            })),
            assignees,
            how,
            reason,
            from: from || null,
          },
        })
      }
      onClose={close}
    >
      {places.length > 1 && (
        <Select
          label={wording.how}
          value={how}
          options={HOWS.map((value) => ({ value, text: wording.hows[value] }))}
          onChange={(value) => setHow(value as How)}
        />
      )}
      <AssigneesEditor assignees={assignees} named={named} onChange={setAssignees} />
      {assignees.length > 0 && (
        <WhatChanges places={places} table={table} units={units} assignees={assignees} how={how} />
      )}
      <ReasonField value={reason} onChange={setReason} />
      <DateField label={wording.from} optional value={from} onChange={setFrom} hint={wording.fromHint} />
    </FormDialog>
  );
};
