import { api, type ImportDetail } from '@kanonos/contract';
import { useInfiniteQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { Link } from 'react-router';
import { call } from '../../app/client.ts';
import { Segments } from '../../ui/controls.tsx';
import { Failed, Loading } from '../../ui/states.tsx';
import { wording } from './wording.ts';

type Which = 'all' | 'ready' | 'warned' | 'refused' | 'done';
const AT_ONCE = 100;

/** The lines with their verdicts, some at a time. */
export const ImportLines = ({ detail }: { detail: ImportDetail }) => {
  const { id, counts, state, rowVersion } = detail;
  const [which, setWhich] = useState<Which>(counts.refused > 0 ? 'refused' : 'all');
  const list = useInfiniteQuery({
    queryKey: ['imports', 'importLines', id, which, rowVersion],
    queryFn: ({ pageParam, signal }) =>
      call(api.imports.lines, { params: { id }, query: { state: which, after: pageParam, limit: AT_ONCE }, signal }),
    initialPageParam: 0,
    getNextPageParam: (page) => page.next ?? undefined,
    placeholderData: (before) => before,
  });
  const lines = list.data?.pages.flatMap((page) => page.lines) ?? [];
  const shown = detail.headings.flatMap((_, i) => (detail.mapping.columns[i] ? [i] : [])).slice(0, 6);
  const text = (n: number) => n.toLocaleString('en-GB');
  return (
    <section aria-label={wording.lines}>
      {state !== 'prepared' && (
        <div className="mb-2">
          <Segments<Which>
            label={wording.filterLines}
            value={which}
            onChange={setWhich}
            options={[
              { value: 'all', text: wording.allLines(text(counts.lines)) },
              { value: 'ready', text: wording.readyReady(text(counts.ready)) },
              { value: 'warned', text: wording.withWarning(text(counts.warned)) },
              { value: 'refused', text: wording.refusedRefused(text(counts.refused)) },
              { value: 'done', text: wording.importedDone(text(counts.done)) },
            ]}
          />
        </div>
      )}
      {list.isPending ? (
        <Loading what={wording.theLines} />
      ) : list.error ? (
        <Failed error={list.error} again={() => void list.refetch()} />
      ) : (
        <table className="w-full table-fixed border border-line bg-sheet">
          <thead className="bg-film-2 text-left">
            <tr>
              <th className="cap w-14 px-2 py-1">{wording.line}</th>
              {shown.map((i) => (
                <th key={i} className="cap truncate px-1">
                  {detail.headings[i]}
                </th>
              ))}
              <th className="cap w-[38%] px-1">{wording.result}</th>
            </tr>
          </thead>
          <tbody>
            {lines.map((line) => (
              <tr key={line.line} className="border-t border-line-2 align-top">
                <td className="num px-2 py-1 text-ink-3">{line.line}</td>
                {shown.map((i) => (
                  <td key={i} className="truncate px-1 py-1" title={line.cells[i]}>
                    {line.cells[i]}
                  </td>
                ))}
                <td className="px-1 py-1">
                  {line.state === 'done' ? (
                    <Link className="link num" to={`/d/${encodeURIComponent(line.number ?? '')}`}>
                      {line.number}
                    </Link>
                  ) : line.state === 'refused' ? (
                    line.reasons.map((reason) => (
                      <span key={reason} className="block text-vermilion">
                        {reason}
                      </span>
                    ))
                  ) : line.warnings.length ? (
                    line.warnings.map((warning) => (
                      <span key={warning} className="block text-ochre">
                        {warning}
                      </span>
                    ))
                  ) : (
                    <span className="text-ink-3">{line.state === 'ready' ? 'ready' : wording.notCheckedYet}</span>
                  )}
                </td>
              </tr>
            ))}
          </tbody>
        </table>
      )}
      {list.hasNextPage && (
        <button
          type="button"
          className="btn mt-2"
          disabled={list.isFetchingNextPage}
          onClick={() => void list.fetchNextPage()}
        >
          {wording.showMoreLines}
        </button>
      )}
    </section>
  );
};
