import { api, type DocumentPage } from '@kanonos/contract';
import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { ask } from '../../../app/client.ts';
import { useCommand } from '../../../app/useCommand.ts';
import { TextArea } from '../../../ui/controls.tsx';
import { FormDialog } from '../../../ui/FormDialog.tsx';
import { PeoplePicker } from '../../../ui/PersonPicker.tsx';
import { wording } from '../wording.ts';

/** Sends the draft on its type's route: shows the steps, lets reviewers be chosen, starts a new run. */
export const SubmitDialog = ({ page, close }: { page: DocumentPage; close: () => void }) => {
  const { data } = useQuery({ ...ask(api.documents.types), staleTime: 60_000 });
  const [chosen, setChosen] = useState<{ id: string; name: string }[]>([]);
  const [message, setMessage] = useState('');
  const command = useCommand(api.documents.submit, ({ round }) => wording.submittedRoundStarted(round), close);
  const route = data?.types.find((type) => type.id === page.type.id)?.route;
  return (
    <FormDialog
      title={wording.submitForReview(page.number, page.revision.label)}
      about={
        <ol className="list-inside list-decimal text-[12.5px] text-ink-2">
          {route?.steps.map((step) => (
            <li key={step.name}>
              <b className="font-semibold text-ink">{step.name}</b>
              {wording.workingDays(step.workingDays)}
            </li>
          ))}
        </ol>
      }
      command={command}
      button={wording.submit}
      onSubmit={() =>
        command.mutate({
          params: { document: page.id },
          body: { seen: page.stateTag, message, chosen: chosen.map((person) => person.id) },
        })
      }
      onClose={close}
    >
      {page.canChooseReviewers !== null && (
        <PeoplePicker label={wording.reviewersAtLeast(page.canChooseReviewers)} value={chosen} onChange={setChosen} />
      )}
      <TextArea
        label={wording.messageToReviewers}
        optional
        rows={2}
        value={message}
        onChange={(event) => setMessage(event.target.value)}
      />
    </FormDialog>
  );
};
