import { api } from '@kanonos/contract';
import { dayOf } from '@kanonos/core';
import { useMutation, useQuery } from '@tanstack/react-query';
import { Link, useNavigate } from 'react-router';
import { ask, call } from '../../app/client.ts';
import { useMe } from '../../app/session.tsx';
import { ExportMenu, listOf } from '../../ui/ExportMenu.tsx';
import { FileDrop } from '../../ui/FileDrop.tsx';
import { count, showInstant } from '../../ui/format.ts';
import { headings } from '../../ui/headings.ts';
import { Page } from '../../ui/Page.tsx';
import { Failed, Loading, Refusals } from '../../ui/states.tsx';
import { TableHead } from '../../ui/TableHead.tsx';
import { toast } from '../../ui/toast.ts';
import { wording } from './wording.ts';
import { STATE_WORDS } from './words.ts';

/** Imports of legacy documents: a manifest with files is prepared, tried, taken over; then somebody verifies the documents. */
export const ImportsPage = () => {
  const { zone } = useMe().organisation;
  const navigate = useNavigate();
  const { data, error, isPending, refetch } = useQuery({
    ...ask(api.imports.list),
    refetchInterval: (query) => (query.state.data?.imports.some((one) => one.state === 'running') ? 2000 : false),
  });
  const add = useMutation({
    mutationFn: (uploadId: string) => call(api.imports.add, { body: { uploadId } }),
    onSuccess: ({ id, note }) => {
      if (note) toast.warning(wording.theFileWas(note));
      navigate(`/imports/${id}`);
    },
  });
  if (isPending) return <Loading what="imports" />;
  if (error) return <Failed error={error} again={() => void refetch()} />;
  return (
    <Page
      title={wording.legacyImport}
      about={wording.documentsThatWereNumberedReleasedAnd}
      actions={
        <>
          {data.imports.length > 0 && (
            <ExportMenu
              list={listOf(wording.legacyImport, data.imports, [
                [wording.list, (one) => one.name],
                [wording.prepared, (one) => dayOf(new Date(one.at), zone)],
                [headings.by, (one) => one.by.name],
                [wording.lines, (one) => one.counts.lines],
                [wording.ready, (one) => one.counts.ready],
                [wording.refused, (one) => one.counts.refused],
                [wording.imported, (one) => one.counts.done],
                [wording.state, (one) => STATE_WORDS[one.state]],
              ])}
            />
          )}
          {data.unverified > 0 && (
            <Link className="btn" to="/imports/check">
              {wording.documentsUnverified(count(data.unverified, 'document', 'documents'))}
            </Link>
          )}
        </>
      }
    >
      <div className="mb-4 max-w-3xl">
        <FileDrop
          label={wording.listOfTheDocumentsAsCsv}
          value={null}
          about={wording.oneLinePerRevisionWithColumn}
          onChange={(upload) => upload && add.mutate(upload.id)}
        />
        <Refusals error={add.error} />
      </div>
      {data.imports.length > 0 && (
        <table className="w-full border border-line bg-sheet">
          <TableHead
            headings={[
              wording.list,
              wording.prepared,
              wording.lines,
              wording.ready,
              wording.refused,
              wording.imported,
              wording.state,
            ]}
          />
          <tbody>
            {data.imports.map((one) => (
              <tr key={one.id} className="border-t border-line-2">
                <td className="px-3 py-1.5">
                  <Link className="link" to={`/imports/${one.id}`}>
                    {one.name}
                  </Link>
                </td>
                <td className="text-ink-2">{wording.oneAtByBy(showInstant(one.at, zone), one.by.name)}</td>
                <td className="num">{one.counts.lines.toLocaleString('en-GB')}</td>
                <td className="num">{one.counts.ready.toLocaleString('en-GB')}</td>
                <td className={`num ${one.counts.refused ? 'text-vermilion' : ''}`}>
                  {one.counts.refused.toLocaleString('en-GB')}
                </td>
                <td className="num">{one.counts.done.toLocaleString('en-GB')}</td>
                <td>{STATE_WORDS[one.state]}</td>
              </tr>
            ))}
          </tbody>
        </table>
      )}
    </Page>
  );
};
