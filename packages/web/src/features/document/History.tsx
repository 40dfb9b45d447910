import { api, type HistoryEntry, type RevisionInfo } from '@kanonos/contract';
import { useQuery } from '@tanstack/react-query';
import { ask } from '../../app/client.ts';
import { useMe } from '../../app/session.tsx';
import { showInstant } from '../../ui/format.ts';
import { RevisionMark } from '../../ui/marks.tsx';
import { Failed, Loading } from '../../ui/states.tsx';
import { wording } from './wording.ts';

/** The whole history of a document on one thread, newest on top; a revision mark sits where a revision begins to speak. */
export const History = ({ number, revisions }: { number: string; revisions: RevisionInfo[] }) => {
  const me = useMe();
  const { data, error, isPending, refetch } = useQuery(ask(api.documents.history, { params: { document: number } }));
  if (isPending) return <Loading what={wording.theHistory} />;
  if (error) return <Failed error={error} again={() => void refetch()} />;
  const startsThread = (entry: HistoryEntry, i: number) =>
    entry.label !== null && data.entries[i - 1]?.label !== entry.label;
  return (
    <ol>
      {data.entries.map((entry, i) => {
        const revision = revisions.find((r) => r.label === entry.label);
        return (
          <li
            key={entry.seq ?? i}
            className="relative border-b border-line-2 py-2 pr-3 pl-[46px] text-[12.5px] before:absolute before:top-0 before:bottom-0 before:left-[24px] before:w-px before:bg-line"
          >
            {startsThread(entry, i) && (
              <span className="absolute top-2 left-[10px]">
                <RevisionMark label={entry.label ?? ''} mark={revision?.mark ?? 'old'} size="small" />
              </span>
            )}
            <b className="font-semibold">{entry.actor}</b> {entry.forPerson && wording.forForPerson(entry.forPerson)}
            {entry.text}
            {entry.comment && <span className="block text-ink-2">“{entry.comment}”</span>}
            <span className="block text-[11.5px] text-ink-3">
              {showInstant(entry.at, me.organisation.zone)}
              {entry.seq !== null && wording.eventSeq(entry.seq.toLocaleString('en-GB'))}
            </span>
          </li>
        );
      })}
    </ol>
  );
};
