import type { TypeRule, Unit } from '@kanonos/contract';
import { CONDITION_CHANGES, CONFIDENTIALITIES, type ConditionRow } from '@kanonos/core';
import { useState } from 'react';
import { Labelled, Select } from '../../../ui/controls.tsx';
import { DateField } from '../../../ui/DateField.tsx';
import { wording } from './wording.ts';

/** The values that a field can have, where they are a list. */
const listOf = (key: string, fields: TypeRule['fields'], units: readonly Unit[]) => {
  if (key === 'change') return CONDITION_CHANGES.map((value) => ({ value, text: value }));
  if (key === 'confidentiality') return CONFIDENTIALITIES.map((value) => ({ value, text: value }));
  if (key === 'department')
    return units.filter(({ kind }) => kind === 'department').map(({ name }) => ({ value: name, text: name }));
  const field = fields.find((one) => one.key === key);
  return field?.options?.map(({ code, text }) => ({ value: code, text: text || code }));
};

/** The values of a condition: one, or for *is* several of which any will do. */
export const ConditionValues = ({
  row,
  fields,
  units,
  onChange,
}: {
  row: ConditionRow;
  fields: TypeRule['fields'];
  units: readonly Unit[];
  onChange: (values: readonly string[]) => void;
}) => {
  if (row.operator === 'is given' || row.operator === 'is not given') return <span />;
  const list = listOf(row.field, fields, units);
  const [value = ''] = row.values;
  if (list && row.operator === 'is')
    return (
      <fieldset className="min-w-0">
        <legend className="cap mb-1">{wording.value}</legend>
        <div className="flex flex-wrap gap-1">
          {list.map((one) => {
            const isOn = row.values.includes(one.value);
            return (
              <button
                key={one.value}
                type="button"
                aria-pressed={isOn}
                className={`btn ${isOn ? 'btn-pri' : ''}`}
                onClick={() =>
                  onChange(isOn ? row.values.filter((other) => other !== one.value) : [...row.values, one.value])
                }
              >
                {one.text}
              </button>
            );
          })}
        </div>
      </fieldset>
    );
  if (list)
    return (
      <Select label={wording.value} value={value} empty="–" options={list} onChange={(next) => onChange([next])} />
    );
  if (fields.find(({ key }) => key === row.field)?.kind === 'date')
    return <DateField label={wording.value} value={value} onChange={(day) => onChange([day])} />;
  return <TypedValues values={row.values} isOne={row.operator !== 'is'} onChange={onChange} />;
};

/** Values that are typed, with commas between them where any of several will do. */
const TypedValues = ({
  values,
  isOne,
  onChange,
}: {
  values: readonly string[];
  isOne: boolean;
  onChange: (values: readonly string[]) => void;
}) => {
  const [text, setText] = useState(values.join(', '));
  const read = (typed: string) =>
    (isOne ? [typed] : typed.split(',')).map((one) => one.trim()).filter((one) => one !== '');
  const isStale = read(text).join() !== values.join();
  return (
    <Labelled label={wording.value}>
      {(a11y) => (
        <input
          className="inp"
          {...a11y}
          value={isStale ? values.join(', ') : text}
          onChange={(event) => {
            setText(event.target.value);
            onChange(read(event.target.value));
          }}
        />
      )}
    </Labelled>
  );
};
