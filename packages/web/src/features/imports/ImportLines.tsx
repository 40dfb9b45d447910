import { type AnswerOf, api, type ImportDetail, type ImportLine } from '@kanonos/contract';
import { useInfiniteQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { Link, useSearchParams } from 'react-router';
import { call } from '../../app/client.ts';
import { documentAddress } from '../../ui/addresses.ts';
import { Segments } from '../../ui/controls.tsx';
import { ExportMenu } from '../../ui/ExportMenu.tsx';
import { Failed, Loading } from '../../ui/states.tsx';
import { CorrectLine } from './CorrectLine.tsx';
import { wording } from './wording.ts';

const WHICH = ['all', 'ready', 'warned', 'refused', 'done'] as const;
type Which = (typeof WHICH)[number];
const AT_ONCE = 100;

/** Every line with this verdict, to the last one. */
const readLines = async (
  id: string,
  state: Which,
  reason: string,
): Promise<AnswerOf<typeof api.imports.lines>['lines']> => {
  const lines: AnswerOf<typeof api.imports.lines>['lines'] = [];
  for (let after: number | null = 0; after !== null; ) {
    const page: AnswerOf<typeof api.imports.lines> = await call(api.imports.lines, {
      params: { id },
      query: { state, reason: reason || undefined, after, limit: AT_ONCE },
    });
    lines.push(...page.lines);
    after = page.next;
  }
  return lines;
};

/** Widths of columns whose values have a usual length: numbers and days are shown whole. */
const WIDTHS: Readonly<Record<string, string>> = {
  number: 'w-[12%]',
  title: 'w-[22%]',
  label: 'w-[6%]',
  state: 'w-[8%]',
  from: 'w-[8%]',
  to: 'w-[8%]',
};

/** The lines with their verdicts, some at a time. */
export const ImportLines = ({ detail }: { detail: ImportDetail }) => {
  const { id, counts, state, rowVersion } = detail;
  const [params, setParams] = useSearchParams();
  const which = WHICH.find((one) => one === params.get('lines')) ?? (counts.refused > 0 ? 'refused' : 'all');
  const reason = params.get('reason') ?? '';
  const [correcting, setCorrecting] = useState<ImportLine | null>(null);
  const setWhich = (next: Which) =>
    setParams(
      (before) => {
        const after = new URLSearchParams(before);
        after.set('lines', next);
        after.delete('reason');
        return after;
      },
      { replace: true },
    );
  const list = useInfiniteQuery({
    queryKey: ['imports', 'importLines', id, which, reason, rowVersion],
    queryFn: ({ pageParam, signal }) =>
      call(api.imports.lines, {
        params: { id },
        query: { state: which, reason: reason || undefined, after: pageParam, limit: AT_ONCE },
        signal,
      }),
    initialPageParam: 0,
    getNextPageParam: (page) => page.next ?? undefined,
    placeholderData: (before) => before,
  });
  const lines = list.data?.pages.flatMap((page) => page.lines) ?? [];
  const shown = detail.headings.flatMap((_, i) => (detail.mapping.columns[i] ? [i] : [])).slice(0, 6);
  // A title is what one knows a document by: it is shown whole.
  const isTitle = (i: number) => detail.mapping.columns[i] === 'title';
  const width = (i: number) => WIDTHS[detail.mapping.columns[i] ?? ''] ?? '';
  const isOpen = state === 'prepared' || state === 'checked' || state === 'stopped';
  const text = (n: number) => n.toLocaleString('en-GB');
  return (
    <section aria-label={wording.lines}>
      {state !== 'prepared' && (
        <div className="mb-2 flex justify-between gap-2">
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
          <ExportMenu
            disabled={lines.length === 0}
            list={{
              name: wording.lines,
              headings: [wording.line, ...detail.headings, wording.result],
              rows: async () =>
                (await readLines(id, which, reason)).map((line) => [
                  line.line,
                  ...detail.headings.map((_, i) => line.cells[i] ?? ''),
                  line.number ?? [...line.reasons, ...line.warnings].join(' '),
                ]),
            }}
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
                <th key={i} className={`cap truncate px-1 ${width(i)}`}>
                  {detail.headings[i]}
                </th>
              ))}
              <th className="cap w-[24%] px-1">{wording.result}</th>
              <th className="cap w-20">
                <span className="sr-only">{wording.actions}</span>
              </th>
            </tr>
          </thead>
          <tbody>
            {lines.map((line) => (
              <tr key={line.line} className="border-t border-line-2 align-top">
                <td className="num px-2 py-1 text-ink-3">{line.line}</td>
                {shown.map((i) => (
                  <td key={i} className={`px-1 py-1 ${isTitle(i) ? '' : 'truncate'}`} title={line.cells[i]}>
                    {line.cells[i]}
                  </td>
                ))}
                <td className="px-1 py-1">
                  {line.state === 'done' ? (
                    <Link className="link num" to={documentAddress(line.number ?? '')}>
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
                <td className="px-1 py-1 text-right">
                  {line.state !== 'done' && isOpen && (
                    <button
                      type="button"
                      className="btn btn-quiet !h-6"
                      aria-label={wording.correctLine(line.line)}
                      onClick={() => setCorrecting(line)}
                    >
                      {wording.correct}
                    </button>
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
      {correcting && (
        <CorrectLine importId={id} headings={detail.headings} line={correcting} close={() => setCorrecting(null)} />
      )}
    </section>
  );
};
