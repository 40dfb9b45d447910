import { api } from '@kanonos/contract';
import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { ask } from '../app/client.ts';
import { ChipPicker } from './ChipPicker.tsx';
import { wording } from './wording.ts';

type Person = { id: string; name: string };

/** Picks people by a few letters of their name. */
export const PeoplePicker = ({
  label,
  value,
  onChange,
  single,
  hint,
  outside = false,
}: {
  label: string;
  value: readonly Person[];
  onChange: (people: Person[]) => void;
  single?: boolean;
  hint?: string;
  /** Also people of outside parties. */
  outside?: boolean;
}) => {
  const [find, setFind] = useState('');
  const { data } = useQuery(
    ask(api.people.names, { query: { find, ...(outside ? { outside: 'yes' as const } : {}) } }),
  );
  const offers = (data?.people ?? [])
    .filter((person) => !value.some((chosen) => chosen.id === person.id))
    .slice(0, 12)
    .map((person) => ({
      key: person.id,
      line: (
        <>
          <span>{person.name}</span>
          <span className="text-ink-3">{person.department}</span>
        </>
      ),
      pick: () => {
        onChange(single ? [person] : [...value, person]);
        setFind('');
      },
    }));
  return (
    <ChipPicker
      label={label}
      hint={hint}
      chips={value.map(({ id, name }) => ({ key: id, name }))}
      onTakeOut={(id) => onChange(value.filter((person) => person.id !== id))}
      single={single}
      placeholder={wording.typeAName}
      find={find}
      onFind={setFind}
      offers={offers}
      openAtOnce
    />
  );
};
