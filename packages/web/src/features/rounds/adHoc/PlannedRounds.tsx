import { api, type DocumentPage, type PlannedRound } from '@kanonos/contract';
import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { ask } from '../../../app/client.ts';
import { useCommand } from '../../../app/useCommand.ts';
import { FormDialog } from '../../../ui/FormDialog.tsx';
import { showDay } from '../../../ui/format.ts';
import { ReasonField } from '../../../ui/ReasonField.tsx';
import { wording } from './wording.ts';

/** The ad hoc rounds of a document that begin on a day; nothing where there are none. */
export const PlannedRounds = ({ page }: { page: DocumentPage }) => {
  const { data } = useQuery(ask(api.adHocRounds.planned, { params: { document: page.id } }));
  const [cancelling, setCancelling] = useState<PlannedRound | null>(null);
  if (!data || data.rounds.length === 0) return null;
  return (
    <section>
      <h2>{wording.plannedRounds}</h2>
      <ul>
        {data.rounds.map((round) => (
          <li key={round.id} className="flex flex-wrap items-baseline gap-x-3 gap-y-1 py-0.5">
            <b className="font-semibold">{round.name}</b>
            <span className="text-ink-2">
              {wording.beginsOn(showDay(round.on), round.by.name, `${page.number} ${round.label}`.trim())}
            </span>
            {round.mayCancel && (
              <button
                type="button"
                className="btn !h-6"
                aria-label={wording.cancelRoundOf(round.name)}
                onClick={() => setCancelling(round)}
              >
                {wording.cancelRound}
              </button>
            )}
          </li>
        ))}
      </ul>
      {cancelling && <CancelPlanned round={cancelling} close={() => setCancelling(null)} />}
    </section>
  );
};

const CancelPlanned = ({ round, close }: { round: PlannedRound; close: () => void }) => {
  const [reason, setReason] = useState('');
  const command = useCommand(api.adHocRounds.cancelPlanned, wording.planCancelled, close);
  return (
    <FormDialog
      title={wording.cancelRoundOf(round.name)}
      about={<p className="text-ink-2">{wording.nobodyWasAsked}</p>}
      command={command}
      button={wording.cancelRound}
      danger
      onSubmit={() => command.mutate({ params: { id: round.id }, body: { reason } })}
      onClose={close}
    >
      <ReasonField value={reason} onChange={setReason} />
    </FormDialog>
  );
};
