import { api } from '@kanonos/contract';
import { useState } from 'react';
import { useCommand } from '../../app/useCommand.ts';
import { FormDialog } from '../../ui/FormDialog.tsx';
import { ReasonField } from '../../ui/ReasonField.tsx';
import { wording } from './wording.ts';

/** Begins to see the application as a person, with a reason that is kept. */
export const SeeAsDialog = ({
  person,
  close,
  done = close,
}: {
  person: { id: string; name: string };
  close: () => void;
  /** Once it has begun: what only an administrator sees is closed before. */
  done?: () => void;
}) => {
  const [reason, setReason] = useState('');
  const command = useCommand(api.rights.seeAs, wording.youNowSeeAs(person.name), done);
  return (
    <FormDialog
      title={wording.seeAsPerson(person.name)}
      about={<p>{wording.youSeeWhat(person.name)}</p>}
      command={command}
      button={wording.seeAs}
      ready={reason.trim() !== ''}
      onSubmit={() => command.mutate({ body: { personId: person.id, reason } })}
      onClose={close}
    >
      <ReasonField value={reason} onChange={setReason} />
    </FormDialog>
  );
};
