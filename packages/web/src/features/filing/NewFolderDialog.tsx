import { api, type PlanFolder } from '@kanonos/contract';
import { useState } from 'react';
import { useCommand } from '../../app/useCommand.ts';
import { TextField } from '../../ui/controls.tsx';
import { FormDialog } from '../../ui/FormDialog.tsx';
import { wording } from './wording.ts';

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
  const command = useCommand(api.filing.add, wording.folderCreated, ({ id }) => {
    close();
    made(id);
  });
  return (
    <FormDialog
      title={parent ? wording.addFolderTo(parent.name) : wording.addArea}
      command={command}
      button={wording.addFolder}
      onSubmit={() => command.mutate({ body: { parentId: parent?.id ?? null, name, code: code || null } })}
      onClose={close}
    >
      <TextField label={wording.name} required maxLength={80} value={name} onChange={setName} />
      {!parent && (
        <TextField
          label={wording.code}
          optional
          maxLength={8}
          value={code}
          onChange={setCode}
          hint={wording.usedInTheNumbersOfTypes}
        />
      )}
    </FormDialog>
  );
};
