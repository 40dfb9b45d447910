import { Combobox, ComboboxInput, ComboboxOption, ComboboxOptions } from '@headlessui/react';
import { api } from '@kanonos/contract';
import { useQuery } from '@tanstack/react-query';
import { X } from 'lucide-react';
import { useDeferredValue, useState } from 'react';
import { ask } from '../../app/client.ts';

/** Picks a document by a part of its number or title; what is picked is its number. */
export const DocumentPicker = ({
  label,
  optional,
  hint,
  error,
  value,
  onChange,
}: {
  label: string;
  optional?: boolean;
  hint?: string | undefined;
  error?: string | undefined;
  value: string;
  onChange: (number: string) => void;
}) => {
  const [find, setFind] = useState('');
  const words = useDeferredValue(find.trim());
  const { data } = useQuery({ ...ask(api.find.find, { query: { q: words, limit: 8 } }), enabled: words.length > 1 });
  // A number that is typed whole is there without a search.
  const goTo = data?.goTo ? [{ number: data.goTo, title: '' }] : [];
  const offered =
    words.length > 1 ? [...goTo, ...(data?.hits ?? []).filter((hit) => hit.number !== data?.goTo)].slice(0, 8) : [];
  return (
    <div>
      <span className="cap mb-1 block">
        {label} {optional && <span className="font-normal tracking-normal normal-case">(if any)</span>}
      </span>
      <div className="flex min-h-[30px] flex-wrap items-center gap-1 border border-ink-3 bg-white px-1.5 py-1">
        {value ? (
          <span className="chip">
            <span className="num">{value}</span>
            <button type="button" aria-label={`Take ${value} out`} onClick={() => onChange('')}>
              <X size={12} aria-hidden />
            </button>
          </span>
        ) : (
          <Combobox
            value={null as string | null}
            onChange={(number: string | null) => {
              if (!number) return;
              onChange(number);
              setFind('');
            }}
          >
            <ComboboxInput
              aria-label={label}
              placeholder="Type a number or words of the title"
              className="min-w-28 flex-1 px-1 py-0.5 outline-none"
              onChange={(event) => setFind(event.target.value)}
              displayValue={() => find}
              autoComplete="off"
            />
            <ComboboxOptions
              modal={false}
              anchor="bottom start"
              className="z-50 max-h-60 w-96 overflow-auto border border-ink bg-sheet shadow-md [--anchor-gap:6px] empty:invisible"
            >
              {offered.map((hit) => (
                <ComboboxOption
                  key={hit.number}
                  value={hit.number}
                  className="grid cursor-pointer grid-cols-[118px_minmax(0,1fr)] gap-2 px-2.5 py-1.5 data-focus:bg-petrol-tint"
                >
                  <span className="num">{hit.number}</span>
                  <span className="truncate">{hit.title}</span>
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
