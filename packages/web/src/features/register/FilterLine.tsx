import { Combobox, ComboboxInput, ComboboxOption, ComboboxOptions } from '@headlessui/react';
import type { Facets } from '@kanonos/contract';
import { useRef, useState } from 'react';
import { useMe } from '../../app/session.tsx';
import { type Suggestion, suggestionsFor } from './suggestions.ts';
import { useShownMetadata } from './useColumns.ts';
import { wording } from './wording.ts';

type Choice = { kind: 'apply' } | ({ kind: 'add' } & Suggestion);

/** Words and conditions that narrow the register: what may follow is offered while one types, Enter applies them. */
export const FilterLine = ({
  q,
  facets,
  apply,
}: {
  q: string;
  facets: Facets | undefined;
  apply: (q: string) => void;
}) => {
  const [text, setText] = useState(q);
  const input = useRef<HTMLInputElement>(null);
  const me = useMe();
  const metadata = useShownMetadata();
  const choose = (choices: Choice[]) => {
    const choice = choices.at(-1);
    if (!choice) return;
    if (choice.kind === 'add') return setText(choice.text);
    input.current?.blur();
    apply(text.trim());
  };
  return (
    <Combobox<Choice, true> multiple immediate value={[]} onChange={choose}>
      <ComboboxInput
        ref={input}
        value={text}
        onChange={(event) => setText(event.target.value)}
        // Where the list is closed, Enter chooses nothing from it.
        onKeyDown={(event) => event.key === 'Enter' && !event.defaultPrevented && apply(text.trim())}
        autoComplete="off"
        aria-label={wording.filterByWordsOrFieldValue}
        placeholder={wording.wordsOwnerMe}
        className="inp !min-h-[26px] !w-0 !min-w-16 flex-1 !py-0.5 text-[12px] max-md:order-last max-md:!w-full max-md:flex-none"
      />
      <ComboboxOptions
        anchor={{ to: 'bottom start', gap: 4 }}
        className="z-40 flex w-[420px] max-w-[calc(100vw-16px)] flex-col border border-ink bg-sheet text-[12.5px] shadow-md"
      >
        {text.trim() !== '' && (
          <ComboboxOption
            value={{ kind: 'apply' } as Choice}
            className="border-b border-line-2 px-3 py-1.5 data-focus:bg-petrol-tint"
          >
            {wording.showWhatMatches} <b className="font-semibold">{text.trim()}</b>
          </ComboboxOption>
        )}
        {suggestionsFor(text, facets, metadata, me.organisation.today).map((one) => (
          <ComboboxOption
            key={one.text}
            value={{ kind: 'add', ...one } as Choice}
            className="grid cursor-pointer grid-cols-[150px_minmax(0,1fr)] gap-2 px-3 py-1 data-focus:bg-petrol-tint max-md:grid-cols-[112px_minmax(0,1fr)]"
          >
            <span className="num truncate">{one.shown}</span>
            <span className="text-ink-2">{one.about}</span>
          </ComboboxOption>
        ))}
        <p className="border-t border-line bg-film-2 px-3 py-1.5 text-[12px] text-ink-2">{wording.howToFilter}</p>
      </ComboboxOptions>
    </Combobox>
  );
};
