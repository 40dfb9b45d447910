import { api, sentenceOf } from '@kanonos/contract';
import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { ask } from '../../app/client.ts';
import { useMe } from '../../app/session.tsx';
import { useCommand } from '../../app/useCommand.ts';
import { FormDialog } from '../../ui/FormDialog.tsx';
import { count, showDay } from '../../ui/format.ts';
import { ReasonField } from '../../ui/ReasonField.tsx';
import { Failed, Loading } from '../../ui/states.tsx';
import { wording } from './wording.ts';

type Asked = { until: string; whose?: 'all'; person?: string; department?: string };

/** Other days for reviews in weeks with more work than they hold: proposed, ticked and moved after confirmation. */
export const LevelDialog = ({ asked, hours, close }: { asked: Asked; hours: number; close: () => void }) => {
  const { zone } = useMe().organisation;
  const proposal = useQuery({ ...ask(api.horizon.level, { query: { ...asked, hours } }), staleTime: 0 });
  const [left, setLeft] = useState<ReadonlySet<string>>(new Set());
  const [reason, setReason] = useState<string>(wording.levelReason);
  // What could not be moved stays in the dialog with why.
  const [refused, setRefused] = useState<ReadonlyMap<string, string>>(new Map());
  const command = useCommand(
    api.horizon.move,
    ({ moved }) => wording.reviewsMoved(count(moved, wording.reviewOne, wording.reviewMany)),
    (answer) => {
      if (answer.left.length === 0) return close();
      const why = ({ refusals: [first] }: (typeof answer.left)[number]) =>
        first ? sentenceOf(first.code, first.params, zone) : '';
      setRefused(new Map(answer.left.map((one) => [one.documentId, why(one)])));
    },
  );
  const moves = (proposal.data?.moves ?? []).filter(({ documentId }) => refused.size === 0 || refused.has(documentId));
  const chosen = moves.filter(({ documentId }) => !left.has(documentId));
  const tick = (id: string, on: boolean) =>
    setLeft(new Set([...left].filter((one) => one !== id).concat(on ? [] : [id])));
  return (
    <FormDialog
      title={wording.levelReviews}
      wide
      about={
        <p className="text-ink-2">
          {proposal.data
            ? wording.overfull(hours, proposal.data.overfull.before, proposal.data.overfull.after)
            : wording.levelAbout}
        </p>
      }
      command={command}
      button={wording.moveReviews(count(chosen.length, wording.reviewOne, wording.reviewMany))}
      ready={chosen.length > 0}
      onSubmit={() =>
        command.mutate({
          body: { moves: chosen.map(({ documentId, from, to }) => ({ documentId, from, to })), reason },
        })
      }
      onClose={close}
    >
      {proposal.isPending && <Loading what={wording.theProposal} />}
      {proposal.error && <Failed error={proposal.error} again={() => void proposal.refetch()} />}
      {proposal.data && moves.length === 0 && <p>{wording.nothingToMove}</p>}
      {moves.length > 0 && (
        <>
          <ul aria-label={wording.levelReviews} className="max-h-[46vh] overflow-y-auto border border-line">
            {moves.map(({ documentId, number, title, person, from, to }) => (
              <li key={documentId} className="border-b border-line-2 px-3 py-1.5 last:border-0">
                <label className="flex min-h-6 items-baseline gap-2">
                  <input
                    type="checkbox"
                    className="translate-y-0.5 accent-petrol"
                    checked={!left.has(documentId)}
                    onChange={(event) => tick(documentId, event.target.checked)}
                  />
                  <span className="min-w-0 flex-1">
                    <span className="num mr-2">{number}</span>
                    {title}
                    <span className="block text-[12px] text-ink-2">
                      {showDay(from)} → <b className="font-semibold text-ink">{showDay(to)}</b>
                      {person && ` · ${person.name}`}
                    </span>
                    {refused.has(documentId) && (
                      <span className="block text-[12px] text-vermilion">{refused.get(documentId)}</span>
                    )}
                  </span>
                </label>
              </li>
            ))}
          </ul>
          <ReasonField oneLine value={reason} onChange={setReason} />
        </>
      )}
    </FormDialog>
  );
};
