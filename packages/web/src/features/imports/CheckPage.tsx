import { api } from '@kanonos/contract';
import { dayOf } from '@kanonos/core';
import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { Link } from 'react-router';
import { ask } from '../../app/client.ts';
import { useMe } from '../../app/session.tsx';
import { useCommand } from '../../app/useCommand.ts';
import { revisionAddress } from '../../ui/addresses.ts';
import { CommandButton } from '../../ui/controls.tsx';
import { ExportMenu, listOf } from '../../ui/ExportMenu.tsx';
import { count, showInstant } from '../../ui/format.ts';
import { headings } from '../../ui/headings.ts';
import { Empty, Failed, Loading, Refusals } from '../../ui/states.tsx';
import { wording } from './wording.ts';

/** What was taken over and nobody has looked at yet. */
export const CheckPage = () => {
  const { zone } = useMe().organisation;
  const { data, error, isPending, refetch } = useQuery(ask(api.imports.unverified));
  const [marks, setMarks] = useState<ReadonlySet<string>>(new Set());
  const command = useCommand(
    api.imports.confirm,
    ({ confirmed }) => `${count(confirmed, 'document', 'documents')} verified.`,
    () => setMarks(new Set()),
  );
  if (isPending) return <Loading what={wording.theImportedDocuments} />;
  if (error) return <Failed error={error} again={() => void refetch()} />;
  const all = data.documents.length > 0 && data.documents.every((one) => marks.has(one.id));
  return (
    <div className="flex-1 overflow-y-auto px-5 py-4">
      <div className="mb-3 flex items-end justify-between">
        <div>
          <h1>{wording.unverified}</h1>
          <span className="text-ink-2">
            {wording.importedAndNotYetVerifiedOpen(count(data.total, wording.documentWas, wording.documentsWere))}
          </span>
        </div>
        <span className="ml-auto pr-2">
          <ExportMenu
            disabled={data.documents.length === 0}
            list={listOf(wording.unverified, data.documents, [
              [headings.number, (one) => one.number],
              [headings.title, (one) => one.title],
              [wording.revision, (one) => one.label],
              [wording.state, (one) => one.state],
              [wording.imported, (one) => dayOf(new Date(one.since), zone)],
            ])}
          />
        </span>
        <CommandButton
          type="button"
          busy={command.isPending}
          disabled={marks.size === 0}
          onClick={() => command.mutate({ body: { ids: [...marks] } })}
        >
          {marks.size ? wording.confirmSize(marks.size) : wording.confirm}
        </CommandButton>
      </div>
      <Refusals error={command.error} />
      {data.documents.length === 0 ? (
        <Empty title={wording.allImportedDocumentsAreVerified} />
      ) : (
        <table className="w-full border border-line bg-sheet">
          <thead className="bg-film-2 text-left">
            <tr>
              <th className="w-8 px-3 py-1.5">
                <input
                  type="checkbox"
                  className="accent-petrol"
                  aria-label={wording.selectAll}
                  checked={all}
                  onChange={() => setMarks(all ? new Set() : new Set(data.documents.map((one) => one.id)))}
                />
              </th>
              <th className="cap">{wording.numberAndTitle}</th>
              <th className="cap">{wording.revision}</th>
              <th className="cap">{wording.state}</th>
              <th className="cap">{wording.imported}</th>
            </tr>
          </thead>
          <tbody>
            {data.documents.map((one) => (
              <tr key={one.id} className="border-t border-line-2">
                <td className="px-3 py-1">
                  <input
                    type="checkbox"
                    className="accent-petrol"
                    aria-label={wording.selectNumber(one.number)}
                    checked={marks.has(one.id)}
                    onChange={() => {
                      const next = new Set(marks);
                      if (!next.delete(one.id)) next.add(one.id);
                      setMarks(next);
                    }}
                  />
                </td>
                <td>
                  <Link className="link num" to={revisionAddress(one.number, one)}>
                    {one.number}
                  </Link>{' '}
                  {one.title}
                </td>
                <td className="num">{one.label}</td>
                <td>{one.state}</td>
                <td className="text-ink-2">{showInstant(one.since, zone)}</td>
              </tr>
            ))}
          </tbody>
        </table>
      )}
    </div>
  );
};
