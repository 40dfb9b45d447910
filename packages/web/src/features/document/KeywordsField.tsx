import { Combobox, ComboboxInput, ComboboxOption, ComboboxOptions } from '@headlessui/react';
import { api } from '@kanonos/contract';
import { useQuery } from '@tanstack/react-query';
import { X } from 'lucide-react';
import { useState } from 'react';
import { ask } from '../../app/client.ts';

/** Keywords as typed, separated by commas. */
export const keywordsOf = (text: string): string[] =>
  text
    .split(',')
    .map((word) => word.trim())
    .filter(Boolean);

/** Keywords as chips: typed and ended by a comma or Enter, or taken from those that are used most. */
export const KeywordsField = ({
  label = 'Keywords',
  value,
  onChange,
}: {
  label?: string;
  value: readonly string[];
  onChange: (keywords: string[]) => void;
}) => {
  const [text, setText] = useState('');
  const { data } = useQuery({ ...ask(api.documents.keywords, { query: { find: text } }), staleTime: 60_000 });
  const add = (typed: string) => {
    const fresh = keywordsOf(typed).filter((word) => !value.includes(word));
    if (fresh.length) onChange([...value, ...fresh]);
    setText('');
  };
  const offered = (data?.keywords ?? []).filter(({ word }) => !value.includes(word));
  return (
    <div>
      <span className="cap mb-1 block">
        {label} <span className="font-normal tracking-normal normal-case">(if any)</span>
      </span>
      <div className="flex flex-wrap items-center gap-1 border border-ink-3 bg-white px-1.5 py-1">
        {value.map((word) => (
          <span key={word} className="chip">
            {word}
            <button
              type="button"
              aria-label={`Take ${word} out`}
              onClick={() => onChange(value.filter((one) => one !== word))}
            >
              <X size={12} aria-hidden />
            </button>
          </span>
        ))}
        <Combobox immediate value={null as string | null} onChange={(word: string | null) => word && add(word)}>
          <ComboboxInput
            aria-label={label}
            placeholder={value.length ? 'and …' : 'Type a word'}
            className="min-w-24 flex-1 px-1 py-0.5 outline-none"
            displayValue={() => text}
            autoComplete="off"
            onChange={(event) => {
              if (event.target.value.includes(',')) add(event.target.value);
              else setText(event.target.value);
            }}
            onBlur={() => text.trim() && add(text)}
            onKeyDown={(event) => {
              if (event.key === 'Enter' && text.trim()) {
                event.preventDefault();
                // A word that is offered is taken by its arrow keys; what is typed whole is taken as it stands.
                if (!event.currentTarget.getAttribute('aria-activedescendant')) add(text);
              }
              if (event.key === 'Backspace' && text === '') onChange(value.slice(0, -1));
            }}
          />
          <ComboboxOptions
            modal={false}
            anchor="bottom start"
            className="z-50 max-h-60 w-64 overflow-auto border border-ink bg-sheet shadow-md [--anchor-gap:6px] empty:invisible"
          >
            {text.trim() !== '' && !offered.some(({ word }) => word === text.trim()) && (
              <ComboboxOption value={text.trim()} className="cursor-pointer px-2.5 py-1 data-focus:bg-petrol-tint">
                {text.trim()} <span className="text-ink-3">as a new word</span>
              </ComboboxOption>
            )}
            {offered.map(({ word, documents }) => (
              <ComboboxOption
                key={word}
                value={word}
                className="flex cursor-pointer justify-between px-2.5 py-1 data-focus:bg-petrol-tint"
              >
                <span>{word}</span>
                <span className="font-mono text-[10.5px] text-ink-3">{documents}</span>
              </ComboboxOption>
            ))}
          </ComboboxOptions>
        </Combobox>
      </div>
    </div>
  );
};
