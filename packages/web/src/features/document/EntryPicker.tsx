import { Combobox, ComboboxInput, ComboboxOption, ComboboxOptions } from '@headlessui/react';
import { api, type LookupEntry } from '@kanonos/contract';
import { useQuery } from '@tanstack/react-query';
import { X } from 'lucide-react';
import { useState } from 'react';
import { ask } from '../../app/client.ts';

type Entry = Omit<LookupEntry, 'retired'>;

/** Picks an entry of a look-up list by a few letters of its code or name. */
export const EntryPicker = ({
  label,
  optional,
  hint,
  error,
  list,
  value,
  name,
  onPick,
}: {
  label: string;
  optional: boolean;
  hint: string | undefined;
  error: string | undefined;
  list: string;
  value: string;
  name: string | undefined;
  onPick: (entry: Entry | null) => void;
}) => {
  const [find, setFind] = useState('');
  const { data } = useQuery(ask(api.rules.entries, { params: { key: list }, query: { find } }));
  const [picked, setPicked] = useState<Entry | null>(null);
  const shown = picked?.code === value ? `${value} ${picked.name}` : (name ?? value);
  return (
    <div>
      <span className="cap mb-1 block">
        {label} {optional && <span className="font-normal tracking-normal normal-case">(if any)</span>}
      </span>
      <div className="flex flex-wrap items-center gap-1 border border-ink-3 bg-white px-1.5 py-1">
        {value ? (
          <span className="chip">
            {shown}
            <button type="button" aria-label={`Take ${value} out`} onClick={() => onPick(null)}>
              <X size={12} aria-hidden />
            </button>
          </span>
        ) : (
          <Combobox
            immediate
            value={null as Entry | null}
            onChange={(entry: Entry | null) => {
              if (!entry) return;
              setPicked(entry);
              onPick(entry);
              setFind('');
            }}
          >
            <ComboboxInput
              aria-label={label}
              placeholder="Type a code or name"
              className="min-w-28 flex-1 px-1 py-0.5 outline-none"
              onChange={(event) => setFind(event.target.value)}
              displayValue={() => find}
              autoComplete="off"
            />
            <ComboboxOptions
              modal={false}
              anchor="bottom start"
              className="z-50 max-h-60 w-80 overflow-auto border border-ink bg-sheet shadow-md [--anchor-gap:6px] empty:invisible"
            >
              {(data?.entries ?? []).slice(0, 20).map((entry) => (
                <ComboboxOption
                  key={entry.code}
                  value={entry}
                  className="grid cursor-pointer grid-cols-[72px_minmax(0,1fr)] gap-2 px-2.5 py-1.5 data-focus:bg-petrol-tint"
                >
                  <span className="num">{entry.code}</span>
                  <span className="truncate">
                    {entry.name} <span className="text-ink-3">{Object.values(entry.facts).slice(0, 2).join(', ')}</span>
                  </span>
                </ComboboxOption>
              ))}
            </ComboboxOptions>
          </Combobox>
        )}
      </div>
      <p className={`mt-1 text-[11.5px] empty:hidden ${error ? 'text-vermilion' : 'text-ink-3'}`}>{error ?? hint}</p>
    </div>
  );
};
