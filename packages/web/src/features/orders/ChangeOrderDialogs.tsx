import { api, type BodyOf, type Order } from '@kanonos/contract';
import { useState } from 'react';
import { useCommand } from '../../app/useCommand.ts';
import { DateField } from '../../ui/DateField.tsx';
import { FormDialog } from '../../ui/FormDialog.tsx';
import { PeoplePicker } from '../../ui/PersonPicker.tsx';
import { ReasonField } from '../../ui/ReasonField.tsx';
import { wording } from './wording.ts';

/** Gives an order to somebody else, or moves its day. */
export const ChangeOrderDialog = ({ order, close }: { order: Order; close: () => void }) => {
  const [who, setWho] = useState([order.assignee]);
  const [dueOn, setDueOn] = useState(order.dueOn);
  const [reason, setReason] = useState('');
  const command = useCommand(api.orders.change, wording.changed, close);
  return (
    <FormDialog
      title={wording.changeOf(order.number)}
      command={command}
      button={wording.save}
      ready={who.length > 0 && dueOn !== ''}
      onSubmit={() =>
        command.mutate({ params: { id: order.id }, body: { assigneeId: who[0]?.id ?? '', dueOn, reason } })
      }
      onClose={close}
    >
      <PeoplePicker label={wording.who} single value={who} onChange={setWho} />
      <DateField label={wording.by} required value={dueOn} onChange={setDueOn} />
      <ReasonField value={reason} onChange={setReason} />
    </FormDialog>
  );
};

/** Withdraws an order that one gave, or declines one that one has. */
export const EndOrderDialog = ({
  order,
  how,
  close,
}: {
  order: Order;
  how: BodyOf<typeof api.orders.end>['how'];
  close: () => void;
}) => {
  const [reason, setReason] = useState('');
  const command = useCommand(api.orders.end, wording.ended, close);
  return (
    <FormDialog
      title={how === 'withdrawn' ? wording.withdrawOf(order.number) : wording.declineOf(order.number)}
      about={<p className="text-[12.5px] text-ink-2">{wording.endAbout}</p>}
      command={command}
      button={how === 'withdrawn' ? wording.withdraw : wording.decline}
      danger
      onSubmit={() => command.mutate({ params: { id: order.id }, body: { how, reason } })}
      onClose={close}
    >
      <ReasonField value={reason} onChange={setReason} />
    </FormDialog>
  );
};
