import { api } from '@kanonos/contract';
import { useQuery } from '@tanstack/react-query';
import { ask } from '../../app/client.ts';
import { useCommand } from '../../app/useCommand.ts';
import { Failed, Refusals } from '../../ui/states.tsx';
import { wording } from './wording.ts';
import { wayInWords } from './words.ts';

/** What else could be affected, with the way that leads there; one press puts it on the note. */
export const ProposedDocuments = ({ number }: { number: string }) => {
  const { data, error, refetch } = useQuery(ask(api.changes.proposals, { params: { document: number } }));
  const add = useCommand(api.changes.addAffected, ({ added }) => wording.added(added));
  if (error) return <Failed error={error} again={() => void refetch()} />;
  if (!data) return null;
  return (
    <section aria-label={wording.proposed}>
      <h2 className="pb-1.5">{wording.proposed}</h2>
      {data.proposals.length === 0 && <p className="text-ink-3">{wording.nothingProposed}</p>}
      <ul className="max-w-3xl">
        {data.proposals.map((one) => (
          <li key={one.id} className="flex items-center gap-3 border-b border-line-2 py-1">
            <span className="min-w-0 flex-1">
              <span className="num mr-2">{one.number}</span>
              {one.title}
              <span className="block text-[12px] text-ink-3">{wayInWords(one.way, one.via)}</span>
            </span>
            <button
              type="button"
              className="btn !h-6"
              aria-label={wording.addNumber(one.number)}
              disabled={add.isPending}
              onClick={() =>
                add.mutate({ params: { document: number }, body: { numbers: [one.number], way: one.way } })
              }
            >
              {wording.add}
            </button>
          </li>
        ))}
      </ul>
      <Refusals error={add.error} />
    </section>
  );
};
