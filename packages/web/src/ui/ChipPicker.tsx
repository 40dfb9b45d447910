import { Combobox, ComboboxInput, ComboboxOption, ComboboxOptions } from '@headlessui/react';
import { X } from 'lucide-react';
import type { ComponentProps, ReactNode } from 'react';
import { wording } from './wording.ts';

export type Chip = { key: string; name: string; content?: ReactNode };
/** A suggestion: its key, its line in the list, and the action on picking it. */
export type Offer = { key: string; line: ReactNode; pick: () => void };

/** A field that shows its values as chips, picked from suggestions while typing. */
export const ChipPicker = ({
  label,
  optional,
  hint,
  error,
  chips,
  onTakeOut,
  single,
  placeholder,
  find,
  onFind,
  offers,
  openAtOnce,
  width = 'w-72',
  lines = 'flex justify-between',
  input,
}: {
  label: string;
  optional?: boolean | undefined;
  hint?: string | undefined;
  error?: string | undefined;
  chips: readonly Chip[];
  onTakeOut: (key: string) => void;
  /** One value at most. */
  single?: boolean | undefined;
  placeholder: string;
  find: string;
  onFind: (text: string) => void;
  offers: readonly Offer[];
  /** Suggestions open as soon as the field has the focus. */
  openAtOnce?: boolean;
  width?: string;
  /** How an offered line is laid out. */
  lines?: string;
  input?: Pick<ComponentProps<'input'>, 'onBlur' | 'onKeyDown'>;
}) => (
  <div>
    <span className="cap mb-1 block">
      {label} {optional && <span className="font-normal tracking-normal normal-case">{wording.optional}</span>}
    </span>
    <div className="flex min-h-[30px] flex-wrap items-center gap-1 border border-ink-3 bg-white px-1.5 py-[2px]">
      {chips.map(({ key, name, content }) => (
        <span key={key} className="chip">
          {content ?? name}
          <button type="button" aria-label={wording.removeName(name)} onClick={() => onTakeOut(key)}>
            <X size={12} aria-hidden />
          </button>
        </span>
      ))}
      {!(single && chips.length) && (
        <Combobox
          immediate={openAtOnce ?? false}
          value={null as string | null}
          onChange={(key: string | null) => offers.find((offer) => offer.key === key)?.pick()}
        >
          <ComboboxInput
            {...input}
            aria-label={label}
            placeholder={chips.length ? 'and …' : placeholder}
            className="min-h-6 min-w-28 flex-1 px-1 py-0.5 outline-none"
            onChange={(event) => onFind(event.target.value)}
            displayValue={() => find}
            autoComplete="off"
          />
          <ComboboxOptions
            modal={false}
            anchor="bottom start"
            className={`z-50 max-h-60 ${width} overflow-auto border border-ink bg-sheet shadow-md [--anchor-gap:6px] empty:invisible`}
          >
            {offers.map(({ key, line }) => (
              <ComboboxOption
                key={key}
                value={key}
                className={`${lines} cursor-pointer px-2.5 py-1.5 data-focus:bg-petrol-tint`}
              >
                {line}
              </ComboboxOption>
            ))}
          </ComboboxOptions>
        </Combobox>
      )}
    </div>
    <p className={`mt-1 text-[11.5px] empty:hidden ${error ? 'text-vermilion' : 'text-ink-3'}`}>{error ?? hint}</p>
  </div>
);
