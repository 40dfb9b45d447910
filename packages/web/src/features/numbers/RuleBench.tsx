import { api, type NumberRule } from '@kanonos/contract';
import { useMutation } from '@tanstack/react-query';
import { useVirtualizer } from '@tanstack/react-virtual';
import { useMemo, useRef, useState } from 'react';
import { useDropzone } from 'react-dropzone';
import { call, uploadFile } from '../../app/client.ts';
import { count } from '../../ui/format.ts';
import { saveFile } from '../../ui/saveFile.ts';
import { Empty, Refusals } from '../../ui/states.tsx';
import { toast } from '../../ui/toast.ts';
import { useBench } from './useBench.ts';
import { wording } from './wording.ts';
import {
  detailOf,
  gapWords,
  linesOf,
  STANDING_WORDS,
  STANDINGS,
  type Standing,
  standingOf,
  verdictsAsCsv,
} from './words.ts';

const MOST_LINES = 100_000;
const BAD: ReadonlySet<Standing> = new Set(['malformed', 'duplicate', 'void', 'taken']);

/** Tries a list of numbers against the rules: a verdict a line, counts, gaps, and the list with its verdicts to take away. */
export const RuleBench = ({ rules }: { rules: readonly NumberRule[] }) => {
  const [text, setText] = useState('');
  const [lines, setLines] = useState<string[]>([]);
  const [only, setOnly] = useState<Standing | null>(null);
  const [tooMany, setTooMany] = useState(0);
  const bench = useBench(rules, lines);
  const judge = (list: string[]) => {
    setTooMany(list.length > MOST_LINES ? list.length : 0);
    setOnly(null);
    setLines(list.slice(0, MOST_LINES));
  };
  const table = useMutation({
    mutationFn: async (file: File) => {
      const upload = await uploadFile(file, () => {});
      return call(api.numbers.lines, { body: { uploadId: upload.id } });
    },
    onSuccess: (read) => {
      toast.message(
        wording.columnRead(read.column || wording.withoutHeading, read.note ? wording.theFileWas(read.note) : ''),
      );
      setText('');
      judge(read.lines);
    },
  });
  const { getRootProps, getInputProps, isDragActive, open } = useDropzone({
    noClick: true,
    multiple: false,
    accept: {
      'text/csv': ['.csv'],
      'text/plain': ['.txt'],
      'application/vnd.openxmlformats-officedocument.spreadsheetml.sheet': ['.xlsx'],
    },
    onDrop: async ([file]) => {
      if (!file) return;
      if (/\.(xlsx|csv)$/i.test(file.name)) return table.mutate(file);
      const content = await file.text();
      setText(content.length > 200_000 ? '' : content);
      judge(linesOf(content));
    },
  });
  const rows = useMemo(
    () =>
      bench.verdicts.map((verdict) => {
        const known = bench.known.get(verdict.folded);
        return { verdict, known, standing: standingOf(verdict, known) };
      }),
    [bench.verdicts, bench.known],
  );
  const counts = useMemo(() => {
    const found = new Map<Standing, number>();
    for (const { standing } of rows) found.set(standing, (found.get(standing) ?? 0) + 1);
    return found;
  }, [rows]);
  const shown = only ? rows.filter((row) => row.standing === only) : rows;
  const busy = bench.total > 0 && bench.lookedUp < bench.total && !bench.error;
  return (
    <div className="grid min-h-0 flex-1 grid-cols-[300px_minmax(0,1fr)] max-lg:grid-cols-1 max-lg:grid-rows-[auto_minmax(0,1fr)]">
      <form
        {...getRootProps({
          role: 'form',
          className: `flex min-h-0 flex-col gap-2 border-r border-line p-3 ${isDragActive ? 'bg-petrol-tint' : ''}`,
        })}
        aria-label={wording.list}
        onSubmit={(event) => {
          event.preventDefault();
          judge(linesOf(text));
        }}
      >
        <label className="cap" htmlFor="bench-list">
          {wording.numbersOnePerLine}
        </label>
        <textarea
          id="bench-list"
          className="inp num min-h-0 flex-1 resize-none !leading-[1.6]"
          spellCheck={false}
          value={text}
          onChange={(event) => setText(event.target.value)}
          placeholder={wording.pasteAColumnOfASpreadsheet}
        />
        <input {...getInputProps({ 'aria-label': wording.anXlsxCsvOrTextFile })} />
        <div className="flex gap-2">
          <button type="submit" className="btn btn-pri flex-1" disabled={text.trim() === ''}>
            {wording.checkList}
          </button>
          <button type="button" className="btn" onClick={open}>
            {wording.chooseFile}
          </button>
        </div>
        <Refusals error={table.error} />
        <p className="text-[11.5px] text-ink-3">
          {table.isPending && wording.readingTheFile}
          {wording.upToLinesNothingIsSaved(MOST_LINES.toLocaleString('en-GB'))}
        </p>
      </form>
      <section aria-label={wording.results} className="flex min-h-0 min-w-0 flex-col bg-sheet">
        {lines.length === 0 ? (
          <Empty title={wording.checkAListOfNumbersHere}>{wording.eachLineIsReadByThe}</Empty>
        ) : (
          <>
            <BenchSummary
              bench={bench}
              busy={busy}
              counts={counts}
              only={only}
              total={rows.length}
              setOnly={setOnly}
              shown={shown}
            />
            {tooMany > 0 && (
              <p className="border-b border-line bg-ochre-tint px-3 py-1.5 text-ochre">
                {wording.theListHasTheFirstAre(count(tooMany, 'line'), MOST_LINES.toLocaleString('en-GB'))}
              </p>
            )}
            <Refusals error={bench.error} />
            <Verdicts rows={shown} />
            {bench.gaps.length > 0 && (
              <div
                aria-label={wording.gaps}
                className="max-h-[30%] overflow-y-auto border-t border-line px-3 py-2"
                tabIndex={0}
                role="region"
              >
                <h2 className="cap mb-1">{wording.inTheListPerScope}</h2>
                <ul>
                  {bench.gaps.map((scope) => (
                    <li
                      key={scope.scope}
                      className="grid grid-cols-[170px_110px_minmax(0,1fr)] gap-3 py-0.5 text-[12.5px]"
                    >
                      <span className="num">{scope.scope}</span>
                      <span className="num">
                        {scope.first === scope.last ? scope.first : `${scope.first}–${scope.last}`}
                      </span>
                      <span className={scope.gaps.length ? '' : 'text-ink-3'}>{gapWords(scope)}</span>
                    </li>
                  ))}
                </ul>
              </div>
            )}
          </>
        )}
      </section>
    </div>
  );
};

/** How many numbers are what, each count a filter, and the export. */
const BenchSummary = ({
  bench,
  busy,
  counts,
  only,
  total,
  setOnly,
  shown,
}: {
  bench: ReturnType<typeof useBench>;
  busy: boolean;
  counts: ReadonlyMap<Standing, number>;
  only: Standing | null;
  total: number;
  setOnly: (standing: Standing | null) => void;
  shown: Parameters<typeof verdictsAsCsv>[0];
}) => (
  <div className="flex items-start gap-3 border-b border-line bg-film-2 px-3 py-2">
    <div className="flex min-w-0 flex-1 flex-wrap gap-1.5">
      <Chip text={wording.allTotal(total.toLocaleString('en-GB'))} on={only === null} choose={() => setOnly(null)} />
      {STANDINGS.filter((standing) => counts.has(standing)).map((standing) => (
        <Chip
          key={standing}
          text={`${STANDING_WORDS[standing]} ${(counts.get(standing) ?? 0).toLocaleString('en-GB')}`}
          on={only === standing}
          choose={() => setOnly(only === standing ? null : standing)}
        />
      ))}
    </div>
    <span role="status" className="pt-1 text-[12px] text-ink-2">
      {busy && `${Math.round((100 * (bench.judged + bench.lookedUp)) / (2 * bench.total))} %`}
    </span>
    <button
      type="button"
      className="btn"
      disabled={busy || shown.length === 0}
      onClick={() => save('numbers-judged.csv', verdictsAsCsv(shown))}
    >
      {wording.exportCsv}
    </button>
  </div>
);

const Chip = ({ text, on, choose }: { text: string; on: boolean; choose: () => void }) => (
  <button
    type="button"
    aria-pressed={on}
    onClick={choose}
    className={`btn !h-6 ${on ? '!border-ink !bg-ink !text-white' : ''}`}
  >
    {text}
  </button>
);

type Row = Parameters<typeof verdictsAsCsv>[0][number] & { standing: Standing };
const ROW = 26;

const Verdicts = ({ rows }: { rows: Row[] }) => {
  const scroll = useRef<HTMLDivElement>(null);
  const virtual = useVirtualizer({
    count: rows.length,
    getScrollElement: () => scroll.current,
    estimateSize: () => ROW,
    overscan: 20,
  });
  return (
    <div ref={scroll} tabIndex={0} role="region" aria-label={wording.lines} className="min-h-0 flex-1 overflow-y-auto">
      <ol className="relative" style={{ height: virtual.getTotalSize() }}>
        {virtual.getVirtualItems().map((item) => {
          const row = rows[item.index];
          if (!row) return null;
          return (
            <li
              key={item.key}
              className="absolute grid w-full min-w-[600px] grid-cols-[64px_190px_130px_minmax(0,1fr)] items-center gap-3 border-b border-line-2 px-3"
              style={{ height: ROW, top: item.start }}
            >
              <span className="num text-right text-ink-3">{row.verdict.line}</span>
              <span className="num truncate">{row.verdict.number}</span>
              <span
                className={`text-[12px] font-[550] ${BAD.has(row.standing) ? 'text-vermilion' : row.standing === 'free' ? 'text-petrol' : ''}`}
              >
                {STANDING_WORDS[row.standing]}
              </span>
              <span className="truncate text-[12.5px] text-ink-2" title={detailOf(row.verdict, row.known)}>
                {detailOf(row.verdict, row.known)}
              </span>
            </li>
          );
        })}
      </ol>
    </div>
  );
};

const save = (name: string, text: string) => saveFile(name, [text], 'text/csv;charset=utf-8');
