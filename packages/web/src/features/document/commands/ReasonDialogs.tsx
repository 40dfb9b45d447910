import { api, type DocumentPage } from '@kanonos/contract';
import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { useNavigate, useSearchParams } from 'react-router';
import { ask } from '../../../app/client.ts';
import { useCommand } from '../../../app/useCommand.ts';
import { documentAddress } from '../../../ui/addresses.ts';
import { Select, TextArea, TextField } from '../../../ui/controls.tsx';
import { DateField } from '../../../ui/DateField.tsx';
import { FormDialog } from '../../../ui/FormDialog.tsx';
import { ReasonField } from '../../../ui/ReasonField.tsx';
import { SignBox } from '../../../ui/SignBox.tsx';
import { SignedFiles } from '../../../ui/SignedFiles.tsx';
import { wording } from '../wording.ts';

type Props = { page: DocumentPage; close: () => void };

type Reasoned = {
  endpoint:
    | typeof api.documents.recall
    | typeof api.documents.abandon
    | typeof api.documents.reopen
    | typeof api.documents.cancelWithdrawal
    | typeof api.documents.liftHold
    | typeof api.documents.remove
    | typeof api.documents.restore
    | typeof api.documents.takeOverCheckout;
  title: string;
  button: string;
  text: string;
  done: string;
  danger?: boolean;
};

/** Commands that ask for nothing but a reason. */
const REASONED: Record<string, Reasoned> = {
  recall: {
    endpoint: api.documents.recall,
    title: wording.recall,
    button: wording.recall,
    text: wording.itBecomesADraftAgainSignatures,
    done: wording.recalledToDraft,
  },
  'take over check-out': {
    endpoint: api.documents.takeOverCheckout,
    title: wording.takeOverTheCheckOutOf,
    button: wording.takeOver,
    text: wording.thePresentHolderIsNotifiedWith,
    done: wording.theDocumentIsCheckedOutTo,
    danger: true,
  },
  abandon: {
    endpoint: api.documents.abandon,
    title: wording.abandonTheDraftOf,
    button: wording.abandon,
    text: wording.thisRevisionWillNotBeReleased,
    done: wording.draftAbandoned,
    danger: true,
  },
  remove: {
    endpoint: api.documents.remove,
    title: wording.remove,
    button: wording.removeDocument,
    text: wording.itDisappearsFromAllListsIts,
    done: wording.documentRemoved,
    danger: true,
  },
  restore: {
    endpoint: api.documents.restore,
    title: wording.restore,
    button: wording.restore,
    text: wording.itAppearsInAllListsAgain,
    done: wording.documentRestored,
  },
  reopen: {
    endpoint: api.documents.reopen,
    title: wording.returnToDraft,
    button: wording.returnToDraft2,
    text: wording.itsSignaturesAndReadingsBecomeVoid,
    done: wording.returnedToDraft,
    danger: true,
  },
  'cancel withdrawal': {
    endpoint: api.documents.cancelWithdrawal,
    title: wording.cancelPlannedWithdrawalOf,
    button: wording.cancelWithdrawal,
    text: wording.itStaysInForce,
    done: wording.plannedWithdrawalCancelled,
  },
  'lift hold': {
    endpoint: api.documents.liftHold,
    title: wording.liftHoldOf,
    button: wording.liftHold,
    text: wording.itMayBeUsedAgain,
    done: wording.holdLifted,
  },
};

/** Commands that cannot be undone or that others are told of: a plain sentence and a reason. */
export const ReasonDialogs = ({ page, command, close }: Props & { command: string | null }) => {
  if (command === 'withdraw') return <Withdraw page={page} close={close} />;
  if (command === 'set state') return <SetState page={page} close={close} />;
  if (command === 'put on hold') return <PutOnHold page={page} close={close} />;
  if (command === 'reinstate') return <Reinstate page={page} close={close} />;
  const reasoned = command !== null && Object.hasOwn(REASONED, command) ? REASONED[command] : undefined;
  return reasoned ? <WithReason key={command} page={page} close={close} {...reasoned} /> : null;
};

/** Gives the draft or the review a state of the organisation's own, or takes it back. */
const SetState = ({ page, close }: Props) => {
  const [state, setState] = useState(page.revision.ownState ?? page.ownStates[0] ?? '');
  const [note, setNote] = useState('');
  const command = useCommand(api.documents.setState, wording.stateSet, close);
  return (
    <FormDialog
      title={wording.setStateOf(page.number)}
      about={<p className="text-[12.5px] text-ink-2">{wording.setStateAbout}</p>}
      command={command}
      button={wording.setState}
      ready={state !== (page.revision.ownState ?? '')}
      onSubmit={() =>
        command.mutate({
          params: { document: page.id },
          body: { seen: page.stateTag, state: state || null, note },
        })
      }
      onClose={close}
    >
      <Select
        label={wording.ownStateLabel}
        value={state}
        onChange={setState}
        options={[...page.ownStates.map((value) => ({ value, text: value })), { value: '', text: wording.noOwnState }]}
      />
      <TextField label={wording.ownStateNote} optional maxLength={500} value={note} onChange={setNote} />
    </FormDialog>
  );
};

const WithReason = ({ page, close, endpoint, title, text, button, done, danger }: Props & Reasoned) => {
  const navigate = useNavigate();
  const [reason, setReason] = useState('');
  // A draft that was given up is no longer what one works on: the document is shown instead.
  const then = endpoint === api.documents.abandon ? () => void navigate(documentAddress(page.number)) : close;
  const command = useCommand(endpoint as typeof api.documents.recall, done, then);
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
  <ReasonField value={value} onChange={onChange} />
);

const PutOnHold = ({ page, close }: Props) => {
  const [reason, setReason] = useState('');
  const [wayOut, setWayOut] = useState('');
  const command = useCommand(api.documents.putOnHold, wording.isOnHoldNow, close);
  return (
    <FormDialog
      title={wording.putNumberOnHold(page.number, page.inForce?.label ?? '')}
      about={<p>{wording.holdAbout}</p>}
      command={command}
      button={wording.putOnHold}
      danger
      onSubmit={() => command.mutate({ params: { document: page.id }, body: { seen: page.stateTag, reason, wayOut } })}
      onClose={close}
    >
      <Reason value={reason} onChange={setReason} />
      <TextArea
        label={wording.untilThen}
        optional
        rows={2}
        value={wayOut}
        onChange={setWayOut}
        hint={wording.untilThenHint}
      />
    </FormDialog>
  );
};

const Withdraw = ({ page, close }: Props) => {
  // A review that found it no longer needed leads here with what it said.
  const [asked] = useSearchParams();
  const [reason, setReason] = useState(asked.get('reason') ?? '');
  const [on, setOn] = useState('');
  const command = useCommand(api.documents.withdraw, on ? wording.withdrawalPlanned : wording.withdrawn, close);
  const open = page.counts.readers - page.counts.readersDone;
  return (
    <FormDialog
      title={wording.withdrawNumberInForce(page.number, page.inForce?.label ?? '')}
      about={
        <p>
          {wording.itNoLongerAppliesFromThen}
          {open > 0 && wording.openReadingsWillBeCancelled(open)}
        </p>
      }
      command={command}
      button={wording.withdraw}
      danger
      onSubmit={() =>
        command.mutate({ params: { document: page.id }, body: { seen: page.stateTag, reason, on: on || null } })
      }
      onClose={close}
    >
      <DateField
        label={wording.onAFutureDate}
        optional
        value={on}
        onChange={setOn}
        hint={wording.leaveEmptyToWithdrawItNow}
      />
      <Reason value={reason} onChange={setReason} />
    </FormDialog>
  );
};

const Reinstate = ({ page, close }: Props) => {
  const [reason, setReason] = useState('');
  const [sign, setSign] = useState({ name: '', password: '' });
  const { data, refetch } = useQuery(ask(api.documents.reinstatement, { params: { document: page.id } }));
  const command = useCommand(api.documents.reinstate, wording.itIsInForceAgain, close);
  return (
    <FormDialog
      title={wording.reinstateNumber(page.number)}
      about={<p>{wording.theLastReleasedRevisionComesInto}</p>}
      command={command}
      button={wording.signAndReinstate}
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
      <SignBox asksForName={data?.signing.asksForName ?? true} value={sign} onChange={setSign} error={command.error} />
    </FormDialog>
  );
};
