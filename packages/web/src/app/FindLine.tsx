import { Combobox, ComboboxInput, ComboboxOption, ComboboxOptions } from '@headlessui/react';
import { api } from '@kanonos/contract';
import { type ReactNode, type RefObject, useLayoutEffect, useState } from 'react';
import { useNavigate, useSearchParams } from 'react-router';
import { documentAddress } from '../ui/addresses.ts';
import { Key } from '../ui/controls.tsx';
import { matches } from '../ui/matching.ts';
import { toast } from '../ui/toast.ts';
import { call } from './client.ts';
import { type Begun, FIND_LINE_FORM, FIND_LINE_INPUT } from './findLineLook.ts';
import { type Offered, useOffers } from './offers.tsx';
import type { PlaceLink } from './places.ts';
import { wording } from './wording.ts';

type Choice = { kind: 'search' } | { kind: 'action'; action: Offered } | { kind: 'place'; place: PlaceLink };

const MOST_BLOCKED = 4;

/**
 * Goes to a number typed in any usual form, else to what was found. While one types it also lists what can be done with the document
 * that is shown, and the places whose names match.
 */
export const FindLine = ({
  places,
  input,
  begun,
}: {
  places: readonly PlaceLink[];
  input: RefObject<HTMLInputElement | null>;
  begun: Begun;
}) => {
  const [params] = useSearchParams();
  const [text, setText] = useState(begun.text || (params.get('q') ?? ''));
  const navigate = useNavigate();
  const offers = useOffers();
  const go = async (wanted = text) => {
    const q = wanted.trim();
    if (!q) return;
    try {
      const found = await call(api.find.find, { query: { q, limit: 1 } });
      if (found.goTo) {
        setText('');
        input.current?.blur();
        navigate(documentAddress(found.goTo));
      } else navigate(`/find?q=${encodeURIComponent(q)}`);
    } catch (error) {
      toast.error((error as Error).message);
    }
  };
  // biome-ignore lint/correctness/useExhaustiveDependencies: once, with what was begun before this line was there.
  useLayoutEffect(() => {
    // Letters may have come after this line was first drawn and before it took the place of the plain one.
    const last = begun.text || text;
    if (last !== text) setText(last);
    if (begun.isFocused) {
      input.current?.focus();
      input.current?.setSelectionRange(last.length, last.length);
    }
    if (begun.isSent) void go(last);
  }, []);
  const choose = (choice: Choice | null) => {
    if (!choice) return;
    if (choice.kind === 'search') return void go();
    setText('');
    input.current?.blur();
    if (choice.kind === 'action') offers?.choose(choice.action);
    else navigate(choice.place.to);
  };
  const typed = text.trim();
  const possible = (offers?.possible ?? []).filter(({ name }) => matches(name, typed));
  const blocked = typed
    ? (offers?.impossible ?? []).filter(({ name }) => matches(name, typed)).slice(0, MOST_BLOCKED)
    : [];
  const found = typed || !offers ? places.filter((place) => matches(place.text, typed)) : [];
  return (
    <form
      role="search"
      className={FIND_LINE_FORM}
      onSubmit={(event) => {
        event.preventDefault();
        void go();
      }}
    >
      <Combobox<Choice | null> immediate value={null} onChange={choose}>
        <ComboboxInput
          ref={input}
          value={text}
          onChange={(event) => setText(event.target.value)}
          autoComplete="off"
          aria-label={wording.enterANumberOrSearchText}
          placeholder={wording.enterANumberOrSearchText}
          className={FIND_LINE_INPUT}
        />
        <ComboboxOptions
          anchor={{ to: 'bottom start', gap: 13 }}
          className="z-50 flex max-h-[70vh]! w-[480px] max-w-[calc(100vw-16px)] flex-col overflow-y-auto border border-ink bg-sheet py-1 text-ink shadow-md empty:invisible"
        >
          {typed && (
            <ComboboxOption value={{ kind: 'search' } as Choice} className={ITEM}>
              {wording.goToOrSearchFor} <b className="font-semibold">{typed}</b>
            </ComboboxOption>
          )}
          {possible.length + blocked.length > 0 && (
            <Group name={wording.actionsOn(offers?.subject ?? '')}>
              {possible.map((action) => (
                <ComboboxOption key={action.key} value={{ kind: 'action', action } as Choice} className={ITEM}>
                  {action.name}
                </ComboboxOption>
              ))}
              {blocked.map((action) => (
                <ComboboxOption
                  key={action.key}
                  disabled
                  value={{ kind: 'action', action } as Choice}
                  className="px-3 py-1 text-ink-3"
                >
                  {action.name}
                  <span className="block text-[11.5px]">{action.reason}</span>
                </ComboboxOption>
              ))}
            </Group>
          )}
          {found.length > 0 && (
            <Group name={wording.places}>
              {found.map((place) => (
                <ComboboxOption key={place.to} value={{ kind: 'place', place } as Choice} className={ITEM}>
                  {place.text}
                </ComboboxOption>
              ))}
            </Group>
          )}
        </ComboboxOptions>
      </Combobox>
      <span className="max-lg:hidden">
        <Key>{wording.ctrlK}</Key>
      </span>
    </form>
  );
};

const ITEM = 'cursor-pointer px-3 py-1 data-focus:bg-petrol-tint';

const Group = ({ name, children }: { name: string; children: ReactNode }) => (
  <div role="group" aria-label={name} className="border-b border-line-2 py-1 last:border-0">
    <span aria-hidden className="cap block px-3 pb-0.5">
      {name}
    </span>
    {children}
  </div>
);
