import { type RefObject, Suspense, useEffect, useRef } from 'react';
import { tinykeys } from 'tinykeys';
import { afterFirstScreen } from './afterFirstScreen.ts';
import { type Begun, FIND_LINE_FORM, FIND_LINE_INPUT } from './findLineLook.ts';
import type { PlaceLink } from './places.ts';
import { wording } from './wording.ts';

const FindLine = afterFirstScreen(() => import('./FindLine.tsx').then((it) => it.FindLine));

/** The find line, with `Ctrl K`. Its list is fetched after the first screen; what is typed until then is taken over. */
export const FindLinePlace = ({ places }: { places: readonly PlaceLink[] }) => {
  const input = useRef<HTMLInputElement>(null);
  const begun = useRef<Begun>({ text: '', isFocused: false, isSent: false });
  useEffect(
    () =>
      tinykeys(window, {
        '$mod+k': (event) => {
          event.preventDefault();
          input.current?.focus();
          input.current?.select();
        },
      }),
    [],
  );
  return (
    <Suspense fallback={<PlainLine input={input} begun={begun} />}>
      <FindLine places={places} input={input} begun={begun.current} />
    </Suspense>
  );
};

const PlainLine = ({ input, begun }: { input: RefObject<HTMLInputElement | null>; begun: RefObject<Begun> }) => (
  <form
    role="search"
    className={FIND_LINE_FORM}
    onSubmit={(event) => {
      event.preventDefault();
      begun.current.isSent = true;
    }}
  >
    <input
      ref={input}
      autoComplete="off"
      aria-label={wording.enterANumberOrSearchText}
      placeholder={wording.enterANumberOrSearchText}
      className={FIND_LINE_INPUT}
      onFocus={() => {
        begun.current.isFocused = true;
      }}
      onChange={(event) => {
        begun.current.text = event.target.value;
      }}
    />
  </form>
);
