import { api, type DocumentPage } from '@kanonos/contract';
import { keepPreviousData, useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { ask } from '../../../app/client.ts';
import { useCommand } from '../../../app/useCommand.ts';
import { Select, TextArea } from '../../../ui/controls.tsx';
import { FormDialog } from '../../../ui/FormDialog.tsx';
import { showDay } from '../../../ui/format.ts';
import { PeoplePicker } from '../../../ui/PersonPicker.tsx';
import { Refusals } from '../../../ui/states.tsx';
import { wording } from '../wording.ts';

/** Sends the draft on its type's route: shows the steps, lets reviewers be chosen, starts a new run. */
export const SubmitDialog = ({ page, close }: { page: DocumentPage; close: () => void }) => {
  const [wanted, setWanted] = useState('');
  const { data: route, error } = useQuery({
    ...ask(api.documents.submissionRoute, { params: { document: page.id }, query: wanted ? { route: wanted } : {} }),
    placeholderData: keepPreviousData,
  });
  const minimum = route?.steps.map((step) => step.chosenMinimum).find((one) => one !== null) ?? null;
  const [chosen, setChosen] = useState<{ id: string; name: string }[]>([]);
  const [message, setMessage] = useState('');
  const command = useCommand(api.documents.submit, ({ round }) => wording.submittedRoundStarted(round), close);
  return (
    <FormDialog
      title={wording.submitForReview(page.number, page.revision.label)}
      about={
        <>
          {route?.name && (
            <p className="text-[12.5px] text-ink-2">{wording.routeForChange(route.name, route.changeKind)}</p>
          )}
          <ol className="list-inside list-decimal text-[12.5px] text-ink-2">
            {route?.steps.map((step) => (
              <li key={step.name} className={step.applies ? '' : 'text-ink-3'}>
                <b className={`font-semibold ${step.applies ? 'text-ink' : ''}`}>{step.name}</b>
                {step.applies ? wording.workingDays(step.workingDays) : wording.notAskedHere(step.when ?? '')}
                {step.applies && step.beside && wording.atTheSameTime}
                {step.people.length > 0 && `: ${step.people.join(', ')}`}
                {step.problem && <span className="text-vermilion"> {step.problem}</span>}
              </li>
            ))}
          </ol>
          {route?.forecast && (
            <p className="text-[12.5px] text-ink-2">
              {wording.likelyDoneBy(
                showDay(route.forecast.half, true),
                showDay(route.forecast.mostly, true),
                showDay(route.forecast.nearlyAll, true),
              )}
            </p>
          )}
          {error && <Refusals error={error} />}
        </>
      }
      command={command}
      button={wording.submit}
      onSubmit={() =>
        command.mutate({
          params: { document: page.id },
          body: {
            seen: page.stateTag,
            message,
            chosen: chosen.map((person) => person.id),
            ...(wanted ? { route: wanted } : {}),
          },
        })
      }
      onClose={close}
    >
      {route && route.choices.length > 0 && (
        <Select
          label={wording.route}
          value={wanted}
          empty={wording.usualRoute}
          options={route.choices.map((name) => ({ value: name, text: name }))}
          onChange={setWanted}
        />
      )}
      {minimum !== null && (
        <PeoplePicker label={wording.reviewersAtLeast(minimum)} value={chosen} onChange={setChosen} />
      )}
      <TextArea label={wording.messageToReviewers} optional rows={2} value={message} onChange={setMessage} />
    </FormDialog>
  );
};
