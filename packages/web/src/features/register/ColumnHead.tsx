import { useRef } from 'react';
import { type Columns, NARROWEST, type SortKey, template, WIDEST } from './columns.tsx';
import { wording } from './wording.ts';

/** Names of the columns: a press sorts, a drag moves a column, its left edge makes it wider or narrower. */
export const ColumnHead = ({
  all,
  columns,
  sort,
  onSort,
  onMove,
  onResize,
}: {
  all: Columns;
  columns: readonly string[];
  sort: { sort: SortKey; order: 'asc' | 'desc' };
  onSort: (key: SortKey) => void;
  onMove: (from: string, to: string) => void;
  /** The width that a column is to have, in pixels; none: its usual one. */
  onResize: (key: string, width: number | undefined) => void;
}) => {
  const arrow = (key: SortKey) => (sort.sort === key ? (sort.order === 'asc' ? ' ↑' : ' ↓') : '');
  const head = (key: SortKey, text: string) => (
    <button
      type="button"
      className="cap text-left hover:text-ink"
      aria-label={wording.sortBy(text)}
      onClick={() => onSort(key)}
    >
      {text}
      {arrow(key)}
    </button>
  );
  return (
    <div
      className="grid h-[26px] items-center gap-2.5 border-b border-line px-3"
      style={{ gridTemplateColumns: template(all, columns) }}
    >
      <span />
      <span className="cap">{wording.rev}</span>
      <span className="flex gap-1.5">
        {head('number', wording.number)}
        <span className="cap">{wording.and}</span>
        {head('title', 'title')}
      </span>
      {columns.map((key, i) => {
        const column = all[key];
        return (
          column && (
            <span
              key={key}
              className="relative"
              draggable
              title={wording.dragToMoveOrPressAlt}
              onDragStart={(event) => event.dataTransfer.setData('text/plain', key)}
              onDragOver={(event) => event.preventDefault()}
              onDrop={(event) => onMove(event.dataTransfer.getData('text/plain'), key)}
              onKeyDown={(event) => {
                const other = event.altKey
                  ? columns[i + ({ ArrowLeft: -1, ArrowRight: 1 }[event.key] ?? 99)]
                  : undefined;
                if (other) onMove(key, other);
              }}
            >
              <ColumnEdge
                name={column.title}
                width={Number.parseInt(column.width, 10)}
                resize={(width) => onResize(key, width)}
              />
              {column.sort ? (
                head(column.sort, column.title)
              ) : (
                <span className="cap" tabIndex={0}>
                  {column.title}
                </span>
              )}
            </span>
          )
        );
      })}
    </div>
  );
};

const within = (width: number) => Math.round(Math.min(WIDEST, Math.max(NARROWEST, width)));

/** The left edge of a column: dragged, or moved by the arrow keys; pressed twice, the column has its usual width again. */
const ColumnEdge = ({
  name,
  width,
  resize,
}: {
  name: string;
  width: number;
  resize: (width: number | undefined) => void;
}) => {
  const from = useRef<{ x: number; width: number } | null>(null);
  return (
    <span
      role="separator"
      aria-orientation="vertical"
      aria-label={wording.widthOf(name)}
      aria-valuenow={width}
      aria-valuemin={NARROWEST}
      aria-valuemax={WIDEST}
      tabIndex={0}
      title={wording.dragToChangeTheWidth}
      className="absolute inset-y-[-5px] -left-[9px] w-2 cursor-col-resize touch-none border-r border-transparent hover:border-petrol focus-visible:border-petrol"
      draggable
      onDragStart={(event) => {
        event.preventDefault();
        event.stopPropagation();
      }}
      onPointerDown={(event) => {
        event.currentTarget.setPointerCapture(event.pointerId);
        from.current = { x: event.clientX, width };
      }}
      onPointerMove={(event) => {
        if (from.current) resize(within(from.current.width + from.current.x - event.clientX));
      }}
      onPointerUp={() => {
        from.current = null;
      }}
      onDoubleClick={() => resize(undefined)}
      onKeyDown={(event) => {
        const step = { ArrowLeft: 8, ArrowRight: -8 }[event.key];
        if (step === undefined || event.altKey) return;
        event.preventDefault();
        event.stopPropagation();
        resize(within(width + step));
      }}
    />
  );
};
