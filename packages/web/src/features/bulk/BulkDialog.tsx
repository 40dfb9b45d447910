import { api, type BodyInOf, type BulkChange, type BulkTrial } from '@kanonos/contract';
import { useQuery } from '@tanstack/react-query';
import { X } from 'lucide-react';
import { useState } from 'react';
import { call } from '../../app/client.ts';
import { Select } from '../../ui/controls.tsx';
import { FormDialog } from '../../ui/FormDialog.tsx';
import { count } from '../../ui/format.ts';
import { ReasonField } from '../../ui/ReasonField.tsx';
import { Failed, Loading } from '../../ui/states.tsx';
import { KINDS, type Kind, mergeChanges } from './changes.ts';
import { useBulk } from './useBulk.ts';
import { Wanted } from './Wanted.tsx';
import { wording } from './wording.ts';

export type Picked = Pick<BodyInOf<typeof api.bulk.try>, 'ids' | 'filter'> & {
  types: readonly string[];
  number: number;
};

/** One of the changes of a pass; `change` is null until its value is chosen. */
type Part = { id: number; kind: Kind; change: BulkChange | null };

/** Fields may be changed several at once, everything else once. */
const kindsFor = (parts: readonly Part[], part: Part) =>
  KINDS.filter(({ value }) => value === 'field' || value === part.kind || !parts.some((other) => other.kind === value));

/** Changes many documents at once: first what, then what it would do to which, then why. */
export const BulkDialog = ({
  picked,
  start,
  close,
}: {
  picked: Picked;
  /** What dropping the documents somewhere has determined already. */
  start?: { kind: Kind; change: BulkChange };
  close: () => void;
}) => {
  const [parts, setParts] = useState<readonly Part[]>([
    { id: 0, kind: start?.kind ?? 'field', change: start?.change ?? null },
  ]);
  const change = mergeChanges(parts.map((part) => part.change));
  const set = (id: number, to: Partial<Part>) =>
    setParts((before) => before.map((part) => (part.id === id ? { ...part, ...to } : part)));
  const [reason, setReason] = useState('');
  const { run, share, error, stop } = useBulk();
  const trial = useQuery({
    queryKey: ['bulk', 'tryBulk', picked.ids, picked.filter, change],
    queryFn: ({ signal }) =>
      call(api.bulk.try, { body: { ids: picked.ids, filter: picked.filter, change: change ?? {} }, signal }),
    enabled: change !== null,
    staleTime: 0,
  });
  const ready = trial.data !== undefined && trial.data.ids.length > 0 && reason.trim() !== '';
  return (
    <FormDialog
      title={wording.changeDocuments(count(picked.number, 'document', 'documents'))}
      wide
      command={{ isPending: share !== null, error }}
      button={trial.data ? wording.changeIds(trial.data.ids.length.toLocaleString('en-GB')) : wording.change}
      ready={ready}
      onSubmit={() => {
        if (trial.data && change) void run(trial.data, change, reason).then((whole) => whole && close());
      }}
      onClose={() => {
        stop();
        close();
      }}
      leave={share === null ? wording.cancel : wording.stop}
    >
      <ul className="flex flex-col gap-3">
        {parts.map((part, i) => (
          <li key={part.id} className="grid grid-cols-[200px_minmax(0,1fr)_auto] items-start gap-3 max-md:grid-cols-1">
            <Select
              label={wording.whatToChange}
              value={part.kind}
              onChange={(value) => set(part.id, { kind: value as Kind, change: null })}
              options={kindsFor(parts, part)}
            />
            <Wanted
              key={part.kind}
              kind={part.kind}
              types={picked.types}
              start={i === 0 && part.kind === start?.kind ? start.change : {}}
              taken={parts.flatMap((other) => (other.id === part.id ? [] : Object.keys(other.change?.metadata ?? {})))}
              onChange={(next) => set(part.id, { change: next })}
            />
            {parts.length > 1 && (
              <button
                type="button"
                className="btn btn-quiet mt-5 !px-1"
                aria-label={wording.removeChange(i + 1)}
                onClick={() => setParts(parts.filter((other) => other.id !== part.id))}
              >
                <X size={14} aria-hidden />
              </button>
            )}
          </li>
        ))}
      </ul>
      <button
        type="button"
        className="btn self-start"
        disabled={parts.some((part) => part.change === null)}
        onClick={() =>
          setParts([...parts, { id: Math.max(...parts.map((part) => part.id)) + 1, kind: 'field', change: null }])
        }
      >
        {wording.addAnotherChange}
      </button>
      {share !== null ? (
        <div role="status">
          {wording.shareChanged(Math.round(share * 100))}
          <div className="mt-1 h-1.5 bg-line-2">
            <div className="h-1.5 bg-petrol" style={{ width: `${share * 100}%` }} />
          </div>
        </div>
      ) : change === null ? (
        <p className="text-ink-2">{wording.youSeeTheEffectBeforeAnything}</p>
      ) : trial.isPending ? (
        <Loading what={wording.thePreview} />
      ) : trial.error ? (
        <Failed error={trial.error} />
      ) : (
        <Effect trial={trial.data} />
      )}
      <ReasonField value={reason} onChange={setReason} />
    </FormDialog>
  );
};

const Effect = ({ trial }: { trial: BulkTrial }) => (
  <div className="flex max-h-[38vh] flex-col gap-2 overflow-y-auto" aria-live="polite">
    <p>
      <b className="font-semibold">{count(trial.ids.length, wording.documentChanges, wording.documentsChange)}</b>
      {trial.unchanged > 0 && wording.thisValueAlready(count(trial.unchanged, 'has', 'have'))}
      {trial.refusedCount > 0 && (
        <span className="text-vermilion">
          , {count(trial.refusedCount, wording.cannotBeChanged, wording.cannotBeChanged)}
        </span>
      )}
      .
    </p>
    <ul className="border border-line-2 bg-film-2">
      {trial.sample.map((document) => (
        <li
          key={document.id}
          className="grid grid-cols-[128px_minmax(0,1fr)] gap-2 border-b border-line-2 px-2 py-1 last:border-0"
        >
          <span className="num">{document.number}</span>
          <span className="min-w-0">
            {document.differences.map((difference) => (
              <span key={difference.what} className="block break-words">
                {difference.what}:{' '}
                {difference.before !== '–' && <del className="text-vermilion">{difference.before}</del>}{' '}
                <b className="font-semibold">{difference.after === '–' ? 'cleared' : difference.after}</b>
              </span>
            ))}
          </span>
        </li>
      ))}
      {trial.ids.length > trial.sample.length && (
        <li className="px-2 py-1 text-ink-3">
          {wording.andMore2((trial.ids.length - trial.sample.length).toLocaleString('en-GB'))}
        </li>
      )}
    </ul>
    {trial.refused.length > 0 && (
      <ul className="border border-line-2">
        {trial.refused.map((document) => (
          <li key={document.id} className="grid grid-cols-[128px_minmax(0,1fr)] gap-2 px-2 py-0.5">
            <span className="num">{document.number}</span>
            <span className="text-vermilion">{document.reasons.join(' ')}</span>
          </li>
        ))}
        {trial.refusedCount > trial.refused.length && (
          <li className="px-2 py-0.5 text-ink-3">{wording.andMore3(trial.refusedCount - trial.refused.length)}</li>
        )}
      </ul>
    )}
  </div>
);
