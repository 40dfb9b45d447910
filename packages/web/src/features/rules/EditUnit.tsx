import { api, type Unit } from '@kanonos/contract';
import { useState } from 'react';
import { useMe } from '../../app/session.tsx';
import { useCommand } from '../../app/useCommand.ts';
import { TextField } from '../../ui/controls.tsx';
import { FormDialog } from '../../ui/FormDialog.tsx';
import { PeoplePicker } from '../../ui/PersonPicker.tsx';
import { wording } from './wording.ts';

/** The name of a unit; whoever keeps people opens it to rename it, and to set the fallback approver of a department. */
export const EditUnit = ({ unit }: { unit: Unit }) => {
  const me = useMe();
  const [open, setOpen] = useState(false);
  const fallback = unit.fallbackApprover && (
    <span className="block text-[12px] text-ink-2">{wording.fallbackApproverIs(unit.fallbackApprover.name)}</span>
  );
  if (!me.organisationRights.includes('people'))
    return (
      <>
        {unit.name}
        {fallback}
      </>
    );
  return (
    <>
      <button type="button" className="text-left underline decoration-line" onClick={() => setOpen(true)}>
        {unit.name}
      </button>
      {fallback}
      {open && <UnitForm unit={unit} close={() => setOpen(false)} />}
    </>
  );
};

const UnitForm = ({ unit, close }: { unit: Unit; close: () => void }) => {
  const [name, setName] = useState(unit.name);
  const [approver, setApprover] = useState(unit.fallbackApprover ? [unit.fallbackApprover] : []);
  const command = useCommand(api.people.changeUnit, wording.unitSaved(name), close);
  return (
    <FormDialog
      title={wording.editAKind(unit.kind)}
      command={command}
      button={wording.save}
      onSubmit={() =>
        command.mutate({ params: { id: unit.id }, body: { name, fallbackApproverId: approver[0]?.id ?? null } })
      }
      onClose={close}
    >
      <TextField label={wording.name} required maxLength={80} value={name} onChange={setName} />
      {unit.kind === 'department' && (
        <PeoplePicker
          label={wording.fallbackApprover}
          single
          value={approver}
          onChange={setApprover}
          hint={wording.fallbackOfADepartment}
        />
      )}
    </FormDialog>
  );
};
