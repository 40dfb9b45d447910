import type { Compared } from '@kanonos/core';
import { comparedInWords } from '@kanonos/core';
import { lazy, Suspense, useEffect, useMemo, useRef, useState } from 'react';
import { tinykeys } from 'tinykeys';
import { Key, Segments } from '../../ui/controls.tsx';
import { Empty, Failed, Loading } from '../../ui/states.tsx';
import { isTyping } from '../../ui/typing.ts';
import { ChangeStrip } from './ChangeStrip.tsx';
import { folded, type Place, pagesInWords, placesOf, rowsOf, withoutTail } from './layOut.ts';
import { overlaid } from './overlaid.ts';
import { Pieces } from './Pieces.tsx';
import { StructuredSide, StructuredText, type Structures } from './StructuredText.tsx';
import { metadataApart, sideName } from './sides.ts';
import { picturesApart, structureOf } from './structure.ts';
import type { Comparison } from './useComparison.ts';
import { wording } from './wording.ts';

// Draws pages by a heavy library, which is fetched only where pages are laid over each other.
const OverlayView = lazy(() => import('./OverlayView.tsx').then((module) => ({ default: module.OverlayView })));

type Way = 'one text' | 'both sides' | 'changes';
const WAYS: { value: Way; text: string }[] = [
  { value: 'one text', text: wording.oneText },
  { value: 'both sides', text: wording.bothSides },
  { value: 'changes', text: wording.changesOnly },
];
const KIND: Record<Place['kind'], string> = {
  in: wording.placeAdded,
  out: wording.placeRemoved,
  replaced: wording.changed,
  moved: wording.moved,
};

/** Words or what is seen: the choice where both can be compared. */
const Ways = ({ overlay, onChange }: { overlay: boolean; onChange: (overlay: boolean) => void }) => (
  <div className="border-b border-line-2 bg-film-2 px-4 py-1">
    <Segments
      label={wording.whatToCompare}
      value={overlay ? 'seen' : 'words'}
      onChange={(value) => onChange(value === 'seen')}
      options={[
        { value: 'words', text: wording.text },
        { value: 'seen', text: wording.appearance },
      ]}
    />
  </div>
);

/** Two versions compared: what changed in metadata and words, in one text or side by side, walked from place to place. */
export const ComparisonView = ({ comparison }: { comparison: Comparison }) => {
  const { old, new: now, compared, error } = comparison;
  const [way, setWay] = useState<Way>('one text');
  const [current, setCurrent] = useState<number | null>(null);
  const view = useRef<HTMLDivElement>(null);
  const { pieces, places } = useMemo(() => placesOf(compared?.parts ?? []), [compared]);
  const rows = useMemo(() => rowsOf(pieces), [pieces]);
  const structures = useMemo((): Structures | null => {
    if (!old?.blocks || !now?.blocks) return null;
    return {
      old: structureOf(old.blocks),
      new: structureOf(now.blocks),
      lost: picturesApart(old.blocks, now.blocks),
      come: picturesApart(now.blocks, old.blocks),
    };
  }, [old?.blocks, now?.blocks]);
  const metadata = old && now ? metadataApart(old, now) : [];
  const go = (n: number) => {
    const to = Math.max(1, Math.min(places.length, n));
    if (places.length === 0) return;
    setCurrent(to);
    view.current?.querySelector(`[data-place="${to}"]`)?.scrollIntoView({ block: 'center' });
  };
  useEffect(() =>
    tinykeys(window, {
      '.': (event) => !isTyping(event) && go((current ?? 0) + 1),
      ',': (event) => !isTyping(event) && go((current ?? 2) - 1),
    }),
  );
  // What changed is what one has come for: the first place is in sight as soon as it is known.
  const isKnown = compared !== null && places.length > 0;
  // biome-ignore lint/correctness/useExhaustiveDependencies: once, when the comparison is there
  useEffect(() => {
    if (!isKnown) return;
    go(1);
    // Pictures above it push it down while they are decoded.
    const pictures = [...(view.current?.querySelectorAll('img') ?? [])];
    let isLeft = false;
    void Promise.all(pictures.map((picture) => picture.decode().catch(() => {}))).then(() => !isLeft && go(1));
    return () => {
      isLeft = true;
    };
  }, [isKnown]);
  const canOverlay = overlaid(old) !== undefined && overlaid(now) !== undefined;
  // Where there are no words, what can be seen is laid over each other.
  const noWords = [old, now].some((side) => side && ['none', 'broken'].includes(side.textState));
  const [wish, setWish] = useState<boolean | null>(null);
  const drawn = [old, now].every((side) => ['picture', 'drawing'].includes(overlaid(side)?.show ?? ''));
  const overlay = canOverlay && (noWords || (wish ?? drawn));
  if (overlay && old && now)
    return (
      <>
        {!noWords && <Ways overlay onChange={setWish} />}
        <Suspense fallback={<Loading what={wording.bothVersions} />}>
          <OverlayView old={old} now={now} />
        </Suspense>
      </>
    );
  if (error) return <Failed error={error} />;
  if (!old || !now) return <Loading what={wording.bothVersions} />;
  const without = [old, now].find((side) => side.textState !== 'done');
  if (without && without.textState !== 'waiting')
    return (
      <Empty title={wording.oneOfThemContainsNoText}>
        {without.files[0]?.name} {wording.ofIsAnImageADrawing(sideName(without))}{' '}
        {metadata.length > 0 && `${metadata.map((field) => field.label).join(', ')} changed.`}
      </Empty>
    );
  if (without || !compared) return <Loading what={without ? wording.theTextOfTheNewFile : wording.theComparison} />;
  const shown = way === 'changes' ? folded(rows) : rows;
  const summary = comparedInWords(compared.counts, metadata.length);
  return (
    <>
      {canOverlay && <Ways overlay={false} onChange={setWish} />}
      <div className="grid min-h-0 flex-1 grid-cols-[minmax(0,1fr)_clamp(196px,28%,268px)] max-md:flex max-md:flex-col max-md:[&>*:last-child]:max-h-[30%] print:block">
        <div className="flex min-h-0 min-w-0 flex-col">
          <Bar way={way} onWay={setWay} current={current} places={places.length} go={go} />
          <div className="relative flex min-h-0 flex-1 print:block">
            <div
              ref={view}
              role="region"
              aria-label={wording.comparedText}
              tabIndex={0}
              className="min-h-0 flex-1 overflow-auto bg-film-3 px-5 py-3 max-md:px-2"
            >
              <div className={`sheet mx-auto ${way === 'one text' ? 'max-w-[760px]' : 'max-w-[1200px]'}`}>
                {way === 'one text' ? (
                  <article className={`reading px-9 py-7 max-md:px-4 ${structures ? '' : 'whitespace-pre-wrap'}`}>
                    {structures ? (
                      <StructuredText rows={rows} structures={structures} current={current} />
                    ) : (
                      <Pieces pieces={pieces} side="both" current={current} />
                    )}
                  </article>
                ) : (
                  <BothSides
                    rows={shown}
                    names={[sideName(old), sideName(now)]}
                    structures={structures}
                    current={current}
                  />
                )}
              </div>
            </div>
            <ChangeStrip view={view} places={places} shape={way} current={current} go={go} />
          </div>
        </div>
        <ChangeList
          compared={compared}
          current={current}
          go={go}
          metadata={metadata}
          places={places}
          summary={summary}
        />
      </div>
    </>
  );
};

/** How the text is shown, and the way from one place to the next. */
const Bar = ({
  way,
  onWay,
  current,
  places,
  go,
}: {
  way: Way;
  onWay: (way: Way) => void;
  current: number | null;
  places: number;
  go: (n: number) => void;
}) => (
  <div className="flex items-center gap-3 border-b border-line bg-film-2 px-3.5 py-1.5 whitespace-nowrap max-md:flex-wrap">
    <Segments<Way> label={wording.view} value={way} onChange={onWay} options={WAYS} />
    <span className="ml-auto flex items-center gap-1 print:hidden">
      <button type="button" className="btn !h-6" disabled={places === 0} onClick={() => go((current ?? 2) - 1)}>
        {wording.previous}{' '}
        <span className="max-lg:hidden">
          <Key>,</Key>
        </span>
      </button>
      <span className="num w-16 text-center">{wording.currentOfPlaces(current ?? '–', places)}</span>
      <button type="button" className="btn !h-6" disabled={places === 0} onClick={() => go((current ?? 0) + 1)}>
        {wording.next}{' '}
        <span className="max-lg:hidden">
          <Key>.</Key>
        </span>
      </button>
    </span>
  </div>
);

/** The text of each side beside the other, row by row. */
const BothSides = ({
  rows,
  names,
  structures,
  current,
}: {
  rows: ReturnType<typeof folded>;
  names: [old: string, now: string];
  structures: Structures | null;
  current: number | null;
}) => (
  <div className="reading">
    <div className="sticky -top-3 z-10 grid grid-cols-2 border-b border-line bg-film-2">
      <span className="cap border-r border-line px-5 py-1">{names[0]}</span>
      <span className="cap px-5 py-1">{names[1]}</span>
    </div>
    {rows.map((row, i) =>
      'left' in row ? (
        // biome-ignore lint/suspicious/noArrayIndexKey: a row is its place in the text
        <LeftOut key={i} paragraphs={row.left} />
      ) : (
        // biome-ignore lint/suspicious/noArrayIndexKey: a row is its place in the text
        <div key={i} className="grid grid-cols-2">
          {(['old', 'new'] as const).map((side) => (
            <div
              key={side}
              className={`min-w-0 px-5 py-1 ${side === 'old' ? 'border-r border-line' : ''} ${structures ? '' : 'whitespace-pre-wrap'}`}
            >
              {structures ? (
                <StructuredSide row={row} structures={structures} side={side} current={current} />
              ) : (
                <Pieces pieces={withoutTail(row[side])} side={side} current={current} />
              )}
            </div>
          ))}
        </div>
      ),
    )}
  </div>
);

/** The changes one after the other; a press goes to the place. */
const ChangeList = ({
  compared,
  current,
  go,
  metadata,
  places,
  summary,
}: {
  compared: Compared;
  current: number | null;
  go: (n: number) => void;
  metadata: { label: string; old: string; new: string }[];
  places: Place[];
  summary: string;
}) => (
  <aside aria-label={wording.changes} className="min-h-0 overflow-y-auto border-l border-line bg-sheet print:border-0">
    <p role="status" className="border-b border-line px-3.5 py-2 text-ink-2">
      {summary || wording.theTextsAreIdentical}
      {compared.coarse && wording.theTextsDifferTooMuchFor}
    </p>
    {metadata.length > 0 && (
      <section className="border-b border-line px-3.5 py-2.5">
        <h2 className="cap mb-1">{wording.metadata}</h2>
        {metadata.map((field) => (
          <p key={field.label} className="text-[12.5px]">
            {field.label}: <del className="text-vermilion">{field.old}</del> →{' '}
            <b className="font-semibold">{field.new}</b>
          </p>
        ))}
      </section>
    )}
    <h2 className="cap px-3.5 pt-2.5 pb-1">{wording.changes}</h2>
    {places.length === 0 && <p className="px-3.5 text-ink-3">{wording.theTextsAreIdentical}</p>}
    <ol>
      {places.map((place) => (
        <li key={place.n}>
          <button
            type="button"
            aria-current={place.n === current}
            className={`block w-full border-l-3 px-[11px] py-1 text-left text-[12.5px] ${place.n === current ? 'border-petrol bg-petrol-tint' : 'border-transparent hover:bg-film-2'}`}
            onClick={() => go(place.n)}
          >
            <span className="flex justify-between text-[11px] text-ink-3">
              {KIND[place.kind]}
              <span>{pagesInWords(place)}</span>
            </span>
            {place.old && place.kind !== 'moved' && <del className="block truncate text-vermilion">{place.old}</del>}
            {(place.new || place.kind === 'moved') && (
              <span className="block truncate font-[550]">{place.new || place.old}</span>
            )}
          </button>
        </li>
      ))}
    </ol>
  </aside>
);

const LeftOut = ({ paragraphs }: { paragraphs: number }) => (
  <p className="!m-0 border-y border-line-2 bg-film-2 px-5 py-0.5 text-center text-[12px] text-ink-3">
    {paragraphs === 1 ? wording.n1UnchangedParagraph : wording.unchangedParagraphs(paragraphs)}
  </p>
);
