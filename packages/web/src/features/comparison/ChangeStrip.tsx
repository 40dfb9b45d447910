import { type RefObject, useLayoutEffect, useState } from 'react';
import type { Place } from './layOut.ts';
import { wording } from './wording.ts';

const COLOURS: Record<Place['kind'], string> = {
  in: 'bg-petrol',
  out: 'bg-vermilion',
  replaced: 'bg-ochre',
  moved: 'bg-ink-2',
};

/**
 * A strip beside the text, as high as what is in sight, with a mark where each change is in the whole: one sees whether a document
 * changed in one place or everywhere, and a press leads there. The list of changes gives the same in words.
 */
export const ChangeStrip = ({
  view,
  places,
  shape,
  current,
  go,
}: {
  view: RefObject<HTMLDivElement | null>;
  places: readonly Place[];
  /** How the text is laid out: another one puts the changes elsewhere. */
  shape: string;
  current: number | null;
  go: (place: number) => void;
}) => {
  const [tops, setTops] = useState<readonly number[]>([]);
  // biome-ignore lint/correctness/useExhaustiveDependencies: places and shape say what is laid out
  useLayoutEffect(() => {
    const scroller = view.current;
    if (!scroller) return;
    const measure = () => {
      const { top } = scroller.getBoundingClientRect();
      setTops(
        places.map((_, i) => {
          const mark = scroller.querySelector(`[data-place="${i + 1}"]`);
          const y = mark ? mark.getBoundingClientRect().top - top + scroller.scrollTop : 0;
          return scroller.scrollHeight > 0 ? y / scroller.scrollHeight : 0;
        }),
      );
    };
    measure();
    const watch = new ResizeObserver(measure);
    watch.observe(scroller);
    return () => watch.disconnect();
  }, [places, shape]);
  return (
    <div aria-hidden className="relative w-3.5 shrink-0 border-l border-line bg-film-2 print:hidden">
      {places.map((place, i) => (
        <button
          key={`${place.kind} ${tops[i]} ${
            // biome-ignore lint/suspicious/noArrayIndexKey: a place is its number
            i
          }`}
          type="button"
          tabIndex={-1}
          title={wording.goToChange(i + 1)}
          className={`absolute right-0.5 left-0.5 h-1.5 ${COLOURS[place.kind]} ${current === i + 1 ? 'outline-2 outline-ink' : ''}`}
          style={{ top: `calc(${((tops[i] ?? 0) * 100).toFixed(2)}% - 3px)` }}
          onClick={() => go(i + 1)}
        />
      ))}
    </div>
  );
};
