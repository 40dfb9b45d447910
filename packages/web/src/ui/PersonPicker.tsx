import { Combobox, ComboboxInput, ComboboxOption, ComboboxOptions } from '@headlessui/react';
import { api } from '@kanonos/contract';
import { useQuery } from '@tanstack/react-query';
import { X } from 'lucide-react';
import { useState } from 'react';
import { ask } from '../app/client.ts';

type Person = { id: string; name: string };

/** Picks people by a few letters of their name. */
export const PeoplePicker = ({
  label,
  value,
  onChange,
  single,
  hint,
}: {
  label: string;
  value: readonly Person[];
  onChange: (people: Person[]) => void;
  single?: boolean;
  hint?: string;
}) => {
  const [find, setFind] = useState('');
  const { data } = useQuery(ask(api.people.names, { query: { find } }));
  const offered = (data?.people ?? [])
    .filter((person) => !value.some((chosen) => chosen.id === person.id))
    .slice(0, 12);
  return (
    <div>
      <span className="cap mb-1 block">{label}</span>
      <div className="flex flex-wrap items-center gap-1 border border-ink-3 bg-white px-1.5 py-1">
        {value.map((person) => (
          <span key={person.id} className="chip">
            {person.name}
            <button
              type="button"
              aria-label={`Take ${person.name} out`}
              onClick={() => onChange(value.filter((p) => p.id !== person.id))}
            >
              <X size={12} aria-hidden />
            </button>
          </span>
        ))}
        {!(single && value.length) && (
          <Combobox
            immediate
            value={null as Person | null}
            onChange={(person: Person | null) => {
              if (!person) return;
              onChange(single ? [person] : [...value, person]);
              setFind('');
            }}
          >
            <ComboboxInput
              aria-label={label}
              placeholder={value.length ? 'and …' : 'Type a name'}
              className="min-w-28 flex-1 px-1 py-0.5 outline-none"
              onChange={(event) => setFind(event.target.value)}
              displayValue={() => find}
              autoComplete="off"
            />
            <ComboboxOptions
              modal={false}
              anchor="bottom start"
              className="z-50 max-h-60 w-72 overflow-auto border border-ink bg-sheet shadow-md [--anchor-gap:6px] empty:invisible"
            >
              {offered.map((person) => (
                <ComboboxOption
                  key={person.id}
                  value={person}
                  className="flex cursor-pointer justify-between px-2.5 py-1.5 data-focus:bg-petrol-tint"
                >
                  <span>{person.name}</span>
                  <span className="text-ink-3">{person.department}</span>
                </ComboboxOption>
              ))}
            </ComboboxOptions>
          </Combobox>
        )}
      </div>
      {hint && <p className="mt-1 text-[11.5px] text-ink-3">{hint}</p>}
    </div>
  );
};
