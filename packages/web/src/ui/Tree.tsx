import { type DragEvent, type KeyboardEvent, type ReactNode, useState } from 'react';
import { wording } from './wording.ts';

/** A line of a tree, in the order in which it is shown. */
export type TreeRow = {
  id: string;
  depth: number;
  name: string;
  /** Whether the children are shown; undefined without children. */
  isOpen?: boolean | undefined;
  mayMove: boolean;
  content: ReactNode;
};
export type DropPlace = 'in' | 'before' | 'behind';

/** Closer to an edge of a line than this share of its height means between two lines, where the order matters. */
const EDGE = 0.28;

const placeOf = (event: DragEvent, ordered: boolean): DropPlace => {
  const { top, height } = event.currentTarget.getBoundingClientRect();
  const share = (event.clientY - top) / height;
  return !ordered || (share > EDGE && share < 1 - EDGE) ? 'in' : share <= EDGE ? 'before' : 'behind';
};
const OVER: Record<DropPlace, string> = {
  in: 'bg-petrol-tint',
  before: 'shadow-[inset_0_2px_0_var(--color-petrol)]',
  behind: 'shadow-[inset_0_-2px_0_var(--color-petrol)]',
};

/** A tree: arrows walk and fold it, dragging moves a line into another one, or between two where the order counts. */
export const Tree = ({
  label,
  rows,
  chosen,
  ordered = false,
  onChoose,
  onFold,
  onMove,
  onKey,
}: {
  label: string;
  rows: readonly TreeRow[];
  chosen: string | undefined;
  ordered?: boolean;
  onChoose: (id: string) => void;
  onFold: (id: string, folded: boolean) => void;
  onMove: (id: string, to: string, place: DropPlace) => void;
  /** Takes a key before the tree does; true when it has done something. */
  onKey?: (event: KeyboardEvent) => boolean;
}) => {
  const [over, setOver] = useState<{ id: string; place: DropPlace } | null>(null);
  const onKeyDown = (event: KeyboardEvent) => {
    if (onKey?.(event)) {
      event.preventDefault();
      return;
    }
    const at = rows.findIndex((row) => row.id === chosen);
    const step = { ArrowDown: 1, ArrowUp: -1 }[event.key];
    const next = step === undefined ? undefined : rows[at + step];
    if (next) {
      event.preventDefault();
      onChoose(next.id);
      (event.currentTarget as HTMLElement).querySelector<HTMLElement>(`[data-row="${next.id}"]`)?.focus();
    } else if (chosen && event.key === 'ArrowLeft') onFold(chosen, true);
    else if (chosen && event.key === 'ArrowRight') onFold(chosen, false);
  };
  return (
    <div role="tree" aria-label={label} className="min-h-0 flex-1 overflow-y-auto py-1.5" onKeyDown={onKeyDown}>
      {rows.map((row, i) => {
        const isChosen = row.id === chosen;
        const dropped = over?.id === row.id ? OVER[over.place] : '';
        return (
          <div
            key={row.id}
            role="treeitem"
            data-row={row.id}
            aria-level={row.depth + 1}
            aria-selected={isChosen}
            {...(row.isOpen === undefined ? {} : { 'aria-expanded': row.isOpen })}
            tabIndex={isChosen || (chosen === undefined && i === 0) ? 0 : -1}
            draggable={row.mayMove}
            onDragStart={(event) => event.dataTransfer.setData('text/plain', row.id)}
            onDragOver={(event) => {
              event.preventDefault();
              setOver({ id: row.id, place: placeOf(event, ordered) });
            }}
            onDragLeave={() => setOver(null)}
            onDrop={(event) => {
              event.preventDefault();
              setOver(null);
              const id = event.dataTransfer.getData('text/plain');
              if (id && id !== row.id) onMove(id, row.id, placeOf(event, ordered));
            }}
            onClick={() => onChoose(row.id)}
            className={`flex cursor-pointer items-baseline gap-1 border-l-3 py-[3px] pr-3 ${isChosen ? 'border-petrol bg-sheet font-[600]' : 'border-transparent hover:bg-film'} ${dropped}`}
            style={{ paddingLeft: 8 + row.depth * 16 }}
          >
            <button
              type="button"
              tabIndex={-1}
              aria-label={
                row.isOpen === undefined ? undefined : `${row.isOpen ? wording.collapse : wording.expand} ${row.name}`
              }
              aria-hidden={row.isOpen === undefined}
              className="w-4 text-[10px] text-ink-3"
              onClick={(event) => {
                event.stopPropagation();
                if (row.isOpen !== undefined) onFold(row.id, row.isOpen);
              }}
            >
              {row.isOpen === undefined ? '' : row.isOpen ? '▾' : '▸'}
            </button>
            {row.content}
          </div>
        );
      })}
    </div>
  );
};
