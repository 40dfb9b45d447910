import { api, type DocumentPage } from '@kanonos/contract';
import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { ask } from '../../../app/client.ts';
import { useMe } from '../../../app/session.tsx';
import { useCommand } from '../../../app/useCommand.ts';
import { TextArea, TextField } from '../../../ui/controls.tsx';
import { FormDialog } from '../../../ui/FormDialog.tsx';
import { SignBox } from '../../../ui/SignBox.tsx';
import { SignedFiles } from '../../../ui/SignedFiles.tsx';

type Props = { page: DocumentPage; close: () => void };

type Reasoned = {
  endpoint:
    | typeof api.documents.recall
    | typeof api.documents.abandon
    | typeof api.documents.reopen
    | typeof api.documents.cancelWithdrawal
    | typeof api.documents.remove
    | typeof api.documents.restore
    | typeof api.documents.takeOverCheckout;
  title: string;
  button: string;
  text: string;
  done: string;
  danger?: boolean;
};

/** Acts that ask for nothing but a reason. */
const REASONED: Record<string, Reasoned> = {
  recall: {
    endpoint: api.documents.recall,
    title: 'Recall',
    button: 'Recall',
    text: 'It becomes a draft again. Signatures of this round become void and stay on record; everyone who was asked is notified.',
    done: 'Recalled to draft.',
  },
  'take over check-out': {
    endpoint: api.documents.takeOverCheckout,
    title: 'Take over the check-out of',
    button: 'Take over',
    text: 'The present holder is notified with your reason and can no longer check in. You continue from the newest version.',
    done: 'The document is checked out to you.',
    danger: true,
  },
  abandon: {
    endpoint: api.documents.abandon,
    title: 'Abandon the draft of',
    button: 'Abandon',
    text: 'This revision will not be released. Its versions stay on record.',
    done: 'Draft abandoned.',
    danger: true,
  },
  remove: {
    endpoint: api.documents.remove,
    title: 'Remove',
    button: 'Remove version',
    text: 'It disappears from all lists. Its number stays taken, its versions and history stay on record, and it can be restored.',
    done: 'Document removed.',
    danger: true,
  },
  restore: {
    endpoint: api.documents.restore,
    title: 'Restore',
    button: 'Restore',
    text: 'It appears in all lists again, in its former state.',
    done: 'Document restored.',
  },
  reopen: {
    endpoint: api.documents.reopen,
    title: 'Return to draft:',
    button: 'Return to draft',
    text: 'Its signatures and readings become void and stay on record; it must be submitted again.',
    done: 'Returned to draft.',
    danger: true,
  },
  'cancel withdrawal': {
    endpoint: api.documents.cancelWithdrawal,
    title: 'Cancel planned withdrawal of',
    button: 'Cancel withdrawal',
    text: 'It stays in force.',
    done: 'Planned withdrawal cancelled.',
  },
};

/** Acts that cannot be undone or that others are told of: a plain sentence and a reason. */
export const ReasonDialogs = ({ page, command, close }: Props & { command: string | null }) => {
  if (command === 'withdraw') return <Withdraw page={page} close={close} />;
  if (command === 'reinstate') return <Reinstate page={page} close={close} />;
  const reasoned = command !== null && Object.hasOwn(REASONED, command) ? REASONED[command] : undefined;
  return reasoned ? <WithReason key={command} page={page} close={close} {...reasoned} /> : null;
};

const WithReason = ({ page, close, endpoint, title, text, button, done, danger }: Props & Reasoned) => {
  const [reason, setReason] = useState('');
  const command = useCommand(endpoint as typeof api.documents.recall, done, close);
  return (
    <FormDialog
      title={`${title} ${page.number} ${page.revision.label}`}
      about={<p>{text}</p>}
      command={command}
      button={button}
      danger={danger ?? false}
      onSubmit={() => command.mutate({ params: { document: page.id }, body: { seen: page.stateTag, reason } })}
      onClose={close}
    >
      <Reason value={reason} onChange={setReason} />
    </FormDialog>
  );
};

const Reason = ({ value, onChange }: { value: string; onChange: (value: string) => void }) => (
  <TextArea label="Reason" required rows={2} value={value} onChange={(event) => onChange(event.target.value)} />
);

const Withdraw = ({ page, close }: Props) => {
  const [reason, setReason] = useState('');
  const [on, setOn] = useState('');
  const command = useCommand(api.documents.withdraw, on ? 'Withdrawal planned.' : 'Withdrawn.', close);
  const open = page.counts.readers - page.counts.readersDone;
  return (
    <FormDialog
      title={`Withdraw ${page.number} ${page.inForce?.label ?? ''}`}
      about={
        <p>
          It no longer applies from then on. People who may read the past can still read it, marked as withdrawn.
          {open > 0 && ` ${open} open readings will be cancelled.`}
        </p>
      }
      command={command}
      button="Withdraw"
      danger
      onSubmit={() =>
        command.mutate({ params: { document: page.id }, body: { seen: page.stateTag, reason, on: on || null } })
      }
      onClose={close}
    >
      <TextField
        label="On a future date"
        optional
        type="date"
        value={on}
        onChange={(event) => setOn(event.target.value)}
        hint="Leave empty to withdraw it now"
      />
      <Reason value={reason} onChange={setReason} />
    </FormDialog>
  );
};

const Reinstate = ({ page, close }: Props) => {
  const me = useMe();
  const [reason, setReason] = useState('');
  const [sign, setSign] = useState({ name: '', password: '' });
  const { data, refetch } = useQuery(ask(api.documents.reinstatement, { params: { document: page.id } }));
  const command = useCommand(api.documents.reinstate, 'It is in force again.', close);
  return (
    <FormDialog
      title={`Reinstate ${page.number}`}
      about={<p>The last released revision comes into force again immediately. You sign for it.</p>}
      command={command}
      button="Sign and reinstate"
      onSubmit={() =>
        command.mutate({
          params: { document: page.id },
          body: {
            seen: page.stateTag,
            reason,
            name: sign.name || null,
            password: sign.password,
            digest: data?.signing.digest ?? '',
          },
        })
      }
      onClose={close}
    >
      <Reason value={reason} onChange={setReason} />
      {data && <SignedFiles files={data.signing.files} askAgain={refetch} />}
      <SignBox asksForName={data?.signing.asksForName ?? true} signer={me.name} value={sign} onChange={setSign} />
    </FormDialog>
  );
};
