import { api, type BodyInOf, type BulkChange, type BulkTrial } from '@kanonos/contract';
import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { ask, call } from '../../app/client.ts';
import { Select } from '../../ui/controls.tsx';
import { DateField } from '../../ui/DateField.tsx';
import { FormDialog } from '../../ui/FormDialog.tsx';
import { count } from '../../ui/format.ts';
import { PeoplePicker } from '../../ui/PersonPicker.tsx';
import { ReasonField } from '../../ui/ReasonField.tsx';
import { Failed, Loading } from '../../ui/states.tsx';
import { KeywordsField } from '../document/KeywordsField.tsx';
import { MetadataFields } from '../document/MetadataFields.tsx';
import { type MetadataValues, toMetadata } from '../document/metadataValues.ts';
import { FolderSelect } from '../registering/FolderSelect.tsx';
import { useBulk } from './useBulk.ts';
import { wording } from './wording.ts';

export type Picked = Pick<BodyInOf<typeof api.bulk.try>, 'ids' | 'filter'> & {
  types: readonly string[];
  number: number;
};

const KINDS = [
  { value: 'field', text: 'A field' },
  { value: 'keywords', text: wording.keywords },
  { value: 'owner', text: wording.owner },
  { value: 'folder', text: wording.folder },
  { value: 'review', text: wording.nextReviewDate },
] as const;
type Kind = (typeof KINDS)[number]['value'];

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
  const [kind, setKind] = useState<Kind>(start?.kind ?? 'field');
  const [change, setChange] = useState<BulkChange | null>(start?.change ?? null);
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
      <div className="grid grid-cols-[200px_minmax(0,1fr)] gap-3">
        <Select
          label={wording.whatToChange}
          value={kind}
          onChange={(event) => {
            setKind(event.target.value as Kind);
            setChange(null);
          }}
        >
          {KINDS.map((one) => (
            <option key={one.value} value={one.value}>
              {one.text}
            </option>
          ))}
        </Select>
        <Wanted
          key={kind}
          kind={kind}
          types={picked.types}
          start={kind === start?.kind ? start.change : {}}
          onChange={setChange}
        />
      </div>
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

/** The new value, by what changes. */
const Wanted = ({
  kind,
  types,
  start,
  onChange,
}: {
  kind: Kind;
  types: readonly string[];
  start: BulkChange;
  onChange: (change: BulkChange | null) => void;
}) => {
  const all = useQuery({ ...ask(api.documents.types), staleTime: 60_000 });
  const folders = useQuery({ ...ask(api.documents.folders), staleTime: 60_000 });
  const [key, setKey] = useState('');
  const [values, setValues] = useState<MetadataValues>({});
  const [owner, setOwner] = useState<{ id: string; name: string }[]>([]);
  const [folder, setFolder] = useState(start.folderId ?? '');
  const [add, setAdd] = useState<string[]>(start.addKeywords ?? []);
  const [remove, setRemove] = useState<string[]>([]);
  const [reviewOn, setReviewOn] = useState('');
  const used = all.data?.types.filter((type) => types.length === 0 || types.includes(type.code)) ?? [];
  const fields = [
    ...new Map(
      used
        .flatMap((type) => type.fields)
        .filter((field) => field.level === 'document')
        .map((field) => [field.key, field]),
    ).values(),
  ];
  const field = fields.find((one) => one.key === key);
  switch (kind) {
    case 'field':
      return (
        <div className="grid grid-cols-2 gap-3">
          <Select
            label={wording.field}
            value={key}
            onChange={(event) => {
              setKey(event.target.value);
              setValues({});
              onChange(null);
            }}
            hint={wording.revisionFieldsChangeOnlyWithA}
          >
            <option value="">{wording.chooseAField}</option>
            {fields.map((one) => (
              <option key={one.key} value={one.key}>
                {one.label}
              </option>
            ))}
          </Select>
          {field && (
            <MetadataFields
              fields={[{ ...field, mandatory: false, dependsOn: undefined, fills: undefined }]}
              values={values}
              onChange={(next) => {
                setValues(next);
                onChange({ metadata: toMetadata([field], next) });
              }}
            />
          )}
        </div>
      );
    case 'keywords':
      return (
        <div className="grid grid-cols-2 gap-3">
          {(
            [
              [wording.add, add, setAdd],
              [wording.remove, remove, setRemove],
            ] as const
          ).map(([label, value, set]) => (
            <KeywordsField
              key={label}
              label={label}
              value={value}
              onChange={(words) => {
                set(words);
                const addKeywords = set === setAdd ? words : add;
                const removeKeywords = set === setAdd ? remove : words;
                onChange(addKeywords.length + removeKeywords.length ? { addKeywords, removeKeywords } : null);
              }}
            />
          ))}
        </div>
      );
    case 'owner':
      return (
        <PeoplePicker
          label={wording.newOwner}
          single
          value={owner}
          onChange={(people) => {
            setOwner(people);
            onChange(people[0] ? { ownerId: people[0].id } : null);
          }}
        />
      );
    case 'folder':
      return (
        <FolderSelect
          folders={folders.data?.folders ?? []}
          value={folder}
          onChange={(id) => {
            setFolder(id);
            onChange(id ? { folderId: id } : null);
          }}
        />
      );
    case 'review':
      return (
        <DateField
          label={wording.nextReviewDate}
          value={reviewOn}
          onChange={(day) => {
            setReviewOn(day);
            onChange(day ? { reviewOn: day } : null);
          }}
        />
      );
  }
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
