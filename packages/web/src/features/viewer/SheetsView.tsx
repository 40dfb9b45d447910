import { api } from '@kanonos/contract';
import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { ask } from '../../app/client.ts';
import { Failed, Loading } from '../../ui/states.tsx';
import { wording } from './wording.ts';

/** The name of a column as spreadsheets count: A to Z, AA and on. */
const columnName = (n: number): string =>
  (n < 26 ? '' : columnName(Math.floor(n / 26) - 1)) + String.fromCharCode(65 + (n % 26));

/** The sheets of a workbook as tables; formulas show the value that was stored with them. */
export const SheetsView = ({ file }: { file: string }) => {
  const { data, error } = useQuery({
    ...ask(api.viewing.sheets, { params: { file } }),
    staleTime: Number.POSITIVE_INFINITY,
    refetchInterval: (query) => (query.state.data?.state === 'waiting' ? 1000 : false),
  });
  const [at, setAt] = useState(0);
  if (error) return <Failed error={error} />;
  if (data?.state === 'failed') return <Failed error={new Error(wording.itCannotBeShownAsSheets(data.why ?? ''))} />;
  if (data?.state !== 'done') return <Loading what={data ? wording.theSheetsWhichAreBeingRead : wording.theSheets} />;
  const sheet = data.sheets[at];
  return (
    <div className="flex min-h-0 flex-1 flex-col">
      <div
        className="min-h-0 flex-1 overflow-auto bg-sheet"
        tabIndex={0}
        role="region"
        aria-label={wording.sheetSheet(sheet?.name ?? '')}
        data-testid="viewer"
      >
        <table className="border-collapse text-[12px]">
          <thead className="sticky top-0 bg-film-2">
            <tr>
              <th className="border border-line px-1.5" aria-label={wording.row} />
              {sheet?.rows[0]?.map((_, c) => (
                <th key={columnName(c)} className="num border border-line px-1.5 font-normal text-ink-3">
                  {columnName(c)}
                </th>
              ))}
            </tr>
          </thead>
          <tbody>
            {sheet?.rows.map((row, r) => (
              // biome-ignore lint/suspicious/noArrayIndexKey: rows keep their place
              <tr key={r}>
                <th className="num border border-line bg-film-2 px-1.5 text-right font-normal text-ink-3">{r + 1}</th>
                {row.map((cell, c) => (
                  <td
                    key={columnName(c)}
                    className={`max-w-80 truncate border border-line-2 px-1.5 py-0.5 ${/^-?[\d.,]+$/.test(cell) ? 'num text-right' : ''}`}
                    title={cell}
                  >
                    {cell}
                  </td>
                ))}
              </tr>
            ))}
          </tbody>
        </table>
        {sheet?.more && <p className="p-2 text-[12px] text-ink-3">{wording.thereIsMoreDownloadTheFile}</p>}
      </div>
      <div
        role="tablist"
        aria-label={wording.sheets}
        className="flex gap-1 overflow-x-auto border-t border-line bg-film-2 px-2 py-1"
      >
        {data.sheets.map((one, i) => (
          <button
            key={one.name}
            type="button"
            role="tab"
            aria-selected={i === at}
            onClick={() => setAt(i)}
            className={`btn !h-6 ${i === at ? '!border-ink !bg-ink !text-white' : ''}`}
          >
            {one.name}
          </button>
        ))}
      </div>
    </div>
  );
};
