import { api } from '@kanonos/contract';
import { dayOf } from '@kanonos/core';
import { useQuery } from '@tanstack/react-query';
import { Link } from 'react-router';
import { ask } from '../../app/client.ts';
import { useMe } from '../../app/session.tsx';
import { documentAddress } from '../../ui/addresses.ts';
import { ExportMenu, listOf } from '../../ui/ExportMenu.tsx';
import { showInstant } from '../../ui/format.ts';
import { headings } from '../../ui/headings.ts';
import { Empty, Failed, Loading } from '../../ui/states.tsx';
import { TableHead } from '../../ui/TableHead.tsx';
import { wording } from './wording.ts';

/** Documents that were removed and that I may restore. */
export const RemovedPage = () => {
  const { zone } = useMe().organisation;
  const { data, error, isPending, refetch } = useQuery(ask(api.documents.removed));
  if (isPending) return <Loading what={wording.theRemovedDocuments} />;
  if (error) return <Failed error={error} again={() => void refetch()} />;
  return (
    <div className="flex-1 overflow-y-auto px-5 py-4">
      <div className="flex items-start justify-between gap-3">
        <h1>{wording.removedDocuments}</h1>
        {data.documents.length > 0 && (
          <ExportMenu
            list={listOf(wording.removedDocuments, data.documents, [
              [headings.number, (one) => one.number],
              [headings.title, (one) => one.title],
              [wording.reason, (one) => one.reason],
              [wording.by, (one) => one.by],
              [wording.on, (one) => dayOf(new Date(one.removedAt), zone)],
            ])}
          />
        )}
      </div>
      <p className="mb-3 text-ink-2">{wording.theyAppearInNoListAnd}</p>
      {data.documents.length === 0 ? (
        <Empty title={wording.noRemovedDocuments} />
      ) : (
        <table className="w-full border border-line bg-sheet">
          <TableHead headings={[wording.numberAndTitle, wording.reason, wording.by, wording.on]} />
          <tbody>
            {data.documents.map((document) => (
              <tr key={document.id} className="border-t border-line-2">
                <td className="px-3 py-1.5">
                  <Link className="link num" to={documentAddress(document.number)}>
                    {document.number}
                  </Link>{' '}
                  {document.title}
                </td>
                <td>{document.reason}</td>
                <td>{document.by}</td>
                <td className="text-ink-2">{showInstant(document.removedAt, zone)}</td>
              </tr>
            ))}
          </tbody>
        </table>
      )}
    </div>
  );
};
