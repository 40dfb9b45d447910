import { api, type DocumentPage } from '@kanonos/contract';
import { useState } from 'react';
import { useMe } from '../../../app/session.tsx';
import { useAct } from '../../../app/useAct.ts';
import { ActButton, Actions, Dialog, TextArea, TextField } from '../../../ui/controls.tsx';
import { SignBox } from '../../../ui/SignBox.tsx';
import { Refusals } from '../../../ui/states.tsx';

type Props = { page: DocumentPage; close: () => void };

/** Acts that cannot be undone or that others are told of: a plain sentence and a reason. */
export const ReasonDialogs = ({ page, act, close }: Props & { act: string | null }) => {
  switch (act) {
    case 'call back':
      return (
        <WithReason
          page={page}
          close={close}
          endpoint={api.documents.callBack}
          title="Call back"
          button="Call it back"
          text="It becomes a draft again. Signatures of this run become void and stay on record; who was asked is told."
          done="Called back to draft."
        />
      );
    case 'abandon':
      return (
        <WithReason
          page={page}
          close={close}
          endpoint={api.documents.abandon}
          title="Abandon the draft of"
          button="Abandon"
          danger
          text="This revision will not be released. Its versions stay on record."
          done="The draft is abandoned."
        />
      );
    case 'reopen':
      return (
        <WithReason
          page={page}
          close={close}
          endpoint={api.documents.reopen}
          title="Take back to draft:"
          button="Take it back"
          danger
          text="Its signatures and readings become void and stay on record; it has to be sent again."
          done="It is a draft again."
        />
      );
    case 'drop withdrawal':
      return (
        <WithReason
          page={page}
          close={close}
          endpoint={api.documents.dropWithdrawal}
          title="Drop the planned withdrawal of"
          button="Drop it"
          text="It stays in force."
          done="The withdrawal is dropped."
        />
      );
    case 'withdraw':
      return <Withdraw page={page} close={close} />;
    case 'reinstate':
      return <Reinstate page={page} close={close} />;
    default:
      return null;
  }
};

type Reasoned =
  | typeof api.documents.callBack
  | typeof api.documents.abandon
  | typeof api.documents.reopen
  | typeof api.documents.dropWithdrawal;

const WithReason = ({
  page,
  close,
  endpoint,
  title,
  text,
  button,
  done,
  danger,
}: Props & { endpoint: Reasoned; title: string; text: string; button: string; done: string; danger?: boolean }) => {
  const [reason, setReason] = useState('');
  const act = useAct(endpoint as typeof api.documents.callBack, done, close);
  return (
    <Dialog open onClose={close} title={`${title} ${page.number} ${page.revision.label}`}>
      <p>{text}</p>
      <form
        className="flex flex-col gap-3"
        onSubmit={(event) => {
          event.preventDefault();
          act.mutate({ params: { document: page.id }, body: { reason } });
        }}
      >
        <TextArea label="Reason" required rows={2} value={reason} onChange={(event) => setReason(event.target.value)} />
        <Refusals error={act.error} />
        <Actions>
          <button type="button" className="btn" onClick={close}>
            Cancel
          </button>
          <ActButton busy={act.isPending} tone={danger ? 'danger' : 'pri'}>
            {button}
          </ActButton>
        </Actions>
      </form>
    </Dialog>
  );
};

const Withdraw = ({ page, close }: Props) => {
  const [reason, setReason] = useState('');
  const [on, setOn] = useState('');
  const act = useAct(api.documents.withdraw, on ? 'The withdrawal is planned.' : 'Withdrawn.', close);
  const open = page.counts.readers - page.counts.readersDone;
  return (
    <Dialog open onClose={close} title={`Withdraw ${page.number} ${page.inForce?.label ?? ''}`}>
      <p>
        It no longer applies from then on. It stays readable with a mark for who may read the past.
        {open > 0 && ` ${open} open readings will no longer be needed.`}
      </p>
      <form
        className="flex flex-col gap-3"
        onSubmit={(event) => {
          event.preventDefault();
          act.mutate({ params: { document: page.id }, body: { reason, on: on || null } });
        }}
      >
        <TextField
          label="On a coming day"
          optional
          type="date"
          value={on}
          onChange={(event) => setOn(event.target.value)}
          hint="Left empty: now"
        />
        <TextArea label="Reason" required rows={2} value={reason} onChange={(event) => setReason(event.target.value)} />
        <Refusals error={act.error} />
        <Actions>
          <button type="button" className="btn" onClick={close}>
            Cancel
          </button>
          <ActButton busy={act.isPending} tone="danger">
            Withdraw
          </ActButton>
        </Actions>
      </form>
    </Dialog>
  );
};

const Reinstate = ({ page, close }: Props) => {
  const me = useMe();
  const [reason, setReason] = useState('');
  const [sign, setSign] = useState({ name: '', password: '' });
  const act = useAct(api.documents.reinstate, 'It is in force again.', close);
  return (
    <Dialog open onClose={close} title={`Reinstate ${page.number}`}>
      <p>The last released revision comes into force again from now. You sign for it.</p>
      <form
        className="flex flex-col gap-3"
        onSubmit={(event) => {
          event.preventDefault();
          act.mutate({
            params: { document: page.id },
            body: { reason, name: sign.name || null, password: sign.password },
          });
        }}
      >
        <TextArea label="Reason" required rows={2} value={reason} onChange={(event) => setReason(event.target.value)} />
        <SignBox asksForName signer={me.name} value={sign} onChange={setSign} />
        <Refusals error={act.error} />
        <Actions>
          <button type="button" className="btn" onClick={close}>
            Cancel
          </button>
          <ActButton busy={act.isPending}>Sign and reinstate</ActButton>
        </Actions>
      </form>
    </Dialog>
  );
};
