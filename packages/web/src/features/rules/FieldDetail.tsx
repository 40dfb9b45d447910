import type { ChoiceList, Field, Lookup } from '@kanonos/contract';
import { FIELD_KINDS } from '@kanonos/core';
import { Select, TextField } from '../../ui/controls.tsx';
import { DateField } from '../../ui/DateField.tsx';
import { Tick } from '../../ui/Tick.tsx';
import { OptionsText } from './OptionsText.tsx';
import { wording } from './wording.ts';
import { KIND_WORDS, keyFrom } from './words.ts';

/** Everything about one field: what it is, whether it is needed, where its first value comes from, what it must look like. */
export const FieldDetail = ({
  field,
  fields,
  choices,
  lookups,
  onChange,
  uses,
}: {
  field: Field;
  /** What of the type goes by this field, in words. */
  uses: readonly string[];
  fields: readonly Field[];
  choices: readonly ChoiceList[];
  lookups: readonly Lookup[];
  onChange: (field: Field) => void;
}) => {
  const edit = (change: Partial<Field>) => onChange({ ...field, ...change });
  const others = fields.filter((one) => one !== field);
  const isChoice = field.kind === 'choice' || field.kind === 'choices';
  const isText = field.kind === 'text' || field.kind === 'long text';
  const relabel = (label: string) => {
    // The key follows the label until somebody gives it one of its own.
    const taken = others.map((one) => one.key);
    const follows = field.label === '' || field.key === keyFrom(field.label, taken);
    edit({ label, ...(follows ? { key: keyFrom(label || 'field', taken) } : {}) });
  };
  return (
    <div className="grid grid-cols-3 max-md:grid-cols-1 gap-x-4 gap-y-3">
      <p className="col-span-3 text-ink-2">
        <span className="cap mr-2">{wording.usedBy}</span>
        {uses.join(', ') || wording.nothingYetNumberFileNameFolder}
      </p>
      <TextField label={wording.label} required maxLength={80} value={field.label} onChange={relabel} />
      <TextField
        label={wording.key}
        required
        className="inp num"
        value={field.key}
        onChange={(value) => edit({ key: value })}
        hint={wording.usedInRulesSearchAndExports}
      />
      <Select
        label={wording.kind}
        value={field.kind}
        onChange={(value) => {
          const kind = value as Field['kind'];
          const { key, label, mandatory, level, help } = field;
          onChange({ key, label, kind, mandatory, level, ...(help ? { help } : {}) });
        }}
        options={FIELD_KINDS.map((kind) => ({ value: kind, text: KIND_WORDS[kind] }))}
      />
      {field.kind === 'number' && (
        <TextField
          label={wording.unit}
          optional
          value={field.unit ?? ''}
          onChange={(value) => edit({ unit: value || undefined })}
        />
      )}
      {isChoice && (
        <Select
          label={wording.optionList}
          value={field.list ?? ''}
          onChange={(value) => {
            const list = choices.find((one) => one.key === value);
            const above = fields.find((one) => one.kind === 'choice' && one.list === list?.dependsOn && one !== field);
            edit({ list: list?.key, options: list?.options ?? [], dependsOn: above?.key });
          }}
          empty={wording.optionsOfThisField}
          options={choices.map((list) => ({ value: list.key, text: list.name }))}
        />
      )}
      {isChoice && (
        <Select
          label={wording.dependsOn}
          value={field.dependsOn ?? ''}
          onChange={(value) => edit({ dependsOn: value || undefined })}
          hint={wording.offersTheOptionsThatBelongTo}
          empty={wording.nothing}
          options={others.filter((one) => one.kind === 'choice').map((one) => ({ value: one.key, text: one.label }))}
        />
      )}
      {isChoice && !field.list && (
        <div className="col-span-3">
          <OptionsText
            label={wording.options}
            options={field.options ?? []}
            onChange={(options) => edit({ options })}
          />
        </div>
      )}
      {field.kind === 'entry' && <EntryDetail field={field} others={others} lookups={lookups} edit={edit} />}
      <FirstValue field={field} edit={edit} />
      {isText && (
        <>
          <TextField
            label={wording.pattern}
            optional
            className="inp num"
            value={field.pattern ?? ''}
            onChange={(value) => edit({ pattern: value || undefined })}
            hint={wording.aRegularExpression}
          />
          <TextField
            label={wording.validationMessage}
            optional
            value={field.patternWords ?? ''}
            onChange={(value) => edit({ patternWords: value || undefined })}
            hint={wording.shownWhenTheValueDoesNot}
          />
        </>
      )}
      <div className="col-span-3">
        <TextField
          label={wording.help}
          optional
          value={field.help ?? ''}
          onChange={(value) => edit({ help: value || undefined })}
        />
      </div>
      {field.kind === 'date' && <ReminderFields edit={edit} field={field} others={others} />}
      <FieldTicks edit={edit} field={field} />
    </div>
  );
};

/** What holds for the field, to tick. */
const FieldTicks = ({ edit, field }: { edit: (change: Partial<Field>) => void; field: Field }) => (
  <div className="col-span-3 flex flex-wrap gap-x-6 gap-y-1">
    <Tick checked={field.mandatory} onChange={(mandatory) => edit({ mandatory })}>
      {wording.requiredForSubmission}
    </Tick>
    <Tick checked={field.level === 'revision'} onChange={(signed) => edit({ level: signed ? 'revision' : 'document' })}>
      {wording.revisionField}
    </Tick>
    {field.kind !== 'folder' && (
      <Tick checked={field.shown ?? false} onChange={(shown) => edit({ shown: shown || undefined })}>
        {wording.columnInTheRegister}
      </Tick>
    )}
    <Tick checked={field.unique ?? false} onChange={(unique) => edit({ unique: unique || undefined })}>
      {wording.mustBeUnique}
    </Tick>
  </div>
);

/** Whom a day reminds, and when. */
const ReminderFields = ({
  edit,
  field,
  others,
}: {
  edit: (change: Partial<Field>) => void;
  field: Field;
  others: readonly Field[];
}) => (
  <div className="col-span-3 grid grid-cols-3 max-md:grid-cols-1 gap-4">
    <Select
      label={wording.reminds}
      value={field.remind?.to ?? ''}
      onChange={(value) =>
        edit({
          remind: value ? { days: field.remind?.days ?? 30, to: value } : undefined,
        })
      }
      hint={wording.onceByMailAndOnThe}
    >
      <option value="">{wording.nobody}</option>
      <option value="owner">{wording.theOwner}</option>
      {others
        .filter((one) => one.kind === 'person')
        .map((one) => (
          <option key={one.key} value={one.key}>
            {wording.thePersonNamedIn(one.label)}
          </option>
        ))}
    </Select>
    {field.remind && (
      <TextField
        label={wording.daysBefore}
        type="number"
        min={0}
        max={365}
        value={String(field.remind.days)}
        onChange={(value) => edit({ remind: { to: field.remind?.to ?? 'owner', days: Math.round(Number(value)) } })}
      />
    )}
  </div>
);

type Edit = (change: Partial<Field>) => void;

/** Where the first value comes from; what is offered depends on the kind. */
const FirstValue = ({ field, edit }: { field: Field; edit: Edit }) => {
  const from = field.default?.from ?? '';
  const isPerson = field.kind === 'person' || field.kind === 'people';
  return (
    <div className={from === 'fixed' ? 'col-span-2 grid grid-cols-2 max-md:grid-cols-1 gap-4' : ''}>
      <Select
        label={wording.defaultValue}
        value={from}
        onChange={(text) => {
          const value = text;
          if (value === 'fixed') edit({ default: { from: 'fixed', value: '' } });
          else edit({ default: value ? ({ from: value } as NonNullable<Field['default']>) : undefined });
        }}
      >
        <option value="">{wording.none}</option>
        <option value="fixed">{wording.fixedValue}</option>
        {field.kind === 'date' && <option value="today">{wording.theDayOfRegistering}</option>}
        {isPerson && <option value="me">{wording.whoeverRegisters}</option>}
        <option value="folder">{wording.fromTheFolder}</option>
        <option value="parent">{wording.fromTheParent}</option>
      </Select>
      {field.default?.from === 'fixed' &&
        (field.kind === 'choice' || field.kind === 'yes/no' ? (
          <Select
            label={wording.value}
            value={field.default.value}
            onChange={(text) => edit({ default: { from: 'fixed', value: text } })}
            empty={'–'}
            options={(field.kind === 'choice'
              ? (field.options ?? []).map((option) => [option.code, option.text] as const)
              : ([
                  ['true', 'yes'],
                  ['false', 'no'],
                ] as const)
            ).map(([code, text]) => ({ value: code, text: text || code }))}
          />
        ) : field.kind === 'date' ? (
          <DateField
            label={wording.value}
            value={field.default.value}
            onChange={(value) => edit({ default: { from: 'fixed', value } })}
          />
        ) : (
          <TextField
            label={wording.value}
            value={field.default.value}
            onChange={(text) => edit({ default: { from: 'fixed', value: text } })}
          />
        ))}
    </div>
  );
};

/** The look-up list of an entry, and which fields its metadata fill. */
const EntryDetail = ({
  field,
  others,
  lookups,
  edit,
}: {
  field: Field;
  others: readonly Field[];
  lookups: readonly Lookup[];
  edit: Edit;
}) => {
  const list = lookups.find((one) => one.key === field.list);
  const fill = (fieldValue: string, key: string) => {
    const rest = Object.fromEntries(Object.entries(field.fills ?? {}).filter(([, from]) => from !== fieldValue));
    const fills = key ? { ...rest, [key]: fieldValue } : rest;
    edit({ fills: Object.keys(fills).length ? fills : undefined });
  };
  return (
    <>
      <Select
        label={wording.lookUpList}
        value={field.list ?? ''}
        onChange={(value) => edit({ list: value || undefined, fills: undefined })}
        empty={wording.chooseAList}
        options={lookups.map((one) => ({ value: one.key, text: one.name }))}
      />
      {list && list.metadata.length > 0 && (
        <div className="col-span-3 grid grid-cols-3 max-md:grid-cols-1 gap-4">
          {list.metadata.map((fieldValue) => (
            <Select
              key={fieldValue.key}
              label={wording.ofTheEntryFills(fieldValue.label)}
              value={Object.entries(field.fills ?? {}).find(([, from]) => from === fieldValue.key)?.[0] ?? ''}
              onChange={(value) => fill(fieldValue.key, value)}
              empty={wording.nothing}
              options={others.map((one) => ({ value: one.key, text: one.label }))}
            />
          ))}
        </div>
      )}
    </>
  );
};
