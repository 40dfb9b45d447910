import { api } from '@kanonos/contract';
import { useQuery } from '@tanstack/react-query';
import { Link } from 'react-router';
import { ask } from '../../../app/client.ts';
import { useMe } from '../../../app/session.tsx';
import { showDay, showInstant } from '../../../ui/format.ts';
import { Empty, Failed, Loading } from '../../../ui/states.tsx';
import { Differences } from '../Differences.tsx';
import { wording } from './wording.ts';

/** What changed in the routes of all types, and what is planned: who, when, why. */
export const SignatoryHistory = () => {
  const { zone } = useMe().organisation;
  const { data, error, isPending, refetch } = useQuery(ask(api.signatories.history));
  if (isPending) return <Loading what={wording.theHistory} />;
  if (error) return <Failed error={error} again={() => void refetch()} />;
  if (data.changes.length === 0) return <Empty title={wording.nothingChanged}>{wording.nothingChangedHint}</Empty>;
  return (
    <ol className="flex max-w-4xl flex-col border border-line bg-sheet">
      {data.changes.map((change) => (
        <li
          key={`${change.typeId} ${change.at ?? change.from}`}
          className={`border-b border-line-2 px-3 py-2 last:border-0 ${change.at ? '' : 'border-l-3 border-l-ochre bg-ochre-tint'}`}
        >
          <p>
            <Link className="num link" to={`/rules/types/${change.typeId}`}>
              {change.code}
            </Link>{' '}
            <b className="font-semibold">{change.reason}</b>{' '}
            <span className="text-ink-2">
              {change.by}, {change.at ? showInstant(change.at, zone) : wording.planned(showDay(change.from ?? ''))}
            </span>
          </p>
          <Differences differences={change.differences} />
        </li>
      ))}
    </ol>
  );
};
