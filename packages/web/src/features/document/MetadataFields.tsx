import { api, type Field } from '@kanonos/contract';
import { offeredOptions } from '@kanonos/core';
import { useQuery } from '@tanstack/react-query';
import { ask } from '../../app/client.ts';
import { Select, TextArea, TextField } from '../../ui/controls.tsx';
import { DateField } from '../../ui/DateField.tsx';
import { PeoplePicker } from '../../ui/PersonPicker.tsx';
import { UnitPicker } from '../../ui/UnitPicker.tsx';
import { pathOf } from '../filing/paths.ts';
import { DocumentPicker } from './DocumentPicker.tsx';
import { EntryPicker } from './EntryPicker.tsx';
import { type MetadataValues, partsOf, toMetadata } from './metadataValues.ts';
import { wording } from './wording.ts';

type FieldsProps = {
  fields: readonly Field[];
  values: MetadataValues;
  onChange: (values: MetadataValues) => void;
  errors?: Record<string, string>;
  /** The source of a value, shown below it. */
  origins?: Record<string, string>;
  /** The names of chosen people and entries. */
  names?: Record<string, string>;
};

/** One control per field that the type asks for, by its kind. */
export const MetadataFields = ({ fields, values, onChange, errors = {}, origins = {}, names = {} }: FieldsProps) => (
  <>
    {fields.map((field) => (
      <MetadataField
        key={field.key}
        field={field}
        fields={fields}
        values={values}
        onChange={onChange}
        error={errors[field.key]}
        origin={origins[field.key]}
        name={names[field.key]}
      />
    ))}
  </>
);

const MetadataField = ({
  field,
  fields,
  values,
  onChange,
  error,
  origin,
  name,
}: {
  field: Field;
  fields: readonly Field[];
  values: MetadataValues;
  onChange: (values: MetadataValues) => void;
  error: string | undefined;
  origin: string | undefined;
  name: string | undefined;
}) => {
  const value = values[field.key] ?? '';
  const label = `${field.label}${field.unit ? ` (${field.unit})` : ''}`;
  const common = { label, optional: !field.mandatory, hint: origin ?? field.help, error, value };
  const set = (next: string) => {
    // Values that depend on another choice than the new one go with it.
    const below = fields.filter((one) => one.dependsOn === field.key);
    const cleared = below.flatMap((one) => {
      const option = one.options?.find(({ code }) => code === values[one.key]);
      return option?.under !== undefined && option.under !== next ? [[one.key, ''] as const] : [];
    });
    onChange({ ...values, [field.key]: next, ...Object.fromEntries(cleared) });
  };
  switch (field.kind) {
    case 'choice': {
      const offered = offeredOptions(field, toMetadata(fields, values));
      const kept = field.options?.find((option) => option.code === value && !offered.includes(option));
      return (
        <Select {...common} onChange={set}>
          <option value="">–</option>
          {[...offered, ...(kept ? [kept] : [])].map((option) => (
            <option key={option.code} value={option.code}>
              {option.text}
              {option.retired ? ' (retired)' : ''}
            </option>
          ))}
        </Select>
      );
    }
    case 'choices': {
      const options = offeredOptions(field, toMetadata(fields, values)).map(({ code, text }) => ({
        id: code,
        name: text,
      }));
      return (
        <UnitPicker label={label} units={options} value={partsOf(value)} onChange={(codes) => set(codes.join('\n'))} />
      );
    }
    case 'yes/no':
      return (
        <Select {...common} onChange={set}>
          <option value="">–</option>
          <option value="true">{wording.yes}</option>
          <option value="false">{wording.no}</option>
        </Select>
      );
    case 'person':
    case 'people':
      return <PeopleField {...common} single={field.kind === 'person'} name={name} set={set} />;
    case 'department':
    case 'site':
      return <UnitField {...common} kind={field.kind} set={set} />;
    case 'document':
      return <DocumentPicker {...common} onChange={set} />;
    case 'folder':
      return <FolderField {...common} set={set} />;
    case 'entry':
      return (
        <EntryPicker
          {...common}
          list={field.list ?? ''}
          name={name}
          onPick={(entry) => {
            const filled = Object.entries(field.fills ?? {}).flatMap(([key, fieldValue]) =>
              entry?.metadata[fieldValue] ? [[key, entry.metadata[fieldValue]] as const] : [],
            );
            onChange({ ...values, [field.key]: entry?.code ?? '', ...Object.fromEntries(filled) });
          }}
        />
      );
    case 'long text':
      return <TextArea {...common} onChange={set} />;
    case 'date':
      return <DateField {...common} onChange={set} />;
    default:
      return (
        <TextField
          {...common}
          type={field.kind === 'web address' ? 'url' : 'text'}
          inputMode={field.kind === 'number' ? 'decimal' : 'text'}
          onChange={set}
        />
      );
  }
};

const PeopleField = ({
  label,
  hint,
  value,
  single,
  name,
  set,
}: {
  label: string;
  hint?: string | undefined;
  value: string;
  single: boolean;
  name: string | undefined;
  set: (value: string) => void;
}) => {
  const { data } = useQuery(ask(api.people.names, { query: {} }));
  const known = (name ?? '').split(', ');
  const people = partsOf(value).map((id, i) => ({
    id,
    name: data?.people.find((person) => person.id === id)?.name ?? known[i] ?? '…',
  }));
  return (
    <PeoplePicker
      label={label}
      single={single}
      value={people}
      onChange={(chosen) => set(chosen.map((person) => person.id).join('\n'))}
      {...(hint ? { hint } : {})}
    />
  );
};

/** A field whose value is one of what the organisation has. */
type OneOfMany = {
  label: string;
  optional: boolean;
  hint: string | undefined;
  error: string | undefined;
  value: string;
  set: (value: string) => void;
};

const FolderField = ({ set, ...common }: OneOfMany) => {
  const { data } = useQuery({ ...ask(api.documents.folders), staleTime: 60_000 });
  const folders = data?.folders ?? [];
  return (
    <Select
      {...common}
      onChange={set}
      empty={'–'}
      options={folders.map((folder) => ({ value: folder.id, text: pathOf(folder, folders) }))}
    />
  );
};

const UnitField = ({ kind, set, ...common }: OneOfMany & { kind: 'department' | 'site' }) => {
  const { data } = useQuery({ ...ask(api.people.units), staleTime: 60_000 });
  return (
    <Select
      {...common}
      onChange={set}
      empty={'–'}
      options={data?.units.filter((unit) => unit.kind === kind).map((unit) => ({ value: unit.code, text: unit.name }))}
    />
  );
};
