import { api, type BulkChange } from '@kanonos/contract';
import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { ask } from '../../app/client.ts';
import { Select } from '../../ui/controls.tsx';
import { DateField } from '../../ui/DateField.tsx';
import { PeoplePicker } from '../../ui/PersonPicker.tsx';
import { KeywordsField } from '../document/KeywordsField.tsx';
import { MetadataFields } from '../document/MetadataFields.tsx';
import { type MetadataValues, toMetadata } from '../document/metadataValues.ts';
import { FolderSelect } from '../registering/FolderSelect.tsx';
import type { Kind } from './changes.ts';
import { wording } from './wording.ts';

/** The new value, by what changes. */
export const Wanted = ({
  kind,
  types,
  start,
  taken,
  onChange,
}: {
  kind: Kind;
  types: readonly string[];
  start: BulkChange;
  /** Fields that another change of the pass sets already. */
  taken: readonly string[];
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
            onChange={(value) => {
              setKey(value);
              setValues({});
              onChange(null);
            }}
            hint={wording.revisionFieldsChangeOnlyWithA}
            empty={wording.chooseAField}
            options={fields
              .filter((one) => !taken.includes(one.key))
              .map((one) => ({ value: one.key, text: one.label }))}
          />
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
