import type { SideContent } from '@kanonos/contract';
import type { Dispatch, SetStateAction } from 'react';
import { useEffect, useRef, useState } from 'react';
import { Segments } from '../../ui/controls.tsx';
import { count } from '../../ui/format.ts';
import { Failed, Loading } from '../../ui/states.tsx';
import { type Laid, layPage } from './laying.ts';
import { overlaid } from './overlaid.ts';
import { openPages, type Pages } from './rasters.ts';
import { wording } from './wording.ts';

type Way = 'over' | 'slider' | 'blink';
const BLINK_MS = 700;

/** One page of each side over the other: in two colours with boxed differences, under a slider, or in turn. */
export const OverlayView = ({ old, now }: { old: SideContent; now: SideContent }) => {
  const [files] = useState(() => ({ old: overlaid(old), new: overlaid(now) }));
  const [pages, setPages] = useState<{ old: Pages; new: Pages } | null>(null);
  const [page, setPage] = useState(1);
  const [laid, setLaid] = useState<Laid | null>(null);
  const [error, setError] = useState<Error | null>(null);
  const [way, setWay] = useState<Way>('over');
  const [split, setSplit] = useState(50);
  const [turn, setTurn] = useState(false);
  const [chosen, setChosen] = useState(-1);
  const view = useRef<HTMLDivElement>(null);
  useEffect(() => {
    if (!files.old || !files.new) return;
    let opened: Pages[] = [];
    let isClosed = false;
    Promise.all([openPages(files.old), openPages(files.new)]).then(
      ([a, b]) => {
        opened = [a, b];
        if (isClosed) for (const one of opened) one.close();
        else setPages({ old: a, new: b });
      },
      () => !isClosed && setError(new Error('One of them cannot be displayed; you can download it.')),
    );
    return () => {
      isClosed = true;
      for (const one of opened) one.close();
    };
  }, [files]);
  useEffect(() => {
    if (!pages) return;
    let isClosed = false;
    setLaid(null);
    const work = async () => {
      const done = await layPage(pages, page);
      if (isClosed) return;
      setChosen(-1);
      setLaid(done);
    };
    work().catch((failure: Error) => !isClosed && setError(failure));
    return () => {
      isClosed = true;
    };
  }, [pages, page]);
  useEffect(() => {
    if (way !== 'blink') return;
    const timer = setInterval(() => setTurn((before) => !before), BLINK_MS);
    return () => clearInterval(timer);
  }, [way]);
  if (error) return <Failed error={error} />;
  if (!pages) return <Loading what={wording.bothImages} />;
  const most = Math.max(pages.old.count, pages.new.count);
  const go = (n: number) => {
    if (!laid?.regions.length) return;
    const to = (n + laid.regions.length) % laid.regions.length;
    setChosen(to);
    view.current?.querySelector(`[data-region="${to}"]`)?.scrollIntoView({ block: 'center', inline: 'center' });
  };
  return (
    <div className="flex min-h-0 flex-1 flex-col">
      <OverlayControls
        chosen={chosen}
        go={go}
        laid={laid}
        most={most}
        page={page}
        setPage={setPage}
        setSplit={setSplit}
        setWay={setWay}
        split={split}
        way={way}
      />
      <div
        ref={view}
        className="min-h-0 flex-1 overflow-auto bg-film-3 p-4"
        tabIndex={0}
        role="region"
        aria-label={wording.overlayOfBothVersions}
      >
        {laid ? (
          <div
            className="sheet relative mx-auto"
            style={{ width: '100%', maxWidth: laid.width, aspectRatio: `${laid.width} / ${laid.height}` }}
          >
            {way === 'over' ? (
              <img src={laid.over} alt={wording.overlayInTwoColours} className="absolute inset-0 w-full" />
            ) : (
              <>
                <img src={laid.before} alt={wording.from} className="absolute inset-0 w-full" />
                <img
                  src={laid.after}
                  alt={wording.to}
                  className="absolute inset-0 w-full bg-sheet"
                  style={
                    way === 'slider'
                      ? { clipPath: `inset(0 0 0 ${split}%)` }
                      : { visibility: turn ? 'visible' : 'hidden' }
                  }
                />
              </>
            )}
            <svg
              viewBox={`0 0 ${laid.width} ${laid.height}`}
              className="pointer-events-none absolute inset-0 h-full w-full"
              aria-hidden
            >
              {laid.regions.map((region, i) => (
                <rect
                  key={`${region.x} ${region.y}`}
                  data-region={i}
                  {...region}
                  fill="none"
                  stroke="#b06f00"
                  strokeWidth={i === chosen ? 6 : 2.5}
                  strokeDasharray={i === chosen ? undefined : '8 5'}
                />
              ))}
            </svg>
          </div>
        ) : (
          <Loading what={wording.overlayOfBothVersions} />
        )}
      </div>
    </div>
  );
};

/** How the two are laid over each other. */
const OverlayControls = ({
  chosen,
  go,
  laid,
  most,
  page,
  setPage,
  setSplit,
  setWay,
  split,
  way,
}: {
  chosen: number;
  go: (n: number) => void;
  laid: Laid | null;
  most: number;
  page: number;
  setPage: Dispatch<SetStateAction<number>>;
  setSplit: Dispatch<SetStateAction<number>>;
  setWay: Dispatch<SetStateAction<Way>>;
  split: number;
  way: Way;
}) => (
  <div className="flex flex-wrap items-center gap-3 border-b border-line bg-film-2 px-4 py-1.5 text-[12.5px]">
    <Segments
      label={wording.view}
      value={way}
      onChange={setWay}
      options={[
        { value: 'over', text: wording.overlay },
        { value: 'slider', text: wording.slider },
        { value: 'blink', text: wording.alternating },
      ]}
    />
    {way === 'slider' && (
      <label className="flex items-center gap-2">
        {wording.from}
        <input
          type="range"
          aria-label={wording.opacity}
          min={0}
          max={100}
          value={split}
          onChange={(event) => setSplit(Number(event.target.value))}
        />
        {wording.to}
      </label>
    )}
    {most > 1 && (
      <label className="flex items-center gap-1">
        {wording.page}
        <select className="inp !h-6 !w-16" value={page} onChange={(event) => setPage(Number(event.target.value))}>
          {Array.from({ length: most }, (_, i) => (
            // biome-ignore lint/suspicious/noArrayIndexKey: pages keep their place
            <option key={i}>{i + 1}</option>
          ))}
        </select>
      </label>
    )}
    <span role="status" className="text-ink-2">
      {laid
        ? laid.regions.length
          ? count(laid.regions.length, 'difference', 'differences')
          : wording.noVisibleDifferences
        : wording.preparingTheOverlay}
    </span>
    {laid && laid.regions.length > 0 && (
      <span className="flex gap-1">
        <button type="button" className="btn !h-6" onClick={() => go(chosen - 1)}>
          {wording.previous}
        </button>
        <button type="button" className="btn !h-6" onClick={() => go(chosen + 1)}>
          {wording.next}
        </button>
      </span>
    )}
    <span className="ml-auto flex gap-3 text-[12px]">
      <span style={{ color: '#c81e14' }}>{wording.removed}</span>
      <span style={{ color: '#0b558c' }}>{wording.added}</span>
    </span>
  </div>
);
