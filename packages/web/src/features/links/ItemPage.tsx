import { api } from '@kanonos/contract';
import { useQuery } from '@tanstack/react-query';
import { Link, useParams } from 'react-router';
import { ask } from '../../app/client.ts';
import { showInstant } from '../../ui/format.ts';
import { HoldWords } from '../../ui/marks.tsx';
import { Page } from '../../ui/Page.tsx';
import { Empty, Failed, Loading } from '../../ui/states.tsx';
import { TableHead } from '../../ui/TableHead.tsx';
import { wording } from './wording.ts';

/** An item outside, such as a machine or an order: every document that is linked to it. */
export const ItemPage = () => {
  const { kind = '', code = '' } = useParams();
  const { data, error, isPending, refetch } = useQuery(ask(api.links.item, { params: { kind, code } }));
  if (isPending) return <Loading what={wording.theDocumentsOfTheItem} />;
  if (error) return <Failed error={error} again={() => void refetch()} />;
  return (
    <Page title={data.name || data.code} about={`${data.kind.text} ${data.code}`}>
      {data.documents.length === 0 ? (
        <Empty title={wording.noDocumentIsLinkedToIt}>{wording.linksToItemsAreAdded}</Empty>
      ) : (
        <>
          <p className="mb-2 text-ink-2">
            {wording.documentsLinked(data.documents.length)}{' '}
            <Link className="link" to={`/register?q=${encodeURIComponent(`item:"${data.code}"`)}`}>
              {wording.openInTheRegister}
            </Link>
          </p>
          <div className="overflow-x-auto">
            <table className="rows w-full">
              <TableHead headings={wording.itemColumns} className="" cell="px-2 py-1" />
              <tbody>
                {data.documents.map((one) => (
                  <tr key={one.id} className="border-t border-line-2">
                    <td className="num px-2 py-1">
                      <Link className="hover:underline" to={`/d/${encodeURIComponent(one.number)}?tab=citations`}>
                        {one.number}
                      </Link>
                    </td>
                    <td className="px-2 py-1">
                      {one.title}
                      <HoldWords when={one.onHold} />
                    </td>
                    <td className="px-2 py-1">{[one.label, one.state].filter(Boolean).join(', ')}</td>
                    <td className="px-2 py-1">{one.note}</td>
                    <td className="px-2 py-1 whitespace-nowrap">
                      {one.by}, {showInstant(one.at)}
                    </td>
                  </tr>
                ))}
              </tbody>
            </table>
          </div>
        </>
      )}
    </Page>
  );
};
