import { api, type PlanFolder } from '@kanonos/contract';
import { useState } from 'react';
import { useCommand } from '../../app/useCommand.ts';
import { TextField } from '../../ui/controls.tsx';
import { FormDialog } from '../../ui/FormDialog.tsx';

/** Makes an area, or a folder in another one. */
export const NewFolderDialog = ({
  parent,
  close,
  made,
}: {
  parent: PlanFolder | null;
  close: () => void;
  made: (id: string) => void;
}) => {
  const [name, setName] = useState('');
  const [code, setCode] = useState('');
  const command = useCommand(api.filing.add, 'Folder created.', ({ id }) => {
    close();
    made(id);
  });
  return (
    <FormDialog
      title={parent ? `Add folder to ${parent.name}` : 'Add area'}
      command={command}
      button="Add folder"
      onSubmit={() => command.mutate({ body: { parentId: parent?.id ?? null, name, code: code || null } })}
      onClose={close}
    >
      <TextField label="Name" required maxLength={80} value={name} onChange={(event) => setName(event.target.value)} />
      {!parent && (
        <TextField
          label="Code"
          optional
          maxLength={8}
          value={code}
          onChange={(event) => setCode(event.target.value)}
          hint="Used in the numbers of types that count by area"
        />
      )}
    </FormDialog>
  );
};
