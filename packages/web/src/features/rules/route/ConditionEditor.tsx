import { sentenceOf, type TypeRule, type Unit } from '@kanonos/contract';
import {
  CONDITION_OPERATORS,
  type ConditionOperator,
  type ConditionRow,
  conditionRows,
  conditionText,
  parseCondition,
} from '@kanonos/core';
import { useState } from 'react';
import { Select, TextField } from '../../../ui/controls.tsx';
import { Tick } from '../../../ui/Tick.tsx';
import { wording as rules } from '../wording.ts';
import { ConditionValues } from './ConditionValues.tsx';
import { askable, conditionFields } from './stepWords.ts';
import { wording } from './wording.ts';

const FIRST: ConditionRow = { field: 'change', operator: 'is', values: ['major'] };

/** When a step is asked: for every document, or where conditions on fields hold, as rows and as text that stay in step. */
export const ConditionEditor = ({
  when,
  onChange,
  fields,
  units,
}: {
  when: string | undefined;
  onChange: (when: string | undefined) => void;
  fields: TypeRule['fields'];
  units: readonly Unit[];
}) => {
  const known = conditionFields(fields);
  // Rows without a value yet are in no text: they are kept here while the text is what they say.
  const [draft, setDraft] = useState<readonly ConditionRow[]>();
  const isDraft = draft !== undefined && conditionText(draft) === when;
  const rows = isDraft ? draft : when === undefined ? [] : conditionRows(when, known);
  const parsed = when === undefined || when === '' ? undefined : parseCondition(when, known);
  const setRows = (next: readonly ConditionRow[]) => {
    setDraft(next);
    onChange(next.length === 0 ? undefined : conditionText(next));
  };
  const change = (at: number, part: Partial<ConditionRow>) =>
    rows && setRows(rows.map((row, i) => (i === at ? { ...row, ...part } : row)));
  return (
    <fieldset>
      <legend className="cap mb-1">{wording.condition}</legend>
      <Tick checked={when !== undefined} onChange={(on) => setRows(on ? [FIRST] : [])}>
        {wording.whereConditionsHold}
      </Tick>
      {when !== undefined && (
        <div className="mt-1 flex flex-col gap-2 border-l-2 border-line pl-3">
          {rows ? (
            rows.map((row, i) => (
              <div
                // biome-ignore lint/suspicious/noArrayIndexKey: a row is identified by its place
                key={i}
                className="grid grid-cols-[190px_140px_minmax(0,1fr)_auto] items-end gap-2 max-md:grid-cols-2"
              >
                <Select
                  label={wording.field}
                  value={row.field}
                  options={askable(fields).map(({ key, label }) => ({ value: key, text: label }))}
                  onChange={(field) => change(i, { field, values: [] })}
                />
                <Select
                  label={wording.comparedBy}
                  value={row.operator}
                  options={operatorsOf(row.field, fields).map((one) => ({ value: one, text: wording.operators[one] }))}
                  onChange={(operator) => change(i, { operator: operator as ConditionOperator })}
                />
                <ConditionValues row={row} fields={fields} units={units} onChange={(values) => change(i, { values })} />
                <button
                  type="button"
                  className="btn mb-px"
                  aria-label={wording.removeCondition(i + 1)}
                  onClick={() => setRows(rows.filter((_, at) => at !== i))}
                >
                  {rules.remove}
                </button>
              </div>
            ))
          ) : (
            <p className="text-ink-2">{wording.moreThanRows}</p>
          )}
          {rows && (
            <div>
              <button type="button" className="btn" onClick={() => setRows([...rows, { ...FIRST, values: [] }])}>
                {wording.addCondition}
              </button>
            </div>
          )}
          <TextField
            label={wording.conditionAsText}
            value={when}
            maxLength={500}
            onChange={(text) => onChange(text)}
            error={
              parsed && !parsed.ok
                ? `${wording.notReadYet} ${parsed.refusals.map((one) => sentenceOf(one.code, one.params)).join(' ')}`
                : undefined
            }
            hint={wording.conditionHint}
          />
        </div>
      )}
    </fieldset>
  );
};

/** Days and numbers have an order; what every document has is always given. */
const operatorsOf = (field: string, fields: TypeRule['fields']): readonly ConditionOperator[] => {
  const own = fields.find(({ key }) => key === field);
  if (own?.kind === 'date' || own?.kind === 'number') return CONDITION_OPERATORS;
  if (!own && field !== 'department') return ['is', 'is not'];
  return ['is', 'is not', 'is given', 'is not given'];
};
