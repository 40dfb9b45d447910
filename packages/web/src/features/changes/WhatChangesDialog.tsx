import { type Affected, api } from '@kanonos/contract';
import { useState } from 'react';
import { useCommand } from '../../app/useCommand.ts';
import { TextArea } from '../../ui/controls.tsx';
import { FormDialog } from '../../ui/FormDialog.tsx';
import { Tick } from '../../ui/Tick.tsx';
import { wording } from './wording.ts';

/** Says what changes in an affected document, or why nothing does. */
export const WhatChangesDialog = ({
  number,
  affected,
  close,
}: {
  number: string;
  affected: Affected;
  close: () => void;
}) => {
  const [what, setWhat] = useState(affected.what);
  const [reason, setReason] = useState(affected.noChangeReason);
  const command = useCommand(api.changes.changeAffected, wording.saved, close);
  return (
    <FormDialog
      title={wording.whatChangesIn(affected.number)}
      command={command}
      button={wording.save}
      onSubmit={() =>
        command.mutate({
          params: { document: number, affected: affected.id },
          body: { what, noChangeReason: reason },
        })
      }
      onClose={close}
    >
      {reason === null && <TextArea label={wording.whatChanges} optional rows={3} value={what} onChange={setWhat} />}
      <Tick checked={reason !== null} onChange={(on) => setReason(on ? '' : null)}>
        {wording.nothingChanges}
      </Tick>
      {reason !== null && <TextArea label={wording.whyNothing} required rows={2} value={reason} onChange={setReason} />}
    </FormDialog>
  );
};
