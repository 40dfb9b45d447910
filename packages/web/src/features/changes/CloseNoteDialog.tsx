import { api } from '@kanonos/contract';
import { useState } from 'react';
import { useCommand } from '../../app/useCommand.ts';
import { TextArea } from '../../ui/controls.tsx';
import { FormDialog } from '../../ui/FormDialog.tsx';
import { wording } from './wording.ts';

/** Closes a note with its result. */
export const CloseNoteDialog = ({ number, close }: { number: string; close: () => void }) => {
  const [result, setResult] = useState('');
  const command = useCommand(api.changes.close, wording.noteClosed, close);
  return (
    <FormDialog
      title={wording.close(number)}
      command={command}
      button={wording.closeNote}
      onSubmit={() => command.mutate({ params: { document: number }, body: { result } })}
      onClose={close}
    >
      <TextArea
        label={wording.result}
        required
        rows={3}
        value={result}
        onChange={setResult}
        hint={wording.resultHint}
      />
    </FormDialog>
  );
};
