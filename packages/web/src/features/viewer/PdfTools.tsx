import { BookOpen, ChevronDown, ChevronUp, List, Minus, PanelLeft, Plus, RotateCw } from 'lucide-react';
import type { ReactNode } from 'react';
import { MarkTools } from '../comments/MarkTools.tsx';
import type { PdfView } from './pdfView.ts';
import type { PdfSearch } from './usePdfSearch.ts';
import { wording } from './wording.ts';

const Tool = ({
  name,
  on,
  onClick,
  children,
}: {
  name: string;
  on?: boolean;
  onClick: () => void;
  children: ReactNode;
}) => (
  <button
    type="button"
    aria-label={name}
    title={name}
    aria-pressed={on}
    onClick={onClick}
    className={`btn btn-quiet !h-6 !px-1 ${on ? '!bg-ink !text-white' : ''}`}
  >
    {children}
  </button>
);

const ICON = { size: 14, 'aria-hidden': true } as const;

/** The row above the pages: which page, how large, how turned, what is looked for, and the tools to mark with. */
export const PdfTools = ({
  pages,
  at,
  go,
  view,
  setView,
  search,
}: {
  pages: number;
  at: number;
  go: (page: number) => void;
  view: PdfView;
  setView: (view: PdfView) => void;
  search: PdfSearch;
}) => {
  const zoom = (by: number) => setView({ ...view, zoom: Math.min(4, Math.max(0.25, view.zoom + by)) });
  const side = (kind: PdfView['side']) => setView({ ...view, side: view.side === kind ? 'none' : kind });
  return (
    <div className="flex flex-wrap items-center gap-x-2 gap-y-1 border-b border-line bg-film-2 px-2 py-1 text-[12px]">
      <span className="flex items-center gap-0.5">
        <Tool name={wording.pageThumbnails} on={view.side === 'pages'} onClick={() => side('pages')}>
          <PanelLeft {...ICON} />
        </Tool>
        <Tool name={wording.outline} on={view.side === 'outline'} onClick={() => side('outline')}>
          <List {...ICON} />
        </Tool>
      </span>
      <span className="flex items-center gap-1">
        <input
          aria-label={wording.page}
          className="inp num !h-6 !w-11 !px-1 text-right"
          inputMode="numeric"
          value={at}
          onChange={(event) => {
            const page = Number(event.target.value);
            if (Number.isInteger(page) && page >= 1 && page <= pages) go(page);
          }}
        />
        <span className="text-ink-2">{wording.ofPagesPart(pages, pages === 1 ? 'page' : 'pages')}</span>
      </span>
      <span className="flex items-center gap-0.5">
        <Tool name={wording.zoomOut} onClick={() => zoom(-0.25)}>
          <Minus {...ICON} />
        </Tool>
        <span className="num w-11 text-center">{Math.round(view.zoom * 100)} %</span>
        <Tool name={wording.zoomIn} onClick={() => zoom(0.25)}>
          <Plus {...ICON} />
        </Tool>
        <Tool
          name={wording.rotate}
          onClick={() => setView({ ...view, turn: ((view.turn + 90) % 360) as PdfView['turn'] })}
        >
          <RotateCw {...ICON} />
        </Tool>
        <Tool
          name={wording.twoPages}
          on={view.two}
          onClick={() => setView({ ...view, two: !view.two, zoom: view.two ? 1 : 0.5 })}
        >
          <BookOpen {...ICON} />
        </Tool>
      </span>
      <span className="flex items-center gap-0.5">
        <input
          aria-label={wording.findInPages}
          placeholder={wording.findInPages}
          className="inp !h-6 !w-32"
          onChange={(event) => search.setWords(event.target.value)}
          onKeyDown={(event) => event.key === 'Enter' && search.step(event.shiftKey ? -1 : 1)}
        />
        {search.words && (
          <>
            <span className="num px-1 text-ink-2" role="status">
              {search.hits.length ? `${search.index + 1}/${search.hits.length}` : search.busy ? '…' : 'none'}
            </span>
            <Tool name={wording.nextMatch} onClick={() => search.step(1)}>
              <ChevronDown {...ICON} />
            </Tool>
            <Tool name={wording.previousMatch} onClick={() => search.step(-1)}>
              <ChevronUp {...ICON} />
            </Tool>
          </>
        )}
      </span>
      <MarkTools />
    </div>
  );
};
