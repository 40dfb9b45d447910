import { api } from '@kanonos/contract';
import { useState } from 'react';
import { useMe } from '../../app/session.tsx';
import { useCommand } from '../../app/useCommand.ts';
import { TextField } from '../../ui/controls.tsx';
import { FormDialog } from '../../ui/FormDialog.tsx';
import { wording } from './wording.ts';

/** Adds a department, site, role or group. Numbers may contain a department's code, so it is checked like a rule. */
export const AddUnit = ({ kind }: { kind: 'department' | 'role' | 'group' | 'site' }) => {
  const me = useMe();
  const [open, setOpen] = useState(false);
  const [code, setCode] = useState('');
  const [name, setName] = useState('');
  const command = useCommand(api.people.addUnit, wording.theWasAdded(kind), () => setOpen(false));
  if (!me.organisationRights.includes('people')) return null;
  return (
    <>
      <button type="button" className="btn !h-6" onClick={() => setOpen(true)}>
        {wording.add}
      </button>
      {open && (
        <FormDialog
          title={wording.addAKind(kind)}
          columns
          command={command}
          button={wording.add}
          onSubmit={() => command.mutate({ body: { kind, code, name } })}
          onClose={() => setOpen(false)}
        >
          <TextField label={wording.code} required maxLength={16} value={code} onChange={setCode} />
          <TextField label={wording.name} required maxLength={80} value={name} onChange={setName} />
        </FormDialog>
      )}
    </>
  );
};
