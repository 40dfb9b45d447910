import type { Field } from '@kanonos/contract';
import { Select, TextArea, TextField } from '../../ui/controls.tsx';

export type FactValues = Record<string, string>;

/** Values of a form as facts: numbers and yes/no by their kind, empty ones as none. */
export const toFacts = (
  fields: readonly Field[],
  values: FactValues,
): Record<string, string | number | boolean | null> =>
  Object.fromEntries(
    fields.map((field) => {
      const value = values[field.key]?.trim() ?? '';
      if (value === '') return [field.key, null];
      if (field.kind === 'number') return [field.key, Number(value.replace(',', '.'))];
      if (field.kind === 'yes/no') return [field.key, value === 'true'];
      return [field.key, value];
    }),
  );

/** One control per fact that the type asks for, by its kind. */
export const FactFields = ({
  fields,
  values,
  onChange,
  errors = {},
}: {
  fields: readonly Field[];
  values: FactValues;
  onChange: (values: FactValues) => void;
  errors?: Record<string, string>;
}) => (
  <>
    {fields.map((field) => {
      const common = {
        label: `${field.label}${field.unit ? ` (${field.unit})` : ''}`,
        optional: !field.mandatory,
        hint: field.help,
        error: errors[field.key],
        value: values[field.key] ?? '',
      };
      const set = (value: string) => onChange({ ...values, [field.key]: value });
      switch (field.kind) {
        case 'choice':
          return (
            <Select key={field.key} {...common} onChange={(event) => set(event.target.value)}>
              <option value="">–</option>
              {field.options?.map((option) => (
                <option key={option.code} value={option.code}>
                  {option.text}
                </option>
              ))}
            </Select>
          );
        case 'yes/no':
          return (
            <Select key={field.key} {...common} onChange={(event) => set(event.target.value)}>
              <option value="">–</option>
              <option value="true">yes</option>
              <option value="false">no</option>
            </Select>
          );
        case 'long text':
          return <TextArea key={field.key} {...common} onChange={(event) => set(event.target.value)} />;
        default:
          return (
            <TextField
              key={field.key}
              {...common}
              type={field.kind === 'date' ? 'date' : 'text'}
              inputMode={field.kind === 'number' ? 'decimal' : 'text'}
              onChange={(event) => set(event.target.value)}
            />
          );
      }
    })}
  </>
);
