import { api } from '@kanonos/contract';
import { useQuery } from '@tanstack/react-query';
import { ask } from '../app/client.ts';
import { Select } from './controls.tsx';

/** Chooses a department, or none; `none` is the label of the empty choice. */
export const DepartmentSelect = ({
  label,
  value,
  onChange,
  none = '–',
  hint,
}: {
  label: string;
  value: string | null;
  onChange: (id: string | null) => void;
  none?: string;
  hint?: string;
}) => {
  const { data } = useQuery({ ...ask(api.people.units), staleTime: 60_000 });
  return (
    <Select
      label={label}
      optional
      value={value ?? ''}
      onChange={(value) => onChange(value || null)}
      hint={hint}
      empty={none}
      options={data?.units
        .filter((unit) => unit.kind === 'department')
        .map((unit) => ({ value: unit.id, text: unit.name }))}
    />
  );
};
