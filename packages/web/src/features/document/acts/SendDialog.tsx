import { api, type DocumentPage } from '@kanonos/contract';
import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { ask } from '../../../app/client.ts';
import { useAct } from '../../../app/useAct.ts';
import { ActButton, Actions, Dialog, TextArea } from '../../../ui/controls.tsx';
import { PeoplePicker } from '../../../ui/PersonPicker.tsx';
import { Refusals } from '../../../ui/states.tsx';

/** Sends the draft on its type's route: shows the steps, lets reviewers be chosen, starts a new run. */
export const SendDialog = ({ page, open, close }: { page: DocumentPage; open: boolean; close: () => void }) => {
  const { data } = useQuery({ ...ask(api.documents.types), enabled: open, staleTime: 60_000 });
  const [chosen, setChosen] = useState<{ id: string; name: string }[]>([]);
  const [message, setMessage] = useState('');
  const act = useAct(api.documents.send, ({ run }) => `Sent: run ${run} has begun.`, close);
  const route = data?.types.find((type) => type.id === page.type.id)?.route;
  return (
    <Dialog open={open} onClose={close} title={`Send ${page.number} ${page.revision.label} for review and approval`}>
      <ol className="list-inside list-decimal text-[12.5px] text-ink-2">
        {route?.steps.map((step) => (
          <li key={step.name}>
            <b className="font-semibold text-ink">{step.name}</b>, {step.workingDays} working days
          </li>
        ))}
      </ol>
      <form
        className="flex flex-col gap-3"
        onSubmit={(event) => {
          event.preventDefault();
          act.mutate({ params: { document: page.id }, body: { message, chosen: chosen.map((person) => person.id) } });
        }}
      >
        {page.canChooseReviewers !== null && (
          <PeoplePicker label={`Reviewers (at least ${page.canChooseReviewers})`} value={chosen} onChange={setChosen} />
        )}
        <TextArea
          label="What they should look at"
          optional
          rows={2}
          value={message}
          onChange={(event) => setMessage(event.target.value)}
        />
        <Refusals error={act.error} />
        <Actions>
          <button type="button" className="btn" onClick={close}>
            Cancel
          </button>
          <ActButton busy={act.isPending}>Send</ActButton>
        </Actions>
      </form>
    </Dialog>
  );
};
